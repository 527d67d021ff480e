"""Video files whose every frame can be told from its picture."""

from __future__ import annotations

import tempfile
import unittest
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from numpy.typing import NDArray

from wrinkle.media.clip import Clip

_BITS = 7


def numbered_picture(number: int, width: int, height: int) -> NDArray[np.uint8]:
    """RGB with the number in seven upright bars, white for 1; the upper left corner is red."""
    pixels = np.full((height, width, 3), 20, np.uint8)
    for bit in range(_BITS):
        left, right = bit * width // _BITS, (bit + 1) * width // _BITS
        if number >> bit & 1:
            pixels[height // 3 :, left:right] = 235
    pixels[: height // 4, : width // 4] = (220, 20, 20)
    return pixels


def number_of(pixels: NDArray[np.uint8]) -> int:
    """The number that a picture shows."""
    height, width = pixels.shape[:2]
    row = pixels[height * 2 // 3, :, 1]
    middles = [int((bit + 0.5) * width / _BITS) for bit in range(_BITS)]
    return sum(1 << bit for bit, x in enumerate(middles) if row[x] > 128)


def write_numbered(
    path: Path,
    count: int = 40,
    size: tuple[int, int] = (112, 96),
    rate: Fraction = Fraction(30),
    times: list[int] | None = None,
    layout: str = "yuv420p",
) -> Path:
    """A clip with reordered frames (B-frames); ``times`` are in thousandths of a second."""
    with av.open(str(path), "w") as container:
        stream = container.add_stream("libx264", rate=rate)
        stream.width, stream.height = size
        stream.pix_fmt = layout
        stream.options = {"bf": "3", "g": "12", "crf": "12"}
        if times is not None:
            stream.time_base = Fraction(1, 1000)
            stream.codec_context.time_base = Fraction(1, 1000)
        for number in range(count):
            frame = av.VideoFrame.from_ndarray(numbered_picture(number, *size), "rgb24")
            if times is None:
                frame.pts = number
            else:
                frame.pts, frame.time_base = times[number], Fraction(1, 1000)
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
    return path


def turn_by_flag(path: Path, height: int) -> None:
    """Sets the display matrix of an MP4 file to a quarter turn clockwise.

    Source: ISO/IEC 14496-12, track header box: the matrix {a, b, u, c, d, v, x, y, w}.
    """
    content = bytearray(path.read_bytes())
    start = content.index(b"tkhd") + 4 + 4 + 4 + 4 + 4 + 4 + 4 + 8 + 8
    one, minus = 0x00010000, 0xFFFF0000
    matrix = (0, one, 0, minus, 0, 0, height << 16, 0, 0x40000000)
    content[start : start + 36] = b"".join(x.to_bytes(4, "big") for x in matrix)
    path.write_bytes(content)


class Files(unittest.TestCase):
    """Tests with files of their own in ``folder``."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def open(self, path: Path) -> Clip:
        """The clip in a file, closed at the end."""
        clip = Clip(path)
        self.addCleanup(clip.close)
        return clip
