"""The button that reads an effect's table, its values or its colours from somewhere else."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from functools import partial
from pathlib import Path

from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import QInputDialog, QMenu, QSizePolicy, QToolButton

from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.slots import INCOMING, OUTGOING, called
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import effect_edits, lane_edits
from wrinkle.core.errors import InputError
from wrinkle.core.measure.colour_sets import tone_sets
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.image import Image, Size, from_bytes8
from wrinkle.core.picture.palette import Colour, palette
from wrinkle.core.render.under_masks import under_masks
from wrinkle.media.cdl import CDL_SUFFIXES, ColourDecision, read_decisions
from wrinkle.ui.bench.lists.lut_list import LutList
from wrinkle.ui.bench.sections.colour_set_menu import add_sets
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.shared.colour_field import linear_colour
from wrinkle.ui.shared.hanging_menu import hang_menu

_PALETTE_SIDE = 96


_TONES = 3
"""Colours of a set: dark, middle and light."""


class EffectInputButton(QToolButton):
    """Reads a colour table, a colour decision or the palette of a clip, as the effect needs it."""

    def __init__(self, desk: Supplying, layer: Layer, use: EffectUse) -> None:
        super().__init__()
        self._desk = desk
        self._layer = layer.id
        self._use_id = use.id
        self.setObjectName("plain")
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        if use.effect.needs_lut:
            self.clicked.connect(self.choose_lut)
        elif use.effect.reads_decisions:
            self.setText("Read a colour decision…")
            self.clicked.connect(self._choose_decision)
        else:
            self.setText("Palette of a clip")
            menu = QMenu(self)
            menu.aboutToShow.connect(lambda: self.fill_palettes(menu))
            hang_menu(self, menu)

    @classmethod
    def of(cls, desk: Supplying, layer: Layer, use: EffectUse) -> EffectInputButton | None:
        """The button of an effect; None where it reads nothing."""
        effect = use.effect
        if not (effect.needs_lut or effect.reads_decisions or effect.palette):
            return None
        return cls(desk, layer, use)

    def refresh(self, use: EffectUse) -> None:
        """Shows which table is read."""
        if use.effect.needs_lut:
            self.setText(use.asset or "Choose a LUT…")

    def fill_palettes(self, menu: QMenu) -> None:
        """Where colours can be taken from, and sets that go together."""
        menu.clear()
        for name, choose in (
            ("Outgoing clip at the cut", partial(self._at_the_cut, OUTGOING.key)),
            ("Incoming clip at the cut", partial(self._at_the_cut, INCOMING.key)),
            ("This layer on this frame", self._under_effects),
        ):
            action = menu.addAction(name)
            if action is not None:
                action.triggered.connect(
                    lambda checked=False, choose=choose: self._take_palette(choose)
                )
        if len(self._use.effect.palette) == _TONES:
            add_sets(menu, tone_sets(self._desk.clip_colours.found), self._take_set)

    def _take_set(self, colours: Sequence[QColor]) -> None:
        values = map(linear_colour, colours)
        self._set_values("set of colours", dict(zip(self._use.effect.palette, values, strict=True)))

    def choose_lut(self) -> LutList:
        """Opens the list of colour tables."""
        listed = LutList(self._desk, self._layer, self.window())
        listed.chosen.connect(lambda path: self.take_file(Path(path)))
        listed.open()
        return listed

    def take_file(self, path: Path) -> None:
        """Reads a colour table for the effect."""
        desk = self._desk
        asset = desk.document.keep_file(path)
        if asset is not None:
            desk.document.edit(
                f"LUT {path.stem}",
                lambda w: effect_edits.change_effect(w, self._layer, self._use_id, asset=asset),
            )

    def _choose_decision(self) -> None:
        kinds = " ".join(f"*{suffix}" for suffix in CDL_SUFFIXES)
        title = "Read a colour decision"
        path = self._desk.asking.file(self, title, "lut", f"Colour decisions ({kinds})")
        if path is not None:
            self.take_decision(path)

    def take_decision(self, path: Path) -> None:
        """Reads a colour decision into the effect's values; of several a person chooses."""
        desk = self._desk
        try:
            decisions = read_decisions(path)
        except InputError as fault:
            desk.messages.faulted.emit(str(fault))
            return
        chosen = decisions[0]
        if len(decisions) > 1:
            names = [one.name for one in decisions]
            name, taken = QInputDialog.getItem(
                self, "Read a colour decision", f"{path.name} holds several:", names, 0, False
            )
            if not taken:
                return
            chosen = decisions[names.index(name)]
        values = _values_of(chosen)
        if self._set_values(f"colour decision {chosen.name}", values):
            specs = {spec.key: spec for spec in self._use.effect.settings}
            held = [key for key, value in values.items() if specs[key].limited(value) != value]
            if held:
                desk.messages.faulted.emit(
                    f"The {' and the '.join(held)} of '{chosen.name}' lie beyond what the effect "
                    "holds and are read as its largest or smallest."
                )

    def _take_palette(self, choose: Callable[[], Callable[[Size], Image]]) -> None:
        """Takes the colours of a clip: as many as the effect has."""
        desk = self._desk
        try:
            picture = choose()
        except InputError as fault:
            desk.messages.faulted.emit(str(fault))
            return
        size = desk.document.frame_size
        size = size.scaled(_PALETTE_SIDE / min(size))
        count = len(self._use.effect.palette)
        desk.workers.asked.put(lambda job: palette(picture(size), count), self._show_palette)

    def _show_palette(self, found: list[Colour]) -> None:
        layers = self._desk.document.state.layers
        uses = [use for x in layers if x.id == self._layer for use in x.effects]
        if self._use_id not in {use.id for use in uses}:
            return
        if not found:
            self._desk.messages.faulted.emit(
                "There is no picture to take colours from; move the playhead."
            )
            return
        keys = self._use.effect.palette
        # Of a picture with fewer colours the lightest stands for the rest.
        colours = [*found, *[found[-1]] * (len(keys) - len(found))]
        self._set_values("palette of a clip", dict(zip(keys, colours, strict=True)))

    def _at_the_cut(self, slot: str) -> Callable[[Size], Image]:
        filling = self._desk.material().slots.get(slot)
        if filling is None:
            words = called(self._desk.document.state.slots, slot)
            raise InputError(f"There is no {words} yet; drop one on its picture first.")
        source = filling.source
        return lambda size: source.image(source.index_at(filling.cut), size)

    def _under_effects(self) -> Callable[[Size], Image]:
        desk, time = self._desk, self._desk.looking.time
        bare, material = effect_edits.without_effects(desk.document.state), desk.material()
        return lambda size: from_bytes8(under_masks(bare, material, self._layer, time, size))

    @property
    def _use(self) -> EffectUse:
        return self._desk.document.state.layer(self._layer).effect_use(self._use_id)

    def _set_values(self, label: str, values: Mapping[str, Value]) -> bool:
        """Sets several settings at the playhead, as far as they hold them, in one step."""
        use, time = self._use, self._desk.looking.time

        def changed(wrinkle: Wrinkle) -> Wrinkle:
            for name, value in values.items():
                ref = SettingRef(self._layer, use.address(name))
                held = use.effect.spec(name).limited(value)
                wrinkle = lane_edits.set_value(wrinkle, ref, time, held)
            return wrinkle

        return self._desk.document.edit(label, changed)


def _values_of(decision: ColourDecision) -> dict[str, Value]:
    """A decision as the effect's settings hold it: half of a slope and a power, grey for none."""
    return {
        "slope": tuple(part / 2.0 for part in decision.slope),
        "offset": tuple((part + 1.0) / 2.0 for part in decision.offset),
        "power": tuple(part / 2.0 for part in decision.power),
        "saturation": decision.saturation * 100.0,
    }
