"""One resampling of a picture by a matrix, or the average of many (motion blur), by blocks.

Blocks of fixed size keep the working set in the processor's cache and make the result the same
for any number of threads.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from concurrent.futures import Executor
from dataclasses import dataclass, replace
from enum import Enum
from functools import partial
from typing import Final, Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.compositing import add_covered, covered
from wrinkle.core.picture.image import Image, Pixels, Size, blank
from wrinkle.core.picture.placement import HORIZON, Matrix, beyond_horizon, scaling, translation

_BLOCK_ROWS = 96
_BLOCK_COLUMNS = 540
_WORTH_PADDING = 4
# Times the picture's own area: beyond that drawing the surroundings costs more than it saves.
_MOST_PADDED = 3.2
# OpenCV counts the pixels of a side in 16 bits.
_LONGEST_PADDED = 32000
_NO_PADDING = 1 << 30
_NEAR_HORIZON = 1e-2
# In sides of the picture: what is farther off is finer than anything that is seen.
_FARTHEST = 100.0
_AS_FINE = 1.05
"""Pixels of coverage to one of a picture, up to which the picture is cut before it is moved."""
_CELL = 32
_ALL = np.ones((1, 1), np.bool_)
_HALF_PIXEL = translation(0.5, 0.5)
_HALF_PIXEL_BACK = translation(-0.5, -0.5)


@dataclass(frozen=True, eq=False)
class Plane:
    """Coverage that is moved along with a picture; beyond its edges it goes on.

    Attributes:
        values: float32 ``(H, W)``, 0…1.
        placed: takes a point of ``values`` to a point of the unmoved frame, in pixels.
    """

    values: NDArray[np.float32]
    placed: Matrix

    @property
    def nbytes(self) -> int:
        """Bytes of memory."""
        return self.values.nbytes


class EdgeCover(Enum):
    """What is seen outside a moved picture."""

    BARE = "bare"
    MIRROR = "mirror"
    REPEAT = "repeat"
    STRETCH = "stretch"


BORDERS: Final = {
    EdgeCover.BARE: cv2.BORDER_CONSTANT,
    EdgeCover.MIRROR: cv2.BORDER_REFLECT,
    EdgeCover.REPEAT: cv2.BORDER_WRAP,
    EdgeCover.STRETCH: cv2.BORDER_REPLICATE,
}
"""OpenCV's border for each cover."""
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


def resample(
    image: Image,
    matrices: Sequence[Matrix],
    size: Size,
    cover: EdgeCover,
    spread: Executor | None = None,
) -> Image:
    """The average of ``image`` moved by each of ``matrices``, seen in a frame of ``size``.

    Args:
        image: the picture, in any state; motion blur is right in linear light only.
        matrices: each takes a point of the picture to a point of the frame, in pixels; at least
            one. A matrix that squashes the picture to nothing leaves its share empty.
        size: of the result.
        cover: what is outside the picture.
        spread: where the blocks are computed; by default here, one after the other. The result
            is the same to the bit.

    Returns:
        An image in the same state. With one matrix that changes nothing it is ``image`` itself.
    """
    if image.size == size and all(np.array_equal(m, np.eye(3)) for m in matrices):
        return image
    seen = [m for m in matrices if _shows(m)]
    if not seen:
        return Image(np.zeros((size.height, size.width, 4), np.float32), image.light)
    whole = _whole_pixel_move(image, seen, size)
    if whole is not None:
        return Image(whole, image.light, image.opaque)
    ground = _ground(image.pixels, seen, size, cover, spread)
    result = np.empty((size.height, size.width, 4), np.float32)
    weight = np.float32(1.0 / len(matrices))
    if cover is EdgeCover.BARE:
        # Much of the frame sees nothing of a picture that is smaller, or half outside.
        _in_blocks(partial(_add_seen, _CutGround(ground, _ALL), weight), result, spread)
        return Image(result, image.light)

    def block(corner: Corner, into: Pixels) -> None:
        if len(seen) == 1:
            ground.sample(0, corner, into)
            if weight != 1.0:
                np.multiply(into, weight, out=into)
            return
        total, one = np.empty(into.shape, np.float32), np.empty(into.shape, np.float32)
        ground.sample(0, corner, total)
        for number in range(1, len(seen)):
            ground.sample(number, corner, one)
            cv2.add(total, one, total)
        np.multiply(total, weight, out=into)

    _in_blocks(block, result, spread)
    covered = len(seen) == len(matrices) and not any(
        beyond_horizon(inverse, size, _NEAR_HORIZON) for inverse in ground.inverses
    )
    return Image(result, image.light, image.opaque and covered)


Corner = tuple[int, int]


@dataclass(frozen=True, eq=False)
class _Ground:
    """What the samples of a movement are taken from.

    Attributes:
        pixels: the picture, with its surroundings if they are drawn.
        inverses: lead from the frame to it, one for each sample, between pixel centres.
        border: OpenCV's word for what is beyond it.
    """

    pixels: Pixels
    inverses: list[Matrix]
    border: int

    def sample(self, number: int, corner: Corner, into: Pixels) -> None:
        """Writes the block at a corner of the frame."""
        _sample(self.pixels, self.inverses[number], corner, self.border, into)


def _ground(
    pixels: Pixels,
    matrices: Sequence[Matrix],
    size: Size,
    cover: EdgeCover,
    spread: Executor | None,
) -> _Ground:
    source, shrink = _shrunk(pixels, matrices)
    inverses = [_HALF_PIXEL_BACK @ shrink @ np.linalg.inv(m) @ _HALF_PIXEL for m in matrices]
    inverses = [_near(inverse, source, size, cover) for inverse in inverses]
    if cover is not EdgeCover.BARE and len(inverses) >= _WORTH_PADDING:
        padding = _needed_padding(source, inverses, size)
        if _worth_drawing(source, padding):
            wide = _padded(source, padding, cover, spread)
            moved = [translation(padding[2], padding[0]) @ inverse for inverse in inverses]
            return _Ground(wide, moved, cv2.BORDER_CONSTANT)
    return _Ground(source, inverses, BORDERS[cover])


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


def _in_blocks(
    block: Callable[[Corner, Pixels], None], result: Pixels, spread: Executor | None
) -> None:
    """Writes a result block by block, each of which stays in the processor's cache."""
    height, width = result.shape[:2]
    # A narrow picture's blocks are taller: what counts is their area.
    columns = min(width, _BLOCK_COLUMNS)
    rows = _BLOCK_ROWS * _BLOCK_COLUMNS // columns

    def work(corner: Corner) -> None:
        top, left = corner
        block(corner, result[top : top + rows, left : left + columns])

    _run(work, [(y, x) for y in range(0, height, rows) for x in range(0, width, columns)], spread)


def _run(job: Callable[[Corner], None], corners: list[Corner], spread: Executor | None) -> None:
    if spread is None:
        for corner in corners:
            job(corner)
    else:
        for _ in spread.map(job, corners):
            pass


def resample_masked(
    image: Image,
    fit: Matrix,
    placements: Sequence[Matrix],
    planes: Sequence[Plane],
    size: Size,
    cover: EdgeCover,
    spread: Executor | None = None,
) -> Image:
    """As ``resample``, with the picture cut by coverage that moves with it.

    Args:
        image: the picture.
        fit: takes a point of the picture to the unmoved frame.
        placements: each takes a point of the unmoved frame to the frame.
        planes: coverage over the unmoved frame: one for all placements, or one for each.
        size, cover, spread: as for ``resample``.

    Returns:
        An image in the same state. Outside the picture the edge cover is cut by the same coverage.
    """
    if all(np.array_equal(m, placements[0]) for m in placements[1:]):
        picture = resample(image, [placements[0] @ fit], size, cover, spread)
        weight = np.float32(1.0 / len(planes))
        shares = [moved_plane(plane, placements[0], size) for plane in planes]
        share = shares[0] if len(shares) == 1 else weight * np.sum(shares, axis=0)
        return Image(covered(picture.pixels, share), image.light)
    # Coverage and picture move together: each sample is cut before it is averaged.
    each = planes if len(planes) > 1 else [planes[0]] * len(placements)
    moved = [
        (matrix, plane)
        for matrix, plane in zip(placements, each, strict=True)
        if _shows(matrix @ fit)
    ]
    if not moved:
        return blank(size, image.light)
    result = np.empty((size.height, size.width, 4), np.float32)
    ground = _ground(image.pixels, [matrix @ fit for matrix, _ in moved], size, cover, spread)
    weight = np.float32(1.0 / len(placements))
    cut = _cut(ground, [matrix for matrix, _ in moved], planes[0]) if len(planes) == 1 else None
    if cut is not None:
        _in_blocks(partial(_add_seen, cut, weight), result, spread)
        return Image(result, image.light)
    cuts = [(plane.values, _looked_back(matrix @ plane.placed)) for matrix, plane in moved]

    def block(corner: Corner, into: Pixels) -> None:
        share, one = np.empty(into.shape[:2], np.float32), np.empty(into.shape, np.float32)
        total = np.zeros(into.shape, np.float32)
        for number, (values, inverse) in enumerate(cuts):
            _sample(values, inverse, corner, cv2.BORDER_REPLICATE, share)
            if cv2.minMaxLoc(share)[1] > 0.0:
                ground.sample(number, corner, one)
                add_covered(total, one, share)
        np.multiply(total, weight, out=into)

    _in_blocks(block, result, spread)
    return Image(result, image.light)


@dataclass(frozen=True, eq=False)
class _CutGround:
    """A ground that is cut already, by coverage that moves as it does.

    Attributes:
        ground: what is left of it.
        cells: whether anything is left in each cell of a coarse grid over it.
    """

    ground: _Ground
    cells: NDArray[np.bool_]

    def shows(self, number: int, corner: Corner, shape: tuple[int, ...]) -> bool:
        """Whether a sample has anything in a block of the frame."""
        (top, left), (height, width) = corner, shape[:2]
        corners = np.array(
            [[left, left + width, left, left + width], [top, top, top + height, top + height],
             [1, 1, 1, 1]]
        )  # fmt: skip
        spots = self.ground.inverses[number] @ corners
        if spots[2].min() <= _NEAR_HORIZON:
            return True
        rows, columns = self.cells.shape
        tall, wide = self.ground.pixels.shape[:2]
        x, y = spots[0] / spots[2], spots[1] / spots[2]
        # What lies between two pixels is seen from both.
        across, down = columns / wide, rows / tall
        first, end = math.floor((x.min() - 2.0) * across), math.ceil((x.max() + 2.0) * across)
        low, high = math.floor((y.min() - 2.0) * down), math.ceil((y.max() + 2.0) * down)
        return bool(self.cells[max(low, 0) : max(high, 0), max(first, 0) : max(end, 0)].any())


def _cut(ground: _Ground, matrices: Sequence[Matrix], plane: Plane) -> _CutGround | None:
    """The ground cut by coverage before both are moved; None where that is not as good.

    It is where the ground ends in nothing, as what is beyond it cannot be cut, where all samples
    look at the same part of it, and where it is as fine as the coverage.
    """
    if ground.border != cv2.BORDER_CONSTANT:
        return None
    ways = [
        _looked_back(matrix @ plane.placed) @ np.linalg.inv(inverse)
        for matrix, inverse in zip(matrices, ground.inverses, strict=True)
    ]
    way = ways[0] / ways[0][2, 2]
    if any(not np.allclose(other / other[2, 2], way, atol=1e-4) for other in ways[1:]):
        return None
    height, width = ground.pixels.shape[:2]
    if _enlargement(way, np.array([width / 2.0, height / 2.0, 1.0])) > _AS_FINE:
        return None
    share = np.empty((height, width), np.float32)
    _sample(plane.values, way, (0, 0), cv2.BORDER_REPLICATE, share)
    return _CutGround(replace(ground, pixels=covered(ground.pixels, share)), _cells(share))


def _cells(share: NDArray[np.float32]) -> NDArray[np.bool_]:
    """Where anything is left, in cells of about ``_CELL`` pixels a side."""
    height, width = share.shape
    grid = (max(width // _CELL, 1), max(height // _CELL, 1))
    # To halve it takes a tenth of the time of other sizes.
    while share.shape[0] % 2 == 0 == share.shape[1] % 2 and min(share.shape) > 2 * max(grid):
        half = (share.shape[1] // 2, share.shape[0] // 2)
        share = cv2.resize(share, half, interpolation=cv2.INTER_AREA)
    cells: NDArray[np.bool_] = cv2.resize(share, grid, interpolation=cv2.INTER_AREA) > 0.0
    return cells


def _add_seen(cut: _CutGround, weight: np.float32, corner: Corner, into: Pixels) -> None:
    """Writes the block at a corner: the average of all samples, of which it sees some."""
    one, bare = np.empty(into.shape, np.float32), True
    for number in range(len(cut.ground.inverses)):
        if not cut.shows(number, corner, into.shape):
            continue
        cut.ground.sample(number, corner, into if bare else one)
        if not bare:
            cv2.add(into, one, into)
        bare = False
    if bare:
        into[...] = 0.0
    elif weight != 1.0:
        np.multiply(into, weight, out=into)


def moved_plane(plane: Plane, matrix: Matrix, size: Size) -> NDArray[np.float32]:
    """The coverage in a frame of ``size`` after ``matrix``, ``(H, W)``."""
    whole = matrix @ plane.placed
    left, top = round(-whole[0, 2]), round(-whole[1, 2])
    height, width = plane.values.shape
    inside = 0 <= left <= width - size.width and 0 <= top <= height - size.height
    if inside and np.array_equal(whole, translation(-left, -top)):
        return plane.values[top : top + size.height, left : left + size.width]
    if not _shows(whole):
        return np.zeros((size.height, size.width), np.float32)
    inverse = _looked_back(whole)
    into = np.empty((size.height, size.width), np.float32)
    _sample(plane.values, inverse, (0, 0), cv2.BORDER_REPLICATE, into)
    return into


def _shows(matrix: Matrix) -> bool:
    """Whether a matrix leaves something of a picture, and does not squash it to a line."""
    return bool(abs(np.linalg.det(matrix)) > 1e-12)


def _looked_back(matrix: Matrix) -> Matrix:
    """From the pixel centres of the frame to those of what the matrix puts there."""
    return _HALF_PIXEL_BACK @ np.linalg.inv(matrix) @ _HALF_PIXEL


def _sample(
    source: NDArray[np.float32],
    inverse: Matrix,
    corner: Corner,
    border: int,
    into: NDArray[np.float32],
) -> None:
    """Writes the block at ``corner``; ``inverse`` leads from frame to picture, pixel centres."""
    matrix = inverse @ translation(corner[1], corner[0])
    size = (into.shape[1], into.shape[0])
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    if matrix[2, 0] == 0.0 and matrix[2, 1] == 0.0:
        affine = matrix[:2] / matrix[2, 2]
        cv2.warpAffine(source, affine, size, dst=into, flags=flags, borderMode=border)
    elif beyond_horizon(matrix, Size(*size), _NEAR_HORIZON):
        _sample_to_horizon(source, matrix, border, into)
    else:
        cv2.warpPerspective(source, matrix, size, dst=into, flags=flags, borderMode=border)


def _sample_to_horizon(
    source: NDArray[np.float32], matrix: Matrix, border: int, into: NDArray[np.float32]
) -> None:
    """As ``_sample`` where a tilted picture runs away to its horizon; beyond that is nothing.

    Past the horizon the formula shows the picture's back from behind the camera. Just before it
    places are so far off that OpenCV would fold them back at the borders for minutes.
    """
    part = _seen_part(source, matrix, into.shape) if border == cv2.BORDER_CONSTANT else None
    if part is not None:
        rows, columns = part
        into[...] = 0.0
        into = into[rows, columns]
        matrix = matrix @ translation(columns.start, rows.start)
        if not into.size:
            return
        if not beyond_horizon(matrix, Size(into.shape[1], into.shape[0]), _NEAR_HORIZON):
            _sample(source, matrix, (0, 0), border, into)
            return
    height, width = into.shape[:2]
    rows, columns = np.mgrid[0:height, 0:width]
    x, y, depth = np.tensordot(matrix, np.stack((columns, rows, np.ones_like(rows))), axes=1)
    farthest = _FARTHEST * max(source.shape[:2])
    seen = (depth > HORIZON) & (np.maximum(np.abs(x), np.abs(y)) < farthest * depth)
    depth[~seen] = 1.0
    across, down = (np.where(seen, part / depth, 0.0).astype(np.float32) for part in (x, y))
    cv2.remap(source, across, down, cv2.INTER_LINEAR, dst=into, borderMode=border)
    into[~seen] = 0.0


def _seen_part(
    source: NDArray[np.float32], matrix: Matrix, shape: tuple[int, ...]
) -> tuple[slice, slice] | None:
    """The rows and columns of a block that a picture may reach; None where it runs to its horizon.

    It lies within its corners, as long as all of them are in front of the camera.
    """
    tall, wide = source.shape[:2]
    x, y, depth = np.linalg.inv(matrix) @ [[-1, wide, -1, wide], [-1, -1, tall, tall], [1, 1, 1, 1]]
    if depth.min() <= _NEAR_HORIZON:
        return None
    x, y = x / depth, y / depth
    height, width = shape[:2]
    first, end = (min(max(round(edge), 0), width) for edge in (x.min() - 1.0, x.max() + 2.0))
    low, high = (min(max(round(edge), 0), height) for edge in (y.min() - 1.0, y.max() + 2.0))
    return slice(low, high), slice(first, end)


def _needed_padding(
    source: Pixels, inverses: Sequence[Matrix], size: Size
) -> tuple[int, int, int, int]:
    """How far the samples look beyond the picture: top, bottom, left, right, in whole pixels.

    Pixels beyond the border cost OpenCV more than twice as much as those within; where many
    samples look there, drawing the surroundings once is cheaper.
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
    height, width = source.shape[:2]
    return (
        max(0, int(-low[1])),
        max(0, int(high[1]) - height + 1),
        max(0, int(-low[0])),
        max(0, int(high[0]) - width + 1),
    )


def _worth_drawing(source: Pixels, padding: tuple[int, int, int, int]) -> bool:
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
        wanted = rows[start : start + _BLOCK_ROWS]
        whole = wanted[-1] - wanted[0] == len(wanted) - 1
        part = source[wanted[0] : wanted[-1] + 1] if whole else source[wanted]
        into = wide[start : start + len(wanted)]
        cv2.copyMakeBorder(part, 0, 0, left, right, BORDERS[cover], dst=into)

    _run(band, [(start, 0) for start in range(0, len(rows), _BLOCK_ROWS)], spread)
    return wide


def _whole_pixel_move(image: Image, seen: Sequence[Matrix], size: Size) -> Pixels | None:
    """A cut-out of the picture where that is all the matrices do: no interpolation is needed."""
    first = seen[0]
    if any(not np.array_equal(m, first) for m in seen[1:]):
        return None
    x, y = round(first[0, 2]), round(first[1, 2])
    if not np.array_equal(first, translation(x, y)):
        return None
    if x > 0 or y > 0 or image.size.width + x < size.width or image.size.height + y < size.height:
        return None
    return np.ascontiguousarray(image.pixels[-y : size.height - y, -x : size.width - x])


def _enlargement(matrix: Matrix, spot: Matrix) -> float:
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
    largest = max(_enlargement(m, middle) for m in matrices)
    goal_width, goal_height = width, height
    while largest < 0.5 and min(goal_width, goal_height) > 1:
        goal_width, goal_height = (goal_width + 1) // 2, (goal_height + 1) // 2
        largest *= 2.0
    if (goal_width, goal_height) == (width, height):
        return pixels, np.eye(3)
    smaller = cv2.resize(pixels, (goal_width, goal_height), interpolation=cv2.INTER_AREA)
    return smaller, scaling(goal_width / width, goal_height / height)
