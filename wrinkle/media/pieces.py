"""The files of a piece, from what is on disk."""

from __future__ import annotations

from pathlib import Path

from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.media import STILL_LASTS, Media
from wrinkle.core.render.material import FrameSource
from wrinkle.core.store import Store
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.fillings import PICTURES
from wrinkle.media.still import Still


def read_source(path: Path, pool: ClipPool, store: Store) -> tuple[Media, FrameSource]:
    """A clip or a picture, and what a piece notes of it.

    Raises:
        MediaError: it cannot be read; names it.
    """
    path = path.absolute()
    source: FrameSource
    if path.suffix.lower() in PICTURES:
        source = Still.read(path, store)
        return Media(str(path), path.name, STILL_LASTS, source.size, still=True), source
    source = pool.clip(path)
    return Media(str(path), path.name, source.duration, source.size), source


def media_of(piece: Piece) -> list[Media]:
    """All files of a piece, each once, in the order in which they are seen."""
    found: dict[str, Media] = {}
    for clip in piece.clips:
        found.setdefault(clip.media.path, clip.media)
        for media in clip.entry.fillings.values() if clip.entry is not None else ():
            found.setdefault(media.path, media)
    return list(found.values())
