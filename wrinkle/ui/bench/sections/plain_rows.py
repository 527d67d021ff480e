"""Rows of a card for what is no setting: plain fields that are not animated."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QSizePolicy, QToolButton, QWidget

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.motion.values import parts
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.shared.setting_row import NAME_WIDTH
from wrinkle.ui.shared.value_field import FieldFormat, ValueField
from wrinkle.ui.text_size import Extent, keep


class PlainRow(QWidget):
    """A name and a field; ``refresh`` reads the field's value from the layer."""

    def __init__(self, name: str, about: str, field: QWidget) -> None:
        super().__init__()
        self.field = field
        self._read: Callable[[Layer], None] = lambda layer: None
        label = PlainLabel(name)
        keep(label, Extent.WIDTH, NAME_WIDTH)
        label.setToolTip(tip(about))
        field.setToolTip(tip(about))
        field.setAccessibleName(name)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        row.addWidget(label)
        row.addWidget(field, 1)

    def reads(self, read: Callable[[Layer], None]) -> PlainRow:
        """Says how the field is filled; gives the row itself."""
        self._read = read
        return self

    def refresh(self, layer: Layer) -> None:
        """Shows the layer's state."""
        self._read(layer)


def choice_row(
    name: str,
    about: str,
    choices: Sequence[tuple[str, object]] | Callable[[Layer], Sequence[tuple[str, object]]],
    read: Callable[[Layer], object],
    write: Callable[[object], None],
) -> PlainRow:
    """A row with one of several choices, each with its word and its value."""
    box = QComboBox()
    box.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
    box.activated.connect(lambda index: write(box.itemData(index)))

    def show(layer: Layer) -> None:
        wanted = list(choices(layer) if callable(choices) else choices)
        shown = [(box.itemText(i), box.itemData(i)) for i in range(box.count())]
        if shown != wanted:
            box.clear()
            for word, value in wanted:
                box.addItem(word, value)
        values = [value for _, value in wanted]
        value = read(layer)
        box.setCurrentIndex(values.index(value) if value in values else 0)

    return PlainRow(name, about, box).reads(show)


def toggle_row(
    name: str,
    about: str,
    word: str,
    read: Callable[[Layer], bool],
    write: Callable[[bool], None],
) -> PlainRow:
    """A row with a button that is pressed or not."""
    button = QToolButton()
    button.setText(word)
    button.setCheckable(True)
    button.setObjectName("toggle")
    button.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
    button.clicked.connect(write)
    return PlainRow(name, about, button).reads(lambda layer: button.setChecked(read(layer)))


def number_row(
    name: str,
    about: str,
    style: FieldFormat,
    read: Callable[[Layer], float],
    write: Callable[[float, bool], None],
    abandon: Callable[[], None],
) -> PlainRow:
    """A row with a number; ``write`` gets the number and whether it is only a preview."""
    field = ValueField(style)
    field.changing.connect(lambda value: write(parts(value)[0], True))
    field.committed.connect(lambda value: write(parts(value)[0], False))
    field.abandoned.connect(abandon)
    return PlainRow(name, about, field).reads(lambda layer: field.set_value(read(layer)))
