"""Discs and strips of hues in a card, each tied to two settings of an effect."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_edits
from wrinkle.core.motion.values import parts
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.hue_pad import HuePad
from wrinkle.ui.shared.hue_strip import HueStrip
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.theme import make_small


class HuePads(QWidget):
    """The discs of an effect beside each other."""

    def __init__(self, desk: Designing, layer: Layer, use: EffectUse) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        self.pads: list[HuePad] = []
        self._ties: list[_Tie] = []
        for pad in use.effect.pads:
            disc = HuePad(pad.full)
            disc.setAccessibleName(f"{pad.label}: hue and amount")
            disc.setToolTip("Pull the pin: the way is the hue, the distance is how much of it")
            name = PlainLabel(pad.label)
            make_small(name)
            name.setAlignment(Qt.AlignmentFlag.AlignHCenter)
            column = QVBoxLayout()
            column.setSpacing(0)
            column.addWidget(disc)
            column.addWidget(name)
            row.addLayout(column, 1)
            refs = _refs(layer, use, pad.hue, pad.amount)
            self._ties.append(_Tie(desk, disc, refs, pad.label.lower()))
            self.pads.append(disc)

    def refresh(self) -> None:
        """Shows the values at the playhead."""
        for tie in self._ties:
            tie.refresh()


class HueRange(QWidget):
    """The strip of the hues that an effect acts on."""

    def __init__(self, desk: Designing, layer: Layer, use: EffectUse) -> None:
        super().__init__()
        assert use.effect.hue_range is not None
        self.strip = HueStrip()
        self.strip.setAccessibleName("Range of hues")
        self.strip.setToolTip("Pull the rims to widen the range; double-click for all hues")
        self._tie = _Tie(
            desk, self.strip, _refs(layer, use, *use.effect.hue_range), "range of hues"
        )
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.strip)

    def refresh(self) -> None:
        """Shows the range at the playhead."""
        self._tie.refresh()


class _Tie:
    """Two settings shown by one widget and edited by it in one step."""

    def __init__(
        self,
        desk: Designing,
        widget: HuePad | HueStrip,
        refs: tuple[SettingRef, SettingRef],
        label: str,
    ) -> None:
        self._desk, self._widget, self._refs, self._label = desk, widget, refs, label
        widget.changing.connect(lambda a, b: desk.document.preview(lambda w: self._set(w, a, b)))
        widget.committed.connect(
            lambda a, b: desk.document.edit(label, lambda w: self._set(w, a, b))
        )
        if isinstance(widget, HuePad):
            widget.abandoned.connect(desk.document.abandon)

    def refresh(self) -> None:
        """Shows the values at the playhead."""
        time, wrinkle = self._desk.looking.time, self._desk.document.state
        first, second = (parts(ref.of(wrinkle).at(time))[0] for ref in self._refs)
        self._widget.set_value(first, second)

    def _set(self, wrinkle: Wrinkle, first: float, second: float) -> Wrinkle:
        time = self._desk.looking.time
        for ref, value in zip(self._refs, (first, second), strict=True):
            if ref.of(wrinkle).at(time) != value:
                wrinkle = lane_edits.set_value(wrinkle, ref, time, value)
        return wrinkle


def _refs(layer: Layer, use: EffectUse, *names: str) -> tuple[SettingRef, SettingRef]:
    first, second = (SettingRef(layer.id, use.address(name)) for name in names)
    return first, second
