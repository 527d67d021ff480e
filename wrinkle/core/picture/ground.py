"""What the looks of a movement go to: the picture, with its surroundings if they are drawn."""

from __future__ import annotations

import math
from collections.abc import Sequence
from concurrent.futures import Executor
from dataclasses import dataclass
from typing import Final, Literal

import cv2
import numpy as np

from wrinkle.core.picture.blocks import BLOCK_ROWS, Corner, run
from wrinkle.core.picture.edge_cover import BORDERS, EdgeCover
from wrinkle.core.picture.image import Pixels, Size
from wrinkle.core.picture.looking import HALF_PIXEL, HALF_PIXEL_BACK, look
from wrinkle.core.picture.placement import Matrix, scaling, translation

_WORTH_PADDING = 4
# Times the picture's own area: beyond that drawing the surroundings costs more than it saves.
_MOST_PADDED = 3.2
# OpenCV counts the pixels of a side in 16 bits.
_LONGEST_PADDED = 32000
_NO_PADDING = 1 << 30
_MOST_REPETITIONS = 8
"""From one pixel of the frame to the next; more of them look the same as few."""
_PERIODS: Final = {EdgeCover.MIRROR: 2, EdgeCover.REPEAT: 1}
"""After how many pictures the surroundings are the same again."""
_ROWS_BEYOND: Final[dict[EdgeCover, Literal["symmetric", "wrap", "edge"]]] = {
    EdgeCover.MIRROR: "symmetric",
    EdgeCover.REPEAT: "wrap",
    EdgeCover.STRETCH: "edge",
}
"""NumPy's word for each cover that has something outside the picture."""


@dataclass(frozen=True, eq=False)
class Ground:
    """What the looks of a movement go to.

    Attributes:
        pixels: the picture, with its surroundings if they are drawn.
        inverses: lead from the frame to it, one for each look, between pixel centres.
        border: OpenCV's word for what is beyond it.
    """

    pixels: Pixels
    inverses: list[Matrix]
    border: int

    def sample(self, number: int, corner: Corner, into: Pixels) -> None:
        """Writes the block at a corner of the frame."""
        look(self.pixels, self.inverses[number], corner, self.border, into)


def ground_of(
    pixels: Pixels,
    matrices: Sequence[Matrix],
    size: Size,
    cover: EdgeCover,
    spread: Executor | None,
) -> Ground:
    """Where each of the matrices that move a picture looks, seen from a frame of ``size``.

    Args:
        pixels: ``(H, W, 4)``.
        matrices: each takes a point of the picture to a point of the frame, in pixels.
        size: of the frame.
        cover: what is outside the picture.
        spread: where blocks are computed; by default here.
    """
    source, shrink = _shrunk(pixels, matrices)
    inverses = [HALF_PIXEL_BACK @ shrink @ np.linalg.inv(m) @ HALF_PIXEL for m in matrices]
    inverses = [_near(inverse, source, size, cover) for inverse in inverses]
    if cover is not EdgeCover.BARE and len(inverses) >= _WORTH_PADDING:
        seen = Size(source.shape[1], source.shape[0])
        padding = needed_padding(seen, inverses, size)
        if worth_drawing(source, padding):
            wide = _padded(source, padding, cover, spread)
            moved = [translation(padding[2], padding[0]) @ inverse for inverse in inverses]
            return Ground(wide, moved, cv2.BORDER_CONSTANT)
    return Ground(source, inverses, BORDERS[cover])


def _near(inverse: Matrix, source: Pixels, size: Size, cover: EdgeCover) -> Matrix:
    """The same look at mirrored or repeated surroundings, from the repetition next to the picture.

    OpenCV folds far places back one picture at a time.
    """
    periods = _PERIODS.get(cover)
    if periods is None or inverse[2, 0] != 0.0 or inverse[2, 1] != 0.0:
        return inverse
    height, width = source.shape[:2]
    sides = periods * width, periods * height
    inverse = _nearer_steps(inverse, sides)
    middle = inverse @ (size.width / 2.0, size.height / 2.0, 1.0) / inverse[2, 2]
    # Half a period to either side needs no shift: most looks stay as they are.
    away = [
        side * np.round((m - side / (2.0 * periods)) / side)
        for m, side in zip(middle, sides, strict=False)
    ]
    if not any(away):
        return inverse
    return translation(-away[0], -away[1]) @ inverse


def _nearer_steps(inverse: Matrix, sides: tuple[int, int]) -> Matrix:
    """The same look, without the whole repetitions that lie between two pixels of the frame.

    Pixels stand at whole numbers: what is added to a step, a whole number of times the side, is
    added to each place likewise. So a picture that is squashed almost to a line is not folded
    back a million times for each pixel.
    """
    steps = inverse[:2, :2] / inverse[2, 2]
    whole = np.array(sides, np.float64)[:, None]
    if (np.abs(steps) <= _MOST_REPETITIONS * whole).all():
        return inverse
    nearer: Matrix = inverse / inverse[2, 2]
    nearer[:2, :2] = np.remainder(steps, whole)
    return nearer


def needed_padding(
    picture: Size, inverses: Sequence[Matrix], size: Size
) -> tuple[int, int, int, int]:
    """How far looks go beyond a picture: top, bottom, left, right, in whole pixels.

    Pixels beyond the border cost OpenCV more than twice as much as those within; where many
    samples look there, drawing the surroundings once is cheaper.

    Args:
        picture: its size.
        inverses: lead from the frame to it, between pixel centres.
        size: of the frame.
    """
    corners = np.array(
        [
            [0, size.width - 1, 0, size.width - 1],
            [0, 0, size.height - 1, size.height - 1],
            [1, 1, 1, 1],
        ]
    )
    seen = [inverse @ corners for inverse in inverses]
    if any(float(spot[2].min()) <= 0.0 for spot in seen):
        return (_NO_PADDING,) * 4
    spots = np.concatenate([spot[:2] / spot[2] for spot in seen], axis=1)
    low, high = np.floor(spots.min(axis=1)) - 2, np.ceil(spots.max(axis=1)) + 2
    return (
        max(0, int(-low[1])),
        max(0, int(high[1]) - picture.height + 1),
        max(0, int(-low[0])),
        max(0, int(high[0]) - picture.width + 1),
    )


def worth_drawing(source: Pixels, padding: tuple[int, int, int, int]) -> bool:
    height, width = source.shape[:2]
    tall, wide = height + padding[0] + padding[1], width + padding[2] + padding[3]
    return bool(max(tall, wide) <= _LONGEST_PADDED and tall * wide <= _MOST_PADDED * height * width)


def _padded(
    source: Pixels,
    padding: tuple[int, int, int, int],
    cover: EdgeCover,
    spread: Executor | None,
) -> Pixels:
    """The picture with its surroundings drawn: top, bottom, left and right of it."""
    top, bottom, left, right = padding
    height, width = source.shape[:2]
    rows = np.pad(np.arange(height), (top, bottom), mode=_ROWS_BEYOND[cover])
    wide = np.empty((len(rows), left + width + right, 4), np.float32)

    def band(corner: Corner) -> None:
        start, _ = corner
        wanted = rows[start : start + BLOCK_ROWS]
        whole = wanted[-1] - wanted[0] == len(wanted) - 1
        part = source[wanted[0] : wanted[-1] + 1] if whole else source[wanted]
        into = wide[start : start + len(wanted)]
        cv2.copyMakeBorder(part, 0, 0, left, right, BORDERS[cover], dst=into)

    run(band, [(start, 0) for start in range(0, len(rows), BLOCK_ROWS)], spread)
    return wide


def enlargement(matrix: Matrix, spot: Matrix) -> float:
    """The largest factor by which lengths around a spot grow: the norm of the derivative."""
    moved = matrix @ spot
    if moved[2] <= 0.0:
        return 1.0
    derivative = matrix[:2, :2] - np.outer(moved[:2] / moved[2], matrix[2, :2])
    (a, b), (c, d) = (derivative / moved[2]).tolist()
    # The larger singular value of 2×2 numbers in closed form: NumPy's takes 20 times as long.
    return (math.hypot(a + d, c - b) + math.hypot(a - d, c + b)) / 2.0


def _shrunk(pixels: Pixels, matrices: Sequence[Matrix]) -> tuple[Pixels, Matrix]:
    """The picture halved by areas as long as every matrix shrinks it to less than half.

    Linear interpolation looks at two pixels a side; below half size it would skip some (aliasing).
    """
    height, width = pixels.shape[:2]
    middle = np.array([width / 2.0, height / 2.0, 1.0])
    largest = max(enlargement(m, middle) for m in matrices)
    goal_width, goal_height = width, height
    while largest < 0.5 and min(goal_width, goal_height) > 1:
        goal_width, goal_height = (goal_width + 1) // 2, (goal_height + 1) // 2
        largest *= 2.0
    if (goal_width, goal_height) == (width, height):
        return pixels, np.eye(3)
    smaller = cv2.resize(pixels, (goal_width, goal_height), interpolation=cv2.INTER_AREA)
    return smaller, scaling(goal_width / width, goal_height / height)
