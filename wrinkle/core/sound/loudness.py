"""Loudness by Rec. ITU-R BS.1770-4: K-weighting, and the momentary one of EBU Tech 3341."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

SILENCE = -70.0
"""LUFS: what is quieter counts as silence (the absolute gate of BS.1770-4)."""
MOMENT = SAMPLE_RATE * 2 // 5
"""Samples: 400 ms."""
_SHELF = (
    (1.53512485958697, -2.69169618940638, 1.19839281085285),
    (1.0, -1.69065929318241, 0.73248077421585),
)
_HIGH_PASS = ((1.0, -2.0, 1.0), (1.0, -1.99004745483398, 0.99007225036621))
"""BS.1770-4, annex 1, tables 1 and 2, for 48 kHz."""
_RINGING = SAMPLE_RATE
"""Samples of silence behind."""
_OFFSET = -0.691
"""BS.1770-4, annex 1, equation 2."""


def momentary(samples: Samples, middles: NDArray[np.int64]) -> NDArray[np.float64]:
    """The loudness of 400 ms about some moments ``(N,)``, in LUFS, not below ``SILENCE``.

    Args:
        samples: stereo at 48 kHz.
        middles: the samples about which it is wanted; outside there is silence.
    """
    if not len(samples):
        return np.full(len(middles), SILENCE)
    weighted = _weighted(samples)
    sums = np.concatenate([[0.0], np.cumsum((weighted**2).sum(axis=1))])
    found = []
    for middle in middles:
        low = min(max(int(middle) - MOMENT // 2, 0), len(samples))
        high = min(max(int(middle) + MOMENT // 2, 0), len(samples))
        power = float(sums[high] - sums[low]) / MOMENT
        found.append(_OFFSET + 10.0 * math.log10(power) if power > 0.0 else SILENCE)
    levels: NDArray[np.float64] = np.maximum(np.array(found), SILENCE)
    return levels


def _weighted(samples: Samples) -> NDArray[np.float64]:
    """The samples after both filters, by their response: what rings on has died away by then."""
    count = len(samples) + _RINGING
    turns = np.exp(-2j * np.pi * np.fft.rfftfreq(count))
    response = np.ones_like(turns)
    for above, below in (_SHELF, _HIGH_PASS):
        response *= np.polyval(above[::-1], turns) / np.polyval(below[::-1], turns)
    spectrum = np.fft.rfft(samples, count, axis=0) * response[:, np.newaxis]
    found: NDArray[np.float64] = np.fft.irfft(spectrum, count, axis=0)[: len(samples)]
    return found
