"""What whoever reuses a wrinkle reads of it: its name, kinds, directions and slots."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.kinds import KINDS
from wrinkle.core.design.document.slot_kinds import SLOT_KINDS, SOUND, Fills
from wrinkle.core.design.document.slots import GIVEN, Slot, Unfilled
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import slot_edits, wrinkle_edits
from wrinkle.core.motion.direction import Direction
from wrinkle.library.stand_in_sounds import STAND_IN_SOUNDS
from wrinkle.ui.bench.dialogs.edits_dialog import EditsDialog
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.shared.drops import SOUND_FILTER
from wrinkle.ui.shared.plain_text import PlainForm, PlainLabel, tip

_COLUMNS = 4
_STAND_IN_FILTER = "Clips and pictures (*.mp4 *.webm *.png *.jpg *.jpeg *.webp)"


class DetailsDialog(EditsDialog):
    """Edits them; each change is a step at once."""

    def __init__(self, desk: Supplying, parent: QWidget | None = None) -> None:
        super().__init__(desk, parent)
        self._asking = desk.asking
        self.setWindowTitle("What it is")
        self.resize(620, 620)
        self.name, self.about = QLineEdit(), QLineEdit()
        self.kinds: dict[str, QCheckBox] = {}
        self.directions: dict[Direction, QCheckBox] = {}
        self.direction_names: dict[Direction, QLineEdit] = {}
        self.slots: dict[str, QWidget] = {}
        self._slot_column = QVBoxLayout()
        self._lay_out()
        desk.document.changed.connect(self.refresh)
        self.refresh()

    def _lay_out(self) -> None:
        column = self.column
        column.setSpacing(12)
        form = PlainForm()
        for label, line in (("Name", self.name), ("What it is for", self.about)):
            line.setAccessibleName(label)
            form.add(label, line)
        self.name.editingFinished.connect(self._rename)
        self.about.editingFinished.connect(self._describe)
        column.addLayout(form)
        column.addWidget(_heading("Kinds", "Under these it is found in the Collection."))
        grid = QGridLayout()
        for place, kind in enumerate(KINDS):
            box = self.kinds[kind] = QCheckBox(kind)
            box.clicked.connect(lambda: self._describe())
            grid.addWidget(box, place // _COLUMNS, place % _COLUMNS)
        column.addLayout(grid)
        about = "Those that make sense, and what they are called. Without any, all of them do."
        column.addWidget(_heading("Directions", about))
        ways = QGridLayout()
        for row, direction in enumerate(Direction):
            check = self.directions[direction] = QCheckBox(direction.label)
            line = self.direction_names[direction] = QLineEdit()
            line.setPlaceholderText("such as “from the left” or “clockwise”")
            line.setAccessibleName(f"Name of the direction: {direction.label}")
            check.clicked.connect(partial(self._choose_direction, direction))
            line.editingFinished.connect(self._set_directions)
            ways.addWidget(check, row, 0)
            ways.addWidget(line, row, 1)
        ways.setColumnStretch(1, 1)
        column.addLayout(ways)
        about = "The two clips of the cut are never asked for; these are."
        column.addWidget(_heading("Further slots", about))
        column.addLayout(self._slot_column)
        adds = QHBoxLayout()
        self.add_buttons: dict[str, QPushButton] = {}
        for slot_kind in SLOT_KINDS:
            button = self.add_buttons[slot_kind] = QPushButton(f"Add {slot_kind}")
            button.setAutoDefault(False)
            button.clicked.connect(partial(self._add_slot, slot_kind))
            adds.addWidget(button)
        adds.addStretch(1)
        column.addLayout(adds)
        column.addStretch(1)

    def refresh(self) -> None:
        """Shows the wrinkle as it is now."""
        wrinkle = self.desk.document.state
        self.name.setText(wrinkle.name)
        self.about.setText(wrinkle.about)
        for kind, box in self.kinds.items():
            box.setChecked(kind in wrinkle.tags)
        named = {x.direction: x.name for x in wrinkle.directions}
        for direction, check in self.directions.items():
            check.setChecked(direction in named)
            self.direction_names[direction].setText(named.get(direction, ""))
            self.direction_names[direction].setEnabled(direction in named)
        if wrinkle.slots != self.shown:
            self.shown = wrinkle.slots
            self._make_slots(wrinkle)

    def _make_slots(self, wrinkle: Wrinkle) -> None:
        for old in self.slots.values():
            self.silence(old)
            self._slot_column.removeWidget(old)
            old.hide()
            old.deleteLater()
        self.slots = {}
        for slot in wrinkle.slots:
            if slot.key not in GIVEN:
                row = self.slots[slot.key] = self._slot_row(slot)
                self._slot_column.addWidget(row)

    def _slot_row(self, slot: Slot) -> QWidget:
        row = QWidget()
        form = PlainForm(row)
        form.setContentsMargins(0, 0, 0, 8)
        name = QLineEdit(slot.label)
        name.setAccessibleName(f"Name of the slot {slot.label}")
        name.editingFinished.connect(lambda: self._change_slot(slot, label=name.text().strip()))
        remove = QPushButton("Remove")
        remove.setAutoDefault(False)
        remove.clicked.connect(lambda: self.edit("slot removed", _without(slot.key)))
        head = QHBoxLayout()
        head.addWidget(name, 1)
        head.addWidget(PlainLabel(slot.kind))
        head.addWidget(remove)
        form.add("Slot", head)
        about = QLineEdit(slot.about)
        about.setPlaceholderText("what fits there, in a sentence")
        about.setAccessibleName(f"What fits into {slot.label}")
        about.editingFinished.connect(lambda: self._change_slot(slot, about=about.text().strip()))
        form.add("Fits", about)
        if slot.fills is Fills.WORDS:
            words = QLineEdit(slot.words)
            words.setAccessibleName(f"Words that stand in for {slot.label}")
            words.editingFinished.connect(lambda: self._change_slot(slot, words=words.text()))
            form.add("Stand-in", words)
        if slot.fills is Fills.SOUND:
            heard = QPushButton(slot.stand_in or "Choose…")
            heard.setAccessibleName(f"Stand-in for {slot.label}")
            heard.setAutoDefault(False)
            heard.clicked.connect(partial(self._choose_stand_in, slot))
            form.add("Stand-in", heard)
        if slot.moving:
            stand_in = QPushButton(slot.stand_in or "Choose…")
            stand_in.setAccessibleName(f"Stand-in for {slot.label}")
            stand_in.setAutoDefault(False)
            stand_in.clicked.connect(partial(self._choose_stand_in, slot))
            form.add("Stand-in", stand_in)
            empty = QComboBox()
            for way in Unfilled:
                empty.addItem(way.value, way)
            empty.setCurrentIndex(empty.findData(slot.unfilled))
            empty.setAccessibleName(f"What {slot.label} shows when it stays empty")
            empty.activated.connect(
                lambda index: self._change_slot(slot, unfilled=empty.itemData(index))
            )
            form.add("When empty", empty)
            readable = QCheckBox("It has writing: never mirror it")
            readable.setChecked(slot.readable)
            readable.clicked.connect(lambda on: self._change_slot(slot, readable=on))
            form.add("", readable)
        return row

    def set_stand_in(self, slot: str, path: Path) -> None:
        """A file stands in for what reuse fills a slot with; its bytes go with the wrinkle."""
        asset = self.desk.document.keep_file(path)
        if asset is not None:
            self.edit(
                "stand-in",
                lambda w: slot_edits.stands_in(w, slot, asset),
            )

    def _choose_stand_in(self, slot: Slot) -> None:
        title = f"Choose the stand-in for {slot.label}"
        kind, filters = "picture", _STAND_IN_FILTER
        if slot.fills is Fills.SOUND:
            kind, filters = "music", SOUND_FILTER
        path = self._asking.file(self, title, kind, filters)
        if path is not None:
            self.set_stand_in(slot.key, path)

    def _add_slot(self, kind: str) -> None:
        if kind == SOUND:
            # A slot that nothing sounds from would be of no use.
            self.desk.document.add_sound_file(STAND_IN_SOUNDS["surge"])
        else:
            self.edit("slot", lambda w: slot_edits.add_further_slot(w, kind)[0])

    def _change_slot(self, slot: Slot, **fields: Any) -> None:
        if any(getattr(slot, key) != value for key, value in fields.items()):
            self.edit("slot", lambda w: slot_edits.change_slot(w, slot.key, **fields))

    def _rename(self) -> None:
        name = self.name.text()
        if name.strip() != self.desk.document.state.name:
            self.edit("name", lambda w: wrinkle_edits.rename(w, name))

    def _describe(self) -> None:
        about = self.about.text()
        kinds = [kind for kind, box in self.kinds.items() if box.isChecked()]
        self.edit("what it is", lambda w: wrinkle_edits.describe(w, about, kinds))

    def _choose_direction(self, direction: Direction, on: bool) -> None:
        line = self.direction_names[direction]
        if on and not line.text().strip():
            line.setText(direction.label)
        self._set_directions()

    def _set_directions(self) -> None:
        names = {
            direction: self.direction_names[direction].text()
            for direction, check in self.directions.items()
            if check.isChecked()
        }
        self.edit("directions", lambda w: wrinkle_edits.set_directions(w, names))


def _heading(title: str, about: str) -> QWidget:
    heading = PlainLabel(title)
    heading.setObjectName("heading")
    heading.setToolTip(tip(about))
    quiet = PlainLabel(about)
    quiet.setObjectName("quiet")
    quiet.setWordWrap(True)
    both = QWidget()
    column = QVBoxLayout(both)
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(0)
    column.addWidget(heading)
    column.addWidget(quiet)
    return both


def _without(key: str) -> Callable[[Wrinkle], Wrinkle]:
    return lambda wrinkle: slot_edits.remove_slot(wrinkle, key)
