"""Motion blur in even steps: a few looks at a picture that is blurred by some steps already.

Where a movement goes on evenly, each look sees what the look before it saw, one step further. So
the average of a look and the next one is one look at the average of the picture and the picture
one step on. Doubled again and again, that stands for 4 looks, or for 8.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from concurrent.futures import Executor
from typing import Final

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.blocks import Corner, in_blocks
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.ground import Ground, worth_drawing
from wrinkle.core.picture.image import Pixels, Size
from wrinkle.core.picture.looking import NEAR_HORIZON, look
from wrinkle.core.picture.placement import Matrix, translation

_FEWEST = 8
"""Looks: of less there is little to save."""
_DOUBLED = (1, 2, 3)
_AS_EVEN = 0.25
"""How far a look may lie from where even steps lead, in parts of the longest step."""
_AT_MOST, _AT_MOST_BARE = 3.0, 1.0
"""The same in pixels: steps may be long, and the hard edge of a picture shows where they lie."""
_PASS = 1.25
"""What it costs to blur a pixel of the picture by a step, in looks at a pixel."""

Room = tuple[int, int, int, int]
"""Pixels above, below, left and right of a picture."""
_NONE: Final = (0, 0, 0, 0)


def taken_together(
    ground: Ground, size: Size, cover: EdgeCover, spread: Executor | None = None
) -> Ground:
    """A ground of fewer looks whose average is nearly the same; itself where none is cheaper.

    Each look of the new ground stands for as many of the old one, one after the other.

    Args:
        ground: with its surroundings drawn, or with nothing around it.
        size: of the frame.
        cover: what is outside the picture.
        spread: where blocks are computed; by default here.
    """
    count = len(ground.inverses)
    if count < _FEWEST or ground.border != cv2.BORDER_CONSTANT:
        return ground
    step = ground.inverses[count // 2] @ np.linalg.inv(ground.inverses[count // 2 - 1])
    step = step / step[2, 2]
    bare = cover is EdgeCover.BARE
    spots = _spots(ground.inverses, size)
    if spots is None:
        return ground
    seen = _seen(ground, size) if bare else math.prod(size)
    longest = float(_lengths(np.diff(spots, axis=0)).max())
    most = min(_AS_EVEN * longest, _AT_MOST_BARE if bare else _AT_MOST)
    choices: list[tuple[float, int, Room]] = [(float(count * seen), 0, _NONE)]
    for doubled in _DOUBLED:
        together = 2**doubled
        if count % together or not _even(spots, step, together, most):
            break
        room = _room(ground.pixels, step, together) if bare else _NONE
        if room is None or not worth_drawing(ground.pixels, room):
            break
        height, width = ground.pixels.shape[:2]
        area = (height + room[0] + room[1]) * (width + room[2] + room[3])
        choices.append((_PASS * doubled * area + count / together * seen, doubled, room))
    _, doubled, room = min(choices)
    if not doubled:
        return ground
    # What is beyond the surroundings is seen by no look, but is averaged at their edge.
    border = cv2.BORDER_CONSTANT if bare else cv2.BORDER_REPLICATE
    pixels = cv2.copyMakeBorder(ground.pixels, *room, cv2.BORDER_CONSTANT)
    shift = translation(room[2], room[0])
    step = shift @ step @ translation(-room[2], -room[0])
    for _ in range(doubled):
        pixels = _with_next(pixels, step, border, spread)
        step = step @ step
    inverses = [shift @ inverse for inverse in ground.inverses[:: 2**doubled]]
    return Ground(pixels, inverses, ground.border)


def _seen(ground: Ground, size: Size) -> float:
    """About how many pixels of the frame one look sees something in."""
    height, width = ground.pixels.shape[:2]
    shrinking = abs(float(np.linalg.det(ground.inverses[0][:2, :2])))
    return float(min(math.prod(size), height * width / max(shrinking, 1e-6)))


def _spots(inverses: Sequence[Matrix], size: Size) -> NDArray[np.float64] | None:
    """Where each look sees nine places of the frame, ``(N, 3, 9)``; None past the horizon."""
    width, height = size
    frame = np.array(
        [[x * width, y * height, 1.0] for y in (0.0, 0.5, 1.0) for x in (0.0, 0.5, 1.0)]
    ).T
    return _flat(np.stack(inverses) @ frame)


def _flat(spots: NDArray[np.float64]) -> NDArray[np.float64] | None:
    """Places ``(N, 3, 9)`` brought to a depth of 1; None where some lie past the horizon."""
    return spots / spots[:, 2:] if spots[:, 2].min() > NEAR_HORIZON else None


def _lengths(ways: NDArray[np.float64]) -> NDArray[np.float64]:
    """Of ways ``(N, 3, 9)`` in pixels, ``(N, 9)``."""
    return np.hypot(ways[:, 0], ways[:, 1])


def _even(spots: NDArray[np.float64], step: Matrix, together: int, most: float) -> bool:
    """Whether even steps from the first look of each group lead near the others of it."""
    led = spots[::together]
    for ahead in range(1, together):
        further = _flat(step @ led)
        if further is None or not _lengths(further - spots[ahead::together]).max() <= most:
            return False
        led = further
    return True


def _room(pixels: Pixels, step: Matrix, together: int) -> Room | None:
    """How far the picture reaches beyond its edges once it is blurred; None past the horizon."""
    height, width = pixels.shape[:2]
    corners = np.array([[-1, width, -1, width], [-1, -1, height, height], [1, 1, 1, 1]], np.float64)
    back, reached = np.linalg.inv(step), [corners]
    for _ in range(1, together):
        corners = back @ reached[-1]
        if corners[2].min() <= NEAR_HORIZON:
            return None
        reached.append(corners / corners[2])
    x, y, _ = np.concatenate(reached, axis=1)
    return (
        math.ceil(-y.min()), math.ceil(y.max()) - height + 1,
        math.ceil(-x.min()), math.ceil(x.max()) - width + 1,
    )  # fmt: skip


def _with_next(pixels: Pixels, step: Matrix, border: int, spread: Executor | None) -> Pixels:
    """The average of a picture and of what is seen of it one step on."""
    result = np.empty_like(pixels)

    def block(corner: Corner, into: Pixels) -> None:
        look(pixels, step, corner, border, into)
        rows, columns = (
            slice(start, start + length)
            for start, length in zip(corner, into.shape[:2], strict=True)
        )
        cv2.addWeighted(pixels[rows, columns], 0.5, into, 0.5, 0.0, dst=into)

    in_blocks(block, result, spread)
    return result
