"""One setting in a card: its name, its field, the buttons that make it a lane or add jitter."""

from __future__ import annotations

from PyQt6.QtWidgets import QHBoxLayout, QLabel, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.design import lane_edits
from wrinkle.core.design.setting import Jitter, Setting
from wrinkle.core.design.setting_ref import SettingRef
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.motion.values import parts
from wrinkle.ui import icons
from wrinkle.ui.bench.jitter_row import JitterRow
from wrinkle.ui.bench.setting_link import SettingLink
from wrinkle.ui.session import Session
from wrinkle.ui.theme import active, small_font

NAME_WIDTH = 92
_FIELD_WIDTH = 62
_FIRST_AMOUNT_STEPS = 3


class SettingRow(QWidget):
    """Shows and edits one setting of a layer, and its jitter where it has one."""

    def __init__(self, session: Session, ref: SettingRef) -> None:
        super().__init__()
        self._session = session
        self.ref = ref
        self._spec = spec = ref.spec(session.wrinkle)
        name = QLabel("jitter" if ref.address.is_jitter else spec.label)
        name.setFixedWidth(NAME_WIDTH)
        name.setToolTip(spec.about)
        self._link = SettingLink(session, ref)
        self.field = self._link.field
        self.lane_button = QToolButton()
        self.lane_button.setCheckable(True)
        self.lane_button.setObjectName("narrow")
        self.lane_button.setAccessibleName(f"{spec.label}: lane")
        self.lane_button.clicked.connect(self._toggle_lane)
        line = QHBoxLayout()
        line.setSpacing(4)
        line.addWidget(name)
        self.field.setMinimumWidth(_FIELD_WIDTH)
        line.addWidget(self.field, 1)
        self.pixels = QLabel()
        self.pixels.setObjectName("quiet")
        self.pixels.setFont(small_font(self.font()))
        line.addWidget(self.pixels)
        line.addWidget(self.lane_button)
        self.jitter_button = QToolButton()
        self.jitter_button.setCheckable(True)
        self.jitter_button.setObjectName("narrow")
        self.jitter_button.setAccessibleName(f"{spec.label}: jitter")
        self.jitter_button.clicked.connect(self._toggle_jitter)
        line.addWidget(self.jitter_button)
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(4)
        self._column.addLayout(line)
        # Only now: what is shown before it has a place in the card would be a window of its own.
        self.pixels.setVisible(spec.unit is Unit.SHORT_SIDE)
        self.jitter_button.setVisible(spec.numeric and not ref.address.is_jitter)
        self.amount: SettingRow | None = None
        self.jitter: JitterRow | None = None
        self.refresh()

    def refresh(self) -> None:
        """Shows the session's state."""
        self._link.refresh()
        setting = self.ref.of(self._session.wrinkle)
        if self._spec.unit is Unit.SHORT_SIDE:
            short = min(self._session.frame_size) / 100.0
            lengths = (f"{part * short:.0f}" for part in parts(setting.at(self._session.time)))
            self.pixels.setText(f"{'×'.join(lengths)} px")
        theme = active()
        label = self._spec.label
        for button, on, drawing, said in (
            (
                self.lane_button,
                setting.track is not None,
                "thread",
                (f"{label} moves in a lane; press to keep the value it has here",
                 f"Let {label.lower()} move: makes a lane with a pin here"),
            ),
            (
                self.jitter_button,
                setting.jitter is not None,
                "tremble",
                (f"{label} trembles; press to stop it", f"Let {label.lower()} tremble"),
            ),
        ):  # fmt: skip
            # An icon that is set again is painted again, even if it is the same.
            if button.isChecked() != on or button.property("inTheme") != (theme.name, on):
                button.setChecked(on)
                button.setProperty("inTheme", (theme.name, on))
                button.setIcon(icons.icon(drawing, theme.outgoing if on else theme.quiet))
                button.setToolTip(said[0] if on else said[1])
        self._show_jitter(setting)

    def _show_jitter(self, setting: Setting) -> None:
        if setting.jitter is None:
            for row in (self.amount, self.jitter):
                if row is not None:
                    self._column.removeWidget(row)
                    row.hide()
                    row.deleteLater()
            self.amount = self.jitter = None
            return
        if self.amount is None or self.jitter is None:
            self.amount = SettingRow(self._session, self.ref.jitter)
            self.jitter = JitterRow(self._session, self.ref)
            self._column.addWidget(self.amount)
            self._column.addWidget(self.jitter)
        self.amount.refresh()
        self.jitter.refresh()

    def _toggle_lane(self, wanted: bool) -> None:
        time = self._session.time
        label = self._spec.label.lower()
        if wanted:
            self._session.edit(
                f"lane of {label}", lambda w: lane_edits.make_lane(w, self.ref, time)
            )
        else:
            self._session.edit(
                f"no lane of {label}", lambda w: lane_edits.drop_lane(w, self.ref, time)
            )

    def _toggle_jitter(self, wanted: bool) -> None:
        spec = self._spec
        amount = Setting(spec.step * _FIRST_AMOUNT_STEPS)
        jitter = Jitter(amount=amount) if wanted else None
        label = f"{'jitter' if wanted else 'no jitter'} of {spec.label.lower()}"
        self._session.edit(label, lambda w: lane_edits.set_jitter(w, self.ref, jitter))
