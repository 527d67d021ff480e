"""Where the points and handles of a path stand on the result picture, and what dragging means."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import Enum
from fractions import Fraction
from functools import cached_property

import numpy as np
from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QPolygonF

from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import ShapeSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import mask_edits
from wrinkle.core.motion.values import parts
from wrinkle.core.picture import paths
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.paths import Knot, Nearest, Outline
from wrinkle.core.picture.placement import Matrix, rotation, scaling, translation
from wrinkle.core.render.placing import shown_matrix

_REACH = 12.0
_NEAR_CURVE = 6.0
_STEM = 34.0
_RIM = 6.0
_TURN_STEP = 15.0
_GHOSTS = 2


class PathGrip(Enum):
    """What of a path is dragged."""

    POINT = "point"
    IN = "incoming handle"
    OUT = "outgoing handle"
    WHOLE = "path"
    TURN = "turn of the path"


@dataclass(frozen=True)
class PathGrasp:
    """A grip that was pressed: where, and of which point."""

    grip: PathGrip
    spot: QPointF
    index: int = -1


@dataclass(frozen=True)
class PathHandles:
    """A path at one frame on the screen.

    Attributes:
        wrinkle, ref: the path's setting.
        time: of the playhead.
        frame_size: the size of the frame in pixels.
        area: where the frame is on the screen.
        keyed: a drag makes the path a lane, so that every step is kept.
    """

    wrinkle: Wrinkle
    ref: SettingRef
    time: Fraction
    frame_size: Size
    area: QRectF
    keyed: bool = False

    @property
    def setting(self) -> Setting:
        """The path's setting."""
        return self.ref.of(self.wrinkle)

    @cached_property
    def outline(self) -> Outline:
        """The path at the playhead, in parts of the layer's frame."""
        return parts(self.setting.at(self.time))

    @cached_property
    def closed(self) -> bool:
        """Whether its end meets its start; masks always do."""
        source = self.wrinkle.layer(self.ref.layer).source
        return not (self.ref.key == "source.path" and isinstance(source, ShapeSource)) or (
            source.closed
        )

    @cached_property
    def curve(self) -> QPolygonF:
        """The path as it is seen at the playhead."""
        return self._curve(self.outline)

    def _curve(self, outline: Outline) -> QPolygonF:
        spots = paths.flattened(outline, self.closed, self._matrix)
        if self.closed:
            spots = np.concatenate([spots, spots[:1]])
        return QPolygonF([QPointF(float(x), float(y)) for x, y in spots])

    def ghosts(self) -> list[tuple[int, QPolygonF]]:
        """The paths of the neighbour frames, by how far they are, where the path moves."""
        if self.setting.track is None:
            return []
        found = []
        for away in (*range(-_GHOSTS, 0), *range(1, _GHOSTS + 1)):
            time = self.time + self.wrinkle.frame_rate.seconds(away)
            if -self.wrinkle.lead <= time < self.wrinkle.tail:
                found.append((away, self._curve(parts(self.setting.at(time)))))
        return found

    def points(self) -> list[QPointF]:
        """The points of the path."""
        return [self._seen(knot.x, knot.y) for knot in self._knots]

    def handles_of(self, index: int) -> list[tuple[PathGrip, QPointF]]:
        """The handles of one point, if it has any."""
        if not 0 <= index < len(self._knots):
            return []
        knot = self._knots[index]
        found = []
        for grip, x, y in (
            (PathGrip.IN, knot.in_x, knot.in_y),
            (PathGrip.OUT, knot.out_x, knot.out_y),
        ):
            if (x, y) != (0.0, 0.0):
                found.append((grip, self._seen(knot.x + x, knot.y + y)))
        return found

    def turn_handle(self) -> QPointF:
        """Above the middle of what is seen of the path."""
        return self._reachable(self.pivot() - QPointF(0.0, _STEM))

    def pivot(self) -> QPointF:
        """The middle of what is seen of the path: it is turned about this spot."""
        seen = self.curve.boundingRect().intersected(self.area)
        return seen.center() if not seen.isEmpty() else self._reachable(self.points()[0])

    def nearest(self, spot: QPointF) -> Nearest:
        """The place on the path nearest to a spot; its distance in pixels of the screen."""
        outline = paths.transformed(self.outline, self._affine)
        return paths.nearest(outline, self.closed, spot.x(), spot.y())

    def grasp(self, spot: QPointF, selected: int | None) -> PathGrasp | None:
        """What is under the pointer; the handles of the selected point come first."""
        for grip, place in self.handles_of(-1 if selected is None else selected):
            if QLineF(place, spot).length() <= _REACH:
                return PathGrasp(grip, spot, selected or 0)
        for index, place in enumerate(self.points()):
            if QLineF(place, spot).length() <= _REACH:
                return PathGrasp(PathGrip.POINT, spot, index)
        if QLineF(self.turn_handle(), spot).length() <= _REACH:
            return PathGrasp(PathGrip.TURN, spot)
        inside = self.curve.containsPoint(spot, Qt.FillRule.OddEvenFill)
        if (self.closed and inside) or self.nearest(spot).distance <= _NEAR_CURVE:
            return PathGrasp(PathGrip.WHOLE, spot)
        return None

    def dragged(self, grasp: PathGrasp, spot: QPointF, alone: bool, stepped: bool) -> Wrinkle:
        """The wrinkle with a grip dragged to a spot.

        Args:
            grasp: what is dragged.
            spot: where to.
            alone: a handle moves without its opposite one.
            stepped: along one axis only, or by steps of 15 degrees.
        """
        if grasp.grip is PathGrip.TURN:
            return self.with_outline(self._turned(grasp, spot, stepped))
        if stepped:
            way = spot - grasp.spot
            level = abs(way.x()) >= abs(way.y())
            kept = QPointF(way.x(), 0.0) if level else QPointF(0.0, way.y())
            spot = grasp.spot + kept
        (x0, y0), (x1, y1) = self._own(grasp.spot), self._own(spot)
        x, y = x1 - x0, y1 - y0
        if grasp.grip is PathGrip.WHOLE:
            return self.with_outline(paths.moved(self.outline, x, y))
        knot = self._knots[grasp.index]
        if grasp.grip is PathGrip.POINT:
            return self._with_knot(grasp.index, knot.moved(x, y))
        if grasp.grip is PathGrip.IN:
            in_x, in_y = knot.in_x + x, knot.in_y + y
            out = (knot.out_x, knot.out_y) if alone else (-in_x, -in_y)
            return self._with_knot(grasp.index, Knot(knot.x, knot.y, in_x, in_y, *out))
        out_x, out_y = knot.out_x + x, knot.out_y + y
        into = (knot.in_x, knot.in_y) if alone else (-out_x, -out_y)
        return self._with_knot(grasp.index, Knot(knot.x, knot.y, *into, out_x, out_y))

    def nudged(self, index: int | None, x: float, y: float) -> Wrinkle:
        """The wrinkle with a point, or the whole path, moved by pixels of the frame."""
        x, y = x / self.frame_size.width, y / self.frame_size.height
        if index is None:
            return self.with_outline(paths.moved(self.outline, x, y))
        return self._with_knot(index, self._knots[index].moved(x, y))

    def _turned(self, grasp: PathGrasp, spot: QPointF, stepped: bool) -> Outline:
        pivot = self.pivot()
        way = QLineF(pivot, spot).angleTo(QLineF(pivot, grasp.spot))
        angle = round(way / _TURN_STEP) * _TURN_STEP if stepped else way
        x, y = self._own(pivot)
        pixels = scaling(*self.frame_size)
        middle = (x * self.frame_size.width, y * self.frame_size.height)
        turn = translation(*middle) @ rotation(angle) @ translation(-middle[0], -middle[1])
        return paths.transformed(self.outline, np.linalg.inv(pixels) @ turn @ pixels)

    def _with_knot(self, index: int, knot: Knot) -> Wrinkle:
        points = list(self._knots)
        points[index] = knot
        return self.with_outline(paths.outline_of(points))

    def with_outline(self, outline: Outline) -> Wrinkle:
        rounded = tuple(round(number, 5) for number in outline)
        return mask_edits.set_path(self.wrinkle, self.ref, self.time, rounded, self.keyed)

    @cached_property
    def _knots(self) -> list[Knot]:
        return paths.knots(self.outline)

    @cached_property
    def _matrix(self) -> Matrix:
        """From parts of the layer's frame to the screen."""
        layer = self.wrinkle.layer(self.ref.layer)
        placed = shown_matrix(self.wrinkle, layer, self.time, self.frame_size)
        factor = self.area.width() / self.frame_size.width
        screen = translation(self.area.left(), self.area.top()) @ scaling(factor, factor)
        whole: Matrix = screen @ placed @ scaling(*self.frame_size)
        return whole

    @cached_property
    def _affine(self) -> Matrix:
        """The same without perspective, taken at the frame's middle."""
        matrix = self._matrix
        if matrix[2, 0] == 0.0 == matrix[2, 1]:
            return np.asarray(matrix / matrix[2, 2])
        middle = np.array([0.5, 0.5, 1.0])
        at = matrix @ middle
        spot = at[:2] / at[2]
        slope = (matrix[:2, :2] - np.outer(spot, matrix[2, :2])) / at[2]
        flat = np.eye(3)
        flat[:2, :2] = slope
        flat[:2, 2] = spot - slope @ middle[:2]
        return flat

    def _seen(self, x: float, y: float) -> QPointF:
        spot = self._matrix @ (x, y, 1.0)
        depth = max(float(spot[2]), 1e-3)
        return QPointF(spot[0] / depth, spot[1] / depth)

    def _own(self, spot: QPointF) -> tuple[float, float]:
        matrix = self._matrix
        if abs(np.linalg.det(matrix)) < 1e-12:
            return 0.0, 0.0
        x, y, depth = np.linalg.solve(matrix, (spot.x(), spot.y(), 1.0))
        return float(x / depth), float(y / depth)

    def _reachable(self, spot: QPointF) -> QPointF:
        area = self.area.adjusted(_RIM, _RIM, -_RIM, -_RIM)
        x = min(max(spot.x(), area.left()), area.right())
        y = min(max(spot.y(), area.top()), area.bottom())
        return QPointF(x, y) if math.isfinite(x) and math.isfinite(y) else area.center()
