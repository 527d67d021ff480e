"""Edits a path on the result picture with the mouse and the keys, and draws new ones."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPen

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.sources import ShapeSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import layer_edits, mask_edits
from wrinkle.core.design.edits.mask_edits import path_ref
from wrinkle.core.picture import paths
from wrinkle.core.picture.paths import Knot, Outline
from wrinkle.core.picture.placement import scaling, translation
from wrinkle.core.render.placing import shown_matrix
from wrinkle.ui.bench.picture.path_handles import PathGrasp, PathGrip, PathHandles
from wrinkle.ui.bench.picture.pen import Pen
from wrinkle.ui.bench.sections.mask_section import add_mask
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.desk.picture_mode import PenGoal
from wrinkle.ui.theme import active

_LIGHT = QColor("#FFFFFF")
_DARK = QColor(0, 0, 0, 150)
_GHOST = QColor(255, 255, 255, 110)
_ON_CURVE = 8.0
_STROKE_OF_LINE = 1.0
_LEAST_CLOSED = 3


class PathTool:
    """What the result picture does while a path is edited or drawn."""

    def __init__(self, desk: Designing) -> None:
        self._desk = desk
        self._start: tuple[PathHandles, PathGrasp] | None = None
        self._pen = Pen()

    @property
    def active(self) -> bool:
        """Whether it takes the mouse."""
        return (
            self._desk.looking.mode.pen is not None or self._desk.looking.mode.outline is not None
        )

    @property
    def hint(self) -> str:
        """What can be done next, in a line or two."""
        points = len(self._pen.knots)
        if self._desk.looking.mode.pen is None:
            return (
                "Drag points or all of it. Double-click the line for one more point, a point for a "
                "corner; Delete takes one out. Escape ends."
            )
        if points == 0:
            return "Press for each corner; press and pull for a curve. Escape gives up."
        if points < _LEAST_CLOSED:
            return "Go on: press for the next point, pull it for a curve."
        return "Press the first point, or Enter, to close it. Escape gives up."

    def handles(self, area: QRectF) -> PathHandles | None:
        """The path that is edited, on the screen."""
        desk = self._desk
        if desk.looking.mode.outline is None or desk.looking.plain_shown:
            return None
        frame_size = desk.document.frame_size
        return PathHandles(
            desk.document.state,
            desk.looking.mode.outline,
            desk.looking.time,
            frame_size,
            area,
            desk.looking.mode.steps_keyed,
        )

    def paint(self, painter: QPainter, area: QRectF) -> None:
        """The path with its points, and the neighbour frames' paths behind it."""
        if self._desk.looking.mode.pen is not None:
            self._paint_pen(painter)
            return
        handles = self.handles(area)
        if handles is None:
            return
        theme = active()
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for away, ghost in handles.ghosts():
            # Light under the colour, so that a ghost is seen on dark pictures too.
            painter.setPen(QPen(_GHOST, 3.0))
            painter.drawPolyline(ghost)
            pen = QPen(theme.colour("outgoing" if away < 0 else "incoming"), 1.6)
            pen.setDashPattern([3.0, 1.5 * abs(away)])
            painter.setPen(pen)
            painter.drawPolyline(ghost)
        for colour, width in ((_DARK, 3.0), (_LIGHT, 1.4)):
            painter.setPen(QPen(colour, width))
            painter.drawPolyline(handles.curve)
        self._paint_points(painter, handles)

    def _paint_points(self, painter: QPainter, handles: PathHandles) -> None:
        theme, selected = active(), self._desk.looking.mode.point
        points = handles.points()
        if selected is not None and selected < len(points):
            for _, place in handles.handles_of(selected):
                painter.setPen(QPen(_LIGHT, 1.0))
                painter.drawLine(points[selected], place)
                painter.setPen(QPen(_DARK, 1.0))
                painter.setBrush(theme.colour("incoming"))
                painter.drawEllipse(place, 3.5, 3.5)
        painter.setPen(QPen(_DARK, 1.0))
        for index, place in enumerate(points):
            painter.setBrush(theme.colour("seam") if index == selected else _LIGHT)
            # A stitch hole: a small round with a dot, unlike the layer's corner grips.
            painter.drawEllipse(place, 4.5, 4.5)
        pivot, turn = handles.pivot(), handles.turn_handle()
        painter.setPen(QPen(_LIGHT, 1.0, Qt.PenStyle.DotLine))
        painter.drawLine(pivot, turn)
        painter.setPen(QPen(_DARK, 1.0))
        painter.setBrush(theme.colour("outgoing"))
        painter.drawEllipse(turn, 5.0, 5.0)

    def _paint_pen(self, painter: QPainter) -> None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for colour, width in ((_DARK, 3.0), (_LIGHT, 1.4)):
            painter.setPen(QPen(colour, width))
            painter.drawPath(self._pen.path())
        painter.setPen(QPen(_DARK, 1.0))
        for index, knot in enumerate(self._pen.knots):
            painter.setBrush(active().colour("seam") if index == 0 else _LIGHT)
            painter.drawEllipse(QPointF(knot.x, knot.y), 4.5, 4.5)

    def press(self, event: QMouseEvent, area: QRectF) -> None:
        """A point of the pen, or the beginning of a drag."""
        if self._desk.looking.mode.pen is not None:
            if self._pen.press(event.position()):
                self.finish(area, True)
            return
        handles = self.handles(area)
        if handles is None:
            return
        grasp = handles.grasp(event.position(), self._desk.looking.mode.point)
        if grasp is None:
            # Beside the path: the layer itself is meant again.
            self._desk.looking.mode.select_outline(None)
            return
        self._start = (handles, grasp)
        if grasp.grip in (PathGrip.WHOLE, PathGrip.TURN):
            self._desk.looking.mode.select_outline(handles.ref)
        else:
            self._desk.looking.mode.select_outline(handles.ref, grasp.index)

    def move(self, event: QMouseEvent) -> None:
        """Shows where the drag would lead."""
        if self._desk.looking.mode.pen is not None:
            self._pen.pointer = event.position()
            if event.buttons() & Qt.MouseButton.LeftButton and self._pen.knots:
                self._pen.pull(event.position())
            return
        if self._start is None or not event.buttons() & Qt.MouseButton.LeftButton:
            return
        handles, grasp = self._start
        keys = event.modifiers()
        alone = bool(keys & Qt.KeyboardModifier.AltModifier)
        stepped = bool(keys & Qt.KeyboardModifier.ShiftModifier)
        spot = event.position()
        self._desk.document.preview(lambda w: handles.dragged(grasp, spot, alone, stepped))

    def release(self) -> None:
        """Makes the drag one step."""
        if self._start is not None:
            _, grasp = self._start
            self._start = None
            self._desk.document.edit(f"{grasp.grip.value} on the picture")

    def double_click(self, event: QMouseEvent, area: QRectF) -> None:
        """On a point: corner or smooth. On the curve: one more point. With the pen: done."""
        self._start = None
        self._desk.document.abandon()
        if self._desk.looking.mode.pen is not None:
            self.finish(area, False)
            return
        handles = self.handles(area)
        if handles is None:
            return
        ref, time = handles.ref, self._desk.looking.time
        grasp = handles.grasp(event.position(), None)
        if grasp is not None and grasp.grip is PathGrip.POINT:
            self._desk.document.edit(
                "corner or smooth", lambda w: mask_edits.convert_point(w, ref, grasp.index, time)
            )
            return
        near = handles.nearest(event.position())
        if near.distance <= _ON_CURVE:
            self._desk.document.edit(
                "point added", lambda w: mask_edits.insert_point(w, ref, near.segment, near.share)
            )
            self._desk.looking.mode.select_outline(ref, near.segment + 1)

    def key(self, event: QKeyEvent, area: QRectF) -> bool:
        """Delete takes the selected point out, Enter ends the pen, Escape gives up."""
        desk = self._desk
        if event.key() == Qt.Key.Key_Escape:
            if self._start is not None:
                self._start = None
                desk.document.abandon()
            elif desk.looking.mode.pen is not None:
                self._pen = Pen()
                desk.looking.mode.draw_outline(None)
            else:
                desk.looking.mode.select_outline(None)
            return True
        if desk.looking.mode.pen is not None and event.key() in (
            Qt.Key.Key_Return,
            Qt.Key.Key_Enter,
        ):
            self.finish(area, False)
            return True
        ref, point = desk.looking.mode.outline, desk.looking.mode.point
        if event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and ref is not None:
            if point is None:
                desk.messages.told.emit("Select a point of the path first.")
            elif desk.document.edit(
                "point removed", lambda w: mask_edits.remove_point(w, ref, point)
            ):
                desk.looking.mode.select_outline(ref)
            return True
        return False

    def finish(self, area: QRectF, closed: bool) -> None:
        """Makes a mask or a shape of what the pen has drawn; a mask is always closed."""
        desk, points = self._desk, self._pen.knots
        self._pen = Pen()
        goal = desk.looking.mode.pen
        desk.looking.mode.draw_outline(None)
        least = _LEAST_CLOSED if goal is PenGoal.MASK or closed else 2
        if len(points) < least:
            desk.messages.told.emit("Too few points for a path; nothing was made.")
            return
        if goal is PenGoal.MASK and desk.looking.layer:
            layer = desk.document.state.layer(desk.looking.layer)
            add_mask(desk, layer.id, self._in_layer(points, area, layer))
        elif goal is PenGoal.SHAPE:
            outline = self._in_layer(points, area, None)
            if desk.document.edit("shape drawn", lambda w: _with_shape(w, outline, closed)):
                desk.looking.select_layer(desk.document.state.layers[-1].id)
                desk.looking.mode.select_outline(path_ref(desk.looking.layer, None))

    def _in_layer(self, points: list[Knot], area: QRectF, layer: Layer | None) -> Outline:
        """What was drawn on the screen, in parts of a layer's frame."""
        desk = self._desk
        frame_size = desk.document.frame_size
        factor = area.width() / frame_size.width
        matrix = translation(area.left(), area.top()) @ scaling(factor, factor)
        if layer is not None:
            placed = shown_matrix(desk.document.state, layer, desk.looking.time, frame_size)
            if placed[2, 0] == 0.0 == placed[2, 1]:
                matrix = matrix @ placed
        matrix = matrix @ scaling(*frame_size)
        back = np.asarray(np.linalg.inv(matrix), np.float64)
        return paths.transformed(paths.outline_of(points), back)


def _with_shape(wrinkle: Wrinkle, outline: Outline, closed: bool) -> Wrinkle:
    """A new shape in front: filled where it is closed, a line where it is open."""
    source = ShapeSource(path=Setting(outline), closed=closed)
    if not closed:
        source = ShapeSource(
            path=Setting(outline),
            closed=False,
            filled=Setting(False),
            stroke=Setting((1.0, 1.0, 1.0)),
            stroke_width=Setting(_STROKE_OF_LINE),
        )
    return layer_edits.add_layer(wrinkle, "Shape", source)
