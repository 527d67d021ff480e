"""A setting of a layer as a row of its card, with its jitter where it has one."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent
from PyQt6.QtWidgets import QWhatsThis

from wrinkle.core.design.document.dials import How
from wrinkle.core.design.document.driven import drivers_of
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting import Jitter, Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_edits, lane_shapes
from wrinkle.ui.bench.sections.dial_menu import dial_menu
from wrinkle.ui.bench.sections.setting_card import SettingCard, Swing
from wrinkle.ui.bench.sections.setting_tie import SettingTie
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.jitter_row import JitterRow
from wrinkle.ui.shared.setting_row import SettingRow

_FIRST_AMOUNT_STEPS = 3


class LayerRow(SettingRow):
    """Shows and edits one setting of the document on the desk."""

    def __init__(self, desk: Designing, ref: SettingRef) -> None:
        is_jitter = ref.address.is_jitter
        spec = ref.spec(desk.document.state)
        super().__init__(spec, "jitter" if is_jitter else "", trembles=not is_jitter)
        self._desk = desk
        self.ref = ref
        self._tie = SettingTie(desk, ref, self.tie)
        self.laneWanted.connect(self._toggle_lane)
        self.jitterWanted.connect(self._toggle_jitter)
        self.dialWanted.connect(self._ask_dial)
        self.swing: Callable[[], Swing] | None = None
        """Makes the picture of low and high; None where the setting has no look of its own."""
        self.amount: LayerRow | None = None
        self.jitter: JitterRow | None = None
        self.refresh()

    def refresh(self) -> None:
        """Shows the state of the desk."""
        document = self._desk.document
        setting = self.ref.of(document.state)
        self.show_setting(setting, self._desk.looking.time, document.frame_size)
        found = drivers_of(document.state.dials, self.ref.layer, self.ref.key)
        names = [x.dial.name for x in found]
        self.show_dials(names, any(x.drive.how is How.SET for x in found))
        self._show_jitter(setting)

    def _show_jitter(self, setting: Setting) -> None:
        if setting.jitter is None:
            for row in (self.amount, self.jitter):
                if row is not None:
                    self.column.removeWidget(row)
                    row.hide()
                    row.deleteLater()
            self.amount = self.jitter = None
            return
        if self.amount is None or self.jitter is None:
            self.amount = LayerRow(self._desk, self.ref.jitter)
            self.jitter = self._jitter_row(setting.jitter)
            self.column.addWidget(self.amount)
            self.column.addWidget(self.jitter)
        self.amount.refresh()
        self.jitter.show_jitter(setting.jitter)

    def _jitter_row(self, jitter: Jitter) -> JitterRow:
        row, document = JitterRow(self.spec.label, jitter), self._desk.document
        row.changing.connect(
            lambda j: document.preview(lambda w: lane_edits.set_jitter(w, self.ref, j))
        )
        row.committed.connect(
            lambda j: document.edit("jitter", lambda w: lane_edits.set_jitter(w, self.ref, j))
        )
        row.abandoned.connect(document.abandon)
        row.faulted.connect(self._desk.messages.faulted)
        return row

    def event(self, event: QEvent | None) -> bool:
        """Asked what it is, it says so on a card."""
        if event is not None and event.type() == QEvent.Type.QueryWhatsThis:
            event.accept()
            return True
        if event is not None and event.type() == QEvent.Type.WhatsThis:
            QWhatsThis.leaveWhatsThisMode()
            self.explain()
            return True
        return super().event(event)

    def explain(self) -> None:
        """Says what the setting is, with its unit and range, and how low and high of it look."""
        swing = self.swing() if self.swing is not None else None
        owner = self._desk.document.state.owner(self.ref.layer)
        name, effect = self.spec.label, self.ref.address.effect
        if effect and isinstance(owner, Layer):
            name = f"{owner.effect_use(effect).effect.label}: {name.lower()}"
        SettingCard(name, self.spec, swing, self).show_beside(self)

    def _ask_dial(self) -> None:
        """What can be done about dials for this setting."""
        menu = dial_menu(self._desk, self.ref.layer, self.ref.key, self)
        actions = menu.actions()
        if len(actions) == 1:
            # There is nothing to choose.
            actions[0].trigger()
            menu.deleteLater()
            self.refresh()
            return
        menu.popup(self.dial_button.mapToGlobal(self.dial_button.rect().bottomLeft()))
        self.refresh()

    def _toggle_lane(self, wanted: bool) -> None:
        time, document = self._desk.looking.time, self._desk.document
        label = self.spec.label.lower()
        if wanted:
            begin_lane(self._desk, self.ref)
        else:
            document.edit(f"no lane of {label}", lambda w: lane_edits.drop_lane(w, self.ref, time))

    def _toggle_jitter(self, wanted: bool) -> None:
        amount = Setting(self.spec.step * _FIRST_AMOUNT_STEPS)
        jitter = Jitter(amount=amount) if wanted else None
        label = f"{'jitter' if wanted else 'no jitter'} of {self.spec.label.lower()}"

        def change(wrinkle: Wrinkle) -> Wrinkle:
            changed = lane_edits.set_jitter(wrinkle, self.ref, jitter)
            return lane_shapes.jitter_at_rest(changed, self.ref) if wanted else changed

        self._desk.document.edit(label, change)


def begin_lane(desk: Designing, ref: SettingRef) -> None:
    """A setting moves from now on: to the value that it has at the playhead."""
    label, time = ref.spec(desk.document.state).label.lower(), desk.looking.time
    desk.document.edit(f"lane of {label}", lambda w: lane_shapes.begin_lane(w, ref, time))
