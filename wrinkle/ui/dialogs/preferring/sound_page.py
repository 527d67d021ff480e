"""How sound is played: device, level, mute, and slow."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from wrinkle.ui.desk.sound_output import device_names
from wrinkle.ui.desk.sound_settings import SoundSettings
from wrinkle.ui.shared.plain_text import PlainForm, tip

USUAL = "The usual one of the desktop"


class SoundPage(QWidget):
    """What is changed is heard at once."""

    def __init__(self, settings: SoundSettings) -> None:
        super().__init__()
        self.device = QComboBox()
        self.device.setAccessibleName("Device")
        self.device.addItem(USUAL, "")
        names = device_names()
        # One that is not there now is kept: headphones come back.
        for name in (*names, *([settings.device] if settings.device not in ("", *names) else [])):
            self.device.addItem(name if name in names else f"{name} (not there)", name)
        self.device.setCurrentIndex(max(self.device.findData(settings.device), 0))
        self.device.activated.connect(
            lambda: settings.choose(device=str(self.device.currentData()))
        )
        self.level = QSlider(Qt.Orientation.Horizontal)
        self.level.setAccessibleName("Level")
        self.level.setRange(0, 100)
        self.level.setValue(round(settings.level))
        self.level.valueChanged.connect(lambda value: settings.choose(level=float(value)))
        self.muted = QCheckBox("Mute")
        self.muted.setChecked(settings.muted)
        self.muted.toggled.connect(lambda on: settings.choose(muted=on))
        self.slow = QCheckBox("Half and quarter speed are heard too, at the same pitch")
        self.slow.setToolTip(tip("Else what plays slower than true is silent"))
        self.slow.setChecked(settings.slow)
        self.slow.toggled.connect(lambda on: settings.choose(slow=on))
        form = PlainForm()
        form.add("Device", self.device)
        form.add("Level", self.level)
        form.add("", self.muted)
        form.add("", self.slow)
        column = QVBoxLayout(self)
        column.addLayout(form)
        column.addStretch(1)
