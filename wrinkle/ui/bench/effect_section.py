"""The chain of effects of a layer, as rows of its card."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design import effect_edits
from wrinkle.core.design.document import Layer
from wrinkle.core.design.edits import SettingRef
from wrinkle.core.design.effect_use import EffectUse
from wrinkle.core.errors import InputError
from wrinkle.ui.bench.effect_list import EffectList
from wrinkle.ui.bench.plain_rows import PlainRow
from wrinkle.ui.bench.setting_row import SettingRow
from wrinkle.ui.session import Session
from wrinkle.ui.theme import active

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
        head = QHBoxLayout()
        head.setSpacing(4)
        head.addWidget(name, 1)
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
        self.rows = [SettingRow(session, SettingRef(layer.id, key)) for key in use.setting_keys()]
        for row in self.rows:
            column.addWidget(row)

    def refresh(self, layer: Layer) -> None:
        """Shows the effect's state."""
        use = layer.effect_use(self.use_id)
        self.act_button.setChecked(use.shown)
        if self.file_button is not None:
            self.file_button.setText(use.asset or "Choose a .cube file…")
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
        self._session.edit(
            "effect on or off",
            lambda w: effect_edits.change_effect(w, self._layer, self.use_id, shown=on),
        )

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
            session.edit(
                f"LUT {path.stem}",
                lambda w: effect_edits.change_effect(w, self._layer, self.use_id, asset=asset),
            )

    def _remove(self) -> None:
        self._session.edit(
            "effect taken out",
            lambda w: effect_edits.remove_effect(w, self._layer, self.use_id),
        )


class EffectSection(QWidget):
    """All effects of a layer in the order in which they act, and the list to add one from."""

    def __init__(self, session: Session, layer: Layer) -> None:
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
        line.addWidget(self.add_button)
        line.addStretch(1)
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

    def add(self, kind: str) -> None:
        """Adds an effect at the end of the chain."""
        self._session.edit(
            "effect added", lambda w: effect_edits.add_effect(w, self._layer, kind)[0]
        )

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._landing is not None:
            painter = QPainter(self)
            painter.fillRect(0, self._landing - 1, self.width(), 3, active().colour("seam"))

    def _place_at(self, y: int) -> int:
        return sum(box.geometry().center().y() < y for box in self.boxes)

    def _show_landing(self, y: int) -> None:
        place = self._place_at(y)
        if place < len(self.boxes):
            self._landing = self.boxes[place].geometry().top()
        else:
            self._landing = self.boxes[-1].geometry().bottom()
        self.update()

    def _drop(self, box: EffectBox, y: int) -> None:
        self._landing = None
        self.update()
        others = [one for one in self.boxes if one is not box]
        place = sum(one.geometry().center().y() < y for one in others)
        self._session.edit(
            "order of the effects",
            lambda w: effect_edits.move_effect(w, self._layer, box.use_id, place),
        )
