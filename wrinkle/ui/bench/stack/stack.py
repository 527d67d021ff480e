"""The stack: layers as cards, front-most at the top; groups indent what they hold."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QEvent, QObject, QPoint, QPointF, QRectF, QSize, Qt, QTimer
from PyQt6.QtGui import (
    QDragEnterEvent,
    QDropEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QResizeEvent,
    QShowEvent,
)
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLineEdit,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.finding import Which
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.links import within
from wrinkle.core.design.document.sources import (
    GroupSource,
)
from wrinkle.core.design.edits import grouping
from wrinkle.core.design.edits.isolating import isolated
from wrinkle.core.jobs import Urgency
from wrinkle.ui.bench.sections.dials_section import DialsSection
from wrinkle.ui.bench.sections.effect_costs import EffectCosts
from wrinkle.ui.bench.sections.mask_worker import MaskWorker
from wrinkle.ui.bench.sections.sounds_section import SoundsSection
from wrinkle.ui.bench.stack.card import CardBasis, LayerCard
from wrinkle.ui.bench.stack.found_list import FoundList
from wrinkle.ui.bench.stack.new_layers import NewLayers, front_of
from wrinkle.ui.desk.parts import Trying
from wrinkle.ui.pictures.clip_pictures import ClipPictures
from wrinkle.ui.pictures.part_pictures import PartPictures
from wrinkle.ui.shared.curve_field import CurveField
from wrinkle.ui.shared.drops import accept_files, dropped_files
from wrinkle.ui.shared.hanging_menu import hang_menu
from wrinkle.ui.shared.manual_page import about
from wrinkle.ui.shared.panel import as_panel
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.shared.scrolled import Scrolled
from wrinkle.ui.theme import active

_GUTTER = 14
_DIALS_SHARE = 0.42
"""Of the height, for the dials; more of them scroll."""
_PICTURE = 72
"""The longer side of a layer's picture, in pixels."""
_THREAD_STEP = 4
_HEAD = 48


class _Cards(QWidget):
    """The ground under the cards: threads to mattes, and where a pulled card would land."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("ground")
        self.landing: QRectF | None = None
        self.threads: list[tuple[QWidget, QWidget]] = []

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme = active()
        for number, (cut, cutter) in enumerate(self.threads):
            pen = QPen(theme.colour("incoming"), 1.6)
            pen.setDashPattern([3.0, 2.0])
            painter.setPen(pen)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPath(self._thread(cut, cutter, number))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.colour("incoming"))
            # The needle points at the layer that is cut.
            painter.drawEllipse(self._hole(cutter), 2.5, 2.5)
            tip = self._hole(cut)
            painter.drawPolygon(
                tip + QPointF(3, 0), tip + QPointF(-3, -3.5), tip + QPointF(-3, 3.5)
            )
        if self.landing is not None:
            painter.fillRect(self.landing, theme.colour("seam"))

    def _hole(self, card: QWidget) -> QPointF:
        return QPointF(_GUTTER - 3.0, card.geometry().top() + 20.0)

    def _thread(self, cut: QWidget, cutter: QWidget, number: int) -> QPainterPath:
        start, end = self._hole(cutter), self._hole(cut)
        out = max(1.0, start.x() - 7.0 - number % 2 * _THREAD_STEP)
        path = QPainterPath(start)
        path.cubicTo(QPointF(out - 4, start.y()), QPointF(out - 4, end.y()), end)
        return path


class _Fitting(Scrolled):
    """As high as what is in it, up to a share of the whole: the layers keep the rest."""

    def __init__(self, content: QWidget) -> None:
        super().__init__()
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Maximum)
        content.setObjectName("ground")
        self.setWidget(content)

    def sizeHint(self) -> QSize:
        content = self.widget()
        return content.sizeHint() if content is not None else super().sizeHint()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() is QEvent.Type.LayoutRequest:
            self.updateGeometry()
        return super().eventFilter(watched, event)


class Stack(QWidget):
    """The right side of the Bench."""

    def __init__(self, desk: Trying, clip_pictures: ClipPictures) -> None:
        super().__init__()
        as_panel(self)
        about(self, "layers")
        self.setAcceptDrops(True)
        self._desk = desk
        self.worker = MaskWorker(desk, self)
        self.costs = EffectCosts(desk.workers.jobs, self)
        self.costs.failed.connect(desk.messages.faulted)
        self.cards: list[LayerCard] = []
        self._opened: set[str] = set()
        """The layers whose cards stay open beside the one of the selected layer."""
        self._folded = ""
        """The selected layer, where its card was folded."""
        self.layer_pictures = PartPictures(desk, Urgency.SOURCES, self)
        self.layer_pictures.came.connect(self._show_picture)
        self._basis = CardBasis(self.worker, self.costs, clip_pictures)
        self.new = NewLayers(desk, self, self._basis.open_sections)
        self._made_for: list[tuple[object, ...]] = []
        heading = PlainLabel("Stack")
        heading.setObjectName("heading")
        self.add_button = QToolButton()
        self.add_button.setObjectName("add")
        self.add_button.setText("Add layer")
        hang_menu(self.add_button, self.new.menu())
        self.treat_button = QToolButton()
        self.treat_button.setObjectName("add")
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find a setting")
        self.search.setAccessibleName("Find a setting of any layer")
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(lambda: self._look_for())
        self.which = QComboBox()
        self.which.setAccessibleName("Which settings are shown")
        self.which.setToolTip("All settings by layers, or only those that move or were changed")
        for which in Which:
            self.which.addItem(which.value, which)
        self.which.activated.connect(lambda: self._look_for())
        self.found = FoundList(desk)
        self.found.layerWanted.connect(self.show_layer)
        top = QHBoxLayout()
        top.addWidget(heading)
        top.addStretch(1)
        top.addWidget(self.treat_button)
        top.addWidget(self.add_button)
        self.ground = _Cards()
        self._column = QVBoxLayout(self.ground)
        self._column.setContentsMargins(_GUTTER, 0, 4, 0)
        self._column.setSpacing(6)
        self.sounds = SoundsSection(desk)
        self._column.addWidget(self.sounds)
        self._column.addStretch(1)
        self.cards_view = Scrolled()
        self.cards_view.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.cards_view.setWidget(self.ground)
        self._empty = PlainLabel("No layer yet. Add the clips, or a treatment that acts on both.")
        self._empty.setObjectName("quiet")
        self._empty.setWordWrap(True)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(2, 8, 8, 8)
        top.setContentsMargins(10, 0, 0, 0)
        self.dials = DialsSection(desk)
        self.dials_view = _Fitting(self.dials)
        layout.addWidget(self.dials_view)
        layout.addLayout(top)
        finding = QHBoxLayout()
        finding.setContentsMargins(10, 0, 0, 0)
        finding.addWidget(self.search, 1)
        finding.addWidget(self.which)
        layout.addLayout(finding)
        layout.addWidget(self._empty)
        layout.addWidget(self.cards_view, 1)
        layout.addWidget(self.found, 1)
        self.found.hide()
        desk.document.changed.connect(self.refresh)
        desk.tried.changed.connect(self._ask_pictures)
        desk.trial.changed.connect(self._ask_pictures)
        desk.looking.selectionChanged.connect(self.refresh)
        desk.looking.selectionChanged.connect(self._bring_up)
        desk.looking.playheadRested.connect(self.refresh)
        self.refresh()

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        accept_files(event)

    def dropEvent(self, event: QDropEvent | None) -> None:
        for path in dropped_files(event):
            self.new.add_file(path)

    def refresh(self) -> None:
        """Shows the state of the desk; cards are made anew only when the layers are others."""
        desk = self._desk
        layers = grouping.front_to_back(desk.document.state)
        if self._folded != desk.looking.layer:
            self._folded = ""
        # What decides which rows a card has.
        wanted: list[tuple[object, ...]] = [
            (
                x.id,
                self._is_open(x.id),
                grouping.depth_of(desk.document.state, x),
                type(x.source),
                getattr(x.source, "slot", ""),
            )
            for x in layers
        ]
        if wanted != self._made_for:
            self._make_cards(wanted, layers)
            self._made_for = wanted
        self._empty.setVisible(not wanted)
        names = tuple((x.id, x.name) for x in layers)
        for card, layer in zip(self.cards, layers, strict=True):
            card.refresh(layer, names)
        self._tie_threads()
        if self.finding and desk.document.previewing:
            # What is dragged stays listed, whatever value it goes through.
            self.found.refresh()
        elif self.finding:
            self.found.show_found(self.which.currentData(), self.search.text())
        self._ask_pictures()

    @property
    def finding(self) -> bool:
        """Whether settings are listed that were looked for, and not the cards."""
        return bool(self.search.text().strip()) or self.which.currentData() is not Which.ALL

    def show_layer(self, layer: str) -> None:
        """Shows the card of a layer again, after something was looked for."""
        self.search.clear()
        self.which.setCurrentIndex(0)
        self._look_for()
        self._desk.looking.select_layer(layer)
        self._bring_up()

    def _bring_up(self) -> None:
        """The head of the selected layer's card is seen."""

        def up() -> None:
            for card in self.cards:
                if card.layer_id == self._desk.looking.layer:
                    head = card.mapTo(self.ground, QPoint(0, _HEAD // 2))
                    self.cards_view.ensureVisible(0, head.y(), 0, _HEAD)

        # It has its place only when the cards are laid out.
        QTimer.singleShot(0, up)

    def _look_for(self) -> None:
        self.cards_view.setVisible(not self.finding)
        self.found.setVisible(self.finding)
        if self.finding:
            self.refresh()
        else:
            self.found.forget()

    def _is_open(self, layer: str) -> bool:
        selected = layer == self._desk.looking.layer and layer != self._folded
        return selected or layer in self._opened

    def _fold(self, layer: str) -> None:
        """Folds a card that is open; one that is not opens beside the others."""
        if self._is_open(layer):
            self._opened.discard(layer)
            if layer == self._desk.looking.layer:
                self._folded = layer
        elif layer == self._folded:
            self._folded = ""
        else:
            self._opened.add(layer)
        self.refresh()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.dials_view.setMaximumHeight(round(self.height() * _DIALS_SHARE))

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self._ask_pictures()

    def _ask_pictures(self) -> None:
        """Pictures of all layers, once nothing is dragged."""
        desk = self._desk
        if not self.isVisible() or desk.document.previewing or desk.looking.playing:
            return
        shown = desk.shown(desk.document.frame_size.within(_PICTURE))
        parts = {x.layer_id: partial(isolated, layer_id=x.layer_id) for x in self.cards}
        self.layer_pictures.ask(shown, parts, desk.looking.playhead)
        for card in self.cards:
            card.picture.show_picture(self.layer_pictures.picture(card.layer_id))

    def _show_picture(self, layer: str) -> None:
        for card in self.cards:
            if card.layer_id == layer:
                card.picture.show_picture(self.layer_pictures.picture(layer))

    def show_sound(self, sound_id: str) -> None:
        """Unfolds the card of a sound, and brings it to the top."""
        self.sounds.unfold(sound_id)
        card, bar = self.sounds.cards[sound_id], self.cards_view.verticalScrollBar()

        def up() -> None:
            if bar is not None:
                bar.setValue(card.mapTo(self.ground, QPoint(0, 0)).y())

        # Its rows have no place yet.
        QTimer.singleShot(0, up)

    def choose_effect(self) -> None:
        """Opens the list of effects for the selected layer."""
        for card in self.cards:
            if card.effects is not None and card.layer_id == self._desk.looking.layer:
                card.effects.choose()

    def curve_fields(self) -> list[CurveField]:
        """The fields of curves on the unfolded card."""
        return [field for card in self.cards for field in card.curve_fields()]

    def _tie_threads(self) -> None:
        by_id = {card.layer_id: card for card in self.cards}
        threads = []
        for card in self.cards:
            matte = card.layer.matte
            if matte is not None and matte.layer in by_id:
                threads.append((card, by_id[matte.layer]))
        if threads or self.ground.threads:
            self.ground.threads = [(one, other) for one, other in threads]
            self.ground.update()

    def _make_cards(self, wanted: list[tuple[object, ...]], layers: list[Layer]) -> None:
        """Makes the cards whose rows are others; the rest are only put in their order."""
        kept = dict(zip(self._made_for, self.cards, strict=True))
        for card in self.cards:
            self._column.removeWidget(card)
        self.cards = [
            kept.pop(state) if state in kept else self._make_card(layer)
            for state, layer in zip(wanted, layers, strict=True)
        ]
        for card in kept.values():
            card.hide()
            card.deleteLater()
        for place, card in enumerate(self.cards):
            self._column.insertWidget(place, card)

    def _make_card(self, layer: Layer) -> LayerCard:
        desk = self._desk
        card = LayerCard(desk, layer.id, self._is_open(layer.id), self._basis)
        card.folded.connect(lambda: self._fold(card.layer_id))
        card.dragged.connect(self._show_landing)
        card.dropped.connect(lambda spot: self._drop(card, spot))
        return card

    def _above(self, spot: QPoint) -> LayerCard | None:
        """The card under which a pulled card would land."""
        above = [card for card in self.cards if card.geometry().center().y() < spot.y()]
        return above[-1] if above else None

    def _goal(self, spot: QPoint, moved: str) -> tuple[str | None, str | None]:
        """The group in which a card lands, and the layer in front of which.

        Under a group's card it lands inside; pulled to the left it leaves the group.
        """
        wrinkle = self._desk.document.state
        above = self._above(spot)
        if above is None:
            return None, front_of(wrinkle, None, moved)
        layer = above.layer
        if isinstance(layer.source, GroupSource) and layer.id != moved:
            inside_from = _GUTTER + above.indent + 10
            if spot.x() > inside_from:
                return layer.id, front_of(wrinkle, layer.id, moved)
        while layer.group is not None:
            card = next(x for x in self.cards if x.layer_id == layer.id)
            if spot.x() > _GUTTER + card.indent - 4:
                break
            layer = wrinkle.layer(layer.group)
        siblings = [x.id for x in within(wrinkle.layers, layer.group) if x.id != moved]
        behind = siblings.index(layer.id) - 1 if layer.id in siblings else len(siblings) - 1
        return layer.group, siblings[behind] if behind >= 0 else None

    def _show_landing(self, spot: QPoint) -> None:
        above = self._above(spot)
        y = above.geometry().bottom() + 3 if above is not None else 1
        group, _ = self._goal(spot, "")
        indent = 0
        if group is not None:
            card = next(x for x in self.cards if x.layer_id == group)
            indent = card.indent + 14
        left = _GUTTER + indent
        self.ground.landing = QRectF(left, y - 1.5, self.ground.width() - left, 3)
        self.ground.update()

    def _drop(self, card: LayerCard, spot: QPoint) -> None:
        self.ground.landing = None
        self.ground.update()
        moved = card.layer_id
        group, over = self._goal(spot, moved)
        if not grouping.may_hold(self._desk.document.state, group, moved):
            self._desk.messages.faulted.emit("A group cannot be put into itself.")
            return
        self._desk.document.edit(
            "order of the layers", lambda w: grouping.place_layer(w, moved, group, over)
        )
