"""A lane with its name, its field and how its incoming half comes about."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QMenu, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sounds import WrinkleSound
from wrinkle.core.design.edits import lane_edits
from wrinkle.core.design.edits.lane_shapes import LaneShape, shaped
from wrinkle.core.motion.held_at import HeldAt
from wrinkle.core.motion.track import IncomingHalf
from wrinkle.ui.bench.lanes.lane_canvas import LaneCanvas
from wrinkle.ui.bench.lanes.lane_moves import EaseChange, PinMove, PinsEdit
from wrinkle.ui.bench.lanes.pin_actions import remove_pins
from wrinkle.ui.bench.sections.setting_tie import SettingTie
from wrinkle.ui.bench.sections.time_section import LENGTHS
from wrinkle.ui.desk.looking import PinChoice
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.hanging_menu import hang_menu
from wrinkle.ui.shared.setting_field import SettingField
from wrinkle.ui.text_size import Extent, keep
from wrinkle.ui.theme import make_small

HEAD_WIDTH = 190


def _owner_of(desk: Designing, ref: SettingRef) -> str:
    """The effect, the mask of several, or the sound that a setting belongs to; else nothing."""
    layer = desk.document.state.owner(ref.layer)
    if isinstance(layer, WrinkleSound):
        return layer.name
    if ref.address.effect:
        return layer.effect_use(ref.address.effect).effect.label
    if ref.address.mask and len(layer.masks) > 1:
        return layer.mask(ref.address.mask).name
    return ""


class LaneRow(QWidget):
    """One animated setting of the selected layer."""

    def __init__(self, desk: Designing, ref: SettingRef) -> None:
        super().__init__()
        self._desk = desk
        self.ref = ref
        self._spec = ref.spec(desk.document.state)
        self.canvas = LaneCanvas(ref, self._spec)
        self._field = SettingField(self._spec, self)
        self._tie = SettingTie(desk, ref, self._field)
        self.half = QComboBox()
        make_small(self.half)
        self.half.setToolTip("How the half after the cut comes about")
        self.half.setAccessibleName(f"Incoming half of {self._spec.label}")
        for half in IncomingHalf:
            self.half.addItem(half.value, half)
        self.title = ElidedLabel()
        make_small(self.title, bold=True)
        head = QWidget()
        keep(head, Extent.WIDTH, HEAD_WIDTH)
        column = QVBoxLayout(head)
        column.setContentsMargins(12, 3, 4, 3)
        column.setSpacing(2)
        column.addWidget(self.title)
        under = QHBoxLayout()
        under.setSpacing(2)
        under.addWidget(self._field.field, 3)
        under.addWidget(self.half, 2)
        self.meet = QToolButton()
        self.meet.setText("Meet")
        self.meet.setToolTip("Let both sides have the same speed at the cut")
        self.meet.clicked.connect(self._meet)
        under.addWidget(self.meet)
        self.length = QToolButton()
        self.length.setObjectName("narrow")
        self.length.setText("…")
        self.length.setAccessibleName(f"Length and shape of {self._spec.label}")
        menu = QMenu(self.length)
        menu.aboutToShow.connect(partial(self._fill_lengths, menu))
        hang_menu(self.length, menu)
        under.addWidget(self.length)
        column.addLayout(under)
        column.addStretch(1)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(head)
        layout.addWidget(self.canvas, 1)
        self.half.activated.connect(self._choose_half)
        self.canvas.pinPicked.connect(self._pick)
        self.canvas.changing.connect(self._preview)
        self.canvas.dropped.connect(desk.document.edit)
        self.canvas.abandoned.connect(desk.document.abandon)
        self.canvas.pinWanted.connect(self._add_pin)
        self.canvas.pinToggled.connect(self._toggle)
        self.canvas.pinsUnwanted.connect(lambda: remove_pins(desk))
        self.canvas.pinFound.connect(self._find)
        self.canvas.told.connect(desk.messages.told)

    @property
    def full_name(self) -> str:
        """The name of the setting, led in by that of the effect, mask or sound that it is of."""
        owner, label = _owner_of(self._desk, self.ref), self._spec.label
        return f"{owner} · {label.lower()}" if owner and owner != label else label

    @property
    def shown(self) -> str:
        """The value at the playhead as it is written."""
        return self._field.text

    def refresh(self) -> None:
        """Shows the state of the desk."""
        desk = self._desk
        self.canvas.show_lane(desk)
        self.title.setText(self.full_name)
        self.canvas.setAccessibleName(f"Lane of {self.full_name}")
        self._tie.refresh()
        setting = self.ref.of(desk.document.state)
        if setting.track is not None:
            kept = setting.track.keeps
            self.length.setText("…" if kept is None else "= …")
            self.length.setToolTip(
                "It stretches with the wrinkle"
                if kept is None
                else f"It keeps its length, held at the {kept.value}"
            )
            self.half.setCurrentIndex(self.half.findData(setting.track.incoming))
            fault = lane_edits.fault_at_cut(desk.document.state, self.ref)
            own = setting.track.incoming is IncomingHalf.OWN
            self.meet.setVisible(own and fault is not None and fault.speeds is not None)

    def _choose_half(self, index: int) -> None:
        half: IncomingHalf = self.half.itemData(index)
        label = f"incoming half: {half.value}"
        self._desk.document.edit(label, lambda w: lane_edits.set_incoming(w, self.ref, half))

    def _fill_lengths(self, menu: QMenu) -> None:
        """What becomes of the lane when a use is longer or shorter."""
        menu.clear()
        track = self.ref.of(self._desk.document.state).track
        for word, held in LENGTHS:
            action = menu.addAction(word)
            if action is not None:
                action.setCheckable(True)
                action.setChecked(track is not None and track.keeps is held)
                action.triggered.connect(partial(self._keep, held))
        menu.addSeparator()
        for shape in LaneShape:
            goes = menu.addAction(f"Goes {shape.value}")
            if goes is not None:
                goes.setEnabled(self._spec.numeric or shape is LaneShape.ONE)
                goes.triggered.connect(partial(self._reshape, shape))

    def _reshape(self, shape: LaneShape) -> None:
        time = self._desk.looking.time
        self._desk.document.edit(
            f"lane that goes {shape.value}", lambda w: shaped(w, self.ref, shape, time)
        )

    def _keep(self, held: HeldAt | None) -> None:
        self._desk.document.edit(
            "length of a lane", lambda w: lane_edits.set_keeps(w, self.ref, held)
        )

    def _meet(self) -> None:
        self._desk.document.edit("meet at the cut", lambda w: lane_edits.meet_at_cut(w, self.ref))

    def _pick(self, pin: PinChoice | None) -> None:
        self._desk.looking.select_pin(pin)

    def _find(self, pin: PinChoice, frame: int) -> None:
        self._desk.looking.set_playhead(frame)
        self._desk.looking.select_pin(pin)

    def _preview(self, change: PinMove | EaseChange | PinsEdit) -> None:
        self._desk.document.preview(change.apply)

    def _add_pin(self, frame: int) -> None:
        wrinkle = self._desk.document.state
        time = wrinkle.frame_rate.seconds(frame)
        value = self.ref.of(wrinkle).at(time)
        self._desk.looking.set_playhead(frame)
        self._desk.document.edit(
            "new pin", lambda w: lane_edits.set_value(w, self.ref, time, value)
        )

    def _toggle(self, pin: PinChoice) -> None:
        self._desk.looking.select_pins(self._desk.looking.pins ^ {pin})
