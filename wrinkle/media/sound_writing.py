"""Sound out: WAV and FLAC, 48 kHz, written whole or not at all."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from av.audio.frame import AudioFrame

from wrinkle.core.errors import InputError
from wrinkle.core.sound.dither import dithered
from wrinkle.core.sound.heard import Heard
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.media.whole_media import whole_media

BITS = (16, 24)
_KINDS = {
    ".wav": ("wav", {16: "pcm_s16le", 24: "pcm_s24le"}),
    ".flac": ("flac", {16: "flac", 24: "flac"}),
}
SUFFIXES = tuple(_KINDS)
_STRETCH = SAMPLE_RATE
_SEED = 48


def check_sound_target(path: Path) -> None:
    """Looks whether a file's ending says a kind of sound that is written.

    Raises:
        InputError: it does not.
    """
    if path.suffix.lower() not in SUFFIXES:
        raise InputError(
            f"{path.name} has no ending for sound that is written; use {' or '.join(SUFFIXES)}."
        )


def write_sound(
    path: Path,
    heard: Heard,
    bits: int = 16,
    progress: Callable[[int, int], None] = lambda done, total: None,
) -> int:
    """Writes all that is heard; gives the number of samples.

    Args:
        path: of the file; its ending says which kind.
        heard: what is written, from its first sample to its last.
        bits: of a sample; one of ``BITS``. What is finer is dithered.
        progress: told how many samples of how many are written; may raise to stop.

    Raises:
        InputError: the ending says no kind that is written.
        MediaError: a sound cannot be read, or the file cannot be written.
    """
    check_sound_target(path)
    with whole_media(path) as unfinished:
        return _write(unfinished, path.suffix.lower(), heard, bits, progress)


def _write(
    path: Path, suffix: str, heard: Heard, bits: int, progress: Callable[[int, int], None]
) -> int:
    kind, codecs = _KINDS[suffix]
    span, dice = heard.span, np.random.default_rng(_SEED)
    with av.open(str(path), "w", format=kind) as container:
        stream = container.add_stream(codecs[bits], rate=SAMPLE_RATE, layout="stereo")
        if suffix == ".flac":
            stream.format = "s32" if bits == 24 else "s16"
        for start in range(span.start, span.stop, _STRETCH):
            samples = heard.samples(start, min(_STRETCH, span.stop - start))
            whole = dithered(samples, bits, dice)
            packed, layout = (whole.astype(np.int16), "s16") if bits == 16 else (whole << 8, "s32")
            frame = AudioFrame.from_ndarray(packed.reshape(1, -1), layout, "stereo")
            frame.sample_rate, frame.pts = SAMPLE_RATE, start - span.start
            frame.time_base = Fraction(1, SAMPLE_RATE)
            container.mux(stream.encode(frame))
            progress(start + len(samples) - span.start, len(span))
        container.mux(stream.encode(None))
    return len(span)
