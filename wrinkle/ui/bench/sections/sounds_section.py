"""The sounds of the wrinkle, over the stack: which one, when its hit falls, how long, how loud."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QGridLayout,
    QMenu,
    QScrollArea,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.sounds import HIGHEST, LOUDEST, LOWEST, QUIETEST, WrinkleSound
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import sound_edits
from wrinkle.core.synthesis.made_sounds import MADE_SOUNDS
from wrinkle.ui.bench.sections.section import Section
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.shared.value_field import FieldFormat, ValueField, number_of

_ONE, _HIGHEST_LIST = 122, 230
"""Points: of one sound, and of several, which are scrolled so that the stack keeps its room."""


class SoundsSection(QWidget):
    """Lists the sounds."""

    def __init__(self, desk: Designing) -> None:
        super().__init__()
        self._desk = desk
        self.rows: dict[str, SoundRow] = {}
        self.section = Section("Sounds", False, self._fill)
        ground = QWidget()
        ground.setObjectName("ground")
        self._list = QVBoxLayout(ground)
        self._list.setContentsMargins(0, 0, 8, 0)
        self._list.setSpacing(10)
        self._scroll = QScrollArea()
        self._scroll.setWidgetResizable(True)
        self._scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._scroll.setWidget(ground)
        self.add_button = QToolButton()
        layout = QVBoxLayout(self)
        layout.setContentsMargins(10, 0, 4, 0)
        layout.addWidget(self.section)
        desk.document.changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Shows the sounds of the wrinkle; rows are made anew only when there are others."""
        sounds = self._desk.document.state.sounds
        self.section.set_note(str(len(sounds)) if sounds else "")
        if [x.id for x in sounds] != list(self.rows):
            for row in self.rows.values():
                row.hide()
                row.deleteLater()
            self.rows = {x.id: SoundRow(self._desk, x.id) for x in sounds}
            for row in self.rows.values():
                self._list.addWidget(row)
            self._scroll.setVisible(bool(self.rows))
            self._scroll.setFixedHeight(_HIGHEST_LIST if len(sounds) > 1 else _ONE)
        for sound in sounds:
            self.rows[sound.id].show_sound(sound)

    def add(self, made: str) -> None:
        """One more sound, with its hit on the cut."""
        self._desk.document.edit(made, lambda w: sound_edits.add_sound(w, made)[0])

    def _fill(self, section: Section) -> None:
        self.add_button.setObjectName("add")
        self.add_button.setText("Add a sound")
        self.add_button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(self)
        for made, sound in MADE_SOUNDS.items():
            action = menu.addAction(f"{made.capitalize()}: {sound.about}")
            if action is not None:
                action.triggered.connect(lambda checked=False, made=made: self.add(made))
        self.add_button.setMenu(menu)
        section.rows.addWidget(self._scroll)
        section.rows.addWidget(self.add_button)


class SoundRow(QWidget):
    """One sound."""

    def __init__(self, desk: Designing, sound_id: str) -> None:
        super().__init__()
        self._desk = desk
        self._id = sound_id
        self.name = PlainLabel()
        self.name.setObjectName("heading")
        self.hit = self._field("hit", "When its hit falls, in frames from the cut", " fr", 0, 1.0)
        self.length = self._field("length", "How long it is, in frames", " fr", 0, 1.0)
        self.level = self._field("level", "How loud it is", " dB", 1, 0.5)
        self.pitch = self._field("pitch", "How high it is, in per cent", " %", 0, 5.0)
        self.seed = self._field("seed", "What is random in it", "", 0, 1.0)
        self.remove = QToolButton()
        self.remove.setText("Remove")
        self.remove.clicked.connect(
            lambda: desk.document.edit("sound", lambda w: sound_edits.remove_sound(w, sound_id))
        )
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        grid.addWidget(self.name, 0, 0, 1, 3)
        grid.addWidget(self.remove, 0, 3)
        self._level_word, self._pitch_word = PlainLabel("Level"), PlainLabel("Pitch")
        for place, (word, field) in enumerate(
            ((PlainLabel("Hit"), self.hit), (PlainLabel("Length"), self.length),
             (self._level_word, self.level), (self._pitch_word, self.pitch))
        ):  # fmt: skip
            grid.addWidget(word, 1 + place // 2, 2 * (place % 2))
            grid.addWidget(field, 1 + place // 2, 2 * (place % 2) + 1)
        self._seed_word = PlainLabel("Seed")
        grid.addWidget(self._seed_word, 3, 0)
        grid.addWidget(self.seed, 3, 1)

    def show_sound(self, sound: WrinkleSound) -> None:
        """Shows its values."""
        rate = self._desk.document.state.frame_rate.per_second
        self.name.setText(sound.made.capitalize())
        self.name.setToolTip(tip(MADE_SOUNDS[sound.made].about))
        self.hit.set_value(float(sound.hit * rate))
        self.length.set_value(float(sound.length * rate))
        self.level.set_value(sound.level)
        self.pitch.set_value(sound.pitch * 100.0)
        self.seed.set_value(float(sound.seed))
        made = MADE_SOUNDS[sound.made]
        for part in (self._seed_word, self.seed):
            part.setVisible(made.random)
        for part in (self._pitch_word, self.pitch):
            part.setVisible(not made.hushes)
        self._level_word.setText("By" if made.hushes else "Level")

    def _field(self, key: str, about: str, suffix: str, decimals: int, step: float) -> ValueField:
        field = ValueField(FieldFormat(suffix=suffix, decimals=decimals, step=step))
        field.setAccessibleName(f"{key.capitalize()} of the sound")
        field.describe(about)
        field.changing.connect(partial(self._take, key, False))
        field.committed.connect(partial(self._take, key, True))
        field.abandoned.connect(self._desk.document.abandon)
        field.faulted.connect(self._desk.messages.faulted)
        return field

    def _take(self, key: str, done: bool, value: object) -> None:
        number = number_of(value)

        def change(wrinkle: Wrinkle) -> Wrinkle:
            found = _read(key, number, wrinkle)
            return sound_edits.change_sound(wrinkle, self._id, **{key: found})

        document = self._desk.document
        if done:
            document.edit(f"{key} of the sound", change)
        else:
            document.preview(change)


def _read(key: str, number: float, wrinkle: Wrinkle) -> object:
    """A typed or dragged number as the value of a sound."""
    if key in ("hit", "length"):
        return wrinkle.frame_rate.seconds(
            max(round(number), 1) if key == "length" else round(number)
        )
    if key == "level":
        return min(max(number, QUIETEST), LOUDEST)
    if key == "pitch":
        return min(max(number / 100.0, LOWEST), HIGHEST)
    return max(round(number), 0)
