"""What is chosen for a use of a wrinkle, as rows: direction, strength, lengths, sound and more."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QFormLayout, QLineEdit, QPushButton, QSizePolicy, QWidget

from wrinkle.core.design.document.dials import DialValue
from wrinkle.core.design.document.limits import LONGEST_HALF
from wrinkle.core.design.document.slot_kinds import Fills
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.direction import Direction
from wrinkle.core.reuse.strength import STRONGEST
from wrinkle.core.reuse.use import AS_MADE, Choices, directions_of, possible
from wrinkle.core.time.rate import FrameRate
from wrinkle.ui.choosing.dial_field import DialField
from wrinkle.ui.choosing.join_field import JoinField
from wrinkle.ui.shared.plain_text import PlainForm, tip
from wrinkle.ui.shared.value_field import FieldFormat, ValueField, number_of
from wrinkle.ui.text_size import Extent, keep

_NARROWEST = 96
_OWN_FIRST = 1
"""What the wrinkle itself offers comes first, after its direction."""


class UseControls(QWidget):
    """Rows for what can be chosen of a wrinkle; the same ones wherever it is used.

    Args:
        lengths: whether lead and tail can be set.
        dials: whether the dials are among the rows.

    Signals:
        changing: other choices, while something is dragged.
        changed: other choices.
        faulted: one sentence on what was typed.
    """

    changing = pyqtSignal()
    changed = pyqtSignal()
    faulted = pyqtSignal(str)

    def __init__(self, lengths: bool = True, dials: bool = True) -> None:
        super().__init__()
        self._with_lengths, self._with_dials = lengths, dials
        self._choices = self._committed = AS_MADE
        self._wrinkle: Wrinkle | None = None
        self._rate: FrameRate | None = None
        self.dials: dict[str, DialField] = {}
        self.words: dict[str, QLineEdit] = {}
        self.form = PlainForm(self)
        self.form.setContentsMargins(0, 0, 0, 0)
        self.form.setVerticalSpacing(6)
        self.form.setFieldGrowthPolicy(QFormLayout.FieldGrowthPolicy.AllNonFixedFieldsGrow)
        self.direction = QComboBox()
        self.direction.setAccessibleName("Direction")
        self.direction.setToolTip(tip("Which way it goes"))
        self.direction.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.direction.activated.connect(self._take_direction)
        self.strength = self._per_cent("Strength", "How far it departs from rest", "strength")
        self.softness = self._per_cent("Softness", "How soft its edges are", "softness")
        self.lead = self._length("Lead", "The length before the cut, in frames", "lead")
        self.tail = self._length("Tail", "The length after the cut, in frames", "tail")
        self.join = JoinField()
        self.join.chosen.connect(lambda join: self._become(True, join=join))
        self.join.faulted.connect(self.faulted)
        self.as_made = QPushButton("As made")
        self.as_made.setToolTip(tip("Everything as the wrinkle was made"))
        self.as_made.clicked.connect(lambda: self.set_choices(AS_MADE, told=True))
        self.form.add("Direction", self.direction)
        self.form.add("Strength", self.strength)
        self.form.add("Softness", self.softness)
        self.form.add("Lead", self.lead)
        self.form.add("Tail", self.tail)
        self.form.add("Clips’ sound", self.join)
        for field in (self.lead, self.tail):
            self.form.setRowVisible(field, lengths)
        self._own_rows = 0
        self.form.add("", self.as_made)

    @property
    def choices(self) -> Choices:
        """What is chosen."""
        return self._choices

    def set_rate(self, rate: FrameRate | None) -> None:
        """Counts lengths in frames of this rate; None in those of the wrinkle."""
        if rate != self._rate:
            self._rate = rate
            self._show()

    def show_wrinkle(self, wrinkle: Wrinkle) -> None:
        """Shows the rows of a wrinkle; what was chosen stays as far as it is possible there."""
        before, self._wrinkle = self._wrinkle, wrinkle
        if before is None or _kinds(before) != _kinds(wrinkle):
            self._make_rows(wrinkle)
        self.set_choices(possible(wrinkle, self._choices))

    def set_choices(self, choices: Choices, told: bool = False) -> None:
        """Shows what is chosen."""
        self._choices = self._committed = choices
        self._show()
        if told:
            self.changed.emit()

    def _show(self) -> None:
        choices = self._choices
        wrinkle = self._wrinkle
        if wrinkle is None:
            return
        self.direction.setCurrentIndex(self.direction.findData(choices.direction))
        self.strength.set_value(choices.strength)
        self.softness.set_value(choices.softness)
        rate = (self._rate or wrinkle.frame_rate).per_second
        for field, own, given in (
            (self.lead, choices.lead, wrinkle.lead),
            (self.tail, choices.tail, wrinkle.tail),
        ):
            field.set_value(float((own if own is not None else given) * rate))
        self.join.set_join(choices.join)
        for dial in wrinkle.dials:
            if dial.id in self.dials:
                self.dials[dial.id].set_value(choices.dials.get(dial.id, dial.default))
        for slot in wrinkle.slots:
            if slot.key in self.words:
                self.words[slot.key].setText(choices.words.get(slot.key, slot.words))
        self.as_made.setEnabled(choices != AS_MADE)

    def _make_rows(self, wrinkle: Wrinkle) -> None:
        for _ in range(self._own_rows):
            self.form.removeRow(_OWN_FIRST)
        self.dials, self.words = {}, {}
        self.direction.clear()
        for direction, name in directions_of(wrinkle).items():
            self.direction.addItem(name, direction)
        self.form.setRowVisible(self.direction, self.direction.count() > 1)
        rows: list[tuple[str, QWidget]] = []
        for dial in wrinkle.dials if self._with_dials else ():
            field = DialField(dial)
            field.changing.connect(partial(self._take_dial, dial.id, False))
            field.committed.connect(partial(self._take_dial, dial.id, True))
            field.faulted.connect(self.faulted)
            self.dials[dial.id] = field
            rows.append((dial.name, field))
        for slot in wrinkle.slots:
            if slot.fills is Fills.WORDS:
                line = QLineEdit()
                line.setAccessibleName(slot.label)
                line.setToolTip(tip(slot.about or "What is written"))
                line.editingFinished.connect(partial(self._take_words, slot.key, line))
                self.words[slot.key] = line
                rows.append((slot.label, line))
        for place, (name, row) in enumerate(rows):
            keep(row, Extent.LEAST_WIDTH, _NARROWEST)
            self.form.add(name, row, _OWN_FIRST + place)
        self._own_rows = len(rows)

    def _per_cent(self, name: str, about: str, key: str) -> ValueField:
        def read(number: float) -> object:
            return min(max(number, 0.0), STRONGEST)

        return self._number(name, about, key, FieldFormat(suffix=" %", decimals=0), read)

    def _length(self, name: str, about: str, key: str) -> ValueField:
        def read(frames: float) -> object:
            own = self._wrinkle.frame_rate if self._wrinkle else FrameRate.of(30)
            whole = Fraction(max(round(frames), 1))
            return min(whole / (self._rate or own).per_second, LONGEST_HALF)

        return self._number(name, about, key, FieldFormat(suffix=" frames", decimals=0), read)

    def _number(
        self,
        name: str,
        about: str,
        key: str,
        style: FieldFormat,
        read: Callable[[float], object],
    ) -> ValueField:
        field = ValueField(style)
        field.setAccessibleName(name)
        field.describe(about)

        def take(value: object, done: bool) -> None:
            number = number_of(value)
            self._become(done, **{key: read(number)})

        field.changing.connect(partial(take, done=False))
        field.committed.connect(partial(take, done=True))
        field.abandoned.connect(lambda: self.set_choices(self._committed, told=True))
        field.faulted.connect(self.faulted)
        return field

    def _take_direction(self, index: int) -> None:
        direction = self.direction.itemData(index)
        if isinstance(direction, Direction):
            self._become(True, direction=direction)

    def choose_dial(self, dial: str, value: DialValue) -> None:
        """Another value of a dial, which nobody is told of."""
        self.set_choices(replace(self._choices, dials={**self._choices.dials, dial: value}))

    def _take_dial(self, dial: str, done: bool, value: DialValue) -> None:
        self._become(done, dials={**self._choices.dials, dial: value})

    def _take_words(self, slot: str, line: QLineEdit) -> None:
        if self._choices.words.get(slot) != line.text():
            self._become(True, words={**self._choices.words, slot: line.text()})

    def _become(self, done: bool, **fields: object) -> None:
        self._choices = replace(self._choices, **fields)  # type: ignore[arg-type]
        if done:
            self._committed = self._choices
        self._show()
        (self.changed if done else self.changing).emit()


def _kinds(wrinkle: Wrinkle) -> tuple[object, ...]:
    """What decides which rows there are."""
    return wrinkle.dials, wrinkle.directions, wrinkle.slots
