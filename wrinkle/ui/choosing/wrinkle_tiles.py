"""Wrinkles as tiles in moving pictures; only those that are seen are fetched and painted."""

from __future__ import annotations

import time
from contextlib import suppress

from PyQt6.QtCore import (
    QAbstractListModel,
    QMimeData,
    QModelIndex,
    QRect,
    QRectF,
    QSize,
    Qt,
    QTimer,
    pyqtSignal,
)
from PyQt6.QtGui import (
    QHideEvent,
    QImage,
    QMouseEvent,
    QPainter,
    QResizeEvent,
    QShowEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import (
    QListView,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
)

from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size
from wrinkle.library.handed_out import as_file
from wrinkle.library.shelf import Shelved
from wrinkle.library.tiles import LONGEST_SIDE, STEPS_A_SECOND
from wrinkle.ui.choosing.tile_strip import TileStrip
from wrinkle.ui.choosing.tile_strips import TileStrips
from wrinkle.ui.less_motion import moves
from wrinkle.ui.shared.drops import dragged
from wrinkle.ui.shared.plain_text import tip
from wrinkle.ui.shared.seam import seam_pen
from wrinkle.ui.text_size import scaled
from wrinkle.ui.theme import SURROUND, active, small_font

_WORDS = 46
_NAME = 24
_MARGIN = 8
_SMALLEST_TILE, _TILE_STEP = 60, 15
_NARROWEST, _NARROW = 132, 96
"""Of a tile, and of a small one: a name must find some room."""


class _Shown(QAbstractListModel):
    """The wrinkles that are listed."""

    def __init__(self) -> None:
        super().__init__()
        self.found: list[Shelved] = []
        self.favourites: frozenset[str] = frozenset()

    def show(self, found: list[Shelved]) -> None:
        """Lists other wrinkles."""
        self.beginResetModel()
        self.found = found
        self.endResetModel()

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return len(self.found)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        one = self.found[index.row()]
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            return one.name
        if role == Qt.ItemDataRole.ToolTipRole:
            about = one.wrinkle.about if one.wrinkle is not None else one.fault
            return tip(f"{one.name}: {about}" if about else one.name)
        return None

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        return super().flags(index) | Qt.ItemFlag.ItemIsDragEnabled

    def mimeTypes(self) -> list[str]:
        return ["text/uri-list"]

    def mimeData(self, indexes: object) -> QMimeData:
        rows = [x.row() for x in indexes if isinstance(x, QModelIndex)]  # type: ignore[attr-defined]
        chosen = [self.found[row] for row in rows]
        files = []
        for one in chosen:
            # What cannot be read is dragged within the window alone.
            with suppress(InputError):
                files.append(as_file(one))
        return dragged([one.path for one in chosen], files)


class WrinkleTiles(QListView):
    """The grid of tiles.

    Args:
        strips: gives their pictures.
        side: of a picture, in pixels, where it is shown smaller than it is made.

    Signals:
        pointed: another wrinkle is selected, or none.
        taken: one was double-clicked, or Return was pressed.
    """

    pointed = pyqtSignal()
    taken = pyqtSignal()

    def __init__(self, strips: TileStrips, side: int = LONGEST_SIDE) -> None:
        super().__init__()
        self.strips = strips
        self.side = side
        self.all_play = True
        self._hovered = -1
        self._since = time.monotonic()
        self._shown = _Shown()
        self.setModel(self._shown)
        self.setItemDelegate(_Painter(self))
        self.setViewMode(QListView.ViewMode.IconMode)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.setMovement(QListView.Movement.Static)
        self.setUniformItemSizes(True)
        self.setSelectionMode(QListView.SelectionMode.ExtendedSelection)
        self.setDragEnabled(True)
        self.setMouseTracking(True)
        self.setSpacing(2)
        self.setObjectName("tiles")
        self.setAccessibleName("Wrinkles")
        self.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.activated.connect(lambda index: self.taken.emit())
        selection = self.selectionModel()
        if selection is not None:
            selection.currentChanged.connect(lambda now, before: self.pointed.emit())
            selection.selectionChanged.connect(lambda now, before: self.pointed.emit())
        strips.came.connect(lambda key: self.viewport_update())
        self._timer = QTimer(self)
        self._timer.setInterval(round(1000 / STEPS_A_SECOND))
        self._timer.timeout.connect(self._tick)

    def show_wrinkles(self, found: list[Shelved], favourites: frozenset[str]) -> None:
        """Lists wrinkles; the selected one stays so, if it is among them."""
        before = self.current
        self.strips.drop_waiting()
        self._shown.favourites = favourites
        self._shown.show(found)
        keys = [one.key for one in found]
        if before is not None and before.key in keys:
            self.point_at(before.key)
        elif found:
            self.setCurrentIndex(self._shown.index(0))
        else:
            self.pointed.emit()

    @property
    def found(self) -> list[Shelved]:
        """The wrinkles that are listed."""
        return self._shown.found

    @property
    def favourites(self) -> frozenset[str]:
        """The keys of those that are marked."""
        return self._shown.favourites

    @property
    def current(self) -> Shelved | None:
        """The selected wrinkle."""
        row = self.currentIndex().row()
        return self._shown.found[row] if 0 <= row < len(self._shown.found) else None

    @property
    def selected(self) -> list[Shelved]:
        """All selected wrinkles."""
        rows = sorted({index.row() for index in self.selectedIndexes()})
        return [self._shown.found[row] for row in rows]

    def point_at(self, key: str) -> None:
        """Selects a wrinkle, if it is listed."""
        for row, one in enumerate(self._shown.found):
            if one.key == key:
                self.setCurrentIndex(self._shown.index(row))
                return

    def plays(self, row: int) -> bool:
        """Whether a tile moves now."""
        if not moves(self):
            return False
        calm = self.all_play and not self.strips.waiting
        return calm or row == self._hovered

    def step(self, count: int) -> int:
        """Which of so many pictures is shown now."""
        return int((time.monotonic() - self._since) * STEPS_A_SECOND) % max(count, 1)

    def reshape(self) -> None:
        """The pictures have another shape."""
        self.scheduleDelayedItemsLayout()
        self.viewport_update()

    def shared_out(self, width: int) -> int:
        """The width of a tile with which the columns fill the place."""
        view, gap = self.viewport(), 2 * self.spacing()
        room = (view.width() if view is not None else self.width()) - gap - 1
        columns = max(1, room // (width + gap))
        return max(width, room // columns - gap)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """With Ctrl the tiles become smaller or larger."""
        if event is None or not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            super().wheelEvent(event)
            return
        larger = _TILE_STEP if event.angleDelta().y() > 0 else -_TILE_STEP
        self.side = min(max(self.side + larger, _SMALLEST_TILE), LONGEST_SIDE)
        event.accept()
        self.scheduleDelayedItemsLayout()
        self.viewport_update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.scheduleDelayedItemsLayout()

    def viewport_update(self) -> None:
        """Paints all tiles anew."""
        view = self.viewport()
        if view is not None:
            view.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            self._hovered = self.indexAt(event.position().toPoint()).row()
        super().mouseMoveEvent(event)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self._timer.start()

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self._timer.stop()
        self.strips.drop_waiting()

    def _tick(self) -> None:
        if moves(self) and (self.all_play or self._hovered >= 0):
            self.viewport_update()


class _Painter(QStyledItemDelegate):
    """Paints one tile."""

    def __init__(self, tiles: WrinkleTiles) -> None:
        super().__init__(tiles)
        self._tiles = tiles

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        small = self._tiles.side < LONGEST_SIDE
        width = max(self._scaled.width + 4 + _MARGIN, scaled(_NARROW if small else _NARROWEST))
        if not small:
            width = self._tiles.shared_out(width)
        return QSize(width, self._high(width) + scaled(_NAME if small else _WORDS) + 2 * _MARGIN)

    @property
    def _scaled(self) -> Size:
        """A picture as large as it is shown where all of it is seen."""
        tiles = self._tiles
        return tiles.strips.picture_size.scaled(tiles.side / LONGEST_SIDE)

    def _high(self, width: int) -> int:
        """How high pictures are: they fill the width of a tile."""
        picture, across = self._scaled, width - 4 - _MARGIN
        return min(self._tiles.side, round(picture.height * across / picture.width))

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        if painter is None:
            return
        tiles, theme = self._tiles, active()
        one = tiles.found[index.row()]
        area = option.rect.adjusted(_MARGIN // 2, _MARGIN // 2, -_MARGIN // 2, -_MARGIN // 2)
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        painter.save()
        painter.fillRect(area, theme.colour("selected" if chosen else "ground"))
        high = self._high(option.rect.width())
        picture = QRect(area.left(), area.top(), area.width(), high + 4)
        painter.fillRect(picture, SURROUND)
        self._paint_picture(painter, picture.adjusted(2, 2, -2, -2), one, index.row())
        if chosen:
            painter.setPen(seam_pen())
            painter.drawRect(picture.adjusted(1, 1, -2, -2))
        words = area.adjusted(6, high + 6, -6, -2)
        self._paint_words(painter, words, one)
        painter.restore()

    def _paint_picture(self, painter: QPainter, area: QRect, one: Shelved, row: int) -> None:
        tiles = self._tiles
        fault = tiles.strips.fault(one)
        if fault:
            painter.setPen(Qt.GlobalColor.white)
            flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            painter.setFont(small_font(tiles.font()))
            painter.drawText(area.adjusted(4, 4, -4, -4), int(flags), fault)
            return
        strip = tiles.strips.strip(one)
        if not strip:
            return
        # At rest the frame of the cut is seen, which says most.
        step = tiles.step(len(strip)) if tiles.plays(row) else max(len(strip) // 2 - 1, 0)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        if tiles.side < LONGEST_SIDE:
            self._paint_side_by_side(painter, area, strip, step)
        else:
            image = strip[step]
            painter.drawImage(QRectF(area), image, _covering(area, image))

    def _paint_side_by_side(
        self, painter: QPainter, area: QRect, strip: TileStrip, step: int
    ) -> None:
        """As many upright pictures as there is room for: before, the one that moves, after."""
        shape = strip[step].size()
        wide = max(round(area.height() * shape.width() / shape.height()), 1)
        count = max(1, round(area.width() / (wide + 1)))
        for place in range(count):
            away = place - (count - 1) // 2
            number = min(max(step + away * len(strip) // 6, 0), len(strip) - 1)
            left = area.left() + place * (area.width() + 1) // count
            right = area.left() + (place + 1) * (area.width() + 1) // count - 1
            cell = QRect(left, area.top(), right - left, area.height())
            painter.drawImage(QRectF(cell), strip[number], _covering(cell, strip[number]))

    def _paint_words(self, painter: QPainter, area: QRect, one: Shelved) -> None:
        tiles, theme = self._tiles, active()
        font = tiles.font()
        font.setWeight(font.Weight.DemiBold)
        painter.setFont(font)
        painter.setPen(theme.colour("ink"))
        mark = "✓ " if one.key in tiles.favourites else ""
        name = painter.fontMetrics().elidedText(
            mark + one.name, Qt.TextElideMode.ElideRight, area.width()
        )
        painter.drawText(area, int(Qt.AlignmentFlag.AlignTop), name)
        if tiles.side < LONGEST_SIDE:
            return
        painter.setFont(small_font(tiles.font()))
        painter.setPen(theme.colour("seam" if one.wrinkle is None else "quiet"))
        facts = painter.fontMetrics().elidedText(
            facts_of(one), Qt.TextElideMode.ElideRight, area.width()
        )
        painter.drawText(area.adjusted(0, 20, 0, 0), int(Qt.AlignmentFlag.AlignTop), facts)


def _covering(area: QRect, image: QImage) -> QRectF:
    """The part in the middle of a picture that fills an area of another shape."""
    share = max(area.width() / image.width(), area.height() / image.height())
    width, height = area.width() / share, area.height() / share
    return QRectF((image.width() - width) / 2, (image.height() - height) / 2, width, height)


def facts_of(one: Shelved) -> str:
    """Length, kinds and directions of a wrinkle in a few words."""
    wrinkle = one.wrinkle
    if wrinkle is None:
        return "cannot be read"
    words = [f"{len(wrinkle.frames)} fr", *one.kinds]
    ways = len(wrinkle.directions)
    if ways > 1:
        words.append(f"{ways} ways")
    return " · ".join(words)
