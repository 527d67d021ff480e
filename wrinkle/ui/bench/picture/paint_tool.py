"""Painting a cut-out on the result picture where it is wrong."""

from __future__ import annotations

import cv2
import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QImage, QMouseEvent, QPainter, QPen, QTransform

from wrinkle.core.design.document.masking import PaintedFrame
from wrinkle.core.design.edits import mask_edits
from wrinkle.core.picture.image import Light
from wrinkle.core.picture.placement import Matrix, scaling, translation
from wrinkle.core.picture.vector import Coverage
from wrinkle.core.render.mask_following import grey_png
from wrinkle.core.render.placing import shown_matrix
from wrinkle.ui.desk.parts import Supplying

_OVERLAY = QColor(179, 38, 30, 110)
_RING = QColor("#FFFFFF")


class PaintTool:
    """A soft round brush: adds coverage, or takes it away with Ctrl held."""

    def __init__(self, desk: Supplying) -> None:
        self._desk = desk
        self._coverage: Coverage | None = None
        self._last: QPointF | None = None
        self.pointer: QPointF | None = None

    @property
    def active(self) -> bool:
        """Whether it takes the mouse."""
        return self._desk.looking.mode.painting is not None

    def paint(self, painter: QPainter, area: QRectF) -> None:
        """What is not covered under a red veil, and the brush."""
        coverage = self._now()
        if coverage is not None:
            height, width = coverage.shape
            veil = np.zeros((height, width, 4), np.uint8)
            veil[..., :3] = (30, 38, 179)
            veil[..., 3] = ((1.0 - coverage) * _OVERLAY.alpha()).astype(np.uint8)
            image = QImage(
                veil.tobytes(), width, height, width * 4, QImage.Format.Format_ARGB32
            ).copy()
            painter.save()
            painter.setClipRect(area)
            matrix = self._matrix(area, coverage)
            painter.setTransform(
                QTransform(*(float(matrix[row, column]) for column in range(3) for row in range(3)))
            )
            painter.drawImage(0, 0, image)
            painter.restore()
        if self.pointer is not None:
            painter.setPen(QPen(_RING, 1.2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            radius = self._desk.looking.mode.brush / 200.0 * min(area.width(), area.height())
            painter.drawEllipse(self.pointer, radius, radius)

    @property
    def hint(self) -> str:
        """What can be done, in a line."""
        return "Paint what belongs to it, with Ctrl what does not; the wheel sets the brush."

    def press(self, event: QMouseEvent, area: QRectF) -> None:
        """Begins a stroke."""
        coverage = self._now()
        if coverage is not None:
            self._coverage = coverage.copy()
            self._last = event.position()
            self.move(event, area)

    def move(self, event: QMouseEvent, area: QRectF) -> None:
        """Goes on with the stroke."""
        self.pointer = event.position()
        if self._coverage is None or self._last is None:
            return
        value = 0.0 if event.modifiers() & Qt.KeyboardModifier.ControlModifier else 1.0
        back = np.linalg.inv(self._matrix(area, self._coverage))
        ends = []
        for spot in (self._last, event.position()):
            x, y, depth = back @ (spot.x(), spot.y(), 1.0)
            ends.append((round(x / depth * 16), round(y / depth * 16)))
        width = max(1, round(self._desk.looking.mode.brush / 100.0 * min(self._coverage.shape)))
        stroke = np.zeros(self._coverage.shape, np.uint8)
        cv2.line(stroke, ends[0], ends[1], 255, width, cv2.LINE_AA, 4)
        share = cv2.GaussianBlur(stroke, (0, 0), max(0.5, width / 8)).astype(np.float32) / 255.0
        self._coverage += (np.float32(value) - self._coverage) * share
        self._last = event.position()

    def release(self) -> None:
        """The stroke becomes a step: a new coverage picture of this frame."""
        coverage, self._coverage, self._last = self._coverage, None, None
        desk, goal = self._desk, self._desk.looking.mode.painting
        if coverage is None or goal is None:
            return
        layer, mask = goal
        asset = desk.document.keep_asset("cut-out.png", grey_png(coverage))
        time = desk.looking.time
        old = desk.document.state.layer(layer).mask(mask).painted
        following = [one for one in old if one.time > time]
        frames = [one for one in old if one.time < time]
        frames.append(PaintedFrame(time, asset))
        painted = (*frames, *following)
        desk.document.edit(
            "cut-out painted",
            lambda w: mask_edits.change_mask(w, layer, mask, painted=painted),
        )

    def _now(self) -> Coverage | None:
        """The coverage as it stands, a stroke in work included."""
        if self._coverage is not None:
            return self._coverage
        desk, goal = self._desk, self._desk.looking.mode.painting
        if goal is None:
            return None
        layer, mask = goal
        asset = desk.document.state.layer(layer).mask(mask).painted_at(desk.looking.time)
        picture = desk.material().pictures[asset]
        grey = picture.image(0, picture.size).in_light(Light.ENCODED).pixels[..., 0]
        return np.ascontiguousarray(grey)

    def _matrix(self, area: QRectF, coverage: Coverage) -> Matrix:
        """From pixels of the coverage to the screen."""
        desk, goal = self._desk, self._desk.looking.mode.painting
        frame_size = desk.document.frame_size
        factor = area.width() / frame_size.width
        layer = desk.document.state.layer(goal[0] if goal is not None else desk.looking.layer)
        placed = shown_matrix(desk.document.state, layer, desk.looking.time, frame_size)
        height, width = coverage.shape
        whole: Matrix = (
            translation(area.left(), area.top())
            @ scaling(factor, factor)
            @ placed
            @ scaling(frame_size.width / width, frame_size.height / height)
        )
        return whole
