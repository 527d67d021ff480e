"""What is looked at of the piece: the chosen clip or cuts, the frame, what plays."""

from __future__ import annotations

from enum import Enum

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.piece.document import PieceClip
from wrinkle.ui.desk.piece_document import PieceDocument


class Row(Enum):
    """What a row of the running order is."""

    CLIP = "clip"
    CUT = "cut"


class PieceLooking(QObject):
    """Nothing of it is saved or undone. A cut has the id of the clip after it.

    Signals:
        chosenChanged: another row is chosen, or others with it.
        soundShownChanged: what is heard of each clip is unfolded under it, or folded.
        playheadChanged: the frame that is looked at, counted from the piece's beginning.
    """

    chosenChanged = pyqtSignal()
    playheadChanged = pyqtSignal(int)
    soundShownChanged = pyqtSignal()

    def __init__(self, document: PieceDocument) -> None:
        super().__init__()
        self._document = document
        self._row = Row.CUT
        self._current = ""
        self._chosen: tuple[str, ...] = ()
        self._playhead = 0
        self._sound_shown = False
        document.changed.connect(self._keep_valid)
        document.opened.connect(self._forget)
        self._keep_valid()

    @property
    def row(self) -> Row:
        """Whether clips or cuts are chosen."""
        return self._row

    @property
    def current(self) -> str:
        """The id of the row that was chosen last; empty for none."""
        return self._current

    @property
    def chosen(self) -> tuple[str, ...]:
        """The ids of all chosen rows, in running order."""
        return self._chosen

    @property
    def cut(self) -> PieceClip | None:
        """The clip after the chosen cut; None while no cut is chosen."""
        return self._clip if self._row is Row.CUT else None

    @property
    def clip(self) -> PieceClip | None:
        """The chosen clip; None while none is."""
        return self._clip if self._row is Row.CLIP else None

    @property
    def cuts(self) -> tuple[str, ...]:
        """The chosen cuts; none while clips are chosen."""
        return self._chosen if self._row is Row.CUT else ()

    @property
    def playhead(self) -> int:
        """The frame that is looked at."""
        return self._playhead

    @property
    def sound_shown(self) -> bool:
        """Whether what is heard of each clip is unfolded under it."""
        return self._sound_shown

    def show_sound(self, shown: bool) -> None:
        """Unfolds what is heard of each clip under it, or folds it."""
        if shown != self._sound_shown:
            self._sound_shown = shown
            self.soundShownChanged.emit()

    def choose(self, row: Row, clip_id: str, add: bool = False, up_to: bool = False) -> None:
        """Chooses a row.

        Args:
            row: what it is.
            clip_id: its id.
            add: with those that are chosen already, or no longer with them.
            up_to: with all that lie between it and the one that was chosen last.
        """
        order = [clip.id for clip in self._document.state.clips]
        chosen = {clip_id}
        if row is self._row and self._current in order and up_to:
            first, last = sorted((order.index(self._current), order.index(clip_id)))
            chosen = set(order[first : last + 1])
            if row is Row.CUT:
                chosen.discard(order[0])
        elif row is self._row and add:
            chosen = set(self._chosen) ^ {clip_id} or {clip_id}
        self._row, self._current = row, clip_id
        self._chosen = tuple(one for one in order if one in chosen)
        self.chosenChanged.emit()

    def go_to(self, row: Row, clip_id: str) -> None:
        """Chooses a row and looks at where it is: a cut at its first frame after it."""
        self.choose(row, clip_id)
        piece = self._document.state
        self.set_playhead(piece.starts[piece.index(clip_id)])

    def step_cut(self, steps: int) -> None:
        """To the next cut, or the one before."""
        piece = self._document.state
        cuts = piece.starts[1:-1]
        after = [n for n, start in enumerate(cuts) if start > self._playhead]
        before = [n for n, start in enumerate(cuts) if start < self._playhead]
        found = after[:1] if steps > 0 else before[-1:]
        if found:
            self.go_to(Row.CUT, piece.clips[found[0] + 1].id)

    def step_row(self, steps: int) -> None:
        """To the next row, or the one before: clips and the cuts between them in turn."""
        rows = [(Row.CLIP, clip.id) for clip in self._document.state.clips]
        order = [x for clip in rows for x in ((Row.CUT, clip[1]), clip)][1:]
        here = (self._row, self._current)
        if order:
            place = order.index(here) + steps if here in order else 0
            self.go_to(*order[min(max(place, 0), len(order) - 1)])

    def set_playhead(self, frame: int) -> None:
        """Looks at another frame, within the piece."""
        frame = min(max(frame, 0), max(self._document.state.frame_count - 1, 0))
        if frame != self._playhead:
            self._playhead = frame
            self.playheadChanged.emit(frame)

    @property
    def _clip(self) -> PieceClip | None:
        for clip in self._document.state.clips:
            if clip.id == self._current:
                return clip
        return None

    def _keep_valid(self) -> None:
        clips = self._document.state.clips
        there = {clip.id for clip in clips}
        if self._row is Row.CUT and clips:
            there.discard(clips[0].id)
        chosen = tuple(clip.id for clip in clips if clip.id in self._chosen and clip.id in there)
        if self._current not in there or chosen != self._chosen:
            if self._current not in there:
                self._current = chosen[0] if chosen else self._first(there)
            self._chosen = chosen or ((self._current,) if self._current else ())
            self.chosenChanged.emit()
        self.set_playhead(self._playhead)

    def _first(self, there: set[str]) -> str:
        """What is chosen where nothing was: the first cut, or the only clip."""
        clips = self._document.state.clips
        if len(clips) > 1:
            self._row = Row.CUT
            return clips[1].id
        self._row = Row.CLIP
        return clips[0].id if clips else ""

    def _forget(self) -> None:
        self._current, self._chosen, self._row = "", (), Row.CUT
        self.set_playhead(0)
