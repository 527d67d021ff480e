"""Timeline files: ``.otio``, and ``.otioz`` with the media in it."""

from __future__ import annotations

import zipfile
from collections.abc import Sequence
from pathlib import Path

from opentimelineio._otio import SerializableObject

from wrinkle.core.errors import DocumentError, InputError, MediaError
from wrinkle.core.piece.document import Piece
from wrinkle.files.presence import is_file
from wrinkle.files.targets import spare
from wrinkle.files.whole import not_saved, read_whole, size_label, whole_file, write_whole
from wrinkle.media.pieces import media_of, paths_of
from wrinkle.timeline.bundles import CONTENT, carried_out, put_media, unpacked
from wrinkle.timeline.edit_list import read_edit_list
from wrinkle.timeline.parsing import parsed
from wrinkle.timeline.piece_file import BUNDLED, EDIT_LIST, PieceFile
from wrinkle.timeline.reading import piece_of
from wrinkle.timeline.writing import timeline_of

LARGEST = 64 << 20
"""Bytes of the text of a timeline, with the wrinkles that stand in it."""


class MissingMediaError(MediaError):
    """Files that belong into what is written are not there; the person may want it all the same."""


def read_piece(path: Path, folder: Path | None = None) -> tuple[Piece, PieceFile]:
    """The piece in a file.

    Args:
        path: of the file.
        folder: to which the addresses in it are relative; by default that of the file.

    Raises:
        InputError: it cannot be read; names it and what is wrong.
    """
    try:
        if path.suffix.lower() == EDIT_LIST:
            # What is saved from it is a timeline of its own.
            return piece_of(read_edit_list(path), folder or path.parent)[0], PieceFile()
        if path.suffix.lower() == BUNDLED:
            content, folder = unpacked(path, LARGEST)
        else:
            content, folder = read_whole(path, LARGEST), folder or path.parent
        return piece_of(parsed(content), folder)
    except OSError as fault:
        reason = "there is no such file" if isinstance(fault, FileNotFoundError) else fault.strerror
        raise DocumentError(f"{path.name} cannot be opened: {reason}.") from None
    except InputError as fault:
        if str(fault).startswith(path.name):
            raise
        raise DocumentError(f"{path.name} cannot be opened: {str(fault).rstrip('.')}.") from None
    except Exception as fault:  # noqa: BLE001 - whatever a stranger's file brings about is told
        raise DocumentError(
            f"{path.name} cannot be opened: it is damaged ({type(fault).__name__})."
        ) from None


def missing_files(piece: Piece, file: PieceFile) -> list[str]:
    """The names of files that belong to what is seen, and are not there."""
    gone = [media.name for media in media_of(piece) if not is_file(Path(media.path))]
    there = {clip.name for clip in piece.clips if not clip.media.path}
    return [*gone, *(name for name in file.lost if name in there)]


def check_files(path: Path, piece: Piece, file: PieceFile) -> None:
    """Looks whether all that belongs into a file that holds its media is there.

    Raises:
        MissingMediaError: names what is not.
    """
    missing = missing_files(piece, file)
    if missing:
        raise MissingMediaError(
            f"{path.name} is not written: {_listed(missing)} cannot be found; find "
            f"{'it' if len(missing) == 1 else 'them'} first, or put up with the gap."
        )


def write_piece(path: Path, piece: Piece, file: PieceFile, without_missing: bool = False) -> None:
    """Writes a piece, whole or not at all, if it would open again as it is meant.

    Args:
        path: its ending says whether the media go with it. Media that lie in an unpacked timeline
            are put beside a file that does not hold them.
        piece: what is written.
        file: what it was read from.
        without_missing: whether media that are not there may be left out of what holds them.

    Raises:
        InputError: it is one of the piece's own files.
        MissingMediaError: a file that goes with it is not there.
        MediaError: the place cannot be written to, or what was written would not open.
    """
    spare(path, paths_of(piece))
    try:
        if path.suffix.lower() == BUNDLED:
            if not without_missing:
                check_files(path, piece, file)
            _write_bundle(path, timeline_of(piece, file, path.parent))
        else:
            piece = carried_out(path, piece)
            write_whole(path, _text(path, piece, timeline_of(piece, file, path.parent)))
    except OSError as fault:
        raise MediaError(not_saved(path, fault)) from None


def timeline_text(piece: Piece, folder: Path) -> bytes:
    """A piece as a timeline would hold it in a folder; its media stay where they are.

    Raises:
        MediaError: it would not open again.
    """
    name = folder / f"{piece.title}.otio"
    return _text(name, piece, timeline_of(piece, PieceFile(), folder))


def piece_in(text: bytes, folder: Path) -> Piece:
    """The piece of such a text.

    Raises:
        InputError: it cannot be read.
    """
    return piece_of(parsed(text), folder)[0]


def _write_bundle(path: Path, root: SerializableObject) -> None:
    with whole_file(path) as part, zipfile.ZipFile(part, "w") as archive:
        text = put_media(archive, root, path.parent).encode()
        _opened_again(path, text)
        archive.writestr(CONTENT, text, zipfile.ZIP_DEFLATED)


def _text(path: Path, piece: Piece, root: SerializableObject) -> bytes:
    """What is written, once it is sure that it says what is meant."""
    text = str(root.to_json_string(indent=2)).encode()
    again, _ = piece_of(_opened_again(path, text), path.parent)
    if _named(again) != _named(piece):
        raise MediaError(
            f"{path.name} is not written: its clips would not be found again from there; choose "
            "another place, or save it with its media."
        )
    return text


def _opened_again(path: Path, text: bytes) -> SerializableObject:
    """What would be read of a text that is to be written."""
    try:
        if len(text) > LARGEST:
            raise DocumentError(f"it has more than {size_label(LARGEST)}")
        return parsed(text, ours=True)
    except DocumentError as fault:
        raise MediaError(
            f"{path.name} is not written, since it could not be opened: {fault}; take the piece "
            "apart into several."
        ) from None


def _named(piece: Piece) -> list[tuple[str, ...]]:
    """The files of each clip."""
    return [
        tuple(
            str(Path(x.path).absolute()) if x.path else ""
            for x in (clip.media, *(clip.entry.fillings.values() if clip.entry is not None else ()))
        )
        for clip in piece.clips
    ]


def _listed(names: Sequence[str]) -> str:
    shown = ", ".join(names[:3])
    return f"{shown} and {len(names) - 3} more" if len(names) > 3 else shown
