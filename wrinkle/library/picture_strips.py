"""Pictures side by side in one JPEG file: what was made once is seen at once the next time."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path

import cv2
import numpy as np

from wrinkle import library
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.files.whole import read_whole, write_whole

_LARGEST_FILE = 8 << 20


def clip_picture_path(identity: str, number: int, size: Size) -> Path:
    """Where a small picture of a clip is kept.

    Args:
        identity: of the clip in its state.
        number: of the picture.
        size: of it.
    """
    clip = hashlib.sha256(identity.encode("utf-8", "surrogateescape")).hexdigest()[:32]
    return library.cache_folder() / "clips" / clip / f"{number}-{size.width}-{size.height}.jpg"


def read_strip(path: Path, size: Size) -> list[Bytes8] | None:
    """What is kept, each ``(H, W, 3)``; None where there is nothing, or it is damaged."""
    try:
        content = read_whole(path, _LARGEST_FILE)
    except OSError:
        return None
    whole = cv2.imdecode(np.frombuffer(content, np.uint8), cv2.IMREAD_COLOR) if content else None
    if whole is None or whole.shape[0] != size.height or whole.shape[1] % size.width:
        return None
    pixels = np.ascontiguousarray(whole[..., ::-1])
    return [
        np.ascontiguousarray(pixels[:, left : left + size.width])
        for left in range(0, pixels.shape[1], size.width)
    ]


def strip_bytes(pictures: Sequence[Bytes8], quality: int) -> bytes:
    """The content of such a file; pictures are RGB ``(H, W, 3)``, all of one size."""
    how = (cv2.IMWRITE_JPEG_QUALITY, quality)
    done, content = cv2.imencode(".jpg", np.concatenate(pictures, axis=1)[..., ::-1], how)
    return content.tobytes() if done else b""


def keep_strip(path: Path, pictures: Sequence[Bytes8], quality: int) -> None:
    """Keeps pictures; without room on the disk they are made again the next time."""
    with suppress(OSError):
        path.parent.mkdir(parents=True, exist_ok=True)
        content = strip_bytes(pictures, quality)
        if content:
            write_whole(path, content)
