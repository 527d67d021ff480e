"""Files of sound in many packings, made up for tests."""

from fractions import Fraction
from functools import cache
from pathlib import Path

import av
import numpy as np

PACKINGS = (
    ("a.wav", "pcm_s16le", 48_000, None), ("b.wav", "pcm_f32le", 44_100, None),
    ("a.flac", "flac", 44_100, None), ("a.m4a", "aac", 48_000, "mp4"),
    ("a.mp3", "libmp3lame", 44_100, None), ("a.opus", "libopus", 48_000, "ogg"),
    ("a.mka", "libopus", 48_000, "matroska"), ("a.ts", "aac", 48_000, "mpegts"),
)  # fmt: skip
"""Name, codec, rate, and kind of file where the name does not say it."""


@cache
def murmur(rate: int, seconds: float) -> np.ndarray:
    """Many tones up to 4 kHz: the same at any rate, and no two stretches of it are alike."""
    dice = np.random.default_rng(7)
    time = np.arange(round(rate * seconds)) / rate
    found = np.zeros(len(time))
    for hertz, phase in zip(dice.uniform(80, 4_000, 40), dice.uniform(0, 7, 40), strict=True):
        found += np.sin(2.0 * np.pi * hertz * time + phase)
    return found * 0.04


def write_sound(
    path: Path,
    codec: str,
    rate: int,
    container: str | None = None,
    layout: str = "stereo",
    samples: np.ndarray | None = None,
    starts: int = 0,
) -> Path:
    """A file of sound, the same in all channels, five seconds by default.

    Args:
        starts: the sample of its time with which it begins.
    """
    wave = murmur(rate, 5.0) if samples is None else samples
    channels = av.AudioLayout(layout).nb_channels
    planes = np.tile(wave.astype(np.float32), (channels, 1))
    with av.open(str(path), "w", format=container) as file:
        stream = file.add_stream(codec, rate=rate, layout=layout)
        convert = av.AudioResampler(stream.format.name, layout, rate)
        for start in range(0, planes.shape[1], 1024):
            block = np.ascontiguousarray(planes[:, start : start + 1024].T.reshape(1, -1))
            frame = av.AudioFrame.from_ndarray(block, "flt", layout)
            frame.sample_rate = rate
            for part in convert.resample(frame):
                part.pts, part.time_base = starts + start, Fraction(1, rate)
                file.mux(stream.encode(part))
        file.mux(stream.encode(None))
    return path
