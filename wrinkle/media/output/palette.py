"""Pictures in 256 colours, chosen from all of them together, dithered."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from fractions import Fraction

import av.filter
from av.video.frame import VideoFrame

from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size

MOST_PIXELS = 400_000_000
"""Of all pictures together: they are held until the palette of the last one is known."""


def check_palette(size: Size, count: int) -> None:
    """Refuses more pictures than can be held at once.

    Raises:
        InputError: says how many are possible.
    """
    if size.width * size.height * count > MOST_PIXELS:
        most = MOST_PIXELS // (size.width * size.height)
        raise InputError(
            f"A GIF of {count} pictures of {size.label} is too large; {most} are the most in this "
            "size. Write a smaller one, or a WebP."
        )


def in_palette(frames: Iterable[VideoFrame], size: Size) -> Iterator[VideoFrame]:
    """Frames of RGB as frames of palette colours: one palette for all, Sierra's dithering.

    Args:
        frames: in order, in ``rgb24``.
        size: of each.
    """
    graph = av.filter.Graph()
    source = graph.add_buffer(width=size.width, height=size.height, format="rgb24",
                              time_base=Fraction(1, 100))  # fmt: skip
    split = graph.add("split")
    chosen = graph.add("palettegen", "stats_mode=full")
    used = graph.add("paletteuse", "dither=sierra2_4a")
    sink = graph.add("buffersink")
    source.link_to(split)
    split.link_to(used, 0, 0)
    split.link_to(chosen, 1, 0)
    chosen.link_to(used, 0, 1)
    used.link_to(sink)
    graph.configure()
    for number, frame in enumerate(frames):
        frame.pts, frame.time_base = number, Fraction(1, 100)
        source.push(frame)
    source.push(None)
    while True:
        try:
            found = sink.pull()
        except (av.BlockingIOError, av.EOFError):
            return
        assert isinstance(found, VideoFrame)
        yield found
