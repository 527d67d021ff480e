"""The piece that is not saved yet, kept beside the program so that it survives a crash.

It is kept as a timeline, with what it was read from: its steps are not.
"""

from __future__ import annotations

import os
import secrets
from contextlib import suppress
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

import msgspec

from wrinkle.core.errors import InputError
from wrinkle.core.files import read_whole, write_whole
from wrinkle.core.piece.document import Piece
from wrinkle.library.held_folder import held, remove
from wrinkle.library.own_files import own_state
from wrinkle.timeline.piece_file import SUFFIX, PieceFile

_INDEX, _PIECE = "index.json", f"piece{SUFFIX}"
_LARGEST_INDEX = 1 << 16


class _Index(msgspec.Struct, frozen=True):
    title: str
    when: datetime
    path: str


class KeptPiece:
    """The kept piece of one window. Used from one thread at a time."""

    def __init__(self, folder: Path | None = None) -> None:
        self._folder = (folder or kept_folder()) / secrets.token_hex(8)
        self._lock: int | None = None

    def keep(self, piece: Piece, file: PieceFile, path: Path | None) -> None:
        """Keeps the piece as it is now.

        Raises:
            OSError: it cannot be written.
            InputError: it cannot be written as a timeline.
        """
        from wrinkle.timeline.files import write_piece

        if self._lock is None:
            self._folder.mkdir(parents=True, exist_ok=True)
            self._lock = held(self._folder)
        write_piece(self._folder / _PIECE, piece, file)
        index = _Index(piece.title, datetime.now(UTC), str(path or ""))
        write_whole(self._folder / _INDEX, msgspec.json.encode(index))

    def remove(self) -> None:
        """The piece is saved, or nobody wants it."""
        if self._lock is not None:
            remove(self._folder, _INDEX)
        self.let_go()

    def let_go(self) -> None:
        """Leaves what is kept to the next start."""
        if self._lock is not None:
            os.close(self._lock)
            self._lock = None


@dataclass(frozen=True)
class LeftPiece:
    """A piece that a program left which ended without asking.

    Attributes:
        folder: where it is.
        name: its title.
        when: it was kept last.
        path: of its file, if it has one.
    """

    folder: Path
    name: str
    when: datetime
    path: Path | None

    def read(self) -> tuple[Piece, PieceFile]:
        """The piece, and what it was read from.

        Raises:
            InputError: it cannot be read.
        """
        from wrinkle.timeline.files import read_piece

        return read_piece(self.folder / _PIECE)

    def remove(self) -> None:
        """It was taken up, or nobody wants it."""
        remove(self.folder, _INDEX)


def kept_folder() -> Path:
    """Where unsaved pieces are kept."""
    return own_state() / "pieces"


def left_pieces(folder: Path | None = None) -> list[LeftPiece]:
    """What programs left that run no more, the newest first."""
    found = []
    for place in sorted((folder or kept_folder()).glob("*/")):
        lock = held(place)
        if lock is None:
            continue
        os.close(lock)
        with suppress(OSError, InputError, msgspec.DecodeError):
            content = read_whole(place / _INDEX, _LARGEST_INDEX)
            index = msgspec.json.decode(content, type=_Index)
            path = Path(index.path) if index.path else None
            found.append(LeftPiece(place, index.title, index.when, path))
    return sorted(found, key=lambda piece: piece.when, reverse=True)
