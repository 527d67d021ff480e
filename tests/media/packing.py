"""Numbered clips in any container, as other programs write them."""

from pathlib import Path

import av

from tests.media.clips import numbered_picture

SIZE = (112, 96)
REORDERED = {"bf": "3", "g": "12", "crf": "12"}


def write(path: Path, codec: str, options: dict[str, str], layout: str = "yuv420p",
          container: str | None = None, count: int = 60, first: int = 0, rate: int = 25,
          **flags: str) -> Path:  # fmt: skip
    """A numbered clip in any container, with flags for who writes that."""
    with av.open(str(path), "w", format=container, options=flags) as file:
        stream = file.add_stream(codec, rate=rate)
        stream.width, stream.height = SIZE
        stream.pix_fmt, stream.options = layout, options
        for number in range(count):
            frame = av.VideoFrame.from_ndarray(numbered_picture(number, *SIZE), "rgb24")
            frame.pts = number + first
            file.mux(stream.encode(frame))
        file.mux(stream.encode(None))
    return path
