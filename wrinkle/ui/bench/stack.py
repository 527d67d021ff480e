"""The stack: the layers as cards, front-most at the top."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QMenu,
    QScrollArea,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design import edits
from wrinkle.core.design.document import (
    FillSource,
    PictureSource,
    SlotSource,
    Source,
    TreatmentSource,
)
from wrinkle.core.errors import InputError
from wrinkle.ui.bench.card import LayerCard
from wrinkle.ui.session import Session
from wrinkle.ui.theme import active

PICTURE_FILTER = "Pictures (*.png *.jpg *.jpeg *.webp *.tif *.tiff)"


class _Cards(QWidget):
    """The ground under the cards; shows where a pulled card would land."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("ground")
        self.landing: int | None = None

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self.landing is not None:
            painter = QPainter(self)
            painter.fillRect(
                QRectF(0, self.landing - 1.5, self.width(), 3), active().colour("seam")
            )


class Stack(QWidget):
    """The right side of the Bench."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._session = session
        self.cards: list[LayerCard] = []
        heading = QLabel("Stack")
        heading.setObjectName("heading")
        self.add_button = QToolButton()
        self.add_button.setObjectName("add")
        self.add_button.setText("Add layer")
        self.add_button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.add_button.setMenu(self.add_menu())
        top = QHBoxLayout()
        top.addWidget(heading)
        top.addStretch(1)
        top.addWidget(self.add_button)
        self._ground = _Cards()
        self._column = QVBoxLayout(self._ground)
        self._column.setContentsMargins(0, 0, 4, 0)
        self._column.setSpacing(6)
        self._column.addStretch(1)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setWidget(self._ground)
        self._empty = QLabel("No layer yet. Add the clips, or a treatment that acts on both.")
        self._empty.setObjectName("quiet")
        self._empty.setWordWrap(True)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 8, 8, 8)
        layout.addLayout(top)
        layout.addWidget(self._empty)
        layout.addWidget(scroll, 1)
        session.workChanged.connect(self.refresh)
        session.selectionChanged.connect(self.refresh)
        session.playheadChanged.connect(self.refresh)
        self.refresh()

    def add_menu(self) -> QMenu:
        """The kinds of layers."""
        menu = QMenu(self)
        for label, source in (
            ("Treatment", TreatmentSource()),
            ("Fill", FillSource()),
            ("Outgoing clip", SlotSource("outgoing")),
            ("Incoming clip", SlotSource("incoming")),
        ):
            action = menu.addAction(label)
            if action is not None:
                action.triggered.connect(
                    lambda checked, name=label, kind=source: self.add(name, kind)
                )
        picture = menu.addAction("Picture…")
        if picture is not None:
            picture.triggered.connect(self.choose_picture)
        return menu

    def add(self, name: str, source: Source) -> None:
        """Adds a layer in front and selects it."""
        session = self._session
        if session.edit(f"{name} added", lambda w: edits.add_layer(w, name, source)):
            session.select_layer(session.wrinkle.layers[-1].id)

    def choose_picture(self) -> None:
        """Asks for a picture and adds it as a layer."""
        name, _ = QFileDialog.getOpenFileName(self, "Choose a picture", "", PICTURE_FILTER)
        if name:
            self.add_picture(Path(name))

    def add_picture(self, path: Path) -> None:
        """Adds a picture file as a layer; its bytes go with the wrinkle."""
        try:
            asset = self._session.keep_asset(path.name, path.read_bytes())
        except InputError as fault:
            self._session.faulted.emit(str(fault))
        except OSError as fault:
            self._session.faulted.emit(f"{path.name} cannot be opened: {fault.strerror}.")
        else:
            self.add(path.stem, PictureSource(asset))

    def refresh(self) -> None:
        """Shows the session's state; cards are made anew only when the layers are others."""
        session = self._session
        wanted = [(x.id, x.id == session.layer) for x in reversed(session.wrinkle.layers)]
        if wanted != [(card.layer_id, card.unfolded) for card in self.cards]:
            self._make_cards(wanted)
        self._empty.setVisible(not wanted)
        self._refresh_cards()

    def _refresh_cards(self) -> None:
        for card in self.cards:
            card.refresh()

    def _make_cards(self, wanted: list[tuple[str, bool]]) -> None:
        for card in self.cards:
            self._column.removeWidget(card)
            card.hide()
            card.deleteLater()
        self.cards = [LayerCard(self._session, name, unfolded) for name, unfolded in wanted]
        for place, card in enumerate(self.cards):
            card.dragged.connect(self._show_landing)
            card.dropped.connect(lambda y, card=card: self._drop(card, y))
            self._column.insertWidget(place, card)

    def _place_at(self, y: int) -> int:
        """How many cards stand above a height."""
        return sum(card.geometry().center().y() < y for card in self.cards)

    def _show_landing(self, y: int) -> None:
        place = self._place_at(y)
        below = self.cards[place].geometry().top() if place < len(self.cards) else None
        self._ground.landing = (
            below - 3 if below is not None else self.cards[-1].geometry().bottom() + 3
        )
        self._ground.update()

    def _drop(self, card: LayerCard, y: int) -> None:
        self._ground.landing = None
        self._ground.update()
        above = self._place_at(y)
        others = [x for x in self.cards if x is not card]
        before = sum(self.cards.index(x) < above for x in others)
        place = len(others) - before
        moved = card.layer_id
        self._session.edit("order of the layers", lambda w: edits.move_layer(w, moved, place))
