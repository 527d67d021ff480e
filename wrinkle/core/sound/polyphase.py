"""A filter between the samples of a sound, of which only what is wanted is worked out."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.synthesis.samples import Samples

_ONE = np.ones(1, np.float32)


def filtered(
    weights: NDArray[np.float32], samples: Samples, up: int, down: int, wanted: range
) -> Samples:
    """As if there were so many samples for each, all filtered, and every so manieth of them.

    Each place between two samples has its own part of the filter (Crochiere and Rabiner, Multirate
    Digital Signal Processing, "polyphase structures").

    Args:
        weights: ``(T,)``, the filter at the higher rate.
        samples: ``(N, 2)``; outside there is silence.
        up: how many there are for each, 1 at least.
        down: which of them are kept, 1 for all.
        wanted: which of those that are kept, one after the other, counted from where the first
            weight meets the first sample.

    Returns:
        ``(len(wanted), 2)``.
    """
    taps = -(-len(weights) // up)
    parts = np.zeros((taps, up), np.float32)
    parts.reshape(-1)[: len(weights)] = weights
    # A row for each place, its last weight first, as it meets the samples.
    parts = np.ascontiguousarray(parts[::-1].T)
    last = (wanted.stop - 1) * down // up
    sides = np.zeros((2, taps + max(last, len(samples))), np.float32)
    sides[:, taps - 1 : taps - 1 + len(samples)] = samples.T
    around = np.lib.stride_tricks.sliding_window_view(sides, taps, axis=1)
    found: Samples = np.empty((len(wanted), 2), np.float32)
    for begin in range(min(up, len(wanted))):
        sample, place = divmod(wanted[begin] * down, up)
        count = len(range(begin, len(wanted), up))
        if down == 1:
            # Where all neighbours are wanted it takes half of the time.
            met = np.ascontiguousarray(sides[:, sample : sample + count + taps - 1])
            every = cv2.sepFilter2D(met, cv2.CV_32F, parts[place], _ONE, anchor=(0, 0))
            found[begin::up] = every[:, :count].T
        else:
            here = around[:, sample::down][:, :count]
            found[begin::up] = np.einsum("snt,t->ns", here, parts[place])
    return found
