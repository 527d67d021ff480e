"""A frame on its way from one process to another: every bit of it comes back."""

from __future__ import annotations

import msgspec
from av.video.frame import VideoFrame


class PackedFrame(msgspec.Struct, frozen=True, array_like=True):
    """A frame as plain values.

    Attributes:
        pixels: FFmpeg's name of the pixel format.
        size: in pixels.
        colour: matrix, range, primaries and curve, by FFmpeg's numbers.
        planes: bytes of a row, and all rows, of each plane.
    """

    pixels: str
    size: tuple[int, int]
    colour: tuple[int, int, int, int]
    planes: tuple[tuple[int, bytes], ...]


def pack(frame: VideoFrame) -> PackedFrame:
    """The frame as plain values."""
    colour = (frame.colorspace, frame.color_range, frame.color_primaries, frame.color_trc)
    planes = tuple((plane.line_size, bytes(plane)) for plane in frame.planes)
    numbers = tuple(int(x) for x in colour)
    return PackedFrame(frame.format.name, (frame.width, frame.height), numbers, planes)  # type: ignore[arg-type]


def unpack(packed: PackedFrame) -> VideoFrame:
    """The frame again."""
    frame = VideoFrame(*packed.size, packed.pixels)
    for plane, (stride, content) in zip(frame.planes, packed.planes, strict=True):
        if stride != plane.line_size:
            # Another build of the library may align rows otherwise.
            shorter = min(stride, plane.line_size)
            rows = (content[at : at + shorter] for at in range(0, len(content), stride))
            content = b"".join(row.ljust(plane.line_size, b"\0") for row in rows)
        plane.update(content)
    frame.colorspace, frame.color_range, frame.color_primaries, frame.color_trc = packed.colour
    return frame
