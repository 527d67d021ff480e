"""The lines over the result, and the rulers from which guides are dragged."""

from __future__ import annotations

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QPen

from wrinkle.core.picture.image import Size
from wrinkle.ui.desk.picture_lines import Guide, Lines, PictureLines
from wrinkle.ui.theme import small_font

RULER = 14.0
"""How wide the rulers are, in points."""
_REACH = 4.0
_LIGHT, _DARK = QColor(255, 255, 255, 210), QColor(0, 0, 0, 130)
_GUIDE = QColor("#3AA6A0")
_AREAS = (0.9, 0.8)
"""SMPTE ST 2046-1 has 93 and 90 %; on small screens these are common practice."""
_BUTTONS = {"top": 0.07, "right": 0.13, "bottom": 0.2}
"""What players of upright videos cover: common practice, rounded up; no standard says it."""
_BARE = QColor(220, 40, 60, 150)
_COVERED, _HATCH = QColor(20, 60, 58, 110), 14
_TICKS = 40.0


def paint_lines(painter: QPainter, area: QRectF, room: QRectF, lines: PictureLines) -> None:
    """Paints what is shown, over a frame that lies in ``area``."""
    shown = lines.shown
    painter.save()
    painter.setClipRect(room)
    found: list[QLineF] = []
    if Lines.THIRDS in shown:
        found += [_upright(area, x / 3) for x in (1, 2)] + [_level(area, y / 3) for y in (1, 2)]
    if Lines.CENTRE in shown:
        found += [_upright(area, 0.5), _level(area, 0.5)]
    _stroke(painter, found, 1.0)
    if Lines.AREAS in shown:
        for share in _AREAS:
            width, height = area.width() * (1 - share) / 2, area.height() * (1 - share) / 2
            _frame(painter, area.adjusted(width, height, -width, -height))
    if Lines.BUTTONS in shown:
        free = area.adjusted(
            0.0, area.height() * _BUTTONS["top"], -area.width() * _BUTTONS["right"],
            -area.height() * _BUTTONS["bottom"],
        )  # fmt: skip
        _hatch(painter, area, free)
    if Lines.GUIDES in shown:
        painter.setPen(QPen(_GUIDE, 1.4))
        for guide in lines.guides:
            painter.drawLine(line_of(guide, area))
    painter.restore()


def paint_rulers(painter: QPainter, area: QRectF, shape: Size, whole: QRectF) -> None:
    """Along the top and the left of the view, in pixels of the frame."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(40, 40, 40, 200))
    painter.drawRect(QRectF(whole.left(), whole.top(), whole.width(), RULER))
    painter.drawRect(QRectF(whole.left(), whole.top(), RULER, whole.height()))
    painter.setPen(QPen(_LIGHT, 1.0))
    painter.setFont(small_font(painter.font()))
    scale = area.width() / shape.width
    step = next((x for x in (10, 20, 50, 100, 200, 500, 1000) if x * scale >= _TICKS), 2000)
    ticks = []
    for value in range(0, shape.width + 1, step):
        x = area.left() + value * scale
        if whole.left() + RULER < x < whole.right():
            ticks.append(QLineF(x, whole.top() + RULER - 5, x, whole.top() + RULER))
    for value in range(0, shape.height + 1, step):
        y = area.top() + value * scale
        if whole.top() + RULER < y < whole.bottom():
            ticks.append(QLineF(whole.left() + RULER - 5, y, whole.left() + RULER, y))
    if ticks:
        painter.drawLines(*ticks)


def line_of(guide: Guide, area: QRectF) -> QLineF:
    """Where a guide lies on the screen."""
    return _upright(area, guide.share) if guide.upright else _level(area, guide.share)


def guide_under(spot: QPointF, area: QRectF, lines: PictureLines) -> int | None:
    """The number of the guide under the pointer; None where there is none to be seen."""
    if Lines.GUIDES not in lines.shown:
        return None
    for number, guide in enumerate(lines.guides):
        line = line_of(guide, area)
        away = spot.x() - line.x1() if guide.upright else spot.y() - line.y1()
        if abs(away) <= _REACH:
            return number
    return None


def ruler_under(spot: QPointF, lines: PictureLines) -> bool | None:
    """Whether the left ruler (True) or the upper one (False) is under the pointer; None: none."""
    if Lines.GUIDES not in lines.shown:
        return None
    if spot.x() <= RULER:
        return True
    return False if spot.y() <= RULER else None


def guide_at(spot: QPointF, area: QRectF, upright: bool, shape: Size) -> Guide:
    """A guide through a spot, on a whole pixel of the frame."""
    count = shape.width if upright else shape.height
    away = (spot.x() - area.left()) / area.width() if upright else (
        (spot.y() - area.top()) / area.height()
    )  # fmt: skip
    return Guide(upright, round(away * count) / count)


def bare_veil(picture: QImage) -> QImage | None:
    """A red picture of what is clear in another; None where nothing is."""
    if not picture.hasAlphaChannel():
        return None
    veil = QImage(picture.size(), QImage.Format.Format_ARGB32_Premultiplied)
    veil.fill(_BARE)
    painter = QPainter(veil)
    painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_DestinationOut)
    painter.drawImage(0, 0, picture)
    painter.end()
    return veil


def cover_veil(cover: QImage) -> QImage:
    """Hatching over what is covered in another picture; no colour alone has to be told apart."""
    veil = QImage(cover.size(), QImage.Format.Format_ARGB32_Premultiplied)
    veil.fill(_COVERED)
    painter = QPainter(veil)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for colour, width in ((_DARK, 2.6), (_LIGHT, 1.2)):
        painter.setPen(QPen(colour, width))
        for start in range(-veil.height(), veil.width(), _HATCH):
            painter.drawLine(start, veil.height(), start + veil.height(), 0)
    painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_DestinationIn)
    painter.drawImage(0, 0, cover)
    painter.end()
    return veil


def _upright(area: QRectF, share: float) -> QLineF:
    x = area.left() + share * area.width()
    return QLineF(x, area.top(), x, area.bottom())


def _level(area: QRectF, share: float) -> QLineF:
    y = area.top() + share * area.height()
    return QLineF(area.left(), y, area.right(), y)


def _stroke(painter: QPainter, lines: list[QLineF], width: float) -> None:
    # Light on dark, so that they are seen on any picture.
    for colour, wide in ((_DARK, width + 1.6), (_LIGHT, width)):
        painter.setPen(QPen(colour, wide))
        if lines:
            painter.drawLines(*lines)


def _frame(painter: QPainter, area: QRectF) -> None:
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for colour, wide in ((_DARK, 2.6), (_LIGHT, 1.0)):
        painter.setPen(QPen(colour, wide))
        painter.drawRect(area)


def _hatch(painter: QPainter, area: QRectF, free: QRectF) -> None:
    """What lies around the free part, in slanted lines."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(0, 0, 0, 70))
    for part in (
        QRectF(area.left(), area.top(), area.width(), free.top() - area.top()),
        QRectF(area.left(), free.bottom(), area.width(), area.bottom() - free.bottom()),
        QRectF(free.right(), free.top(), area.right() - free.right(), free.height()),
    ):
        painter.drawRect(part)
    painter.setPen(QPen(_LIGHT, 1.0, Qt.PenStyle.DashLine))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(free)
