"""How long an output takes and how large it becomes, from a few frames that are really written."""

from __future__ import annotations

import tempfile
import time
from contextlib import closing
from dataclasses import dataclass, replace
from pathlib import Path

import av
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.sound.heard import Heard
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples
from wrinkle.media.output.colour import as_drawn
from wrinkle.media.output.encoding import SOUND_BITS, Encoding, encode
from wrinkle.media.output.format import Into
from wrinkle.media.output.output import Output, encoding_of
from wrinkle.media.output.single import picture_bytes
from wrinkle.media.sound_writing import write_sound

_RUNS, _LONG = 10, 4
"""Stretches that are written, and the frames of each: a second's keyframe counts as one in it."""
_PCM_BITS = SAMPLE_RATE * 24 * 2
_FEW_SAMPLES = 4 * SAMPLE_RATE


@dataclass(frozen=True)
class Estimate:
    """What is to be expected.

    Attributes:
        seconds: that it takes.
        megabytes: of the file.
    """

    seconds: float
    megabytes: float


def estimated(output: Output, jobs: Jobs, job: Job) -> Estimate:
    """Writes a few frames from all of it; see ``write_output`` for what may be wrong."""
    output.check()
    if output.form.into is Into.SOUND:
        return _estimated_sound(output, job)
    runs = _stretches(output.frames)
    count = sum(map(len, runs))
    began = time.perf_counter()
    first = later = 0
    for run in runs:
        with closing(jobs.in_order(output.frame, run)) as frames:
            if output.form.into in (Into.FRAMES, Into.SHEET):
                depth = output.rendition.bits_a_colour
                sizes = [len(picture_bytes(x, output.form, depth)) for x in frames]
            else:
                sizes = _sizes(output, frames, job)
        first += sizes[0] if sizes else 0
        later += sum(sizes[1:])
    spent = time.perf_counter() - began
    total = len(output.frames)
    keys = max(1, -(-total // max(1, output.rate.nominal)))
    if output.form.into in (Into.FRAMES, Into.SHEET) or output.form.lossless:
        pictures = (first + later) / count * total
    else:
        rest = max(count - len(runs), 1)
        pictures = first / len(runs) * keys + later / rest * max(total - keys, 0)
    kind = output.rendition
    if kind.megabytes is not None:
        return Estimate(spent / count * total * 1.6, kind.megabytes)
    if kind.bits is not None:
        pictures = kind.bits * float(output.seconds) / 8
    sound = 0.0
    if output.sounds:
        bits = SOUND_BITS if output.form.sound in ("aac", "libopus") else _PCM_BITS
        sound = bits * float(output.seconds) / 8
    return Estimate(spent / count * total, (pictures + sound) / 1e6)


@dataclass(frozen=True, eq=False)
class _First:
    """The first seconds of what is heard."""

    heard: Heard

    @property
    def span(self) -> range:
        return self.heard.span[:_FEW_SAMPLES]

    def samples(self, start: int, count: int) -> Samples:
        return self.heard.samples(start, count)


def _estimated_sound(output: Output, job: Job) -> Estimate:
    """From the first seconds, really written."""
    heard = output.heard
    assert heard is not None
    few = _First(heard)
    began = time.perf_counter()
    with tempfile.TemporaryDirectory(prefix="wrinkle-estimate-") as folder:
        path = Path(folder) / f"few{output.form.suffix}"
        bits = output.rendition.bits_a_colour
        write_sound(path, few, bits, lambda done, total: job.check())
        size = path.stat().st_size
    spent = time.perf_counter() - began
    share = len(heard.span) / max(len(few.span), 1)
    return Estimate(spent * share, size * share / 1e6)


def _stretches(frames: range) -> list[range]:
    if len(frames) <= _RUNS * _LONG:
        return [frames]
    step = (len(frames) - _LONG) / (_RUNS - 1)
    starts = [frames.start + round(n * step) for n in range(_RUNS)]
    return [range(x, x + _LONG) for x in starts]


def _sizes(output: Output, frames: object, job: Job) -> list[int]:
    """The bytes of each picture in a short file of them."""
    with tempfile.TemporaryDirectory(prefix="wrinkle-estimate-") as folder:
        path = Path(folder) / f"few{output.form.suffix}"
        how = _plain(output)
        encode(path, how, frames, None, lambda done: job.check())  # type: ignore[arg-type]
        if output.form.into is Into.MOVING:
            whole = path.stat().st_size
            count = max(len(output.frames), 1)
            return [whole // min(count, _LONG)] * min(count, _LONG)
        with av.open(str(path)) as container:
            packets = container.demux(container.streams.video[0])
            return [packet.size for packet in packets if packet.size]


def _plain(output: Output) -> Encoding:
    return replace(encoding_of(output), title="", chapters=())


def as_encoded(output: Output, frame: int) -> NDArray[np.uint8]:
    """A picture as it looks after encoding, as RGB ``(H, W, 3)``.

    Raises:
        MediaError: a source cannot be read.
    """
    picture = output.frame(frame)
    if output.form.into is not Into.VIDEO:
        return np.asarray(picture.to_ndarray(format="rgb24"), np.uint8)
    with tempfile.TemporaryDirectory(prefix="wrinkle-look-") as folder:
        path = Path(folder) / f"one{output.form.suffix}"
        encode(path, _plain(output), [picture])
        with av.open(str(path)) as container:
            shown = next(container.decode(video=0)).to_ndarray(format="rgb24")
            return as_drawn(np.asarray(shown, np.uint8), output.rendition.colour)
