"""Pieces that older versions kept, as timelines and without their steps: kept as they are now."""

from __future__ import annotations

from contextlib import suppress
from pathlib import Path

import msgspec

from wrinkle.core.design.document.history import History
from wrinkle.core.piece.document import Piece
from wrinkle.files.whole import read_whole
from wrinkle.library.autosaves import Autosave, Work
from wrinkle.library.held_folder import held, remove
from wrinkle.library.own_files import own_state
from wrinkle.timeline.kept_piece import PieceCodec

_INDEX, _PIECE = "index.json", "piece.otio"
_LARGEST_INDEX = 1 << 16


class _Index(msgspec.Struct, frozen=True):
    title: str
    path: str


def take_over_older(folder: Path | None = None, goal: Path | None = None) -> None:
    """Keeps what an older version left as this one does; what cannot be read stays where it is."""
    for place in sorted((folder or own_state() / "pieces").glob("*/")):
        lock = held(place)
        if lock is None:
            continue
        # Nothing that was kept once may hinder a start.
        with suppress(Exception):
            _take_over(place, goal)
        lock.release()


def _take_over(place: Path, goal: Path | None) -> None:
    from wrinkle.timeline.files import read_piece

    content = read_whole(place / _INDEX, _LARGEST_INDEX)
    index = msgspec.json.decode(content, type=_Index)
    path = Path(index.path) if index.path else None
    # What was named relative to the file was kept so, beside the program.
    piece, file = read_piece(place / _PIECE, folder=path.parent if path is not None else None)
    history = History.starting(Piece(piece.title)).then(piece, "brought back", 1)
    autosave = Autosave(PieceCodec(), goal)
    autosave.keep(Work(history, history.states[0], file, path))
    autosave.let_go()
    remove(place, _INDEX)
