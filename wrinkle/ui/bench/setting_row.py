"""One setting in a card: its name, its field, and the button that makes it a lane."""

from __future__ import annotations

from PyQt6.QtWidgets import QHBoxLayout, QLabel, QToolButton, QWidget

from wrinkle.core.design import edits
from wrinkle.core.design.edits import SettingRef
from wrinkle.core.design.settings import spec_of
from wrinkle.ui import icons
from wrinkle.ui.bench.setting_link import SettingField
from wrinkle.ui.session import Session
from wrinkle.ui.theme import active

NAME_WIDTH = 104


class SettingRow(QWidget):
    """Shows and edits one setting of a layer."""

    def __init__(self, session: Session, ref: SettingRef) -> None:
        super().__init__()
        self._session = session
        self.ref = ref
        spec = spec_of(ref.key)
        name = QLabel(spec.label)
        name.setFixedWidth(NAME_WIDTH)
        name.setToolTip(spec.about)
        self.field = SettingField(session, ref)
        self.lane_button = QToolButton()
        self.lane_button.setCheckable(True)
        self.lane_button.setAccessibleName(f"{spec.label}: lane")
        self.lane_button.clicked.connect(self._toggle_lane)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(8)
        layout.addWidget(name)
        layout.addWidget(self.field, 1)
        layout.addWidget(self.lane_button)
        self.refresh()

    def refresh(self) -> None:
        """Shows the session's state."""
        self.field.refresh()
        animated = self.ref.of(self._session.wrinkle).track is not None
        theme = active()
        self.lane_button.setChecked(animated)
        self.lane_button.setIcon(icons.icon("thread", theme.outgoing if animated else theme.quiet))
        label = spec_of(self.ref.key).label
        self.lane_button.setToolTip(
            f"{label} moves in a lane; press to keep the value it has here"
            if animated
            else f"Let {label.lower()} move: makes a lane with a pin here"
        )

    def _toggle_lane(self, wanted: bool) -> None:
        time = self._session.time
        label = spec_of(self.ref.key).label.lower()
        if wanted:
            self._session.edit(f"lane of {label}", lambda w: edits.make_lane(w, self.ref, time))
        else:
            self._session.edit(f"no lane of {label}", lambda w: edits.drop_lane(w, self.ref, time))
