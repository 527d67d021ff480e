"""Animated WebP, which FFmpeg does not read: made into a lossless video in memory.

Source: RFC 9649, section 2.7: a VP8X chunk whose flags say so, then an ANMF chunk for each picture.
"""

from __future__ import annotations

import io
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import av
import cv2
import numpy as np

from wrinkle.core.errors import MediaError
from wrinkle.core.files import read_whole
from wrinkle.media.native_messages import unheard
from wrinkle.media.picture_header import promised_size

LARGEST = 64 << 20
"""Bytes of a file."""
MOST_PIXELS = 128_000_000
"""Of all pictures together, which are read at once: 240 of 540×960."""
_HEAD, _ANIMATED = 21, 0x02
_SHORTEST = 10
"""Milliseconds; a picture that says less is shown as long as browsers show it (common practice)."""
_AS_SHOWN = 100
_KEPT = 2
_COLOURS = 3


def is_animated_webp(path: Path) -> bool:
    """Whether a file is one.

    Raises:
        OSError: it cannot be read.
    """
    with path.open("rb") as file:
        head = file.read(_HEAD)
    if len(head) < _HEAD or head[:4] != b"RIFF" or head[8:16] != b"WEBPVP8X":
        return False
    return bool(head[20] & _ANIMATED)


def as_video(path: Path) -> io.BytesIO:
    """A Matroska file of the pictures, each from its own time on.

    Raises:
        OSError: the file cannot be read.
        MediaError: it is damaged or too large; names it and the way out.
    """
    status = path.stat()
    return io.BytesIO(_video(path, status.st_mtime_ns, status.st_size))


@lru_cache(maxsize=_KEPT)
def _video(path: Path, changed: int, size: int) -> bytes:
    content = read_whole(path, LARGEST)
    promised, count = promised_size(content), content.count(b"ANMF")
    if promised is None or count == 0:
        raise _damaged(path)
    if promised.width * promised.height * count > MOST_PIXELS:
        raise MediaError(
            f"{path.name} has {count} pictures of {promised.label}, more than can be read at once; "
            "convert it to MP4."
        )
    try:
        with unheard():
            done, animation = cv2.imdecodeanimation(np.frombuffer(content, np.uint8), 0, count)
    except cv2.error:
        raise _damaged(path) from None
    if not done or not animation.frames:
        raise _damaged(path)
    return _matroska(animation)


def _matroska(animation: cv2.Animation) -> bytes:
    buffer = io.BytesIO()
    first = animation.frames[0]
    layout = "bgr24" if first.shape[2] == _COLOURS else "bgra"
    with av.open(buffer, "w", format="matroska") as file:
        stream = file.add_stream("ffv1", rate=25)
        stream.height, stream.width = first.shape[:2]
        stream.pix_fmt = "bgr0" if layout == "bgr24" else "bgra"
        stream.time_base = stream.codec_context.time_base = Fraction(1, 1000)
        time = 0
        for pixels, shown in zip(animation.frames, animation.durations, strict=True):
            frame = av.VideoFrame.from_ndarray(np.ascontiguousarray(pixels), layout)
            frame.pts, frame.time_base = time, Fraction(1, 1000)
            file.mux(stream.encode(frame))
            time += int(shown) if int(shown) > _SHORTEST else _AS_SHOWN
        file.mux(stream.encode(None))
    return buffer.getvalue()


def _damaged(path: Path) -> MediaError:
    return MediaError(f"{path.name} is damaged; use a whole copy of it.")
