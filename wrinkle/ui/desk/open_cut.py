"""The cut of the piece whose wrinkle is open on the Bench, and the way back to it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from fractions import Fraction

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.slots import INCOMING, OUTGOING
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import wrinkle_edits
from wrinkle.core.errors import InputError
from wrinkle.core.piece import dressing, edits
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.reuse.use import possible
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.desk.trial import Trial
from wrinkle.ui.desk.tried_clips import TriedClip, TriedClips
from wrinkle.ui.desk.wrinkle_document import WrinkleDocument


@dataclass(frozen=True)
class _Opened:
    """What was opened, to know what was changed."""

    clip: str
    use: PieceUse
    wrinkle: Wrinkle
    cuts: dict[str, Fraction]


class OpenCut(QObject):
    """At most one cut is open; another document on the Bench closes it.

    Signals:
        changed: another cut is open, or none.
    """

    changed = pyqtSignal()

    def __init__(
        self,
        piece: PieceDocument,
        document: WrinkleDocument,
        tried: TriedClips,
        trial: Trial,
        messages: Messages,
    ) -> None:
        super().__init__()
        self._piece = piece
        self._document = document
        self._tried = tried
        self._trial = trial
        self._messages = messages
        self._opened: _Opened | None = None
        document.opened.connect(self.close)
        piece.opened.connect(self.close)
        piece.changed.connect(self._look)

    @property
    def clip(self) -> str:
        """The id of the clip into which it leads; empty for none."""
        return self._opened.clip if self._opened is not None else ""

    @property
    def words(self) -> str:
        """Which cut is open; empty for none."""
        if self._opened is None:
            return ""
        piece = self._piece.state
        place = piece.index(self._opened.clip)
        return f"{piece.clips[place - 1].name} → {piece.clips[place].name}"

    @property
    def wrinkle_changed(self) -> bool:
        """Whether the wrinkle is another one than that which was opened."""
        return self._opened is not None and self._document.bundle().wrinkle != self._opened.wrinkle

    def open(self, clip_id: str) -> bool:
        """Opens the wrinkle on the cut into a clip, on the two clips there; gives whether it did.

        It is shown in the frame of the piece, so that its pictures are those of the piece.
        """
        piece = self._piece.state
        use = piece.clip(clip_id).entry
        if use is None:
            return False
        film = self._piece.media.film(piece, piece.size)
        try:
            slots = film.cut(clip_id).material.slots
            wrinkle = wrinkle_edits.set_frame(use.wrinkle, piece.size, piece.rate)
            self._document.open_copy(Bundle(wrinkle, use.bundle.assets))
        except InputError as fault:
            self._messages.faulted.emit(str(fault))
            return False
        keys = {OUTGOING.key, INCOMING.key, *use.fillings}
        clips = {key: TriedClip(x.source, x.cut) for key, x in slots.items() if key in keys}
        self._tried.show(clips)
        self._trial.set_choices(possible(wrinkle, use.choices))
        self._opened = _Opened(clip_id, use, wrinkle, {x: y.cut for x, y in clips.items()})
        self.changed.emit()
        return True

    def take_back(self, wrinkle_too: bool) -> bool:
        """Puts what was changed on the cut; gives whether the piece is another one now.

        Args:
            wrinkle_too: the changed wrinkle becomes this cut's own; else only what is chosen of
                it, and where the clips are cut.
        """
        opened = self._opened
        if opened is None:
            return False
        bundle = opened.use.bundle
        if wrinkle_too and self.wrinkle_changed:
            bundle = self._document.bundle()
        choices = possible(bundle.wrinkle, self._trial.choices)
        use = replace(opened.use, bundle=bundle, choices=choices)
        moved = self._moved(opened)
        self._document.mark_saved()
        self.close()

        def change(piece: Piece) -> Piece:
            place = piece.index(opened.clip)
            if use != opened.use:
                piece = dressing.put_on(piece, [opened.clip], use)
            last, first = moved
            piece = edits.trim(piece, piece.clips[place - 1].id, 0, last) if last else piece
            return edits.trim(piece, opened.clip, first, 0) if first else piece

        before = self._piece.committed
        self._piece.edit(f"{use.wrinkle.name} from the Bench", change)
        return self._piece.committed is not before

    def close(self) -> None:
        """Nothing of the piece is open on the Bench any more."""
        if self._opened is not None:
            self._opened = None
            self.changed.emit()

    def _moved(self, opened: _Opened) -> tuple[int, int]:
        """By how many frames the outgoing and the incoming clip are cut later now."""
        rate, clips = self._piece.state.rate, self._tried.clips
        out, into = (
            rate.nearest_frame(clips[key].cut - opened.cuts[key]) if key in clips else 0
            for key in (OUTGOING.key, INCOMING.key)
        )
        return out, into

    def _look(self) -> None:
        """A cut that is not there any more cannot be gone back to."""
        ids = [clip.id for clip in self._piece.state.clips]
        if self._opened is not None and self._opened.clip not in ids[1:]:
            self.close()
