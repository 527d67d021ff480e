"""What an effect looks at and its settings, as rows under its name."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import QVBoxLayout, QWidget

from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.edits import effect_edits
from wrinkle.ui.bench.sections.effect_input_button import EffectInputButton
from wrinkle.ui.bench.sections.hue_rows import HuePads, HueRange
from wrinkle.ui.bench.sections.layer_row import LayerRow
from wrinkle.ui.bench.sections.mask_section import layers_to_link
from wrinkle.ui.bench.sections.plain_rows import PlainRow, choice_row
from wrinkle.ui.bench.sections.setting_card import Swing
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.shared.value_words import value_words


class EffectSettings(QWidget):
    """The rows of one effect."""

    def __init__(self, desk: Supplying, layer: Layer, use: EffectUse) -> None:
        super().__init__()
        self._desk = desk
        self._layer = layer.id
        self._use_id = use.id
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        self.source = EffectInputButton.of(desk, layer, use)
        if self.source is not None:
            about = "Where its values or its colours are read from"
            column.addWidget(PlainRow("From", about, self.source))
        self.link_row: PlainRow | None = None
        if use.effect.needs_layer:
            about = "The layer that the effect looks at; it may be hidden"
            nothing = "what lies below" if use.effect.sees_below else "nothing"
            self.link_row = choice_row(
                "By layer",
                about,
                lambda layer: layers_to_link(desk, layer, nothing),
                lambda layer: layer.effect_use(self._use_id).layer,
                self._link,
            )
            column.addWidget(self.link_row)
        self.wanting = PlainLabel()
        self.wanting.setObjectName("quiet")
        self.wanting.setWordWrap(True)
        column.addWidget(self.wanting)
        self.pads = HuePads(desk, layer, use) if use.effect.pads else None
        self.hues = HueRange(desk, layer, use) if use.effect.hue_range else None
        for picked in (self.pads, self.hues):
            if picked is not None:
                column.addWidget(picked)
        self.rows = [LayerRow(desk, SettingRef(layer.id, key)) for key in use.addresses()]
        for row in self.rows:
            key = row.ref.address.name
            written = partial(value_words, row.spec)
            row.swing = partial(Swing, desk, layer.id, use.effect, key, written)
            column.addWidget(row)

    def refresh(self, layer: Layer) -> None:
        """Shows the effect's state."""
        use = layer.effect_use(self._use_id)
        if self.source is not None:
            self.source.refresh(use)
        if self.link_row is not None:
            self.link_row.refresh(layer)
        wanting = effect_edits.wanting(self._desk.document.state, layer, use)
        self.wanting.setText(f"It does nothing without {wanting}." if wanting else "")
        self.wanting.setVisible(bool(wanting))
        for part in (self.pads, self.hues, *self.rows):
            if part is not None:
                part.refresh()

    def _link(self, target: object) -> None:
        self._desk.document.edit(
            "layer of an effect",
            lambda w: effect_edits.change_effect(w, self._layer, self._use_id, layer=target),
        )
        self.refresh(self._desk.document.state.layer(self._layer))
