"""Cells about scattered points: how far the nearest one is, which it is, and where cells meet."""

from __future__ import annotations

from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.image import Size

Field = NDArray[np.float32]


class Cells(NamedTuple):
    """Cellular noise (Worley, "A Cellular Texture Basis Function", 1996), float32 ``(H, W)``.

    Attributes:
        near: the distance to the nearest point, in cells.
        edge: the distance to where two cells meet, in cells.
        chance: a random number of each cell, 0…1.
        x, y: the nearest point, in pixels.
    """

    near: Field
    edge: Field
    chance: Field
    x: Field
    y: Field

    def bent(self, right: Field, down: Field) -> Cells:
        """The cells as they are seen from places that are moved by so many pixels."""
        height, width = self.near.shape
        columns = np.arange(width, dtype=np.float32)[None, :] + right
        rows = np.arange(height, dtype=np.float32)[:, None] + down

        def seen(field: Field, how: int) -> Field:
            found: Field = cv2.remap(field, columns, rows, how, borderMode=cv2.BORDER_REFLECT_101)
            return found

        distances = (seen(x, cv2.INTER_LINEAR) for x in (self.near, self.edge))
        return Cells(*distances, *(seen(x, cv2.INTER_NEAREST) for x in self[2:]))


def scattered(size: Size, cell: float, seed: int, middle: tuple[float, float]) -> Cells:
    """Cells about one point in each square of a lattice that is fixed in the middle.

    Args:
        size: of the result.
        cell: the side of a square, in pixels.
        seed: another one scatters them in another way.
        middle: the pixel where the lattice has a node.
    """
    cell = max(cell, 2.0)
    first = [int(np.floor(-place / cell)) - 1 for place in middle]
    end = [
        int(np.ceil((side - place) / cell)) + 1 for side, place in zip(size, middle, strict=True)
    ]
    columns, rows = np.meshgrid(np.arange(first[0], end[0]), np.arange(first[1], end[1]))
    # A number for each square that does not depend on how many there are.
    mixed = (columns.astype(np.int64) * 73_856_093) ^ (rows.astype(np.int64) * 19_349_663)
    mixed = (mixed ^ (seed * 83_492_791)) & 0xFFFFFFFF
    chances = []
    for _ in range(3):
        mixed = (mixed * 1_664_525 + 1_013_904_223) & 0xFFFFFFFF
        chances.append(((mixed >> 8) & 0xFFFF).astype(np.float64) / 65536.0)
    x = (columns + 0.05 + 0.9 * chances[0]) * cell + middle[0]
    y = (rows + 0.05 + 0.9 * chances[1]) * cell + middle[1]
    # The picture with a rim of one cell and more, so that points outside count too.
    rim = int(np.ceil(2.0 * cell))
    board = np.full((size.height + 2 * rim, size.width + 2 * rim), 255, np.uint8)
    at_x, at_y = np.floor(x).astype(int) + rim, np.floor(y).astype(int) + rim
    inside = (at_x >= 0) & (at_x < board.shape[1]) & (at_y >= 0) & (at_y < board.shape[0])
    board[at_y[inside], at_x[inside]] = 0
    near, labels = cv2.distanceTransformWithLabels(
        board, cv2.DIST_L2, cv2.DIST_MASK_5, labelType=cv2.DIST_LABEL_PIXEL
    )
    count = int(labels.max()) + 1
    of_label = np.zeros((count, 3), np.float32)
    spots = labels[at_y[inside], at_x[inside]]
    of_label[spots] = np.stack([x[inside], y[inside], chances[2][inside]], axis=-1)
    walls = np.full(board.shape, 255, np.uint8)
    walls[:, 1:][labels[:, 1:] != labels[:, :-1]] = 0
    walls[1:][labels[1:] != labels[:-1]] = 0
    edge = cv2.distanceTransform(walls, cv2.DIST_L2, cv2.DIST_MASK_5)
    part = np.s_[rim : rim + size.height, rim : rim + size.width]
    found = of_label[labels[part]]
    scale = np.float32(1.0 / cell)
    return Cells(
        near[part] * scale,
        edge[part] * scale,
        np.ascontiguousarray(found[..., 2]),
        np.ascontiguousarray(found[..., 0]),
        np.ascontiguousarray(found[..., 1]),
    )
