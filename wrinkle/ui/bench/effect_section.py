"""The chain of effects of a layer, as rows of its card."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QMenu,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle import library
from wrinkle.core.design import effect_edits
from wrinkle.core.design.document import Layer
from wrinkle.core.design.edits import SettingRef
from wrinkle.core.design.effect_use import EffectUse
from wrinkle.core.design.looks import look_of
from wrinkle.core.errors import InputError
from wrinkle.ui.bench.effect_costs import EffectCosts
from wrinkle.ui.bench.effect_list import EffectList
from wrinkle.ui.bench.mask_section import layers_to_link
from wrinkle.ui.bench.plain_rows import PlainRow, choice_row
from wrinkle.ui.bench.setting_row import SettingRow
from wrinkle.ui.session import Session
from wrinkle.ui.theme import active, small_font

_PULL = 6


class EffectBox(QWidget):
    """One effect: its name (pulled to reorder the chain), whether it acts, and its settings.

    Signals:
        pulled: the box is pulled over this height of the section.
        dropped: and let go there.
    """

    pulled = pyqtSignal(int)
    dropped = pyqtSignal(int)

    def __init__(self, session: Session, layer: Layer, use: EffectUse) -> None:
        super().__init__()
        self._session = session
        self._layer = layer.id
        self.use_id = use.id
        self._press: QPoint | None = None
        self._moving = False
        name = QLabel(use.effect.label)
        name.setStyleSheet("font-weight: 600;")
        name.setToolTip(f"{use.effect.about} Pull to change the order of the chain.")
        name.setCursor(Qt.CursorShape.OpenHandCursor)
        # The label leaves the mouse to the box, which is what is pulled.
        name.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.act_button = QToolButton()
        self.act_button.setText("On")
        self.act_button.setCheckable(True)
        self.act_button.setObjectName("toggle")
        self.act_button.setToolTip("Whether the effect acts")
        self.act_button.clicked.connect(self._switch)
        drop = QToolButton()
        drop.setText("✕")
        drop.setToolTip("Take the effect out")
        drop.setAccessibleName(f"Take {use.effect.label} out")
        drop.clicked.connect(self._remove)
        self.cost = QLabel()
        self.cost.setObjectName("quiet")
        self.cost.setFont(small_font(self.font()))
        head = QHBoxLayout()
        head.setSpacing(4)
        head.addWidget(name, 1)
        head.addWidget(self.cost)
        head.addWidget(self.act_button)
        head.addWidget(drop)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 2, 0, 4)
        column.setSpacing(4)
        column.addLayout(head)
        self.file_button: QToolButton | None = None
        if use.effect.needs_lut:
            self.file_button = QToolButton()
            self.file_button.setObjectName("plain")
            self.file_button.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
            self.file_button.clicked.connect(self._choose_file)
            about = "The colour table; it goes with the wrinkle"
            column.addWidget(PlainRow("File", about, self.file_button))
        self.link_row: PlainRow | None = None
        if use.effect.needs_layer:
            about = "The layer that the effect looks at; it may be hidden"
            nothing = "what lies below" if use.effect.sees_below else "nothing"
            self.link_row = choice_row(
                "By layer",
                about,
                lambda layer: layers_to_link(session, layer, nothing),
                lambda layer: layer.effect_use(self.use_id).layer,
                self._link,
            )
            column.addWidget(self.link_row)
        self.rows = [SettingRow(session, SettingRef(layer.id, key)) for key in use.setting_keys()]
        for row in self.rows:
            column.addWidget(row)

    def refresh(self, layer: Layer) -> None:
        """Shows the effect's state."""
        use = layer.effect_use(self.use_id)
        self.act_button.setChecked(use.shown)
        if self.file_button is not None:
            self.file_button.setText(use.asset or "Choose a .cube file…")
        if self.link_row is not None:
            self.link_row.refresh(layer)
        for row in self.rows:
            row.refresh()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        theme = active()
        painter.setPen(theme.colour("ink" if self._moving else "rule"))
        painter.drawLine(0, 0, self.width(), 0)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._press = event.position().toPoint()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._press is None:
            return
        spot = event.position().toPoint()
        if self._moving or abs(spot.y() - self._press.y()) >= _PULL:
            self._moving = True
            self.pulled.emit(self.mapToParent(spot).y())
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._moving:
            self.dropped.emit(self.mapToParent(event.position().toPoint()).y())
        self._press, self._moving = None, False
        self.update()

    def _switch(self, on: bool) -> None:
        self._change("effect on or off", shown=on)

    def _link(self, target: object) -> None:
        self._change("layer of an effect", layer=target)
        self.refresh(self._session.wrinkle.layer(self._layer))

    def _choose_file(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Choose a LUT", "", "LUTs (*.cube)")
        if name:
            self.take_file(Path(name))

    def take_file(self, path: Path) -> None:
        """Reads a colour table for the effect."""
        session = self._session
        try:
            asset = session.keep_asset(path.name, path.read_bytes())
        except InputError as fault:
            session.faulted.emit(str(fault))
        except OSError as fault:
            session.faulted.emit(f"{path.name} cannot be opened: {fault.strerror}.")
        else:
            self._change(f"LUT {path.stem}", asset=asset)

    def _change(self, label: str, **fields: object) -> None:
        self._session.edit(
            label, lambda w: effect_edits.change_effect(w, self._layer, self.use_id, **fields)
        )

    def _remove(self) -> None:
        self._session.edit(
            "effect taken out",
            lambda w: effect_edits.remove_effect(w, self._layer, self.use_id),
        )


class EffectSection(QWidget):
    """All effects of a layer in the order in which they act, and the list to add one from."""

    def __init__(self, session: Session, layer: Layer, costs: EffectCosts) -> None:
        super().__init__()
        self._session = session
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
        self.looks_button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.looks_button.setToolTip("Chains of effects that are kept under a name")
        menu = QMenu(self)
        menu.aboutToShow.connect(lambda: self.fill_looks(menu))
        self.looks_button.setMenu(menu)
        self.cost_button = QToolButton()
        self.cost_button.setText("Costs")
        self.cost_button.setToolTip("What each effect costs on this frame, in milliseconds")
        self.cost_button.clicked.connect(self.measure)
        self._costs = costs
        costs.measured.connect(self._show_costs)
        costs.failed.connect(session.faulted)
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
        """Shows the chain; boxes are made anew only when it is another one."""
        chain = [(use.id, use.kind) for use in layer.effects]
        if chain != self._chain:
            self._chain = chain
            for box in self.boxes:
                self._column.removeWidget(box)
                box.hide()
                box.deleteLater()
            self.boxes = [EffectBox(self._session, layer, use) for use in layer.effects]
            for box in self.boxes:
                box.pulled.connect(self._show_landing)
                box.dropped.connect(lambda y, box=box: self._drop(box, y))
                self._column.addWidget(box)
        for box in self.boxes:
            box.refresh(layer)

    def choose(self) -> EffectList:
        """Opens the list of effects beside the stack."""
        listed = EffectList(self._session, self._layer, self.window())
        listed.chosen.connect(self.add)
        listed.open()
        return listed

    def measure(self) -> None:
        """Measures the chain on the frame at the playhead, at half size."""
        session = self._session
        if not self.boxes:
            return
        size = session.frame_size.scaled(0.5)
        self.cost_button.setEnabled(False)
        self._costs.measure(
            session.wrinkle, session.material(), self._layer, session.playhead, size
        )

    def _show_costs(self, layer: str, costs: dict[str, float]) -> None:
        self.cost_button.setEnabled(True)
        if layer != self._layer:
            return
        for box in self.boxes:
            spent = costs.get(box.use_id)
            box.cost.setText(f"{spent:.0f} ms" if spent is not None else "")

    def fill_looks(self, menu: QMenu) -> None:
        """The looks that are kept, and what can be done with the chain."""
        menu.clear()
        session = self._session
        try:
            looks = library.own_looks()
        except InputError as fault:
            session.faulted.emit(str(fault))
            looks = []
        for look in looks:
            _entry(menu, look.name, partial(self.add_chain, look.name, look.effects))
        if looks:
            menu.addSeparator()
        chain = session.wrinkle.layer(self._layer).effects
        _entry(menu, "Keep this chain as a look…", self.keep_look)
        _entry(menu, "Copy the chain", lambda: session.copy_chain(chain))
        _entry(menu, "Paste the copied chain",
               lambda: self.add_chain("chain pasted", session.copied_chain))  # fmt: skip

    def add_chain(self, label: str, chain: tuple[EffectUse, ...]) -> None:
        """Adds a look or a copied chain at the end of the layer's own."""
        if not chain:
            self._session.faulted.emit("Copy the chain of another layer first.")
            return
        self._session.edit(label, lambda w: effect_edits.add_chain(w, self._layer, chain))

    def keep_look(self) -> None:
        """Asks for a name and keeps the chain under it."""
        session = self._session
        chain = session.wrinkle.layer(self._layer).effects
        name, taken = QInputDialog.getText(self, "Keep a look", "Name of the look")
        if not taken:
            return
        try:
            library.keep_look(look_of(name, chain))
        except InputError as fault:
            session.faulted.emit(str(fault))
        else:
            session.told.emit(f"The look {name.strip()} is kept.")

    def add(self, kind: str) -> None:
        """Adds an effect at the end of the chain."""
        self._session.edit(
            "effect added", lambda w: effect_edits.add_effect(w, self._layer, kind)[0]
        )

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
        self._session.edit(
            "order of the effects",
            lambda w: effect_edits.move_effect(w, self._layer, box.use_id, place),
        )


def _place_at(boxes: list[EffectBox], y: int) -> int:
    return sum(box.geometry().center().y() < y for box in boxes)


def _entry(menu: QMenu, name: str, act: Callable[[], object]) -> None:
    action = menu.addAction(name)
    if action is not None:
        action.triggered.connect(lambda checked: act())
