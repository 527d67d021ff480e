"""Where the handles of a layer stand on the result picture, and what dragging one means."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import Enum
from fractions import Fraction
from functools import cached_property
from itertools import pairwise

import numpy as np
from PyQt6.QtCore import QLineF, QPointF, QRectF

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_edits
from wrinkle.core.motion.track import Keyframe
from wrinkle.core.motion.values import Value, parts
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.placement import IDENTITY, Matrix
from wrinkle.core.render.extent import Box, whole_frame
from wrinkle.core.render.placing import layer_matrix
from wrinkle.ui.desk.picture_lines import Guide

_REACH = 12.0
_SNAP = 7.0
_STEM = 26.0
_RIM = 4.0
_TURN_STEP = 15.0
_SCALE_STEP = 5.0
_SNAP_SPOTS = (0.0, 0.5, 1.0)


class Grip(Enum):
    """What is dragged."""

    MOVE = "position"
    SCALE = "scale"
    TURN = "rotation"
    PATH_PIN = "position pin"


@dataclass(frozen=True)
class Grasp:
    """A grip that was pressed: where, and which keyframe of the path it is."""

    grip: Grip
    spot: QPointF
    index: int = 0


@dataclass(frozen=True)
class Drag:
    """How a drag is meant: Shift takes whole steps, Ctrl switches snapping off."""

    stepped: bool = False
    free: bool = False


@dataclass(frozen=True)
class PictureHandles:
    """The handles of one layer at one frame.

    Attributes:
        wrinkle, layer: what is shown.
        time: of the playhead.
        frame_size: the size that placement is worked out in, in pixels.
        area: where the frame is on the screen.
        guides: lines to which what is dragged jumps.
        box: left, top, right and bottom of what the layer draws, in pixels of the unmoved frame;
            None for all of it.
    """

    wrinkle: Wrinkle
    layer: Layer
    time: Fraction
    frame_size: Size
    area: QRectF
    guides: Sequence[Guide] = ()
    box: Box | None = None

    def corners(self) -> list[QPointF]:
        """Those of what the layer draws, as it is placed."""
        return self._corners

    @cached_property
    def _corners(self) -> list[QPointF]:
        left, top, right, bottom = self.box or whole_frame(self.frame_size)
        spots = ((left, top), (right, top), (right, bottom), (left, bottom))
        return [self._seen(self._matrix, x, y) for x, y in spots]

    def anchor(self) -> QPointF:
        """The point that turning and scaling leave in place."""
        return self._anchor_at(self.time)

    def turn_handle(self) -> QPointF:
        """Outside the middle of the upper edge, within the frame where that is out of sight."""
        first, second, *_ = self.corners()
        middle = (first + second) / 2
        out = QLineF(self.anchor(), middle)
        length = out.length()
        if length < 1.0:
            return self._reachable(middle + QPointF(0.0, -_STEM))
        return self._reachable(middle + QPointF(out.dx(), out.dy()) / length * _STEM)

    def scale_handles(self) -> list[QPointF]:
        """At the corners; those of a picture larger than the frame stay at the frame's edge."""
        return [self._reachable(corner) for corner in self.corners()]

    def path(self) -> list[QPointF]:
        """The way of the anchor over the frames of the window, where it moves at all."""
        if self._track_keys() is None and self.layer.parent is None:
            return []
        rate = self.wrinkle.frame_rate
        return [self._anchor_at(rate.seconds(frame)) for frame in self.wrinkle.frames]

    def path_pins(self) -> list[tuple[int, QPointF]]:
        """The keyframes of the position, by index."""
        keys = self._track_keys() or ()
        return [(index, self._anchor_at(key.time)) for index, key in enumerate(keys)]

    def grasp(self, spot: QPointF) -> Grasp | None:
        """What is under the pointer."""
        for index, pin in self.path_pins():
            if QLineF(pin, spot).length() <= _REACH and self._track_keys() is not None:
                return Grasp(Grip.PATH_PIN, spot, index)
        if QLineF(self.turn_handle(), spot).length() <= _REACH:
            return Grasp(Grip.TURN, spot)
        if any(QLineF(corner, spot).length() <= _REACH for corner in self.scale_handles()):
            return Grasp(Grip.SCALE, spot)
        return Grasp(Grip.MOVE, spot) if _inside(self.corners(), spot) else None

    def dragged(self, grasp: Grasp, spot: QPointF, how: Drag) -> Wrinkle:
        """The wrinkle with the grip dragged to a spot.

        Raises:
            InputError: the value would leave the setting's range.
        """
        if grasp.grip is Grip.TURN:
            return self._set("rotation", self._turned(grasp, spot, how))
        if grasp.grip is Grip.SCALE:
            return self._set("scale", self._scaled(grasp, spot, how))
        ref = SettingRef(self.layer.id, "position")
        keys = self._track_keys()
        if grasp.grip is Grip.PATH_PIN and keys is not None:
            key = keys[grasp.index]
            value = self._moved(key.value, self._anchor_at(key.time), grasp, spot, how)
            return lane_edits.move_key(self.wrinkle, ref, grasp.index, key.time, value)
        old = self.layer.placement.position.at(self.time)
        return self._set("position", self._moved(old, self.anchor(), grasp, spot, how))

    def _reachable(self, spot: QPointF) -> QPointF:
        area = self.area.adjusted(_RIM, _RIM, -_RIM, -_RIM)
        return QPointF(
            min(max(spot.x(), area.left()), area.right()),
            min(max(spot.y(), area.top()), area.bottom()),
        )

    def _set(self, key: str, value: Value) -> Wrinkle:
        return lane_edits.set_value(self.wrinkle, SettingRef(self.layer.id, key), self.time, value)

    def _moved(self, old: Value, anchor: QPointF, grasp: Grasp, spot: QPointF, how: Drag) -> Value:
        """The position, snapped so that the anchor lands on the frame's edges or middles."""
        goal = anchor + spot - grasp.spot
        if how.stepped:
            way = goal - anchor
            level = abs(way.x()) >= abs(way.y())
            goal = QPointF(goal.x(), anchor.y()) if level else QPointF(anchor.x(), goal.y())
        if not how.free:
            goal = self._snapped(goal)
        way = goal - anchor
        parent = self._parent_matrix()[:2, :2]
        moved = np.linalg.solve(parent, np.array([way.x(), way.y()]) / self._factor)
        x, y = parts(old)[0], parts(old)[-1]
        return (
            round(x + float(moved[0]) / self.frame_size.width, 4),
            round(y + float(moved[1]) / self.frame_size.height, 4),
        )

    def _snapped(self, spot: QPointF) -> QPointF:
        x, y = spot.x(), spot.y()
        across = [*_SNAP_SPOTS, *(x.share for x in self.guides if x.upright)]
        down = [*_SNAP_SPOTS, *(x.share for x in self.guides if not x.upright)]
        for share in across:
            upright = self.area.left() + share * self.area.width()
            x = upright if abs(upright - spot.x()) <= _SNAP else x
        for share in down:
            level = self.area.top() + share * self.frame_size.height * self._factor
            y = level if abs(level - spot.y()) <= _SNAP else y
        return QPointF(x, y)

    def _turned(self, grasp: Grasp, spot: QPointF, how: Drag) -> float:
        anchor = self.anchor()
        old = parts(self.layer.placement.rotation.at(self.time))[0]
        # QLineF counts angles anticlockwise; the placement counts clockwise.
        way = QLineF(anchor, spot).angleTo(QLineF(anchor, grasp.spot))
        turned = old + (way if way <= 180.0 else way - 360.0)
        step = _TURN_STEP if how.stepped else 45.0
        nearest = round(turned / step) * step
        if how.stepped or (not how.free and abs(turned - nearest) < 2.0):
            return nearest
        return round(turned, 1)

    def _scaled(self, grasp: Grasp, spot: QPointF, how: Drag) -> Value:
        anchor = self.anchor()
        before = max(QLineF(anchor, grasp.spot).length(), 1.0)
        factor = QLineF(anchor, spot).length() / before
        x, y = (part * factor for part in parts(self.layer.placement.scale.at(self.time)))
        step = _SCALE_STEP if how.stepped else 100.0
        nearest = round(x / step) * step
        if (how.stepped or (not how.free and abs(x - nearest) < 1.5)) and nearest and x:
            x, y = nearest, y * nearest / x
        return (round(x, 1), round(y, 1))

    def _track_keys(self) -> tuple[Keyframe, ...] | None:
        track = self.layer.placement.position.track
        return track.keys if track is not None else None

    def _anchor_at(self, time: Fraction) -> QPointF:
        anchor = parts(self.layer.placement.anchor.at(time))
        if time == self.time:
            matrix = self._matrix
        else:
            matrix = layer_matrix(self.wrinkle, self.layer, time, time, self.frame_size)
        return self._seen(
            matrix, anchor[0] * self.frame_size.width, anchor[1] * self.frame_size.height
        )

    @cached_property
    def _matrix(self) -> Matrix:
        return layer_matrix(self.wrinkle, self.layer, self.time, self.time, self.frame_size)

    def _parent_matrix(self) -> Matrix:
        if self.layer.parent is None:
            return IDENTITY
        parent = self.wrinkle.layer(self.layer.parent)
        return layer_matrix(self.wrinkle, parent, self.time, self.time, self.frame_size)

    def _seen(self, matrix: Matrix, x: float, y: float) -> QPointF:
        """A point of the layer's frame on the screen."""
        spot = matrix @ (x, y, 1.0)
        depth = max(float(spot[2]), 1e-3)
        return self.area.topLeft() + QPointF(spot[0] / depth, spot[1] / depth) * self._factor

    @property
    def _factor(self) -> float:
        """Pixels on the screen for one pixel of the frame."""
        return self.area.width() / self.frame_size.width


def _inside(corners: list[QPointF], spot: QPointF) -> bool:
    """Whether a spot lies in the four-cornered shape: on one side of all its edges."""
    sides = []
    for start, end in zip(corners, corners[1:] + corners[:1], strict=True):
        edge, way = end - start, spot - start
        sides.append(edge.x() * way.y() - edge.y() * way.x())
    return all(side >= 0.0 for side in sides) or all(side <= 0.0 for side in sides)


def length_of(path: list[QPointF]) -> float:
    """The length of a way in pixels."""
    return sum(QLineF(start, end).length() for start, end in pairwise(path))
