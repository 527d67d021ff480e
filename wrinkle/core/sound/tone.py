"""What lies too low or too high in a sound is taken away; and which side it is heard on."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.sound.along import Along
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

_PADDING = 4_096
"""Samples in which a filter rings out: what lasts longer is far below what is heard."""
_NEIGHBOURS = 2.0 ** (1 / 4)
"""How far two filters lie apart between which a moving one goes."""
_NYQUIST = SAMPLE_RATE / 2


def cut(samples: Samples, low: Along, high: Along, open_low: float, open_high: float) -> Samples:
    """Sound without what lies below one frequency and above another: 12 dB an octave beyond.

    Butterworth's filters of the second order, made digital by the bilinear transform (Oppenheim
    and Schafer, Discrete-Time Signal Processing).

    Args:
        samples: ``(N, 2)``.
        low, high: in hertz.
        open_low, open_high: up to there, and from there on, nothing is taken away.
    """
    if np.max(low) > open_low:
        samples = _filtered(samples, np.maximum(low, open_low), lower=True)
    if np.min(high) < open_high:
        samples = _filtered(samples, np.minimum(high, open_high), lower=False)
    return samples


def sides(pan: Along) -> tuple[Along, Along]:
    """The factors of the left and of the right speaker: the same power wherever it is heard.

    Args:
        pan: per cent to the right; at 0 both are 1.
    """
    angle = (np.clip(pan, -100.0, 100.0) / 100.0 + 1.0) * (np.pi / 4.0)
    return np.sqrt(2.0) * np.cos(angle), np.sqrt(2.0) * np.sin(angle)


def _filtered(samples: Samples, hertz: Along, lower: bool) -> Samples:
    count = len(samples)
    size = 1 << (count + _PADDING - 1).bit_length()
    spectrum = np.fft.rfft(samples, size, axis=0)
    least, most = float(np.min(hertz)), float(np.max(hertz))
    if least == most:
        whole = np.fft.irfft(spectrum * _response(size, least, lower), size, axis=0)
        return whole[:count].astype(np.float32)
    # A filter that moves goes from one that stands to the next.
    steps = max(2, int(np.ceil(np.log(most / least) / np.log(_NEIGHBOURS))) + 1)
    stops = np.geomspace(least, most, steps)
    place = np.interp(np.log(hertz), np.log(stops), np.arange(steps))
    found = np.zeros((count, 2))
    for number, stop in enumerate(stops):
        weight = np.clip(1.0 - np.abs(place - number), 0.0, 1.0)
        if weight.any():
            part = np.fft.irfft(spectrum * _response(size, float(stop), lower), size, axis=0)
            found += part[:count] * weight[:, np.newaxis]
    return found.astype(np.float32)


def _response(size: int, hertz: float, lower: bool) -> NDArray[np.complex128]:
    """What a filter does to each line of a spectrum ``(size // 2 + 1, 1)``."""
    warped = np.tan(np.pi * min(hertz, 0.98 * _NYQUIST) / SAMPLE_RATE)
    angles = 2.0 * np.pi * np.fft.rfftfreq(size)
    # The bilinear transform takes the circle to the axis; the last line lies at infinity.
    with np.errstate(divide="ignore", invalid="ignore"):
        s = 1j * np.tan(angles / 2.0) / warped
    s = np.where(np.isfinite(s), s, 1j * 1e12)
    bottom = s * s + np.sqrt(2.0) * s + 1.0
    return np.asarray((s * s if lower else np.ones_like(s)) / bottom)[:, np.newaxis]
