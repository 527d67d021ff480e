"""The music under the piece, its beats, and how loud the piece is made: beside the Cut list."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import (
    QCheckBox,
    QDialog,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.piece.beating import seconds_of, with_bed
from wrinkle.core.piece.bed import LONGEST_FADE, LOUDEST, MOST_WAY, QUIETEST, Bed
from wrinkle.core.piece.media import Media
from wrinkle.core.sound import levelling
from wrinkle.ui.cutlist.piece_looking import PieceLooking, Row
from wrinkle.ui.desk.music import Music
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.shared.asking_files import Asking
from wrinkle.ui.shared.drops import SOUND_FILTER
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.plain_text import PlainForm, PlainLabel, tip
from wrinkle.ui.shared.timecode_field import TimecodeField
from wrinkle.ui.shared.value_field import FieldFormat, ValueField, number_of

_WIDTH = 460
_USUAL_REACH = 6
_MOST_REACH = 60


class MusicDialog(QDialog):
    """What is changed is heard at once, and is one step each."""

    def __init__(
        self,
        document: PieceDocument,
        music: Music,
        looking: PieceLooking,
        asking: Asking,
        over: QWidget,
    ) -> None:
        super().__init__(over)
        self._document, self._music = document, music
        self._looking, self._asking = looking, asking
        self.setWindowTitle("Music and loudness")
        self.setMinimumWidth(_WIDTH)
        self.file = ElidedLabel()
        self.choose_button = self._button("Choose…", "A file of music, or a video with it",
                                          self.ask_file)  # fmt: skip
        self.remove_button = self._button("Remove", "No music under the piece", self.remove)
        self.at = TimecodeField("Begins at", "When it begins in the piece")
        self.at.committed.connect(self._set_at)
        self.start = self._seconds("From", "The time of the file with which it begins", "start")
        self.level = self._number(
            "Level", "How loud it is", FieldFormat(suffix=" dB", decimals=1, step=0.5),
            lambda x: self._become("level", level=min(max(x, QUIETEST), LOUDEST)),
        )  # fmt: skip
        self.rise = self._seconds("Rises", "How long it takes to come", "rise", LONGEST_FADE)
        self.fall = self._seconds("Falls", "How long it takes to go at its end", "fall",
                                  LONGEST_FADE)  # fmt: skip
        self.gives_way = self._number(
            "Gives way by", "How much quieter it is while clips or wrinkles are heard",
            FieldFormat(suffix=" dB", decimals=1, step=0.5),
            lambda x: self._become("way", gives_way=min(max(x, 0.0), MOST_WAY)),
        )  # fmt: skip
        self.tempo = PlainLabel()
        self.half = self._button("Half", "Every second beat", lambda: self._pace(Fraction(1, 2)))
        self.twice = self._button("Twice", "A beat between each two",
                                  lambda: self._pace(Fraction(2)))  # fmt: skip
        self.other = self._button("By one beat", "The others of them, where half of them count",
                                  self._turn)  # fmt: skip
        self.moved = self._seconds("Beats later by", "Moves all beats by hand", "moved")
        self.reach = self._number(
            "Within", "How far a cut may move to a beat, in frames",
            FieldFormat(suffix=" frames", decimals=0), self._set_reach,
        )  # fmt: skip
        self.reach.set_value(float(_USUAL_REACH))
        self.snap_one = self._button("This cut", "Moves the chosen cut onto the nearest beat",
                                     self._snap_chosen)  # fmt: skip
        self.snap_all = self._button(
            "All cuts on beats", "One step; cuts stay where clips do not reach",
            lambda: self._music.snap(self._frames),
        )  # fmt: skip
        self.made = QCheckBox("Made this loud when it is written")
        self.made.clicked.connect(self._set_made)
        self.target = self._number(
            "Loudness", "The integrated loudness that the written piece has; no true peak is above "
            "−1 dBTP", FieldFormat(suffix=" LUFS", decimals=1, step=0.5), self._set_target,
        )  # fmt: skip
        self.measured = PlainLabel()
        self.measured.setObjectName("quiet")
        self.measured.setWordWrap(True)
        # Room for what will be said: the rows must not move when it is.
        self.measured.setMinimumHeight(2 * self.measured.fontMetrics().lineSpacing())
        self._lay_out()
        document.changed.connect(self.refresh)
        music.changed.connect(self.refresh)
        looking.chosenChanged.connect(self.refresh)
        self.refresh()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setSpacing(8)
        column.addWidget(_heading("Music"))
        column.addLayout(_row(self.file, self.choose_button, self.remove_button, stretch=0))
        form = PlainForm()
        form.setVerticalSpacing(6)
        form.add("Begins at", _with(self.at, "from", self.start))
        form.add("Level", _with(self.level, "gives way by", self.gives_way))
        form.add("Rises in", _with(self.rise, "falls in", self.fall))
        column.addLayout(form)
        column.addWidget(_heading("Beats"))
        column.addLayout(_row(self.tempo, self.half, self.twice, self.other, stretch=0))
        beats = PlainForm()
        beats.setVerticalSpacing(6)
        beats.add("Later by", self.moved)
        beats.add("Cuts within", _row(self.reach, self.snap_one, self.snap_all, stretch=0))
        column.addLayout(beats)
        column.addWidget(_heading("Loudness of the piece"))
        column.addLayout(_row(self.made, self.target, stretch=1))
        column.addWidget(self.measured)

    def refresh(self) -> None:
        """Shows everything as it is now."""
        if not self.isVisible():
            return
        piece, bed = self._document.state, self._music.bed
        fault = self._document.media.fault(bed.media.path) if bed is not None else ""
        self.file.setText(fault or (bed.media.name if bed is not None else "No music"))
        for field in (
            self.remove_button, self.at, self.start, self.level, self.rise, self.fall,
            self.gives_way, self.moved, self.half, self.twice,
        ):  # fmt: skip
            field.setEnabled(bed is not None)
        shown = bed if bed is not None else _NONE
        self.at.show_frames(piece.rate.nearest_frame(shown.at), piece.rate)
        for field, value in (
            (self.start, shown.start), (self.level, shown.level), (self.rise, shown.rise),
            (self.fall, shown.fall), (self.gives_way, shown.gives_way), (self.moved, shown.moved),
        ):  # fmt: skip
            field.set_value(float(value))
        self._show_beats(bed)
        self.made.setChecked(piece.loudness is not None)
        self.target.setEnabled(piece.loudness is not None)
        target = piece.loudness if piece.loudness is not None else levelling.TARGET
        self.target.set_value(target)
        self._show_loudness()

    def _show_beats(self, bed: Bed | None) -> None:
        beats, frames = self._music.beats, self._music.frames
        if bed is None:
            words = "Of music beats are found."
        elif beats is None:
            words = "Listening…"
        elif not beats.times:
            words = "No beats in it."
        else:
            words = f"{beats.tempo:.1f} a minute, {len(frames)} in the piece"
        self.tempo.setText(words)
        self.other.setEnabled(bed is not None and bed.pace < 1)
        self.snap_all.setEnabled(bool(frames) and len(self._document.state.clips) > 1)
        self.snap_one.setEnabled(self.snap_all.isEnabled() and self._looking.row is Row.CUT)

    def _show_loudness(self) -> None:
        loud = self._music.loudness
        if loud is None:
            self.measured.setText("As it is: measuring…")
            self._music.measure()
            return
        peak = "silence" if loud.peak < QUIETEST * 10 else f"true peak {loud.peak:.1f} dBTP"
        self.measured.setText(
            f"As it is: {loud.integrated:.1f} LUFS, range {loud.range:.1f} LU, loudest moment "
            f"{loud.momentary:.1f}, {peak}.".replace("-", "−")
        )

    def ask_file(self) -> None:
        """Asks for a file of music."""
        path = self._asking.file(self, "Music under the piece", "music", SOUND_FILTER)
        if path is not None:
            self._music.take(path)

    def remove(self) -> None:
        """Takes the music away."""
        self._music.remove()

    def _become(self, label: str, **fields: object) -> None:
        self._document.edit(f"{label} of the music", lambda piece: with_bed(piece, **fields))
        self.refresh()

    def _set_at(self, frames: int) -> None:
        self._become("beginning", at=self._document.state.rate.seconds(max(frames, 0)))

    def _pace(self, times: Fraction) -> None:
        bed = self._music.bed
        if bed is not None:
            pace = min(max(bed.pace * times, Fraction(1, 2)), Fraction(2))
            self._become("beats", pace=pace, other=False)

    def _turn(self) -> None:
        bed = self._music.bed
        if bed is not None:
            self._become("beats", other=not bed.other)

    @property
    def _frames(self) -> int:
        return round(number_of(self.reach.value))

    def _set_reach(self, frames: float) -> None:
        self.reach.set_value(float(min(max(round(frames), 0), _MOST_REACH)))

    def _snap_chosen(self) -> None:
        self._music.snap(self._frames, set(self._looking.chosen))

    def _set_made(self, on: bool) -> None:
        self._make_loud(levelling.TARGET if on else None)

    def _set_target(self, target: float) -> None:
        self._make_loud(min(max(target, levelling.QUIETEST), levelling.LOUDEST))

    def _make_loud(self, target: float | None) -> None:
        self._music.make_loud(target)
        self.refresh()

    def _seconds(
        self, name: str, about: str, key: str, most: Fraction = Fraction(86_400)
    ) -> ValueField:
        def take(number: float) -> None:
            low = -10.0 if key == "moved" else 0.0
            self._become(name.lower(), **{key: seconds_of(min(max(number, low), float(most)))})

        style = FieldFormat(suffix=" s", decimals=2, step=0.05)
        return self._number(name, about, style, take)

    def _number(
        self, name: str, about: str, style: FieldFormat, take: Callable[[float], None]
    ) -> ValueField:
        field = ValueField(style)
        field.setAccessibleName(name)
        field.describe(about)
        field.committed.connect(lambda value: take(number_of(value)))
        field.abandoned.connect(self.refresh)
        field.faulted.connect(self._music.faulted)
        return field

    def _button(self, words: str, about: str, act: Callable[[], object]) -> QPushButton:
        button = QPushButton(words)
        button.setToolTip(tip(about))
        button.setAutoDefault(False)
        button.clicked.connect(lambda: act())
        return button

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.refresh()


_NONE = Bed(Media("", "none", Fraction(1)))
"""What is shown where there is no music."""


def _heading(words: str) -> PlainLabel:
    label = PlainLabel(words)
    label.setObjectName("section")
    return label


def _row(*widgets: QWidget, stretch: int) -> QHBoxLayout:
    row = QHBoxLayout()
    row.setSpacing(6)
    for number, widget in enumerate(widgets):
        row.addWidget(widget, 1 if number == stretch else 0)
    return row


def _with(first: QWidget, words: str, second: QWidget) -> QHBoxLayout:
    row = _row(first, PlainLabel(words), second, stretch=0)
    row.setStretch(2, 1)
    row.setAlignment(Qt.AlignmentFlag.AlignVCenter)
    return row
