"""The chain of effects of a layer, as rows of its card."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QInputDialog,
    QMenu,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.edits import effect_edits
from wrinkle.core.errors import InputError
from wrinkle.library.looks import keep_look, own_looks, shipped_looks
from wrinkle.ui.bench.lists.adding_effects import adding
from wrinkle.ui.bench.lists.effect_list import EffectList
from wrinkle.ui.bench.sections.effect_box import EffectBox
from wrinkle.ui.bench.sections.effect_costs import EffectCosts
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.shared.curve_field import CurveField
from wrinkle.ui.shared.hanging_menu import hang_menu
from wrinkle.ui.shared.manual_page import about
from wrinkle.ui.theme import active

_PULL = 6


class EffectSection(QWidget):
    """All effects of a layer in the order in which they act, and the list to add one from."""

    def __init__(
        self,
        desk: Supplying,
        layer: Layer,
        costs: EffectCosts,
        folded: set[tuple[str, str]],
    ) -> None:
        super().__init__()
        self._folded = folded
        about(self, "effects")
        self._desk = desk
        self._layer = layer.id
        self.boxes: list[EffectBox] = []
        self._landing: int | None = None
        self.add_button = QToolButton()
        self.add_button.setText("Add effect…")
        self.add_button.setObjectName("add")
        self.add_button.clicked.connect(self.choose)
        line = QHBoxLayout()
        self.looks_button = QToolButton()
        self.looks_button.setText("Looks")
        self.looks_button.setToolTip("Chains of effects that are kept under a name")
        menu = QMenu(self)
        menu.aboutToShow.connect(lambda: self.fill_looks(menu))
        hang_menu(self.looks_button, menu)
        self.cost_button = QToolButton()
        self.cost_button.setText("Costs")
        self.cost_button.setToolTip("What each effect costs on this frame, in milliseconds")
        self.cost_button.clicked.connect(self.measure)
        self._costs = costs
        costs.measured.connect(self._show_costs)
        costs.failed.connect(self._end_measuring)
        line.addWidget(self.add_button)
        line.addStretch(1)
        line.addWidget(self.cost_button)
        line.addWidget(self.looks_button)
        self._chain: list[tuple[str, str]] = []
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(2)
        self._column.addLayout(line)

    def refresh(self, layer: Layer) -> None:
        """Shows the chain; boxes are made only for effects that have none yet."""
        chain = [(use.id, use.kind) for use in layer.effects]
        if chain != self._chain:
            kept = dict(zip(self._chain, self.boxes, strict=True))
            self._chain = chain
            for box in self.boxes:
                self._column.removeWidget(box)
            self.boxes = [
                kept.pop((use.id, use.kind))
                if (use.id, use.kind) in kept
                else self._make_box(layer, use)
                for use in layer.effects
            ]
            for box in kept.values():
                # Another effect that gets its id begins unfolded.
                self._folded.discard((layer.id, box.use_id))
                box.hide()
                box.deleteLater()
            for box in self.boxes:
                self._column.addWidget(box)
        for box in self.boxes:
            box.refresh(layer)

    def curve_fields(self) -> list[CurveField]:
        """The fields of curves among the settings that are unfolded."""
        return [field for box in self.boxes for field in box.curve_fields()]

    def _make_box(self, layer: Layer, use: EffectUse) -> EffectBox:
        box = EffectBox(self._desk, layer, use, self._folded)
        box.pulled.connect(self._show_landing)
        box.keepWanted.connect(partial(self.keep_look, use.id))
        box.dropped.connect(lambda y: self._drop(box, y))
        return box

    def choose(self) -> EffectList:
        """Opens the list of effects beside the stack."""
        listed = EffectList(self._desk, self._layer, self.window())
        listed.chosen.connect(self.add)
        listed.open()
        return listed

    def measure(self) -> None:
        """Measures the chain on the frame at the playhead, at half size."""
        desk = self._desk
        if not self.boxes:
            return
        size = desk.document.frame_size.scaled(0.5)
        self.cost_button.setEnabled(False)
        self._costs.measure(
            desk.document.state, desk.material(), self._layer, desk.looking.playhead, size
        )

    def _end_measuring(self) -> None:
        self.cost_button.setEnabled(True)

    def _show_costs(self, layer: str, costs: dict[str, float]) -> None:
        self._end_measuring()
        if layer != self._layer:
            return
        for box in self.boxes:
            spent = costs.get(box.use_id)
            box.cost.setText(f"{spent:.0f} ms" if spent is not None else "")

    def fill_looks(self, menu: QMenu) -> None:
        """The looks that are kept, and what can be done with the chain."""
        menu.clear()
        desk = self._desk
        try:
            looks = [*own_looks(), *shipped_looks()]
        except InputError as fault:
            desk.messages.faulted.emit(str(fault))
            looks = list(shipped_looks())
        for look in looks:
            _entry(menu, look.name, partial(desk.document.add_look, self._layer, look))
        menu.addSeparator()
        _entry(menu, "Keep this chain as a look…", self.keep_look)
        _entry(menu, "Copy the chain", lambda: desk.clipboard.copy_chain(self._layer))
        _entry(menu, "Paste the copied chain", self.paste_chain)

    def paste_chain(self) -> None:
        """Adds the copied chain at the end of the layer's own."""
        desk = self._desk
        if desk.clipboard.chain is None:
            desk.messages.faulted.emit("Copy the chain of another layer first.")
        else:
            desk.document.add_look(self._layer, desk.clipboard.chain)

    def keep_look(self, use: str = "") -> None:
        """Asks for a name and keeps the chain, or one effect of it, under it."""
        desk = self._desk
        name, taken = QInputDialog.getText(self, "Keep a look", "Name of the look")
        if not taken:
            return
        try:
            keep_look(desk.document.look_of(name, self._layer, use))
        except InputError as fault:
            desk.messages.faulted.emit(str(fault))
        else:
            desk.messages.told.emit(f"The look {name.strip()} is kept; the Collection shows it.")

    def add(self, kind: str) -> None:
        """Adds an effect at the end of the chain; at rest where the window begins and ends."""
        add = adding(self._desk, kind)
        if add is not None:
            self._desk.document.edit("effect added", lambda w: add(w, self._layer))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._landing is not None:
            painter = QPainter(self)
            painter.fillRect(0, self._landing - 1, self.width(), 3, active().colour("seam"))

    def _show_landing(self, y: int) -> None:
        place = _place_at(self.boxes, y)
        if place < len(self.boxes):
            self._landing = self.boxes[place].geometry().top()
        else:
            self._landing = self.boxes[-1].geometry().bottom()
        self.update()

    def _drop(self, box: EffectBox, y: int) -> None:
        self._landing = None
        self.update()
        place = _place_at([one for one in self.boxes if one is not box], y)
        self._desk.document.edit(
            "order of the effects",
            lambda w: effect_edits.move_effect(w, self._layer, box.use_id, place),
        )


def _place_at(boxes: list[EffectBox], y: int) -> int:
    return sum(box.geometry().center().y() < y for box in boxes)


def _entry(menu: QMenu, name: str, act: Callable[[], object]) -> None:
    action = menu.addAction(name)
    if action is not None:
        action.triggered.connect(lambda checked: act())
