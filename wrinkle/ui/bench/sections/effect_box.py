"""One effect in a card: its name, whether it acts, what it looks at, and its settings."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.edits import effect_edits
from wrinkle.ui.bench.sections.effect_settings import EffectSettings
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.shared.curve_field import CurveField
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.theme import active, make_small

_PULL = 6


class EffectBox(QWidget):
    """One effect: its name (pulled to reorder the chain), whether it acts, and its settings.

    Args:
        desk, layer, use: which effect of which layer.
        folded: the effects whose settings are folded away, by layer and effect; kept up to date.

    Signals:
        pulled: the box is pulled over this height of the section.
        dropped: and let go there.
        keepWanted: it is to be kept as a look.
    """

    pulled = pyqtSignal(int)
    dropped = pyqtSignal(int)
    keepWanted = pyqtSignal()

    def __init__(
        self, desk: Supplying, layer: Layer, use: EffectUse, folded: set[tuple[str, str]]
    ) -> None:
        super().__init__()
        self._desk = desk
        self._layer = layer.id
        self.use_id = use.id
        self._folded = folded
        self.settings: EffectSettings | None = None
        self._press: QPoint | None = None
        self._moving = False
        name = PlainLabel(use.effect.label)
        name.setStyleSheet("font-weight: 600;")
        self.setToolTip(tip(f"{use.effect.about} Pull to change the order of the chain."))
        name.setCursor(Qt.CursorShape.OpenHandCursor)
        # The label leaves the mouse to the box, which is what is pulled.
        name.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.fold_button = QToolButton()
        self.fold_button.setObjectName("narrow")
        self.fold_button.setAccessibleName(f"Fold or unfold {use.effect.label}")
        self.fold_button.clicked.connect(self._fold)
        self.act_button = QToolButton()
        self.act_button.setText("On")
        self.act_button.setCheckable(True)
        self.act_button.setObjectName("toggle")
        self.act_button.setToolTip("Whether the effect acts")
        self.act_button.clicked.connect(self._switch)
        keep = self.keep_button = QToolButton()
        keep.setText("Keep")
        keep.setObjectName("narrow")
        keep.setToolTip("Keep this effect with its values as a look")
        keep.clicked.connect(lambda: self.keepWanted.emit())
        self.remove_button = QToolButton()
        self.remove_button.setText("✕")
        self.remove_button.setToolTip("Take the effect out")
        self.remove_button.setAccessibleName(f"Take {use.effect.label} out")
        self.remove_button.clicked.connect(self._remove)
        self.cost = PlainLabel()
        self.cost.setObjectName("quiet")
        make_small(self.cost)
        head = QHBoxLayout()
        head.setSpacing(4)
        head.addWidget(self.fold_button)
        head.addWidget(name, 1)
        head.addWidget(self.cost)
        head.addWidget(keep)
        head.addWidget(self.act_button)
        head.addWidget(self.remove_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 2, 0, 4)
        column.setSpacing(4)
        column.addLayout(head)
        self._column = column

    def refresh(self, layer: Layer) -> None:
        """Shows the effect's state; its settings are made when they are unfolded first."""
        use = layer.effect_use(self.use_id)
        self.act_button.setChecked(use.shown)
        place = (self._layer, self.use_id)
        is_open = place not in self._folded
        self.fold_button.setText("−" if is_open else "+")
        self.fold_button.setToolTip(tip("Fold" if is_open else "Unfold"))
        if is_open and self.settings is None:
            self.settings = EffectSettings(self._desk, layer, use)
            self._column.addWidget(self.settings)
        if self.settings is not None:
            self.settings.setVisible(is_open)
            if is_open:
                self.settings.refresh(layer)

    def curve_fields(self) -> list[CurveField]:
        """The fields of curves among its settings."""
        rows = self.settings.rows if self.settings is not None else []
        return [row.field for row in rows if isinstance(row.field, CurveField)]

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

    def _fold(self) -> None:
        self._folded ^= {(self._layer, self.use_id)}
        self.refresh(self._desk.document.state.layer(self._layer))

    def _change(self, label: str, **fields: object) -> None:
        self._desk.document.edit(
            label, lambda w: effect_edits.change_effect(w, self._layer, self.use_id, **fields)
        )

    def _remove(self) -> None:
        self._desk.document.edit(
            "effect taken out",
            lambda w: effect_edits.remove_effect(w, self._layer, self.use_id),
        )
