"""One setting in a row: its name, its field, the buttons that make it a lane or add jitter."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QSizePolicy, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.design.document.setting import Setting
from wrinkle.core.motion.setting_spec import OutlineSpec, SettingSpec, Unit
from wrinkle.core.motion.values import parts
from wrinkle.core.picture.image import Size
from wrinkle.ui import icons
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.shared.setting_field import SettingField
from wrinkle.ui.text_size import Extent, keep
from wrinkle.ui.theme import active, make_small

NAME_WIDTH = 92
_FIELD_WIDTH, _BESIDE_PIXELS = 62, 52


class SettingRow(QWidget):
    """Shows a setting at a time, and tells what is wanted of it; see ``SettingField``.

    Args:
        spec: the declaration of the setting.
        name: what the row is called, by default as the setting.
        moves: whether it can become a lane.
        trembles: whether it can get jitter.

    Signals:
        laneWanted: whether the setting is to be a lane.
        jitterWanted: whether it is to tremble.
        dialWanted: its dial button is pressed.
    """

    laneWanted = pyqtSignal(bool)
    jitterWanted = pyqtSignal(bool)
    dialWanted = pyqtSignal()

    def __init__(
        self, spec: SettingSpec, name: str = "", moves: bool = True, trembles: bool = True
    ) -> None:
        super().__init__()
        self.spec = spec
        label = PlainLabel(name or spec.label)
        keep(label, Extent.WIDTH, NAME_WIDTH)
        label.setToolTip(tip(spec.about))
        self.tie = SettingField(spec, self)
        self.field = self.tie.field
        keep(
            self.field,
            Extent.LEAST_WIDTH,
            _BESIDE_PIXELS if spec.unit is Unit.SHORT_SIDE else _FIELD_WIDTH,
        )
        self.field.setSizePolicy(
            QSizePolicy.Policy.Ignored, self.field.sizePolicy().verticalPolicy()
        )
        self.pixels = PlainLabel()
        self.pixels.setObjectName("quiet")
        make_small(self.pixels)
        # Where there is little room they are what gives way.
        self.pixels.setMinimumWidth(1)
        self.pixels.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
        self.lane_button = self._button(f"{spec.label}: lane")
        self.lane_button.clicked.connect(self.laneWanted)
        self.jitter_button = self._button(f"{spec.label}: jitter")
        self.jitter_button.clicked.connect(self.jitterWanted)
        self.dial_button = self._button(f"{spec.label}: dial")
        self.dial_button.clicked.connect(lambda: self.dialWanted.emit())
        self.driven = ElidedLabel()
        self.driven.setObjectName("quiet")
        make_small(self.driven)
        line = QHBoxLayout()
        line.setSpacing(4)
        line.addWidget(label)
        line.addWidget(self.field, 1)
        line.addWidget(self.pixels)
        line.addWidget(self.lane_button)
        line.addWidget(self.jitter_button)
        line.addWidget(self.dial_button)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 0, 0, 0)
        self.column.setSpacing(4)
        self.column.addLayout(line)
        self.column.addWidget(self.driven)
        # Only now: what is shown before it has a place in the card would be a window of its own.
        self.pixels.setVisible(spec.unit is Unit.SHORT_SIDE)
        self.lane_button.setVisible(moves)
        self.jitter_button.setVisible(trembles and spec.numeric)
        self.dial_button.setVisible(not isinstance(spec, OutlineSpec))
        self.driven.hide()

    def show_setting(self, setting: Setting, time: Fraction, frame_size: Size) -> None:
        """Shows a setting at a time, its lengths in pixels of a frame too."""
        self.tie.show_setting(setting, time)
        if self.spec.unit is Unit.SHORT_SIDE:
            short = min(frame_size) / 100.0
            lengths = (f"{part * short:.0f}" for part in parts(setting.at(time)))
            self.pixels.setText(f"{'×'.join(lengths)} px")
        label = self.spec.label
        self._show_on(
            self.lane_button,
            setting.track is not None,
            "thread",
            f"{label} moves in a lane; press to keep the value it has here",
            f"Let {label.lower()} move: a lane from rest to its value, and to rest again",
        )
        self._show_on(
            self.jitter_button,
            setting.jitter is not None,
            "tremble",
            f"{label} trembles; press to stop it",
            f"Let {label.lower()} tremble",
        )

    def show_dials(self, names: Sequence[str], is_set: bool) -> None:
        """Shows which dials drive the setting, and whether one of them gives its value."""
        self._show_on(
            self.dial_button,
            bool(names),
            "spool",
            f"Driven by {', '.join(names)}",
            f"Offer {self.spec.label.lower()} to whoever reuses the wrinkle, as a dial",
        )
        # In the order in which they act.
        self.driven.setText(f"{'set' if is_set else 'driven'} by {', then '.join(names)}")
        self.driven.setVisible(bool(names))
        self.field.setEnabled(not is_set)

    def _button(self, name: str) -> QToolButton:
        button = QToolButton()
        button.setCheckable(True)
        button.setObjectName("narrow")
        button.setAccessibleName(name)
        return button

    def _show_on(self, button: QToolButton, on: bool, drawing: str, is_on: str, off: str) -> None:
        theme = active()
        # An icon that is set again is painted again, even if it is the same.
        if button.isChecked() != on or button.property("inTheme") != (theme.name, on):
            button.setChecked(on)
            button.setProperty("inTheme", (theme.name, on))
            button.setIcon(icons.icon(drawing, theme.outgoing if on else theme.quiet))
            button.setToolTip(tip(is_on if on else off))
