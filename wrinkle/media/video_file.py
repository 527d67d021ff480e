"""Video out: MP4 with H.264, written whole or not at all."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from av.audio.frame import AudioFrame
from av.video.frame import VideoFrame
from av.video.reformatter import ColorPrimaries, ColorRange, Colorspace, ColorTrc

from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.core.sound.heard import Heard
from wrinkle.core.synthesis.samples import SAMPLE_RATE, sample_at
from wrinkle.core.time.rate import FrameRate
from wrinkle.media.whole_media import whole_media

_SOUND_BITS = 192_000
"""A second of AAC in two channels: common practice for delivery."""
_LONGEST_SIDE = 8192
"""What players can show; the encoder ends at 16384."""
Progress = Callable[[int], None]
"""Told how many frames are written; raises Cancelled to stop."""


def check_video_size(size: Size) -> Size:
    """``size`` if H.264 with 4:2:0 colour can have it.

    Raises:
        InputError: a side is odd, or longer than the encoder can have.
    """
    if max(size) > _LONGEST_SIDE:
        raise InputError(
            f"A video of {size.label} is not possible: no side can be longer than {_LONGEST_SIDE}."
        )
    if size != size.even:
        raise InputError(
            f"A video of {size.label} is not possible: both sides must be even. Use "
            f"{size.even.label}."
        )
    return size


def write_video(
    path: Path,
    frames: Iterable[Bytes8],
    size: Size,
    rate: FrameRate,
    progress: Progress = lambda done: None,
    speed: str = "veryfast",
    crf: int = 16,
    most_bits: int | None = None,
    sound: Heard | None = None,
) -> int:
    """Writes encoded 8-bit RGB or RGBA frames ``(H, W, 3 or 4)`` as an MP4 file.

    Args:
        path: of the file; what was there before stays until the new one is whole.
        frames: in order; alpha is left out.
        size: of each frame, both sides even.
        rate: frames per second.
        progress: called after each frame.
        speed: the encoder's preset.
        crf: the encoder's constant quality, lower is better. 16 at ``veryfast``: errors of 1.9
            levels RMS on clean pictures and 6.1 on noisy ones, at a quarter to two fifths of the
            time of 17 at ``medium``, which has 1.8 and 6.2 (measured on 60 frames of 1080×1920).
        most_bits: in a second of video, where a file must stay small.
        sound: what is heard with the pictures from sample 0 on; None for a silent video.

    Returns:
        The number of frames written.

    Raises:
        InputError: the size is not possible.
        MediaError: the place cannot be written to.
        Cancelled: ``progress`` raised it; no file is left behind.
    """
    check_video_size(size)
    with whole_media(path) as unfinished:
        return _encode(unfinished, frames, size, rate, progress, speed, crf, most_bits, sound)


def _encode(
    path: Path,
    frames: Iterable[Bytes8],
    size: Size,
    rate: FrameRate,
    progress: Progress,
    speed: str,
    crf: int,
    most_bits: int | None,
    sound: Heard | None,
) -> int:
    count = 0
    options = {"movflags": "+faststart"}
    with av.open(str(path), "w", format="mp4", options=options) as container:
        stream = container.add_stream("libx264", rate=rate.per_second)
        stream.width, stream.height = size
        stream.pix_fmt = "yuv420p"
        # A keyframe a second: quick to step through in any program.
        stream.gop_size = max(1, rate.nominal)
        stream.options = {"preset": speed, "crf": str(crf)}
        if most_bits is not None:
            limit = str(most_bits)
            stream.options = {**stream.options, "maxrate": limit, "bufsize": limit}
        # Untagged video is taken for BT.601 by many players: colours would shift.
        context = stream.codec_context
        context.colorspace = Colorspace.ITU709
        context.color_primaries = ColorPrimaries.BT709
        context.color_trc = ColorTrc.BT709
        context.color_range = ColorRange.MPEG
        track = _SoundTrack(container, sound, rate) if sound is not None else None
        for pixels in frames:
            frame = VideoFrame.from_ndarray(pixels, "rgba" if pixels.shape[2] == 4 else "rgb24")
            converted = frame.reformat(
                format="yuv420p",
                dst_colorspace=Colorspace.ITU709,
                dst_color_range=ColorRange.MPEG,
            )
            converted.pts = count
            container.mux(stream.encode(converted))
            count += 1
            if track is not None:
                track.write_until(count)
            progress(count)
        container.mux(stream.encode(None))
        if track is not None:
            track.end()
    return count


class _SoundTrack:
    """The sound beside the pictures, written as far as these are."""

    def __init__(
        self, container: av.container.OutputContainer, sound: Heard, rate: FrameRate
    ) -> None:
        self._container = container
        self._sound = sound
        self._rate = rate
        self._written = 0
        self._stream = container.add_stream("aac", rate=SAMPLE_RATE, layout="stereo")
        self._stream.bit_rate = _SOUND_BITS

    def write_until(self, frames: int) -> None:
        """Writes the sound of so many frames."""
        end = sample_at(self._rate, frames)
        if end <= self._written:
            return
        samples = self._sound.samples(self._written, end - self._written)
        planes = np.ascontiguousarray(samples.T, np.float32)
        frame = AudioFrame.from_ndarray(planes, format="fltp", layout="stereo")
        frame.sample_rate, frame.pts = SAMPLE_RATE, self._written
        frame.time_base = Fraction(1, SAMPLE_RATE)
        self._container.mux(self._stream.encode(frame))
        self._written = end

    def end(self) -> None:
        """Writes what the encoder still holds."""
        self._container.mux(self._stream.encode(None))
