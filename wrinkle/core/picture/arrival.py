"""When a front arrives that spreads from some points through an uneven medium."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

Field = NDArray[np.float32]
_STEPS = ((0, 1), (1, 0), (1, 1), (1, -1), (1, 2), (2, 1), (1, -2), (2, -1))
"""Rows and columns to half of a cell's sixteen neighbours; the others come by their way back."""


def arrival(cost: NDArray[np.floating], starts: Sequence[tuple[int, int, float]]) -> Field:
    """The least time at which a front comes to each cell.

    The front is that of Sethian, "A Fast Marching Level Set Method" (1996), on a graph with sixteen
    neighbours; the shortest ways are Dijkstra's (1959), as SciPy computes them.

    Args:
        cost: ``(H, W)``, the time for one cell, above 0. What is one cell thick does not stop it.
        starts: row, column and time of each point from which it spreads; one at least.

    Returns:
        ``(H, W)``, in the unit of ``cost``.
    """
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import dijkstra

    height, width = cost.shape
    cells = np.arange(height * width, dtype=np.int32).reshape(height, width)
    ends, others, times = [], [], []
    for down, right in _STEPS:
        first = slice(0, max(height - down, 0)), slice(max(-right, 0), width - max(right, 0))
        second = slice(down, height), slice(max(right, 0), width - max(-right, 0))
        ends.append(cells[first].ravel())
        others.append(cells[second].ravel())
        mean = (cost[first] + cost[second]) / 2.0
        times.append((mean * math.hypot(down, right)).ravel())
    source = height * width
    ends.append(np.full(len(starts), source, np.int32))
    others.append(np.array([cells[row, column] for row, column, _ in starts], np.int32))
    # A way of no length would be none.
    times.append(np.array([time + 1e-6 for _, _, time in starts]))
    graph = coo_array(
        (np.concatenate(times), (np.concatenate(ends), np.concatenate(others))),
        shape=(source + 1, source + 1),
    ).tocsr()
    found = dijkstra(graph, directed=False, indices=source)[:-1]
    times_of_all: Field = found.reshape(height, width).astype(np.float32)
    return times_of_all


def level_at(levels: Field, share: float) -> float:
    """The level of ``even_levels`` below which a share lies."""
    return float(np.interp(share, np.linspace(0.0, 1.0, len(levels)), levels))


def even_levels(times: Field, count: int = 512) -> Field:
    """The levels ``(count,)`` below which equally growing shares of a field lie, from 0 to all."""
    levels = np.quantile(times, np.linspace(0.0, 1.0, count))
    # Where many are alike, each level still lies above the one before.
    rising: Field = np.maximum.accumulate(levels + np.arange(count) * 1e-7).astype(np.float32)
    return rising
