"""Work on a picture block by block, each of which stays in the processor's cache.

Blocks of fixed size make the result the same for any number of threads.
"""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import Executor

from wrinkle.core.picture.image import Pixels

BLOCK_ROWS = 96
_BLOCK_COLUMNS = 540

Corner = tuple[int, int]
"""The row and the column where a block begins."""


def in_blocks(
    block: Callable[[Corner, Pixels], None], result: Pixels, spread: Executor | None
) -> None:
    """Writes a result block by block, each of which stays in the processor's cache."""
    height, width = result.shape[:2]
    # A narrow picture's blocks are taller: what counts is their area.
    columns = min(width, _BLOCK_COLUMNS)
    rows = BLOCK_ROWS * _BLOCK_COLUMNS // columns

    def work(corner: Corner) -> None:
        top, left = corner
        block(corner, result[top : top + rows, left : left + columns])

    run(work, [(y, x) for y in range(0, height, rows) for x in range(0, width, columns)], spread)


def run(job: Callable[[Corner], None], corners: list[Corner], spread: Executor | None) -> None:
    if spread is None:
        for corner in corners:
            job(corner)
    else:
        for _ in spread.map(job, corners):
            pass
