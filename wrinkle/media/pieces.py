"""The files of a piece, from what is on disk."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path

from wrinkle.core.errors import MediaError
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.media import STILL_LASTS, Media
from wrinkle.core.render.material import FrameSource
from wrinkle.core.store import Store
from wrinkle.media.clip import Clip
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.fillings import PICTURES, SOUNDS
from wrinkle.media.sound_file import SoundFile
from wrinkle.media.still import Still


def read_source(path: Path, pool: ClipPool, store: Store) -> tuple[Media, FrameSource]:
    """A clip or a picture, and what a piece notes of it.

    Raises:
        MediaError: it cannot be read; names it.
    """
    path = path.absolute()
    check_name(path)
    source: FrameSource
    if path.suffix.lower() in PICTURES:
        source = Still.read(path, store)
        return Media(str(path), path.name, STILL_LASTS, source.size, still=True), source
    source = pool.clip(path)
    return Media(str(path), path.name, source.duration, source.size), source


def read_heard(path: Path, pool: ClipPool, store: Store) -> tuple[Media, FrameSource | SoundFile]:
    """A clip, or a file of sound alone, and what a piece notes of it.

    Raises:
        MediaError: it cannot be read, or has neither; names it.
    """
    path = path.absolute()
    check_name(path)
    if path.suffix.lower() in SOUNDS:
        sound = SoundFile.read(path, store)
        return Media(str(path), path.name, sound.duration), sound
    return read_source(path, pool, store)


def check_name(path: Path) -> None:
    """Looks whether a document can say where a file is.

    Raises:
        MediaError: its name, or that of a folder on the way, is no text.
    """
    try:
        str(path).encode()
    except UnicodeEncodeError:
        raise MediaError(
            f"{path.name} cannot be noted: a name on the way to it holds bytes that are no text; "
            "rename that."
        ) from None


def media_of(piece: Piece) -> list[Media]:
    """All files of a piece, each once, in the order in which they are seen.

    What is meant to be dark has none.
    """
    found: dict[str, Media] = {}
    for clip in piece.clips:
        found.setdefault(clip.media.path, clip.media)
        for media in clip.entry.fillings.values() if clip.entry is not None else ():
            found.setdefault(media.path, media)
    for one in piece.others:
        found.setdefault(one.media.path, one.media)
    if piece.bed is not None:
        found.setdefault(piece.bed.media.path, piece.bed.media)
    found.pop("", None)
    return list(found.values())


def paths_of(piece: Piece) -> list[Path]:
    """Where all files of a piece are."""
    return [Path(media.path) for media in media_of(piece)]


def shots(clip: Clip, cuts: Sequence[int]) -> Piece:
    """A finished video as a piece with a clip for each of its shots.

    Args:
        clip: the video.
        cuts: the first frame after each cut, in order.
    """
    path = clip.path.absolute()
    media = Media(str(path), path.name, clip.duration, clip.size)
    rate = clip.facts.rate
    ends = [*(rate.seconds(cut) for cut in cuts), clip.duration]
    starts = [Fraction(0), *ends[:-1]]
    found = [
        PieceClip(f"shot-{number}", f"{clip.name} {number}", media, start, end)
        for number, (start, end) in enumerate(zip(starts, ends, strict=True), 1)
    ]
    return Piece(clip.name, clip.size.even, rate, tuple(found))
