"""Short clips and sounds that a wrinkle carries as stand-ins, read from their bytes.

A decoder reads files, so that the bytes are put into a folder of this program's run, which goes
with it.
"""

from __future__ import annotations

import hashlib
import tempfile
from functools import cache
from pathlib import Path
from threading import Lock

from wrinkle.core.errors import MediaError
from wrinkle.core.store import Store
from wrinkle.files.whole import size_label, write_whole
from wrinkle.media.clip import Clip
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.sound_file import SoundFile

CLIPS = (".mp4", ".m4v", ".mov", ".webm", ".mkv")
LARGEST_STAND_IN = 20 << 20
"""Bytes; ten seconds of fog in a phone's size have five million."""
_CODECS = ("h264", "vp9", "libvpx-vp9")
_KEPT = Lock()


def stand_in_clip(name: str, content: bytes, pool: ClipPool) -> Clip:
    """The clip in some bytes.

    Raises:
        MediaError: it is too large, no H.264 or VP9, or cannot be read; names it.
    """
    if len(content) > LARGEST_STAND_IN:
        raise MediaError(
            f"{name} is too large for a stand-in: it has {size_label(len(content))}, and "
            f"{size_label(LARGEST_STAND_IN)} are the most."
        )
    clip = pool.clip(_as_file(name, content))
    if clip.facts.codec not in _CODECS:
        raise MediaError(
            f"{name} cannot stand in: it is {clip.facts.codec}, and not H.264 or VP9; convert it."
        )
    return clip


def stand_in_sound(name: str, content: bytes, store: Store) -> SoundFile:
    """The sound in some bytes.

    Raises:
        MediaError: it is too large, or cannot be read; names it.
    """
    if len(content) > LARGEST_STAND_IN:
        raise MediaError(
            f"{name} is too large to be carried: it has {size_label(len(content))}, and "
            f"{size_label(LARGEST_STAND_IN)} are the most; cut it shorter."
        )
    return SoundFile.read(_as_file(name, content), store)


def _as_file(name: str, content: bytes) -> Path:
    with _KEPT:
        place = Path(_folder().name) / hashlib.sha256(content).hexdigest()[:20] / name
        if not place.exists():
            place.parent.mkdir(exist_ok=True)
            write_whole(place, content)
        return place


@cache
def _folder() -> tempfile.TemporaryDirectory[str]:
    return tempfile.TemporaryDirectory(prefix="wrinkle-stand-ins-")
