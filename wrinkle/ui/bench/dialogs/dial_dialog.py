"""A dial opened: its name, its range, and how it acts on each setting that it drives."""

from __future__ import annotations

from functools import partial
from typing import Any

from PyQt6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QLineEdit,
    QToolButton,
    QWidget,
)

from wrinkle.core.design.dials import dial_edits
from wrinkle.core.design.document.dial_forms import NumberForm, OptionsForm, TextForm, Trait
from wrinkle.core.design.document.dials import MULTIPLYING, TEXT, Dial, Drive, How
from wrinkle.core.design.document.driven import driven_label, driven_spec
from wrinkle.core.motion.easing import Linear
from wrinkle.core.motion.feels import FEELS
from wrinkle.core.motion.setting_spec import SettingSpec
from wrinkle.core.motion.values import Value, parts
from wrinkle.ui.bench.dialogs.edits_dialog import EditsDialog
from wrinkle.ui.choosing.dial_field import DialField, number_format
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.plain_text import PlainForm, PlainLabel, tip
from wrinkle.ui.shared.setting_field import Field, field_for
from wrinkle.ui.shared.value_field import FieldFormat, ValueField

_STRAIGHT = "even"


class DialDialog(EditsDialog):
    """Edits one dial of the wrinkle on the desk; each change is a step at once."""

    def __init__(self, desk: Designing, dial: str, parent: QWidget | None = None) -> None:
        super().__init__(desk, parent)
        self._id = dial
        self.resize(680, 480)
        self.fields: dict[str, QWidget] = {}
        self.hows: list[QComboBox] = []
        desk.document.changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Shows the dial as it is now; without it the dialog closes."""
        found = [x for x in self.desk.document.state.dials if x.id == self._id]
        if not found:
            self.close()
        elif found[0] != self.shown:
            self.shown = found[0]
            focused = self.focusWidget()
            name = focused.accessibleName() if focused is not None else ""
            self._make(found[0])
            self._focus_on(name)

    def _focus_on(self, name: str) -> None:
        """The field of that name has the focus, which its predecessor had."""
        for field in self.body.findChildren(QWidget):
            if name and field.accessibleName() == name and not field.isHidden():
                field.setFocus()

    def _make(self, dial: Dial) -> None:
        self.setWindowTitle(f"Dial {dial.name}")
        self.silence(self.body)
        while self.column.count():
            item = self.column.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        self.fields, self.hows = {}, []
        self.column.addWidget(self._facts(dial))
        heading = PlainLabel("What it drives")
        heading.setObjectName("heading")
        self.column.addWidget(heading)
        self.column.addWidget(self._drives(dial))
        self.column.addStretch(1)

    def _facts(self, dial: Dial) -> QWidget:
        facts = QWidget()
        form = PlainForm(facts)
        form.setContentsMargins(0, 0, 0, 8)
        form.add("Kind", PlainLabel(dial.kind))
        self._line(form, "Name", dial.name, "name")
        self._line(form, "What it does", dial.about, "about")
        for trait in dial.traits():
            self._row(form, trait.label, self._trait_field(trait), trait.key)
        default = DialField(dial)
        default.committed.connect(lambda value: self._change(default=value))
        default.faulted.connect(self.fault)
        self._row(form, "As made", default, "default")
        return facts

    def _row(self, form: PlainForm, name: str, field: QWidget, key: str) -> None:
        field.setAccessibleName(name)
        self.fields[key] = field
        form.add(name, field)

    def _line(self, form: PlainForm, name: str, text: str, key: str) -> None:
        line = QLineEdit(text)
        line.editingFinished.connect(
            lambda: self._change(**{key: line.text().strip()}) if line.text() != text else None
        )
        self._row(form, name, line, key)

    def _trait_field(self, trait: Trait) -> QWidget:
        match trait.form:
            case NumberForm() as form:
                field = ValueField(number_format(form))
                field.set_value(float(trait.value))
                field.committed.connect(lambda found: self._set(trait, parts(found)[0]))
                field.faulted.connect(self.fault)
                return field
            case OptionsForm(names=names):
                box = QComboBox()
                box.addItems(names)
                box.setCurrentText(str(trait.value))
                box.activated.connect(lambda: self._set(trait, box.currentText()))
                return box
            case TextForm():
                line = QLineEdit(str(trait.value))
                line.editingFinished.connect(lambda: self._set(trait, line.text()))
                return line

    def _drives(self, dial: Dial) -> QWidget:
        table = QWidget()
        grid = QGridLayout(table)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setColumnStretch(0, 1)
        grid.setColumnMinimumWidth(0, 150)
        owners = self.desk.document.state.owners
        for row, drive in enumerate(dial.drives):
            spec = driven_spec(owners, drive)
            label = PlainLabel(driven_label(owners, drive))
            label.setWordWrap(True)
            label.setToolTip(tip(spec.about))
            grid.addWidget(label, row, 0)
            for column, field in enumerate(self._ends(dial, drive, spec, row), 1):
                grid.addWidget(field, row, column)
            off = QToolButton()
            off.setText("Take off")
            off.setAccessibleName(f"Take {spec.label} off")
            off.clicked.connect(partial(self._remove, row))
            grid.addWidget(off, row, 6)
        return table

    def _ends(self, dial: Dial, drive: Drive, spec: SettingSpec, row: int) -> list[QWidget]:
        """The fields that say how a dial acts on one setting."""
        found: list[QWidget] = []
        if len(dial.ways) > 1:
            how = QComboBox()
            for way in dial.ways:
                how.addItem(way.value, way)
            how.setCurrentIndex(how.findData(drive.how))
            how.setAccessibleName(f"How it acts on {spec.label}")
            how.activated.connect(
                lambda index: self._change_way(dial, drive, spec, row, how.itemData(index))
            )
            self.hows.append(how)
            found.append(how)
        if dial.ranged:
            for name, key in (("from", "start"), ("to", "end")):
                field = _end_field(drive, spec, getattr(drive, key))
                field.setAccessibleName(f"{spec.label} {name}")
                field.committed.connect(
                    lambda value, key=key: self._change_drive(row, **{key: value})
                )
                if isinstance(field, ValueField):
                    field.faulted.connect(self.fault)
                found.append(field)
            ease = QComboBox()
            ease.addItem(_STRAIGHT, Linear())
            for feel, curve in FEELS.items():
                ease.addItem(feel, curve)
            at = [x for x in range(ease.count()) if ease.itemData(x) == drive.ease]
            ease.setCurrentIndex(at[0] if at else 0)
            ease.setAccessibleName(f"Ease of {spec.label}")
            ease.activated.connect(lambda index: self._change_drive(row, ease=ease.itemData(index)))
            found.append(ease)
        elif dial.option_names:
            box = QWidget()
            form = PlainForm(box)
            form.setContentsMargins(0, 0, 0, 0)
            for place, option in enumerate(dial.option_names):
                given = self._option_field(drive, spec, row, place)
                given.setAccessibleName(f"{spec.label} at {option}")
                form.add(option, given)
            found.append(box)
        return found

    def _option_field(self, drive: Drive, spec: SettingSpec, row: int, at: int) -> QWidget:
        def take(value: Value) -> None:
            values = (*drive.values[:at], value, *drive.values[at + 1 :])
            self._change_drive(row, values=values)

        if drive.key == TEXT:
            line = QLineEdit(str(drive.values[at]))
            line.editingFinished.connect(lambda: take(line.text()))
            return line
        field = field_for(spec)
        field.set_value(drive.values[at])
        field.committed.connect(take)
        return field

    def _change_way(self, dial: Dial, drive: Drive, spec: SettingSpec, row: int, how: How) -> None:
        """Another way to act begins with ends that fit it."""
        own = dial_edits.own_value(self.desk.document.state, drive)
        start: Value
        end: Value
        match how:
            case How.TIMES | How.TIMES_ALL:
                start, end = 0.0, 2.0
            case How.PLUS:
                count = len(parts(own))
                start = 0.0 if count == 1 else (0.0,) * count
                end = spec.step * 20 if count == 1 else (spec.step * 20,) * count
            case How.SET:
                start, end = own, own
        if how is not drive.how:
            self._change_drive(row, how=how, start=start, end=end)

    def _remove(self, row: int) -> None:
        dial = self._id
        self.edit("setting off a dial", lambda w: dial_edits.remove_drive(w, dial, row))

    def _set(self, trait: Trait, value: float | str) -> None:
        if value != trait.value:
            self.edit("dial", lambda w: dial_edits.set_trait(w, self._id, trait.key, value))

    def _change(self, **fields: Any) -> None:
        self.edit("dial", lambda w: dial_edits.change_dial(w, self._id, **fields))

    def _change_drive(self, row: int, **fields: Any) -> None:
        self.edit("dial", lambda w: dial_edits.change_drive(w, self._id, row, **fields))


def _end_field(drive: Drive, spec: SettingSpec, value: Value) -> Field:
    """A field for one end of what a dial gives."""
    field: Field
    if drive.how in MULTIPLYING:
        field = ValueField(FieldFormat(suffix=" ×", decimals=3, step=0.05))
    else:
        field = field_for(spec)
    field.set_value(value)
    return field
