"""With which frame and rate something new begins."""

from __future__ import annotations

from PyQt6.QtWidgets import QCheckBox, QComboBox, QVBoxLayout, QWidget

from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size
from wrinkle.core.time.rate import FrameRate
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.preferences import NewFrame, Preferences
from wrinkle.ui.shared.plain_text import PlainForm, PlainLabel

_SIZES = ("1080×1920", "1920×1080", "1080×1080", "1080×1350", "2160×3840", "3840×2160")
_RATES = ("23.976", "24", "25", "29.97", "30", "50", "59.94", "60")


class NewPage(QWidget):
    """A frame of one's own, or that of the first clip."""

    def __init__(self, preferences: Preferences, desk: Desk) -> None:
        super().__init__()
        self._preferences, self._desk = preferences, desk
        chosen = preferences.new_frame
        self.follows = QCheckBox("The first clip says frame and rate")
        self.follows.setChecked(chosen is None)
        self.size_box = _box("Frame size", _SIZES, chosen.size.label if chosen else _SIZES[0])
        self.rate_box = _box("Frames a second", _RATES, chosen.rate.label if chosen else "30")
        self.fault = PlainLabel()
        self.fault.setObjectName("fault")
        self.fault.setWordWrap(True)
        words = PlainLabel(
            "New wrinkles and new pieces begin so. What is open and has been worked on keeps its "
            "own frame."
        )
        words.setObjectName("quiet")
        words.setWordWrap(True)
        form = PlainForm()
        form.add("", self.follows)
        form.add("Frame size", self.size_box)
        form.add("Frames a second", self.rate_box)
        column = QVBoxLayout(self)
        column.addLayout(form)
        column.addWidget(self.fault)
        column.addWidget(words)
        column.addStretch(1)
        self.follows.toggled.connect(self._take)
        for box in (self.size_box, self.rate_box):
            box.activated.connect(self._take)
            line = box.lineEdit()
            if line is not None:
                line.editingFinished.connect(self._take)
        self._show_boxes()

    def _show_boxes(self) -> None:
        for box in (self.size_box, self.rate_box):
            box.setEnabled(not self.follows.isChecked())

    def _take(self) -> None:
        self._show_boxes()
        wanted = None
        try:
            if not self.follows.isChecked():
                size = Size.parse(self.size_box.currentText())
                wanted = NewFrame(size.even, FrameRate.parse(self.rate_box.currentText()))
        except InputError as fault:
            self.fault.setText(str(fault))
            return
        self.fault.clear()
        if wanted != self._preferences.new_frame:
            self._preferences.new_frame = wanted
            self._preferences.begin_new(self._desk)


def _box(name: str, proposed: tuple[str, ...], chosen: str) -> QComboBox:
    box = QComboBox()
    box.setEditable(True)
    box.setInsertPolicy(QComboBox.InsertPolicy.NoInsert)
    box.setAccessibleName(name)
    box.addItems(proposed)
    box.setCurrentText(chosen)
    line = box.lineEdit()
    if line is not None:
        line.setAccessibleName(name)
    return box
