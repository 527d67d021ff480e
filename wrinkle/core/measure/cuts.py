"""Cuts of a finished video, found by how much its frames differ.

The method is ours. Where a cut lies between two frames, those before it differ from those after
it, and neither differ as much among themselves. Motion differs on both sides as well; a flash
comes back to what was before it.
"""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from numpy.typing import NDArray

Scores = NDArray[np.float32]
USUAL = 0.06
"""Share of full brightness: between what fast motion reaches and what cuts have; measured on the
demo's clips and on synthetic ones."""
_NEAREST = 3
"""Frames between two cuts: what is shorter is a flash or a damaged frame."""


def cut_scores(frames: Iterable[NDArray[np.uint8]]) -> Scores:
    """How much each frame looks like the first one after a cut.

    Args:
        frames: small pictures of all frames in their order, 8-bit grey or RGB, of one shape.

    Returns:
        ``(N,)``; the mean difference across a cut in shares of full brightness, less the larger of
        those within both of its sides; 0 and less where nothing is cut.
    """
    scores: list[float] = []
    window: list[NDArray[np.int16]] = []
    for frame in frames:
        window = [*window, frame.astype(np.int16)][-4:]
        if len(window) == 4:
            scores.append(_score(*window))
    # The first two frames and the last one have no two on both sides.
    count = len(scores) + 3 if scores else len(window)
    found = np.zeros(count, np.float32)
    found[2 : 2 + len(scores)] = scores
    return found


def cuts_in(scores: Scores, threshold: float = USUAL) -> list[int]:
    """The first frame after each cut.

    Args:
        scores: of ``cut_scores``.
        threshold: from which on a frame is one.
    """
    found: list[int] = []
    for frame in np.argsort(-scores, kind="stable"):
        if scores[frame] < threshold:
            break
        if all(abs(int(frame) - other) >= _NEAREST for other in found):
            found.append(int(frame))
    return sorted(found)


def _score(
    a: NDArray[np.int16], b: NDArray[np.int16], c: NDArray[np.int16], d: NDArray[np.int16]
) -> float:
    across = min(_apart(a, c), _apart(a, d), _apart(b, c), _apart(b, d))
    return across - max(_apart(a, b), _apart(c, d))


def _apart(one: NDArray[np.int16], other: NDArray[np.int16]) -> float:
    return float(np.abs(one - other).mean()) / 255.0
