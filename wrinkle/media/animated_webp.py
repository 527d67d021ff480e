"""Animated WebP, which FFmpeg does not read: made into a lossless video in memory.

Source: RFC 9649, section 2.7: a VP8X chunk whose flags say so, then an ANMF chunk for each picture.
"""

from __future__ import annotations

import io
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import av
import numpy as np
from PIL import Image, ImageSequence

from wrinkle.core.errors import MediaError
from wrinkle.files.whole import read_whole
from wrinkle.media.native_messages import unheard
from wrinkle.media.picture_header import promised_size

LARGEST = 64 << 20
"""Bytes of a file."""
MOST_PIXELS = 128_000_000
"""Of all pictures together, which are a video in memory then: 240 of 540×960."""
# We look at the size before: Pillow's own limit must not be a lower one, and need not be a higher.
Image.MAX_IMAGE_PIXELS = MOST_PIXELS
_HEAD, _ANIMATED = 21, 0x02
_SHORTEST = 10
"""Milliseconds; a picture that says less is shown as long as browsers show it (common practice)."""
_AS_SHOWN = 100
_KEPT = 2


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
        with unheard(), Image.open(io.BytesIO(content), formats=("WEBP",)) as found:
            return _matroska(found)
    except (OSError, ValueError, EOFError, Image.DecompressionBombError):
        raise _damaged(path) from None


def _matroska(found: Image.Image) -> bytes:
    buffer = io.BytesIO()
    with av.open(buffer, "w", format="matroska") as file:
        stream = file.add_stream("ffv1", rate=25)
        stream.width, stream.height = found.size
        opaque = found.mode == "RGB"
        stream.pix_fmt = "bgr0" if opaque else "bgra"
        stream.time_base = stream.codec_context.time_base = Fraction(1, 1000)
        time = 0
        for picture in ImageSequence.Iterator(found):
            pixels = np.ascontiguousarray(np.asarray(picture))
            # Known once its pixels are read, and not before.
            shown = int(picture.info.get("duration", 0))
            frame = av.VideoFrame.from_ndarray(pixels, "rgb24" if opaque else "rgba")
            frame.pts, frame.time_base = time, Fraction(1, 1000)
            file.mux(stream.encode(frame))
            time += shown if shown > _SHORTEST else _AS_SHOWN
        file.mux(stream.encode(None))
    return buffer.getvalue()


def _damaged(path: Path) -> MediaError:
    return MediaError(f"{path.name} is damaged; use a whole copy of it.")
