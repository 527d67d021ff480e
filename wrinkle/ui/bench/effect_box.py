"""One effect in a card: its name, whether it acts, what it looks at, and its settings."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.design import effect_edits
from wrinkle.core.design.document import Layer
from wrinkle.core.design.edits import SettingRef
from wrinkle.core.design.effect_use import EffectUse
from wrinkle.ui.bench.from_button import FromButton
from wrinkle.ui.bench.hue_rows import HuePads, HueRange
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
        self.source = FromButton.of(session, layer, use)
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
                lambda layer: layers_to_link(session, layer, nothing),
                lambda layer: layer.effect_use(self.use_id).layer,
                self._link,
            )
            column.addWidget(self.link_row)
        self.wanting = QLabel()
        self.wanting.setObjectName("quiet")
        self.wanting.setWordWrap(True)
        column.addWidget(self.wanting)
        self.pads = HuePads(session, layer, use) if use.effect.pads else None
        self.hues = HueRange(session, layer, use) if use.effect.hue_range else None
        for picked in (self.pads, self.hues):
            if picked is not None:
                column.addWidget(picked)
        self.rows = [SettingRow(session, SettingRef(layer.id, key)) for key in use.setting_keys()]
        for row in self.rows:
            column.addWidget(row)

    def refresh(self, layer: Layer) -> None:
        """Shows the effect's state."""
        use = layer.effect_use(self.use_id)
        self.act_button.setChecked(use.shown)
        if self.source is not None:
            self.source.refresh(use)
        if self.link_row is not None:
            self.link_row.refresh(layer)
        wanting = effect_edits.wanting(self._session.wrinkle, layer, use)
        self.wanting.setText(f"It does nothing without {wanting}." if wanting else "")
        self.wanting.setVisible(bool(wanting))
        for part in (self.pads, self.hues, *self.rows):
            if part is not None:
                part.refresh()

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

    def _change(self, label: str, **fields: object) -> None:
        self._session.edit(
            label, lambda w: effect_edits.change_effect(w, self._layer, self.use_id, **fields)
        )

    def _remove(self) -> None:
        self._session.edit(
            "effect taken out",
            lambda w: effect_edits.remove_effect(w, self._layer, self.use_id),
        )
