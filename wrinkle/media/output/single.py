"""One picture as a file of a format for single pictures, with all of its depth."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

import av
from av.video.frame import VideoFrame

from wrinkle.media.output.format import Format

_HALF = 16


def picture_bytes(frame: VideoFrame, form: Format, depth: int) -> bytes:
    """The bytes of a file with one picture.

    Args:
        frame: in the pixel format of the depth.
        form: one for single pictures.
        depth: bits of a colour; of linear light 16 are half floats.

    Raises:
        av.FFmpegError: it cannot be made.
    """
    context: Any = av.CodecContext.create(form.codec, "w")
    context.width, context.height = frame.width, frame.height
    context.pix_fmt = frame.format.name
    context.time_base = Fraction(1, 25)
    options = dict(form.options)
    if form.linear:
        options["format"] = "half" if depth == _HALF else "float"
    context.options = options
    frame.pts = 0
    packets = [*context.encode(frame), *context.encode(None)]
    return b"".join(bytes(packet) for packet in packets)
