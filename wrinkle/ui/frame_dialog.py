"""The frame that a wrinkle is designed in: its size and rate, and the shutter angle."""

from __future__ import annotations

from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QLabel,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design import edits
from wrinkle.core.errors import InputError
from wrinkle.core.motion.values import parts
from wrinkle.core.picture.image import Size
from wrinkle.core.time.rate import FrameRate
from wrinkle.ui.session import Session
from wrinkle.ui.shared.value_field import FieldFormat, ValueField


class FrameDialog(QDialog):
    """Edits the frame in one undo step."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.setWindowTitle("Frame and shutter")
        wrinkle = session.wrinkle
        self.size_box = self._box(
            "Size", ("1080×1920", "1920×1080", "1080×1080", "1080×1350"), self._size_text()
        )
        self.rate_box = self._box(
            "Frames a second", ("24", "25", "29.97", "30", "50", "60"), wrinkle.frame_rate.label
        )
        self.shutter = ValueField(FieldFormat(suffix="°", step=10.0))
        self.shutter.setAccessibleName("Shutter angle")
        self.shutter.set_value(wrinkle.shutter_angle)
        self.shutter.changing.connect(self.shutter.set_value)
        self.shutter.committed.connect(self.shutter.set_value)
        self.shutter.faulted.connect(self._tell)
        self.phase = ValueField(FieldFormat(suffix="°", step=10.0))
        self.phase.setAccessibleName("Shutter phase")
        self.phase.setToolTip("By how much the open shutter is later than the frame; 0 is centred")
        self.phase.set_value(wrinkle.shutter_phase)
        self.phase.changing.connect(self.phase.set_value)
        self.phase.committed.connect(self.phase.set_value)
        self.phase.faulted.connect(self._tell)
        self.message = QLabel("Lead and tail keep their length in seconds.")
        self.message.setObjectName("quiet")
        self.message.setWordWrap(True)
        buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        form = QFormLayout()
        form.addRow("Size", self.size_box)
        form.addRow("Frames a second", self.rate_box)
        form.addRow("Shutter angle", self.shutter)
        form.addRow("Shutter phase", self.phase)
        layout = QVBoxLayout(self)
        layout.addLayout(form)
        layout.addWidget(self.message)
        layout.addWidget(buttons)

    def accept(self) -> None:
        """Takes the values, or says what is wrong with them and stays open."""
        shutter, phase = parts(self.shutter.value)[0], parts(self.phase.value)[0]
        try:
            size = Size.parse(self.size_box.currentText())
            text = self.rate_box.currentText()
            unchanged = text == self._session.wrinkle.frame_rate.label
            rate = self._session.wrinkle.frame_rate if unchanged else FrameRate.parse(text)
            edits.set_shutter(self._session.wrinkle, shutter, phase)
        except InputError as fault:
            self._tell(str(fault))
            return
        self._session.edit(
            "frame", lambda w: edits.set_shutter(edits.set_frame(w, size, rate), shutter, phase)
        )
        super().accept()

    def _size_text(self) -> str:
        return Size(*self._session.wrinkle.reference_size).label

    def _box(self, name: str, choices: tuple[str, ...], now: str) -> QComboBox:
        box = QComboBox()
        box.setEditable(True)
        box.setAccessibleName(name)
        box.addItems(choices)
        box.setCurrentText(now)
        return box

    def _tell(self, text: str) -> None:
        self.message.setText(text)
