"""The piece as it is seen: one frame, played in a loop about a cut or from end to end."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QHideEvent, QImage, QShowEvent
from PyQt6.QtWidgets import QHBoxLayout, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.jobs import Urgency
from wrinkle.core.picture.image import Size
from wrinkle.core.piece.film import Film
from wrinkle.core.piece.running import windows
from wrinkle.core.synthesis.samples import sample_at
from wrinkle.core.time.timecode import timecode
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.cutlist.piece_looking import PieceLooking, Row
from wrinkle.ui.cutlist.seam_ruler import SeamRuler
from wrinkle.ui.desk.looking import PRE_ROLL
from wrinkle.ui.desk.music import Music
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.desk.workers import Workers
from wrinkle.ui.pictures.frame_pictures import FramePictures
from wrinkle.ui.pictures.heard_ahead import HeardAhead
from wrinkle.ui.pictures.player import Player
from wrinkle.ui.pictures.sound_player import SoundPlayer
from wrinkle.ui.shared.picture_view import PictureView
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.theme import make_small

_BUTTONS = ("piece.loop", "piece.play", "piece.frame-back", "piece.frame-on")
_SIDE = 432
_BEHIND, _AHEAD, _NEAR = 300, 1200, 100
"""Frames around the playhead that are rendered, and from which distance on others are asked for:
pieces of a minute are asked for as a whole."""
_AT_ONCE = 15
"""Frames by which what is made is ahead of what is seen while it plays."""
_WORTH_ROUGH = 30_000
"""Pixels: while a piece plays, any picture of the right moment is better than none."""


class PieceScreen(QWidget):
    """Picture, transport and ruler.

    Signals:
        rendered: more frames are ready; how many, and how many there are.
        failed: one sentence on a frame that cannot be made.
    """

    rendered = pyqtSignal(int, int)
    failed = pyqtSignal(str)

    def __init__(
        self,
        document: PieceDocument,
        looking: PieceLooking,
        workers: Workers,
        sound: SoundPlayer,
    ) -> None:
        super().__init__()
        self._document = document
        self._looking = looking
        self._film: Film | None = None
        self._last: QImage | None = None
        self._whole = False
        self._asked = range(0)
        self.frames = FramePictures(
            workers.jobs, workers.store, Urgency.LOOKED_AT, self, _WORTH_ROUGH
        )
        self.sound = sound
        self.ahead = HeardAhead(sound, workers.jobs, self)
        self.player = Player(self, sound=self.sound)
        self.view = PictureView(self._picture)
        self.view.setMinimumHeight(150)
        self.ruler = SeamRuler()
        self.buttons = {name: QToolButton() for name in _BUTTONS}
        self.where = PlainLabel()
        make_small(self.where)
        self.frames.be_seen(False)
        self._lay_out()
        self._connect()

    def _lay_out(self) -> None:
        row = QHBoxLayout()
        row.setContentsMargins(12, 0, 12, 0)
        row.setSpacing(4)
        for button in self.buttons.values():
            row.addWidget(button)
        row.addStretch(1)
        row.addWidget(self.where)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        column.addWidget(self.view, 1)
        column.addWidget(self.ruler)
        column.addLayout(row)

    def _connect(self) -> None:
        looking = self._looking
        self.ruler.scrubbed.connect(looking.set_playhead)
        self.player.frameDue.connect(looking.set_playhead)
        self.player.playingChanged.connect(self.frames.hurry)
        self.frames.frameReady.connect(self.view.frame_came)
        self.frames.progressed.connect(self.rendered)
        self.frames.failed.connect(self.failed)
        looking.playheadChanged.connect(self._show_frame)
        looking.chosenChanged.connect(self._show_chosen)
        self._document.changed.connect(self.refresh)
        self._document.opened.connect(self._forget)

    def show_beats(self, music: Music) -> None:
        """The ruler shows the beats of the music from now on."""
        music.changed.connect(lambda: self.ruler.show_beats(music.frames))

    @property
    def film(self) -> Film | None:
        """What is shown; None for an empty piece."""
        return self._film

    @property
    def asked(self) -> range:
        """The frames that are being made, or are there."""
        return self._asked

    def refresh(self) -> None:
        """Shows the piece as it is now."""
        if not self.isVisible():
            return
        piece = self._document.state
        parts = (self.view, self.ruler, *self.buttons.values(), self.where)
        for part in parts:
            part.setVisible(bool(piece.clips))
        if not piece.clips:
            self.stop()
            self._film, self._last = None, None
            self.sound.set_heard(None)
            self.ahead.expect(())
            self.frames.forget()
            self.ruler.show_range(range(0), 0, 0)
            self.where.setText("")
            return
        size = piece.size.within(_SIDE)
        self._film = self._document.media.film(piece, size)
        film = self._film
        self.sound.set_heard(lambda: film.heard)
        self.ahead.expect(
            range(sample_at(piece.rate, x.first), sample_at(piece.rate, x.end))
            for x in windows(piece)
        )
        self._ask(self._looking.playhead)
        self._show_chosen()

    def _ask(self, frame: int) -> None:
        """Asks for the frames around one, as far as somebody will see them soon."""
        if self._film is None:
            return
        count = len(self._film.frames)
        self._asked = range(max(frame - _BEHIND, 0), min(frame + _AHEAD, count))
        self.frames.ask(self._film, self._asked, frame)

    def bind(self, menus: Menus) -> None:
        """The buttons stand for what is in the menus."""
        for name, button in self.buttons.items():
            menus.bind(name, button, drawn=True)

    def plays(self, whole: bool) -> bool:
        """Whether the whole piece plays, or else the chosen part of it."""
        return self.player.playing and whole == self._whole

    def toggle(self, whole: bool) -> None:
        """Plays, or stops what plays."""
        already = self.plays(whole)
        self.player.stop()
        if self._film is None or already:
            return
        self._whole = whole
        looped = self.looped
        self.player.set_frames(looped, self._document.state.rate)
        start = self._looking.playhead
        start = start if start in looped else looped.start
        self.player.play(start)

    def stop(self) -> None:
        """Nothing plays any more."""
        self.player.stop()

    @property
    def looped(self) -> range:
        """The frames that are played."""
        piece = self._document.state
        every = range(piece.frame_count)
        if self._whole:
            return every
        found = self._shown_range()
        return range(max(found.start, 0), min(found.stop, every.stop)) or every

    def _shown_range(self) -> range:
        """The frames about the chosen cut, or of the chosen clip."""
        piece, looking = self._document.state, self._looking
        ids = [clip.id for clip in piece.clips]
        if looking.current not in ids:
            return range(piece.frame_count)
        place = ids.index(looking.current)
        start, end = piece.starts[place], piece.starts[place + 1]
        if looking.row is Row.CLIP:
            return range(start, end)
        film = self._film
        for window in film.windows if film is not None else ():
            if window.clip == looking.current:
                return range(window.first - PRE_ROLL, window.end + PRE_ROLL)
        return range(start - 2 * PRE_ROLL, start + 2 * PRE_ROLL)

    def _picture(self, frame: int) -> QImage | None:
        """A frame; where it is not made yet, the one that was seen last: nothing flickers."""
        found = self.frames.picture(frame)
        if found is not None:
            self._last = found
        return self._last

    def _show_frame(self, frame: int) -> None:
        piece = self._document.state
        if self._film is None:
            return
        shape: Size = self._film.size
        self.view.show_frame(frame, shape)
        near = range(max(frame - _NEAR, 0), min(frame + _NEAR, piece.frame_count))
        if near.start < self._asked.start or near.stop > self._asked.stop:
            self._ask(frame)
        else:
            # What is passed while a frame is made comes too late: those ahead are made.
            ahead = _AT_ONCE if self.player.playing else 0
            self.frames.focus_on(min(frame + ahead, piece.frame_count - 1))
        self.ruler.show_playhead(frame)
        self.where.setText(
            f"{timecode(frame, piece.rate)} of {timecode(piece.frame_count, piece.rate)}"
        )

    def _show_chosen(self) -> None:
        if self._film is None or not self.isVisible():
            return
        piece, looking = self._document.state, self._looking
        shown = self._shown_range()
        ids = [clip.id for clip in piece.clips]
        zero = piece.starts[ids.index(looking.current)] if looking.current in ids else 0
        self.ruler.show_range(shown, zero, looking.playhead)
        if self.player.playing and not self._whole:
            self.player.set_frames(self.looped, piece.rate)
        self._show_frame(looking.playhead)

    def _forget(self) -> None:
        self.stop()
        self._last = None
        self.frames.forget()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.frames.be_seen(True)
        self.refresh()

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self.frames.be_seen(False)
        self.stop()
