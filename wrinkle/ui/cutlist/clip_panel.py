"""The chosen clip: its name, its ends, its length, its pace, how it fills the frame."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.sounds import LOUDEST, QUIETEST
from wrinkle.core.motion.values import parts
from wrinkle.core.picture.fit import Fit
from wrinkle.core.piece import edits
from wrinkle.core.piece.beating import seconds_of
from wrinkle.core.piece.bed import LONGEST_FADE
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.ui.cutlist.piece_looking import PieceLooking
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.shared.asking_files import Asking
from wrinkle.ui.shared.drops import CLIP_FILTER
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.plain_text import PlainForm, PlainLabel, tip
from wrinkle.ui.shared.timecode_field import TimecodeField
from wrinkle.ui.shared.value_field import FieldFormat, ValueField, number_of

_FINEST_SPEED = 10_000


class ClipPanel(QWidget):
    """What can be done with one clip.

    Signals:
        faulted: one sentence on what was typed.
    """

    faulted = pyqtSignal(str)

    def __init__(self, document: PieceDocument, looking: PieceLooking, asking: Asking) -> None:
        super().__init__()
        self._asking = asking
        self._document = document
        self._looking = looking
        self.file = ElidedLabel()
        self.file.setObjectName("quiet")
        self.name = QLineEdit()
        self.name.setAccessibleName("Name of the clip")
        self.name.editingFinished.connect(self._rename)
        self.first = self._time("In", "Where it begins, in its file", self._set_first)
        self.last = self._time("Out", "Where it ends, in its file", self._set_last)
        self.length = self._time("Length", "How long it is in the piece", self._set_length)
        self.speed = self._number(
            "Speed", "100 % is as filmed", FieldFormat(100, " %", 2, 0.01), self._set_speed
        )
        self.reverse, self.frozen = QCheckBox("Reversed"), QCheckBox("Stands still")
        self.reverse.clicked.connect(lambda on: self._set_speed(self._speed, reverse=on))
        self.frozen.clicked.connect(lambda on: self._change("freeze", frozen=on))
        self.fit = QComboBox()
        self.fit.setAccessibleName("Fit")
        for fit in Fit:
            self.fit.addItem(fit.value, fit)
        self.fit.activated.connect(lambda: self._change("fit", fit=self.fit.currentData()))
        self.focus = self._number(
            "Focus", "The point of the clip that is kept in the middle, in per cent of it",
            FieldFormat(100, " %", 0, 0.01), self._set_focus,
        )  # fmt: skip
        self.level = self._number(
            "Sound",
            "How loud it is",
            FieldFormat(suffix=" dB", decimals=1, step=0.5),
            self._set_level,
        )
        self.muted = QCheckBox("Mute")
        self.muted.clicked.connect(lambda on: self._change("sound", muted=on))
        self.rise, self.fall = (self._fade(word, about, key) for word, about, key in (
            ("Rises", "How long its sound takes to come", "rise"),
            ("Falls", "How long its sound takes to go", "fall"),
        ))  # fmt: skip
        self.pitch = QCheckBox("Pitch kept")
        self.pitch.setToolTip(
            tip("It sounds no higher where it runs faster, and no lower where slower")
        )
        self.pitch.clicked.connect(lambda on: self._change("pitch", pitch_kept=on))
        self.track = QComboBox()
        self.track.setAccessibleName("Which of its sounds")
        self.track.activated.connect(lambda: self._change("sound", track=self.track.currentIndex()))
        self.replace = self._button("Replace…", "Another file; all else is kept", self.ask_other)
        self.remove = self._button("Remove", "Take it out of the piece (Del)", self.take_out)
        self._lay_out()

    def _lay_out(self) -> None:
        form = PlainForm()
        form.setVerticalSpacing(6)
        ends = QHBoxLayout()
        ends.setSpacing(6)
        for word, field in (("In", self.first), ("Out", self.last), ("Length", self.length)):
            ends.addWidget(PlainLabel(word))
            ends.addWidget(field, 1)
        pace = QHBoxLayout()
        for widget in (self.speed, self.reverse, self.frozen):
            pace.addWidget(widget)
        heard = QHBoxLayout()
        heard.addWidget(self.level)
        heard.addWidget(self.track)
        heard.addWidget(self.muted)
        heard.addWidget(self.pitch)
        fades = QHBoxLayout()
        fades.setSpacing(6)
        fades.addWidget(self.rise, 1)
        fades.addWidget(PlainLabel("falls in"))
        fades.addWidget(self.fall, 1)
        shape = QHBoxLayout()
        shape.addWidget(self.fit, 1)
        shape.addWidget(self.focus, 1)
        moves = self._steps("its file", edits.slip, "slip")
        moves.addWidget(PlainLabel("Slide"))
        moves.addLayout(self._steps("its neighbours", edits.slide, "slide"))
        moves.addStretch(1)
        for label, row in (
            ("Name", self.name), ("Ends", ends), ("Speed", pace), ("Fit and focus", shape),
            ("Sound", heard), ("Rises in", fades), ("Slip", moves),
        ):  # fmt: skip
            form.add(label, row)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 12, 8)
        column.setSpacing(6)
        row = QHBoxLayout()
        row.setSpacing(6)
        row.addWidget(self.file, 1)
        row.addWidget(self.replace)
        row.addWidget(self.remove)
        column.addLayout(row)
        column.addLayout(form)
        column.addStretch(1)

    def _time(self, name: str, about: str, take: Callable[[int], None]) -> TimecodeField:
        field = TimecodeField(name, about)
        field.committed.connect(take)
        field.faulted.connect(self.faulted)
        return field

    def _number(
        self, name: str, about: str, style: FieldFormat, take: Callable[[object], None]
    ) -> ValueField:
        field = ValueField(style)
        field.setAccessibleName(name)
        field.describe(about)
        field.committed.connect(take)
        field.abandoned.connect(self.show_clip)
        field.faulted.connect(self.faulted)
        return field

    def _button(self, text: str, about: str, act: Callable[[], None]) -> QPushButton:
        button = QPushButton(text)
        button.setToolTip(tip(about))
        button.clicked.connect(act)
        return button

    def _steps(
        self, within: str, change: Callable[[Piece, str, int], Piece], label: str
    ) -> QHBoxLayout:
        row = QHBoxLayout()
        for word, frames in (("Earlier", -1), ("Later", 1)):
            button = QToolButton()
            button.setText(word)
            button.setAutoRepeat(True)
            button.setToolTip(tip(f"A frame {word.lower()} within {within}"))
            button.setAccessibleName(f"{label} {word.lower()}")
            button.clicked.connect(lambda checked, by=frames: self._edit(label, change, by))
            button.setObjectName("plain")
            row.addWidget(button)
        return row

    def show_clip(self) -> None:
        """Shows the chosen clip as it is now."""
        piece, clip = self._document.state, self._looking.clip
        if clip is None:
            return
        rate, media = piece.rate, clip.media
        fault = self._document.media.fault(media.path)
        size = f" · {media.size.label}" if media.size is not None else ""
        self.file.setText(fault or f"{media.name}{size}")
        self.name.setText(clip.name)
        self.first.show_frames(rate.nearest_frame(clip.start), rate)
        self.last.show_frames(rate.nearest_frame(clip.end), rate)
        self.length.show_frames(piece.frames_of(clip), rate)
        for field in (self.first, self.last):
            field.setEnabled(not media.still)
        for widget in (self.speed, self.reverse, self.frozen):
            widget.setEnabled(not media.still)
        self.speed.set_value(float(clip.speed))
        sounds = self._document.media.sounds(media.path)
        self.pitch.setChecked(clip.pitch_kept)
        self.muted.setChecked(clip.muted)
        self.rise.set_value(float(clip.rise))
        self.fall.set_value(float(clip.fall))
        self.pitch.setEnabled(clip.speed != 1 and not clip.stands and sounds > 0)
        if self.track.count() != sounds:
            self.track.clear()
            self.track.addItems([f"Sound {number}" for number in range(1, sounds + 1)])
        self.track.setVisible(sounds > 1)
        self.track.setCurrentIndex(clip.track if clip.track < sounds else -1)
        self.reverse.setChecked(clip.reverse)
        self.frozen.setChecked(clip.frozen)
        self.fit.setCurrentIndex(self.fit.findData(clip.fit))
        self.focus.set_value(clip.focus)
        self.focus.setEnabled(clip.fit is Fit.FILL)
        self.level.set_value(clip.level)
        self.replace.setEnabled(bool(media.path))

    def ask_other(self) -> None:
        """Asks for another file in its place."""
        clip = self._looking.clip
        path = self._asking.file(self, "Another file in its place", "clip", CLIP_FILTER)
        if path is not None and clip is not None:
            self._document.put_in_place(clip.id, path)

    def take_out(self) -> None:
        """Takes the chosen clips out."""
        chosen = self._looking.chosen if self._looking.clip is not None else ()

        def without(piece: Piece) -> Piece:
            for clip_id in chosen:
                piece = edits.remove(piece, clip_id)
            return piece

        if chosen:
            self._document.edit("clip removed" if len(chosen) == 1 else "clips removed", without)

    @property
    def _speed(self) -> Fraction:
        clip = self._looking.clip
        return clip.speed if clip is not None else Fraction(1)

    def _rename(self) -> None:
        clip, name = self._looking.clip, self.name.text().strip()
        if clip is not None and name and name != clip.name:
            self._change("name", name=name)

    def _set_first(self, frames: int) -> None:
        self._trim(lambda piece, clip: (frames - piece.rate.nearest_frame(clip.start), 0))

    def _set_last(self, frames: int) -> None:
        self._trim(lambda piece, clip: (0, frames - piece.rate.nearest_frame(clip.end)))

    def _set_length(self, frames: int) -> None:
        def change(piece: Piece, clip_id: str, by: int) -> Piece:
            return edits.trim(piece, clip_id, 0, by - piece.frames_of(piece.clip(clip_id)))

        self._edit("length", change, frames)

    def _trim(self, by: Callable[[Piece, PieceClip], tuple[int, int]]) -> None:
        """Moves the ends by frames of the file, which pass faster or slower in the piece."""

        def change(piece: Piece, clip_id: str, _: int) -> Piece:
            clip = piece.clip(clip_id)
            first, last = (round(x / clip.speed) for x in by(piece, clip))
            moved = (-last, -first) if clip.reverse else (first, last)
            return edits.trim(piece, clip_id, *moved)

        self._edit("trim", change, 0)

    def _set_speed(self, value: object, reverse: bool | None = None) -> None:
        number = value if isinstance(value, Fraction) else None
        if number is None:
            number = Fraction(number_of(value)).limit_denominator(_FINEST_SPEED)

        def change(piece: Piece, clip_id: str, _: int) -> Piece:
            backwards = piece.clip(clip_id).reverse if reverse is None else reverse
            return edits.set_speed(piece, clip_id, number, backwards)

        self._edit("speed", change, 0)

    def _set_focus(self, value: object) -> None:
        across, down = (
            (*parts(value), 0.5)[:2] if isinstance(value, tuple) else (number_of(value),) * 2
        )
        self._change("focus", focus=(min(max(across, 0.0), 1.0), min(max(down, 0.0), 1.0)))

    def _fade(self, name: str, about: str, key: str) -> ValueField:
        def take(value: object) -> None:
            seconds = seconds_of(min(max(number_of(value), 0.0), float(LONGEST_FADE)))
            self._change("sound", **{key: seconds})

        style = FieldFormat(suffix=" s", decimals=2, step=0.05)
        return self._number(f"Its sound {name.lower()} in", about, style, take)

    def _set_level(self, value: object) -> None:
        self._change("sound", level=min(max(number_of(value), QUIETEST), LOUDEST))

    def _change(self, label: str, **fields: object) -> None:
        self._edit(label, lambda piece, clip_id, _: edits.change(piece, clip_id, **fields), 0)

    def _edit(self, label: str, change: Callable[[Piece, str, int], Piece], by: int) -> None:
        clip = self._looking.clip
        if clip is not None and not self._document.edit(
            label, lambda piece: change(piece, clip.id, by)
        ):
            self.show_clip()
