"""Frames and sound into a video file, by any of the formats."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
from av.audio.frame import AudioFrame
from av.video.frame import PictureType, VideoFrame
from av.video.reformatter import ColorRange, ColorTrc

from wrinkle.core.picture.image import Size
from wrinkle.core.sound.dither import dithered
from wrinkle.core.sound.heard import Heard
from wrinkle.core.synthesis.samples import SAMPLE_RATE, sample_at
from wrinkle.core.time.rate import FrameRate
from wrinkle.media.output.colour import BT709, Colour
from wrinkle.media.output.format import Format

SOUND_BITS = 192_000
"""A second of AAC or Opus in two channels: common practice for delivery."""
_PCM_DEPTH = 24
_RGB = 0
"""No matrix: FFmpeg's number, for which the library has no name."""
# What this encoder tells on its own account is nothing that anybody asked for.
os.environ.setdefault("SVT_LOG", "1")
Progress = Callable[[int], None]
"""Told how many frames are written; raises Cancelled to stop."""


@dataclass(frozen=True)
class Encoding:
    """How frames are encoded.

    Attributes:
        form: the format.
        pixels: the pixel format of the frames.
        size, rate: of them.
        options: of the encoder.
        bits: a second of pictures; None where the quality says how many.
        most_bits: that no second may have more of.
        title: of the file.
        date: on which it is written.
        colour: what its values stand for.
        chapters: their beginnings, in seconds, and what they are called.
    """

    form: Format
    pixels: str
    size: Size
    rate: FrameRate
    options: dict[str, str]
    bits: int | None = None
    most_bits: int | None = None
    title: str = ""
    date: str = ""
    colour: Colour = BT709
    chapters: Sequence[tuple[Fraction, str]] = ()


def encode(
    path: Path,
    how: Encoding,
    frames: Iterable[VideoFrame],
    sound: Heard | None = None,
    progress: Progress = lambda done: None,
) -> int:
    """Writes frames in that pixel format; gives how many.

    Args:
        path: of the unfinished file.
        how: they are encoded.
        frames: in order.
        sound: what is heard with them, from sample 0 on; None for a silent file.
        progress: called after each frame.

    Raises:
        av.FFmpegError, OSError: the file cannot be written.
        Cancelled: ``progress`` raised it.
    """
    form, count = how.form, 0
    options = dict(form.container_options)
    with av.open(str(path), "w", format=form.container, options=options) as container:
        if how.title:
            container.metadata["title"] = how.title
        if how.date:
            container.metadata["date"] = how.date
        stream = container.add_stream(form.codec, rate=how.rate.per_second)
        _set_up(stream, how)
        track = SoundTrack(container, form, sound, how.rate) if sound and form.sound else None
        if how.chapters:
            container.set_chapters(_chapters(how))
        for frame in frames:
            frame.pts = count
            frame.time_base = 1 / how.rate.per_second
            # Of a frame that was decoded the encoder would keep what kind it was in its file.
            frame.pict_type = PictureType.NONE
            container.mux(stream.encode(frame))
            count += 1
            if track is not None:
                track.write_until(count)
            progress(count)
        container.mux(stream.encode(None))
        if track is not None:
            track.end()
    return count


def _set_up(stream: Any, how: Encoding) -> None:
    form = how.form
    stream.width, stream.height = how.size
    stream.pix_fmt = how.pixels
    # A keyframe a second: quick to step through in any program.
    stream.gop_size = max(1, how.rate.nominal)
    stream.options = {**form.options, **how.options}
    if how.bits is not None:
        stream.bit_rate = how.bits
    if how.most_bits is not None:
        limit = str(how.most_bits)
        stream.options = {**stream.options, "maxrate": limit, "bufsize": limit}
    if form.tag:
        stream.codec_context.codec_tag = form.tag
    # Untagged video is taken for BT.601 by many players: colours would shift.
    context = stream.codec_context
    yuv = how.pixels.startswith("yuv")
    primaries, curve, matrix = how.colour.tags
    context.colorspace = matrix if yuv else _RGB
    context.color_primaries = primaries
    context.color_trc = curve if yuv else int(ColorTrc.IEC61966_2_1)
    context.color_range = ColorRange.MPEG if yuv else ColorRange.JPEG


def _chapters(how: Encoding) -> list[dict[str, Any]]:
    base = Fraction(1, 1000)
    starts = [round(at / base) for at, _ in how.chapters]
    ends = [*starts[1:], starts[-1] + 1]
    return [
        {"id": n, "start": start, "end": max(end, start + 1), "time_base": base,
         "metadata": {"title": title}}
        for n, (start, end, (_, title)) in enumerate(zip(starts, ends, how.chapters, strict=True))
    ]  # fmt: skip


class SoundTrack:
    """The sound beside the pictures, written as far as these are."""

    def __init__(
        self,
        container: av.container.OutputContainer,
        form: Format,
        sound: Heard,
        rate: FrameRate,
    ) -> None:
        self._container, self._sound, self._rate = container, sound, rate
        self._written = 0
        stream = container.add_stream(form.sound, rate=SAMPLE_RATE, layout="stereo")
        self._stream: Any = stream
        self._pcm = form.sound.startswith("pcm") or form.sound == "flac"
        if self._pcm:
            stream.format = "s32"
        else:
            stream.bit_rate = SOUND_BITS
        self._dice = np.random.default_rng(24)

    def write_until(self, frames: int) -> None:
        """Writes the sound of so many frames."""
        end = sample_at(self._rate, frames)
        if end <= self._written:
            return
        samples = self._sound.samples(self._written, end - self._written)
        if self._pcm:
            packed = (dithered(samples, _PCM_DEPTH, self._dice) << 8).reshape(1, -1)
            frame = AudioFrame.from_ndarray(packed, format="s32", layout="stereo")
        else:
            planes = np.ascontiguousarray(samples.T, np.float32)
            frame = AudioFrame.from_ndarray(planes, format="fltp", layout="stereo")
        frame.sample_rate, frame.pts = SAMPLE_RATE, self._written
        frame.time_base = Fraction(1, SAMPLE_RATE)
        self._container.mux(self._stream.encode(frame))
        self._written = end

    def end(self) -> None:
        """Writes what the encoder still holds."""
        self._container.mux(self._stream.encode(None))
