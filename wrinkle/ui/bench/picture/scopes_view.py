"""Scopes beside the picture: what is in the result, or in the clips, at the playhead."""

from __future__ import annotations

from collections.abc import Callable
from enum import Enum

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QHideEvent, QImage, QPainter, QPaintEvent, QPen, QShowEvent
from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QVBoxLayout, QWidget

from wrinkle.core.measure import scopes
from wrinkle.core.picture.image import Bytes8
from wrinkle.ui.shared.qimages import pixels_of
from wrinkle.ui.text_size import Extent, keep
from wrinkle.ui.theme import SURROUND, active, small_font

PictureNow = Callable[[], QImage | None]
_SHORTEST_MS = 45
"""Between two pictures of a scope: more than fifteen a second, and no more than is seen."""
_LONG_SIDE = 200
"""Pixels that are counted of a picture's longer side: enough for the shape of it."""
_COLUMNS = 200
_GROUND, _GRID, _LIMIT = QColor("#1B1B1B"), QColor(255, 255, 255, 60), QColor(255, 255, 255, 140)
_MARK = QColor("#FFFFFF")
_RED, _GREEN, _BLUE, _WHITE = (255, 80, 70), (90, 230, 110), (90, 140, 255), (220, 220, 215)
_BARS = ((191, 0, 0), (191, 191, 0), (0, 191, 0), (0, 191, 191), (0, 0, 191), (191, 0, 191))
"""Red, yellow, green, cyan, blue and magenta of bars of 75 % (ITU-R BT.471)."""


class Scope(Enum):
    """What is drawn."""

    WAVEFORM = "Waveform"
    PARADE = "Parade"
    VECTORSCOPE = "Vectorscope"
    HISTOGRAM = "Histogram"


class Of(Enum):
    """What of."""

    RESULT = "the result"
    LAYER = "the selected layer"
    OUTGOING = "the outgoing clip"
    INCOMING = "the incoming clip"
    BOTH = "both clips"


class ScopesView(QWidget):
    """Two scopes over each other, each of a kind of its own.

    Signals:
        layerWanted: the picture of the selected layer is counted next; it may be another one now.
    """

    layerWanted = pyqtSignal()

    def __init__(self, sources: dict[Of, PictureNow]) -> None:
        super().__init__()
        self._sources = sources
        self.of = QComboBox()
        self.of.setAccessibleName("Scopes of")
        for one in Of:
            self.of.addItem(one.value, one)
        self.panes = [ScopePane(Scope.WAVEFORM), ScopePane(Scope.VECTORSCOPE)]
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(_SHORTEST_MS)
        self._timer.timeout.connect(self._show_now)
        self.of.activated.connect(lambda: self.refresh())
        keep(self, Extent.WIDTH, 232)
        column = QVBoxLayout(self)
        column.setContentsMargins(4, 4, 4, 4)
        column.setSpacing(4)
        column.addWidget(self.of)
        for pane in self.panes:
            pane.kind.activated.connect(lambda: self._show_now())
            column.addWidget(pane, 1)

    def refresh(self) -> None:
        """The pictures are others; they are counted soon."""
        if self.isVisible() and not self._timer.isActive():
            self._timer.start()

    def point(self, colour: QColor | None) -> None:
        """Marks a colour of the picture."""
        for pane in self.panes:
            pane.mark(colour)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.refresh()

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self._timer.stop()

    def _show_now(self) -> None:
        chosen = self.of.currentData()
        if chosen is Of.LAYER:
            self.layerWanted.emit()
        wanted = (Of.OUTGOING, Of.INCOMING) if chosen is Of.BOTH else (chosen,)
        pictures = []
        for one in wanted:
            picture = self._sources[one]()
            if picture is not None:
                pictures.append(small_picture(picture))
        for pane in self.panes:
            pane.show_pictures(pictures, overlaid=chosen is Of.BOTH)


class ScopePane(QWidget):
    """One scope, with the field that says which."""

    def __init__(self, scope: Scope) -> None:
        super().__init__()
        self.kind = QComboBox()
        self.kind.setAccessibleName("Kind of scope")
        for one in Scope:
            self.kind.addItem(one.value, one)
        self.kind.setCurrentIndex(list(Scope).index(scope))
        self.graph = _Graph()
        row = QHBoxLayout()
        row.addWidget(self.kind)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        column.addLayout(row)
        column.addWidget(self.graph, 1)

    @property
    def scope(self) -> Scope:
        """What is drawn."""
        found: Scope = self.kind.currentData()
        return found

    def show_pictures(self, pictures: list[Bytes8], overlaid: bool) -> None:
        """Counts one picture, or two that are laid over each other in the colours of the sides."""
        self.graph.show_image(self.scope, image_of(self.scope, pictures, overlaid))

    def mark(self, colour: QColor | None) -> None:
        """Marks where a colour is."""
        self.graph.mark(colour)


class _Graph(QWidget):
    """The picture of a scope with its limits."""

    def __init__(self) -> None:
        super().__init__()
        self._scope = Scope.WAVEFORM
        self._image: QImage | None = None
        self._colour: QColor | None = None
        self.setMinimumHeight(90)
        self.setAccessibleName("Scope")

    def show_image(self, scope: Scope, image: QImage | None) -> None:
        self._scope, self._image = scope, image
        self.update()

    def mark(self, colour: QColor | None) -> None:
        if colour != self._colour:
            self._colour = colour
            self.update()

    @property
    def area(self) -> QRectF:
        """Where it is drawn: a square for colours."""
        whole = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        if self._scope is Scope.VECTORSCOPE:
            side = min(whole.width(), whole.height())
            found = QRectF(0, 0, side, side)
            found.moveCenter(whole.center())
            return found
        return whole

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), SURROUND)
        area = self.area
        painter.fillRect(area, _GROUND)
        if self._image is not None:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(area, self._image)
        painter.setFont(small_font(self.font()))
        if self._scope is Scope.VECTORSCOPE:
            self._paint_colours(painter, area)
        else:
            self._paint_levels(painter, area)

    def _paint_levels(self, painter: QPainter, area: QRectF) -> None:
        """Lines at each quarter; what is brighter than white or darker than black cannot be."""
        across = self._scope is Scope.HISTOGRAM
        for share in (0.0, 0.25, 0.5, 0.75, 1.0):
            painter.setPen(QPen(_LIMIT if share in (0.0, 1.0) else _GRID, 1.0))
            if across:
                x = area.left() + share * (area.width() - 1)
                painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()))
            else:
                y = area.bottom() - 1 - share * (area.height() - 2)
                painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y))
        if self._colour is None:
            return
        painter.setPen(QPen(_MARK, 1.4))
        levels = [self._colour.red(), self._colour.green(), self._colour.blue()]
        bright = float(scopes.brightness(np.array([levels], np.uint8))[0])
        for place, level in enumerate(levels if self._scope is Scope.PARADE else [bright]):
            share = level / 255.0
            if across:
                x = area.left() + share * (area.width() - 1)
                painter.drawLine(QPointF(x, area.top()), QPointF(x, area.top() + 8))
                continue
            y = area.bottom() - 1 - share * (area.height() - 2)
            left = area.left() + (place * area.width() / 3 if self._scope is Scope.PARADE else 0.0)
            painter.drawLine(QPointF(left, y), QPointF(left + 10, y))

    def _paint_colours(self, painter: QPainter, area: QRectF) -> None:
        """A box for each bar of 75 %, the axes, and the tone of skin."""
        painter.setPen(QPen(_GRID, 1.0))
        middle = self._spot(area, 0.0, 0.0)
        painter.drawLine(QPointF(area.left(), middle.y()), QPointF(area.right(), middle.y()))
        painter.drawLine(QPointF(middle.x(), area.top()), QPointF(middle.x(), area.bottom()))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for rgb in _BARS:
            spot = self._spot_of(area, rgb)
            painter.setPen(QPen(QColor(*(min(x + 60, 255) for x in rgb)), 1.2))
            painter.drawRect(QRectF(spot.x() - 4, spot.y() - 4, 8, 8))
        painter.setPen(QPen(_GRID, 1.0, Qt.PenStyle.DashLine))
        # The tone of skin of any colour lies near 123° (common practice; from memory).
        angle = np.deg2rad(123.0)
        painter.drawLine(middle, self._spot(area, 0.4 * np.cos(angle), 0.4 * np.sin(angle)))
        if self._colour is not None:
            colour = self._colour
            spot = self._spot_of(area, (colour.red(), colour.green(), colour.blue()))
            painter.setPen(QPen(_MARK, 1.4))
            painter.drawEllipse(spot, 4.0, 4.0)

    def _spot_of(self, area: QRectF, rgb: tuple[int, int, int]) -> QPointF:
        across, up = scopes.colour_difference(np.array([rgb], np.uint8))
        return self._spot(area, float(across[0]), float(up[0]))

    def _spot(self, area: QRectF, across: float, up: float) -> QPointF:
        scale = 255.0 / scopes.LEVELS
        x = area.left() + (0.5 + across * scale) * area.width()
        return QPointF(x, area.bottom() - (0.5 + up * scale) * area.height())


def image_of(scope: Scope, pictures: list[Bytes8], overlaid: bool) -> QImage | None:
    """The picture of a scope; None without a picture.

    Args:
        scope: which one.
        pictures: RGB ``(H, W, 3)``.
        overlaid: whether the two are told apart by the colours of the two sides.
    """
    if not pictures:
        return None
    tints: list[tuple[int, int, int]] = [_WHITE]
    if overlaid:
        theme = active()
        tints = [_rgb(theme.colour(side)) for side in ("outgoing", "incoming")][: len(pictures)]
    made = [_drawn(scope, x, tint, overlaid) for x, tint in zip(pictures, tints, strict=False)]
    light = np.clip(np.sum(made, axis=0), 0.0, 1.0)
    levels = np.ascontiguousarray((light * 255.0).astype(np.uint8))
    height, width = levels.shape[:2]
    return QImage(levels.tobytes(), width, height, 3 * width, QImage.Format.Format_RGB888).copy()


def _drawn(
    scope: Scope, pixels: Bytes8, tint: tuple[int, int, int], overlaid: bool
) -> NDArray[np.float32]:
    if scope is Scope.WAVEFORM:
        return _tinted(scopes.waveform(pixels, _COLUMNS), tint)
    if scope is Scope.VECTORSCOPE:
        return _tinted(scopes.vectorscope(pixels), tint)
    channels = (tint,) * 3 if overlaid else (_RED, _GREEN, _BLUE)
    if scope is Scope.PARADE:
        found = scopes.parade(pixels, _COLUMNS // 3)
        return np.concatenate(
            [_tinted(x, colour) for x, colour in zip(found, channels, strict=True)], axis=1
        )
    counts = scopes.histogram(pixels)
    rows = [counts[0]] if overlaid else list(counts[1:])
    return np.asarray(
        sum(_bars(row, colour) for row, colour in zip(rows, channels, strict=False)), np.float32
    )


def _tinted(counts: scopes.Counts, tint: tuple[int, int, int]) -> NDArray[np.float32]:
    """Counts as light, bright at the top: few are seen too, many do not glare."""
    most = max(float(np.percentile(counts[counts > 0], 99)) if counts.any() else 1.0, 1.0)
    light = np.minimum(np.log1p(counts) / np.log1p(most), 1.0).astype(np.float32)
    colour = np.array(tint, np.float32) / np.float32(255.0)
    return np.asarray(light[::-1, :, None] * colour, np.float32)


def _bars(row: scopes.Counts, tint: tuple[int, int, int]) -> NDArray[np.float32]:
    high = 100
    most = max(float(np.percentile(row, 99)), 1.0)
    filled = np.arange(high)[::-1, None] < np.minimum(row / most, 1.0)[None, :] * high
    colour = np.array(tint, np.float32) / np.float32(255.0)
    return np.asarray(filled[..., None] * colour * np.float32(0.6), np.float32)


def _rgb(colour: QColor) -> tuple[int, int, int]:
    return colour.red(), colour.green(), colour.blue()


def small_picture(picture: QImage) -> Bytes8:
    """What is measured of a picture: ``(H, W, C)``, small enough to be measured at each frame."""
    share = min(1.0, _LONG_SIDE / max(picture.height(), picture.width()))
    size = QSize(max(round(picture.width() * share), 1), max(round(picture.height() * share), 1))
    # No pixel is mixed of others: colours that are not there would be shown.
    return pixels_of(picture.scaled(size, transformMode=Qt.TransformationMode.FastTransformation))
