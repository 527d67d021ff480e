"""The frames of a subject as they are, and as a mend would have them, side by side in step."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Urgency
from wrinkle.core.measure.subject import Subject
from wrinkle.core.picture.image import Size
from wrinkle.core.render.showing import Showing
from wrinkle.ui.desk.workers import Workers
from wrinkle.ui.pictures.frame_pictures import FramePictures
from wrinkle.ui.pictures.player import Player
from wrinkle.ui.pictures.sound_player import SoundPlayer
from wrinkle.ui.shared.picture_view import PictureView, frame_label
from wrinkle.ui.shared.plain_text import PlainLabel

_SIDE = 640
"""Pixels of the longer side."""


class BeforeAfter(QWidget):
    """Two pictures over each other's frame.

    Signals:
        frameShown: another frame is looked at.
        failed: one sentence on a frame that cannot be rendered.
    """

    frameShown = pyqtSignal(int)
    failed = pyqtSignal(str)

    def __init__(self, workers: Workers, sound: SoundPlayer) -> None:
        super().__init__()
        self.sound = sound
        self.before = FramePictures(workers.jobs, workers.store, Urgency.LOOKED_AT, self)
        self.after = FramePictures(workers.jobs, workers.store, Urgency.LOOKED_AT, self)
        self.views = [PictureView(x.picture) for x in (self.before, self.after)]
        self.headings = [PlainLabel("As it is"), PlainLabel("")]
        self._halves = (QWidget(), QWidget())
        self.note = PlainLabel()
        self.note.setWordWrap(True)
        self.note.setMargin(12)
        self._frame = 0
        self._subject: Subject | None = None
        self._mended: Showing | None = None
        self.player = Player(self, sound=sound)
        self.player.frameDue.connect(self.show_frame)
        self.play_button = QToolButton()
        self._lay_out()
        for pictures, view in zip((self.before, self.after), self.views, strict=True):
            pictures.frameReady.connect(view.frame_came)
            pictures.failed.connect(self.failed)
            self.player.playingChanged.connect(pictures.hurry)
        # Both are looked at from as near.
        self.views[1].share_zoom(self.views[0].zoom)
        self.show_subject(None)

    def _lay_out(self) -> None:
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        for number, (heading, view) in enumerate(zip(self.headings, self.views, strict=True)):
            heading.setObjectName("heading")
            heading.setMargin(6)
            heading.setIndent(6)
            half = self._halves[number]
            column = QVBoxLayout(half)
            column.setContentsMargins(0, 0, 0, 0)
            column.setSpacing(0)
            column.addWidget(heading)
            column.addWidget(view, 1)
            if number == 1:
                column.addWidget(self.note)
            row.addWidget(half, 1)

    @property
    def frame(self) -> int:
        """The frame that is looked at."""
        return self._frame

    def show_subject(self, subject: Subject | None) -> None:
        """Shows the frames of a subject; nothing beside them."""
        if subject is not self._subject:
            self._subject = subject
            self.before.forget()
            if subject is not None:
                self.before.ask(self._shown(subject), subject.frames, self._frame)
                self.player.set_frames(subject.frames, subject.wrinkle.frame_rate)
        if subject is None:
            self.player.stop()
        self.views[0].setVisible(subject is not None)
        self.show_mended(None, "", "")

    def show_mended(self, design: Wrinkle | None, title: str, note: str) -> None:
        """Shows what a mend comes to, or says why there is nothing to show."""
        self.headings[1].setText(title)
        self.note.setText(note)
        self.note.setVisible(bool(note))
        self.views[1].setVisible(design is not None)
        # Without anything to compare it with, the picture has all of the room.
        self._halves[1].setVisible(design is not None or bool(title) or bool(note))
        subject = self._subject
        self.after.forget()
        self.sound.set_heard(subject.heard if subject is not None else None)
        if design is None or subject is None:
            return
        try:
            after = subject.with_design(design)
        except InputError as fault:
            self.note.setText(str(fault))
            self.note.show()
            return
        self.after.ask(self._shown(after), after.frames, self._frame)
        # Both move in step: what is heard is what the mend makes of it.
        self.sound.set_heard(after.heard)
        self.show_frame(self._frame)

    def _shown(self, subject: Subject) -> Showing:
        size = subject.frame_size
        return subject.showing.resized(size.within(_SIDE))

    def show_frame(self, frame: int) -> None:
        """Looks at another frame."""
        self._frame = frame
        shape = self._subject.frame_size if self._subject is not None else Size(9, 16)
        for view in self.views:
            view.show_frame(frame, shape)
        for pictures in (self.before, self.after):
            pictures.focus_on(frame)
        self.headings[0].setText(f"As it is, frame {frame_label(frame)}")
        self.frameShown.emit(frame)

    def toggle(self) -> None:
        """Plays both, or stops."""
        if self._subject is None:
            return
        if self.player.playing:
            self.player.stop()
        else:
            self.player.play(self._frame)

    def close_down(self) -> None:
        """The window ends."""
        self.player.stop()
        self.sound.close()
        self.before.close()
        self.after.close()
