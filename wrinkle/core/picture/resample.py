"""One resampling of a picture by a matrix, or the average of many (motion blur), by blocks."""

from __future__ import annotations

import math
from collections.abc import Sequence
from concurrent.futures import Executor
from dataclasses import dataclass, replace
from functools import partial

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.blocks import Corner, in_blocks
from wrinkle.core.picture.compositing import add_covered, covered, tinted
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.even_steps import taken_together
from wrinkle.core.picture.ground import Ground, enlargement, ground_of
from wrinkle.core.picture.image import Image, Pixels, Size, blank
from wrinkle.core.picture.looking import NEAR_HORIZON, look, looked_back, shows
from wrinkle.core.picture.placement import Matrix, beyond_horizon, translation

_AS_FINE = 1.05
"""Pixels of coverage to one of a picture, up to which the picture is cut before it is moved."""
_CELL = 32
_WORTH_FINDING = 4
"""Looks, from which it is worth finding where in a picture there is anything."""
_ALL = np.ones((1, 1), np.bool_)


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


def resample(
    image: Image,
    matrices: Sequence[Matrix],
    size: Size,
    cover: EdgeCover,
    spread: Executor | None = None,
    loosely: bool = False,
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
        loosely: looks that follow each other in even steps may be taken together; see
            ``even_steps``.

    Returns:
        An image in the same state. With one matrix that changes nothing it is ``image`` itself.
    """
    if image.size == size and all(np.array_equal(m, np.eye(3)) for m in matrices):
        return image
    seen = [m for m in matrices if shows(m)]
    if not seen:
        return Image(np.zeros((size.height, size.width, 4), np.float32), image.light)
    whole = _whole_pixel_move(image, seen, size)
    if whole is not None:
        return Image(whole, image.light, image.opaque)
    whole_ground = ground_of(image.pixels, seen, size, cover, spread)
    ground = taken_together(whole_ground, size, cover, spread) if loosely else whole_ground
    result = np.empty((size.height, size.width, 4), np.float32)
    looks = len(ground.inverses)
    # What is squashed to nothing leaves its share empty.
    weight = np.float32(len(seen) / looks / len(matrices))
    if cover is EdgeCover.BARE:
        # Much of the frame sees nothing of a picture that is smaller, or half outside.
        finding = looks >= _WORTH_FINDING and not image.opaque
        cells = _cells(ground.pixels[..., 3]) if finding else _ALL
        in_blocks(partial(_add_seen, _CutGround(ground, cells), weight), result, spread)
        return Image(result, image.light)

    def block(corner: Corner, into: Pixels) -> None:
        if looks == 1:
            ground.sample(0, corner, into)
            if weight != 1.0:
                np.multiply(into, weight, out=into)
            return
        total, one = np.empty(into.shape, np.float32), np.empty(into.shape, np.float32)
        ground.sample(0, corner, total)
        for number in range(1, looks):
            ground.sample(number, corner, one)
            cv2.add(total, one, total)
        np.multiply(total, weight, out=into)

    in_blocks(block, result, spread)
    covered = len(seen) == len(matrices) and not any(
        beyond_horizon(inverse, size, NEAR_HORIZON) for inverse in whole_ground.inverses
    )
    return Image(result, image.light, image.opaque and covered)


def resample_masked(
    image: Image,
    fit: Matrix,
    placements: Sequence[Matrix],
    planes: Sequence[Plane],
    size: Size,
    cover: EdgeCover,
    spread: Executor | None = None,
    loosely: bool = False,
) -> Image:
    """As ``resample``, with the picture cut by coverage that moves with it.

    Args:
        image: the picture.
        fit: takes a point of the picture to the unmoved frame.
        placements: each takes a point of the unmoved frame to the frame.
        planes: coverage over the unmoved frame: one for all placements, or one for each.
        size, cover, spread, loosely: as for ``resample``.

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
        if shows(matrix @ fit)
    ]
    if not moved:
        return blank(size, image.light)
    result = np.empty((size.height, size.width, 4), np.float32)
    ground = ground_of(image.pixels, [matrix @ fit for matrix, _ in moved], size, cover, spread)
    weight = np.float32(1.0 / len(placements))
    cut = _cut(ground, [matrix for matrix, _ in moved], planes[0]) if len(planes) == 1 else None
    if cut is not None:
        if loosely:
            cut = _together(cut, size, spread)
        weight *= np.float32(len(moved) / len(cut.ground.inverses))
        in_blocks(partial(_add_seen, cut, weight), result, spread)
        return Image(result, image.light)
    cuts = [(plane.values, looked_back(matrix @ plane.placed)) for matrix, plane in moved]

    def block(corner: Corner, into: Pixels) -> None:
        share, one = np.empty(into.shape[:2], np.float32), np.empty(into.shape, np.float32)
        total = np.zeros(into.shape, np.float32)
        for number, (values, inverse) in enumerate(cuts):
            look(values, inverse, corner, cv2.BORDER_REPLICATE, share)
            if cv2.minMaxLoc(share)[1] > 0.0:
                ground.sample(number, corner, one)
                add_covered(total, one, share)
        np.multiply(total, weight, out=into)

    in_blocks(block, result, spread)
    return Image(result, image.light)


def coloured(
    colour: NDArray[np.float32], placement: Matrix, plane: Plane, size: Size, cover: EdgeCover
) -> Pixels:
    """What ``resample_masked`` makes of a frame of one opaque colour ``(4,)``, without a picture.

    Args:
        colour: red, green, blue and 1.
        placement, plane, size, cover: as for ``resample_masked``; the frame is of ``size``.
    """
    share = moved_plane(plane, placement, size)
    if cover is EdgeCover.BARE and shows(placement):
        ones = np.ones((size.height, size.width), np.float32)
        seen = np.empty_like(ones)
        look(ones, looked_back(placement), (0, 0), cv2.BORDER_CONSTANT, seen)
        share = share * seen
    return tinted(colour, share)


@dataclass(frozen=True, eq=False)
class _CutGround:
    """A ground that is cut already, by coverage that moves as it does.

    Attributes:
        ground: what is left of it.
        cells: whether anything is left in each cell of a coarse grid over it.
    """

    ground: Ground
    cells: NDArray[np.bool_]

    def shows(self, number: int, corner: Corner, shape: tuple[int, ...]) -> bool:
        """Whether a sample has anything in a block of the frame."""
        (top, left), (height, width) = corner, shape[:2]
        corners = np.array(
            [[left, left + width, left, left + width], [top, top, top + height, top + height],
             [1, 1, 1, 1]]
        )  # fmt: skip
        spots = self.ground.inverses[number] @ corners
        if spots[2].min() <= NEAR_HORIZON:
            return True
        rows, columns = self.cells.shape
        tall, wide = self.ground.pixels.shape[:2]
        x, y = spots[0] / spots[2], spots[1] / spots[2]
        # What lies between two pixels is seen from both.
        across, down = columns / wide, rows / tall
        first, end = math.floor((x.min() - 2.0) * across), math.ceil((x.max() + 2.0) * across)
        low, high = math.floor((y.min() - 2.0) * down), math.ceil((y.max() + 2.0) * down)
        return bool(self.cells[max(low, 0) : max(high, 0), max(first, 0) : max(end, 0)].any())


def _cut(ground: Ground, matrices: Sequence[Matrix], plane: Plane) -> _CutGround | None:
    """The ground cut by coverage before both are moved; None where that is not as good.

    It is where the ground ends in nothing, as what is beyond it cannot be cut, where all samples
    look at the same part of it, and where it is as fine as the coverage.
    """
    if ground.border != cv2.BORDER_CONSTANT:
        return None
    ways = [
        looked_back(matrix @ plane.placed) @ np.linalg.inv(inverse)
        for matrix, inverse in zip(matrices, ground.inverses, strict=True)
    ]
    way = ways[0] / ways[0][2, 2]
    if any(not np.allclose(other / other[2, 2], way, atol=1e-4) for other in ways[1:]):
        return None
    height, width = ground.pixels.shape[:2]
    if enlargement(way, np.array([width / 2.0, height / 2.0, 1.0])) > _AS_FINE:
        return None
    share = np.empty((height, width), np.float32)
    look(plane.values, way, (0, 0), cv2.BORDER_REPLICATE, share)
    return _CutGround(replace(ground, pixels=covered(ground.pixels, share)), _cells(share))


def _together(cut: _CutGround, size: Size, spread: Executor | None) -> _CutGround:
    """The same with fewer looks, where they can be taken together."""
    part = _part(cut)
    fewer = taken_together(part, size, EdgeCover.BARE, spread)
    return cut if fewer is part else _CutGround(fewer, _cells(fewer.pixels[..., 3]))


def _part(cut: _CutGround) -> Ground:
    """The part of a ground in which anything is left."""
    ground, sides = cut.ground, []
    for axis, length in enumerate(ground.pixels.shape[:2]):
        (found,) = np.nonzero(cut.cells.any(axis=1 - axis))
        cells = cut.cells.shape[axis]
        first, end = (found[0], found[-1] + 1) if found.size else (0, 1)
        sides.append(slice(first * length // cells, -(-end * length // cells)))
    rows, columns = sides
    shift = translation(-columns.start, -rows.start)
    inverses = [shift @ inverse for inverse in ground.inverses]
    return Ground(ground.pixels[rows, columns], inverses, ground.border)


def _cells(share: NDArray[np.float32]) -> NDArray[np.bool_]:
    """Where anything is left, in cells of about ``_CELL`` pixels a side."""
    height, width = share.shape
    share = np.ascontiguousarray(share)
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
    if not shows(whole):
        return np.zeros((size.height, size.width), np.float32)
    inverse = looked_back(whole)
    into = np.empty((size.height, size.width), np.float32)
    look(plane.values, inverse, (0, 0), cv2.BORDER_REPLICATE, into)
    return into


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
