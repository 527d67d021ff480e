"""A layer as a card of the stack; the selected one is unfolded."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design import edits
from wrinkle.core.design.document import (
    FillSource,
    Layer,
    PictureSource,
    SlotSource,
    TreatmentSource,
)
from wrinkle.core.design.edits import SettingRef
from wrinkle.core.design.settings import PLACEMENT_KEYS
from wrinkle.ui import icons
from wrinkle.ui.bench.setting_row import NAME_WIDTH, SettingRow
from wrinkle.ui.session import Session
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.theme import active, small_font

_FIRST_OF_DEPTH = "tilt"


class LayerCard(QWidget):
    """One layer.

    Signals:
        dragged: the card is pulled over this height of the stack.
        dropped: and let go there.
    """

    dragged = pyqtSignal(int)
    dropped = pyqtSignal(int)

    def __init__(self, session: Session, layer_id: str, unfolded: bool) -> None:
        super().__init__()
        self._session = session
        self.layer_id = layer_id
        self.unfolded = unfolded
        self.rows: list[SettingRow] = []
        self._refreshers: list[Callable[[Layer], None]] = []
        self._shown: object = None
        self._press: QPoint | None = None
        self._pulled = False
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 8, 8, 8)
        layout.setSpacing(4)
        layout.addLayout(self._head())
        if unfolded:
            self._unfold(layout)
        self.refresh()

    @property
    def layer(self) -> Layer:
        """The layer as it is now."""
        return self._session.wrinkle.layer(self.layer_id)

    def refresh(self) -> None:
        """Shows the session's state."""
        layer = self.layer
        theme = active()
        names = tuple((x.id, x.name) for x in self._session.wrinkle.layers)
        state = (layer, self._session.time, theme.name, names)
        if state == self._shown:
            return
        self._shown = state
        self._name.setText(layer.name)
        if isinstance(self._name, QLineEdit):
            self._name.setCursorPosition(0)
        self._about.setText(_about(layer))
        shown = bool(layer.visible.at(self._session.time))
        self.eye.setChecked(shown)
        self.eye.setIcon(
            icons.icon(
                "button" if shown else "buttonhole",
                theme.ink if shown else theme.quiet,
            )
        )
        for row in self.rows:
            row.refresh()
        for refresher in self._refreshers:
            refresher(layer)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme = active()
        painter.setBrush(theme.colour("selected" if self.unfolded else "ground"))
        painter.setPen(theme.colour("ink" if self._pulled else "rule"))
        painter.drawRoundedRect(self.rect().adjusted(0, 0, -1, -1), 5, 5)

    def _head(self) -> QHBoxLayout:
        self._name: QLabel | QLineEdit
        if self.unfolded:
            self._name = QLineEdit()
            self._name.setAccessibleName("Name of the layer")
            self._name.editingFinished.connect(self._rename)
        else:
            self._name = ElidedLabel()
            self._name.setStyleSheet("font-weight: 600;")
        self._about = ElidedLabel()
        self._about.setObjectName("quiet")
        self._about.setFont(small_font(self.font()))
        self.eye = QToolButton()
        self.eye.setCheckable(True)
        self.eye.setObjectName("eye")
        self.eye.setToolTip("Shown or hidden")
        self.eye.setAccessibleName("Layer shown")
        self.eye.clicked.connect(self._show)
        words = QVBoxLayout()
        words.setSpacing(0)
        words.addWidget(self._name)
        words.addWidget(self._about)
        head = QHBoxLayout()
        head.addLayout(words, 1)
        head.addWidget(self.eye, 0, Qt.AlignmentFlag.AlignTop)
        return head

    def _unfold(self, layout: QVBoxLayout) -> None:
        layout.addWidget(_section("Place"))
        for key in PLACEMENT_KEYS:
            if key == _FIRST_OF_DEPTH:
                layout.addWidget(_section("Depth and parent"))
            self._add_row(layout, key)
        self._add_parent(layout)
        layout.addWidget(_section("Picture"))
        source = self.layer.source
        if isinstance(source, FillSource):
            self._add_row(layout, "colour")
        self._add_row(layout, "opacity")
        if isinstance(source, SlotSource | PictureSource):
            self._add_row(layout, "fit")
        for key in ("edge_cover", "motion_blur", "visible"):
            self._add_row(layout, key)

    def _add_row(self, layout: QVBoxLayout, key: str) -> None:
        row = SettingRow(self._session, SettingRef(self.layer_id, key))
        self.rows.append(row)
        layout.addWidget(row)

    def _add_parent(self, layout: QVBoxLayout) -> None:
        """The layer whose place this one follows; a circle is refused with a sentence."""
        box = QComboBox()
        box.setAccessibleName("Parent")
        box.setObjectName("parent")
        box.setToolTip("This layer moves, turns and grows with its parent")
        box.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)

        def show(layer: Layer) -> None:
            names: list[tuple[str, str | None]] = [("none", None)]
            names += [(x.name, x.id) for x in self._session.wrinkle.layers if x.id != layer.id]
            if [box.itemData(i) for i in range(box.count())] != [data for _, data in names]:
                box.clear()
                for name, data in names:
                    box.addItem(name, data)
            box.setCurrentIndex(max(0, box.findData(layer.parent)))

        def choose(index: int) -> None:
            self._change("parent", parent=box.itemData(index))
            show(self.layer)

        box.activated.connect(choose)
        self._refreshers.append(show)
        layout.addLayout(_named("Parent", box))

    def _show(self, shown: bool) -> None:
        ref, time = SettingRef(self.layer_id, "visible"), self._session.time
        self._session.edit("layer shown", lambda w: edits.set_value(w, ref, time, shown))

    def _rename(self) -> None:
        text = self._name.text().strip()
        if text and text != self.layer.name:
            self._change("name of a layer", name=text)
        else:
            self._name.setText(self.layer.name)

    def _change(self, label: str, **fields: object) -> None:
        self._session.edit(label, lambda w: edits.change_layer(w, self.layer_id, **fields))

    # Selecting and reordering

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._press = event.position().toPoint()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._press is None:
            return
        spot = event.position().toPoint()
        if not self._pulled and abs(spot.y() - self._press.y()) < 8:
            return
        self._pulled = True
        self.setCursor(Qt.CursorShape.ClosedHandCursor)
        self.dragged.emit(self.mapToParent(spot).y())
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._press is None:
            return
        self._press = None
        self.unsetCursor()
        if self._pulled:
            self._pulled = False
            self.dropped.emit(self.mapToParent(event.position().toPoint()).y())
        else:
            self._session.select_layer(self.layer_id)


def _section(text: str) -> QLabel:
    label = QLabel(text)
    label.setObjectName("section")
    label.setContentsMargins(0, 4, 0, 0)
    return label


def _named(label: str, widget: QWidget) -> QHBoxLayout:
    name = QLabel(label)
    name.setFixedWidth(NAME_WIDTH)
    row = QHBoxLayout()
    row.setSpacing(4)
    row.addWidget(name)
    row.addWidget(widget, 1)
    return row


def _about(layer: Layer) -> str:
    match layer.source:
        case SlotSource(slot=slot):
            kind = f"{slot} clip"
        case PictureSource(asset=asset):
            kind = f"picture {asset}"
        case TreatmentSource():
            kind = "treatment"
        case FillSource():
            kind = "fill"
    words = [kind, f"{layer.edge_cover.rest} edges"]
    moving = len(layer.lanes())
    if moving:
        words.append(f"{moving} lane{'s' if moving > 1 else ''}")
    return " · ".join(words)
