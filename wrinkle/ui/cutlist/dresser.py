"""Wrinkles put on the cuts of the piece, taken off, copied from one to others."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace
from pathlib import Path

from wrinkle import library
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.errors import InputError
from wrinkle.core.piece import dressing
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.making_room import Room, make_room
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.reuse.use import Choices
from wrinkle.files.archive import SUFFIX, read
from wrinkle.files.presence import is_file
from wrinkle.library.marks import mark_used
from wrinkle.timeline.uses import shipped_bundle
from wrinkle.ui.cutlist.piece_looking import PieceLooking
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.piece_document import PieceDocument


def is_wrinkle(path: Path) -> bool:
    """Whether a path is a wrinkle: a file, or the folder of a shipped one."""
    return path.suffix == SUFFIX or is_file(path / "wrinkle.json")


class Dresser:
    """Edits of the uses of a piece.

    Args:
        document: the piece.
        looking: which cuts are chosen.
        messages: where faults are told.
    """

    def __init__(self, document: PieceDocument, looking: PieceLooking, messages: Messages) -> None:
        self._document = document
        self._looking = looking
        self._messages = messages
        self._copied: PieceUse | None = None
        self._bundles: dict[Path, tuple[int, Bundle]] = {}

    def use_of(self, path: Path) -> PieceUse | None:
        """A wrinkle as it was made; None where it cannot be read, which is told."""
        try:
            found = PieceUse(self._bundle(path))
            for name, shipped in library.shipped().items():
                if shipped == path:
                    mark_used(f"shipped/{name}")
        except (InputError, OSError) as fault:
            self._messages.faulted.emit(str(fault))
            return None
        return found

    def put(self, path: Path, cuts: Sequence[str] | None = None) -> None:
        """Puts a wrinkle on cuts, by default on the chosen ones."""
        cuts = self._wanted(cuts)
        use = self.use_of(path) if cuts else None
        if use is not None:
            self._set(use.wrinkle.name, cuts, use)

    def put_on_every(self, path: Path, step: int = 1) -> None:
        """Puts a wrinkle on every cut, or on every so manieth."""
        use = self.use_of(path)
        if use is not None:
            label = f"{use.wrinkle.name} on {'every' if step == 1 else 'every second'} cut"
            self._edit(label, lambda piece: dressing.on_every(piece, use, step))

    def shuffle(self, paths: Sequence[Path], seed: int | None = None) -> None:
        """Puts several wrinkles on all cuts at random."""
        uses = [use for path in paths if (use := self.use_of(path)) is not None]
        seed = seed if seed is not None else random.randrange(1_000_000)
        if self._edit("shuffled", lambda piece: dressing.shuffled(piece, uses, seed)):
            self._messages.told.emit(f"Shuffled from {len(uses)} wrinkles with the seed {seed}.")

    def alternate(self) -> None:
        """Every other use goes the other way."""
        self._edit("alternating directions", dressing.alternating)

    def make_room(self) -> None:
        """Trims the clips beside the chosen cuts by what their handles lack."""
        self._make_room(list(self._looking.cuts))

    def room_everywhere(self) -> Room | None:
        """What making room on every cut comes to; None where that cannot be, which is told."""
        try:
            return make_room(self._document.state)
        except InputError as fault:
            self._messages.faulted.emit(str(fault))
            return None

    def make_room_everywhere(self) -> None:
        """Trims all clips by what their handles lack."""
        self._make_room(None)

    def _make_room(self, cuts: list[str] | None) -> None:
        before = self._document.state
        try:
            made = make_room(before, cuts)
        except InputError as fault:
            self._messages.faulted.emit(str(fault))
            return
        self._document.edit("make room", lambda piece: made.piece)
        self._messages.told.emit(made.words(before))

    def take_off(self) -> None:
        """Takes the wrinkles off the chosen cuts."""
        self._set("taken off", self._wanted(None), None)

    def take_all_off(self) -> None:
        """Takes all wrinkles off."""
        self._edit("all taken off", lambda piece: dressing.on_every(piece, None))

    def copy(self) -> None:
        """Keeps the use on the chosen cut, so that it can be put on others."""
        clip = self._looking.cut
        if clip is None or clip.entry is None:
            self._messages.faulted.emit("Choose a cut with a wrinkle on it first.")
            return
        self._copied = clip.entry
        self._messages.told.emit(f"{clip.entry.wrinkle.name} is copied as it is used here.")

    def paste(self) -> None:
        """Puts the copied use on the chosen cuts."""
        if self._copied is None:
            self._messages.faulted.emit("Nothing is copied yet; copy a use first.")
            return
        self._set(self._copied.wrinkle.name, self._wanted(None), self._copied)

    def same_on_all_like_it(self) -> None:
        """Every cut with the wrinkle of the chosen one has it as it is used there."""
        clip = self._looking.cut
        use = clip.entry if clip is not None else None
        if use is not None:
            like = [
                x.id
                for x in self._document.state.clips[1:]
                if x.entry is not None and x.entry.wrinkle == use.wrinkle
            ]
            self._set(f"{use.wrinkle.name} the same everywhere", like, use)

    def choose(self, choices: Choices, done: bool) -> None:
        """Other choices for the uses on the chosen cuts: of the current wrinkle."""
        clip = self._looking.cut
        if clip is None or clip.entry is None:
            return
        wrinkle, cuts = clip.entry.wrinkle, set(self._looking.cuts)

        def change(piece: Piece) -> Piece:
            clips = []
            for one in piece.clips:
                use = one.entry
                if one.id in cuts and use is not None and use.wrinkle == wrinkle:
                    one = replace(one, entry=replace(use, choices=choices))
                clips.append(one)
            return piece.with_clips(*clips)

        if done:
            self._edit(f"{wrinkle.name} changed", change)
        else:
            self._document.preview(change)

    def _wanted(self, cuts: Sequence[str] | None) -> Sequence[str]:
        found = self._looking.cuts if cuts is None else cuts
        if not found:
            self._messages.faulted.emit("Choose a cut first, between two clips.")
        return found

    def _set(self, label: str, cuts: Iterable[str], use: PieceUse | None) -> None:
        wanted = tuple(cuts)
        if wanted:
            self._edit(label, lambda piece: dressing.put_on(piece, wanted, use))

    def _edit(self, label: str, change: Callable[[Piece], Piece]) -> bool:
        if len(self._document.state.clips) < 2:
            self._messages.faulted.emit("There is no cut yet; a piece needs two clips for one.")
            return False
        return self._document.edit(label, change)

    def _bundle(self, path: Path) -> Bundle:
        """A wrinkle from its file; the same one as long as the file is."""
        for name, shipped in library.shipped().items():
            if shipped == path:
                return shipped_bundle(name)
        state = path.stat().st_mtime_ns
        known = self._bundles.get(path)
        if known is None or known[0] != state:
            known = self._bundles[path] = state, read(path)
        return known[1]
