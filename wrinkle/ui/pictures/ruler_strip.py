"""The ruler and the strip of all rendered frames, on the frame axis."""

from __future__ import annotations

import math
from collections.abc import Iterable

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPixmap

from wrinkle.core.picture.image import Size
from wrinkle.core.render.frames import ScreenFrame
from wrinkle.ui.pictures.frame_pictures import FramePictures
from wrinkle.ui.shared.frame_axis import FrameAxis
from wrinkle.ui.shared.frame_canvas import FrameCanvas
from wrinkle.ui.shared.frame_table import Column, FrameModel
from wrinkle.ui.shared.picture_view import frame_label
from wrinkle.ui.shared.qimages import wrapped
from wrinkle.ui.text_size import Extent, keep, scaled
from wrinkle.ui.theme import SURROUND, active, small_font

_NARROWEST = 12.0
_RULER = 20
_STRIP = 58
_MARK = 3
_AROUND = 3
"""Points by which the frame of the playhead stands out from its column."""


class RulerStrip(FrameCanvas):
    """Frame numbers over the rendered frames; pressing and dragging moves the playhead."""

    around = _AROUND

    def __init__(self, pictures: FramePictures) -> None:
        columns = (
            Column("Frame", str),
            Column("Picture", self._state_of),
            Column("To look at", lambda frame: "yes" if frame in self._marks else ""),
        )
        model = FrameModel("Frames", columns, lambda frame: frame, lambda: self.frames)
        super().__init__("Strip of rendered frames", model, scrubs=True)
        self._pictures = pictures
        self._shape = Size(9, 16)
        self._marks: frozenset[int] = frozenset()
        self._scaled: dict[int, tuple[ScreenFrame, tuple[int, int], QPixmap]] = {}
        self._ready: dict[int, bool] = {}
        self._numbered: tuple[object, QPixmap] | None = None
        self._placed: tuple[tuple[FrameAxis, int], list[tuple[int, QRectF]]] | None = None
        keep(self, Extent.HEIGHT, _RULER + _STRIP + 4)
        pictures.frameReady.connect(self._show_picture)
        pictures.progressed.connect(self._show_progress)

    def show_frames(self, first: int, end: int, playhead: int, shape: Size) -> None:
        """Shows the window with the playhead on a frame."""
        if self.set_frames(range(first, end)) or shape != self._shape:
            self._scaled.clear()
            self._shape = shape
            self.update()
            if self.model is not None:
                self.model.refresh()
        self.show_playhead(playhead)
        self._show_progress()

    def show_marks(self, frames: Iterable[int]) -> None:
        """Marks frames on which something is not right."""
        marks = frozenset(frames)
        if marks != self._marks:
            self._marks = marks
            self.update()

    @property
    def marks(self) -> frozenset[int]:
        """The frames that are marked."""
        return self._marks

    def _state_of(self, frame: int) -> str:
        """What is known of a frame's picture, in words."""
        fault = self._pictures.fault(frame)
        return fault or ("ready" if self._pictures.is_ready(frame) else "being made")

    def _show_picture(self, frame: int) -> None:
        """Paints a frame's cell anew."""
        for number, cell in self._cells():
            if number == frame:
                self.update(cell.toAlignedRect())

    def _show_progress(self) -> None:
        """Paints the cells anew whose pictures have become the right ones, or are so no longer."""
        for frame, cell in self._cells():
            if self._ready.get(frame) != self._pictures.is_ready(frame):
                self.update(cell.toAlignedRect())

    def sizeHint(self) -> QSize:
        return QSize(400, self.height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        axis, theme = self.axis, active()
        seen = QRectF(event.rect()) if event is not None else QRectF(self.rect())
        for frame, cell in self._cells():
            if cell.intersects(seen):
                self._paint_frame(painter, frame, cell)
        painter.drawPixmap(0, 0, self._ruler())
        foot = scaled(_RULER + _STRIP) + 1
        for frame in self._marks:
            if axis.first <= frame < axis.end:
                mark = QRectF(axis.x(frame) + 0.5, foot, max(1.0, axis.cell - 1), _MARK)
                painter.fillRect(mark, theme.colour("seam"))
        self.paint_seam(painter)
        if axis.first <= self.playhead < axis.end:
            pen = painter.pen()
            pen.setColor(theme.colour("ink"))
            pen.setStyle(Qt.PenStyle.SolidLine)
            pen.setWidthF(2.0)
            painter.setPen(pen)
            painter.drawRoundedRect(
                QRectF(axis.x(self.playhead), 2, axis.cell, scaled(_RULER + _STRIP)), 2, 2
            )

    def _ruler(self) -> QPixmap:
        """The numbers over the frames, on clear ground: they change far seldomer than the rest."""
        axis, theme, scale = self.axis, active(), self.devicePixelRatioF()
        look = (axis, theme.name, scale, self.font())
        if self._numbered is None or self._numbered[0] != look:
            picture = QPixmap(QSize(self.width(), scaled(_RULER)) * scale)
            picture.setDevicePixelRatio(scale)
            picture.fill(Qt.GlobalColor.transparent)
            painter = QPainter(picture)
            painter.setFont(small_font(self.font(), bold=True))
            step = axis.label_step
            for frame in range(-(-axis.first // step) * step, axis.end, step):
                role = "outgoing_text" if frame < 0 else "incoming_text"
                painter.setPen(theme.colour(role if frame else "ink"))
                area = QRectF(axis.x(frame) + axis.cell / 2 - 40, 0, 80, scaled(_RULER))
                painter.drawText(area, Qt.AlignmentFlag.AlignCenter, frame_label(frame))
            painter.end()
            self._numbered = look, picture
        return self._numbered[1]

    def _cells(self) -> list[tuple[int, QRectF]]:
        axis = self.axis
        top, high = scaled(_RULER), scaled(_STRIP)
        if self._placed is None or self._placed[0] != (axis, top):
            areas = [
                (n, QRectF(axis.x(n) + 0.5, top, axis.x(end) - axis.x(n) - 1, high))
                for n, end in self.cells()
            ]
            self._placed = (axis, top), areas
        return self._placed[1]

    def cells(self) -> list[tuple[int, int]]:
        """Frames that are painted, each with the one after its cell; none reaches over the cut.

        In a long window one stands for several: slices of few pixels show nothing.
        """
        axis = self.axis
        every = max(1, math.ceil(_NARROWEST / axis.cell))
        starts = range(axis.first // every * every, axis.end, every)
        return [(max(n, axis.first), min(n + every, axis.end)) for n in starts]

    def _paint_frame(self, painter: QPainter, frame: int, cell: QRectF) -> None:
        shown = self._pictures.frame(frame)
        # Read after the picture, which may turn out to be gone.
        self._ready[frame] = self._pictures.is_ready(frame)
        if shown is None:
            fault = self._pictures.fault(frame)
            painter.fillRect(cell, active().colour("rule"))
            if fault is not None:
                painter.fillRect(cell, active().colour("seam", 0.45))
            return
        painter.drawPixmap(cell.topLeft(), self._cell(frame, shown, cell))
        if self._pictures.fault(frame) is not None:
            painter.fillRect(cell, active().colour("seam", 0.45))
        elif not self._ready[frame]:
            painter.fillRect(cell, active().colour("panel", 0.45))

    def _cell(self, frame: int, shown: ScreenFrame, cell: QRectF) -> QPixmap:
        """The picture of a frame as its cell shows it; it is scaled once."""
        scale = self.devicePixelRatioF()
        size = (round(cell.width() * scale), round(cell.height() * scale))
        kept = self._scaled.get(frame)
        if kept is not None and kept[0] is shown and kept[1] == size:
            return kept[2]
        pixmap = QPixmap(max(1, size[0]), max(1, size[1]))
        pixmap.setDevicePixelRatio(scale)
        pixmap.fill(SURROUND)
        picture = wrapped(shown)
        # The middle of the picture in the cell's shape: all of its height where it is upright.
        factor = max(cell.width() / picture.width(), cell.height() / picture.height())
        part = QRectF(0, 0, cell.width() / factor, cell.height() / factor)
        part.moveCenter(QPointF(picture.width() / 2, picture.height() / 2))
        painter = QPainter(pixmap)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(QRectF(0, 0, cell.width(), cell.height()), picture, part)
        painter.end()
        self._scaled[frame] = (shown, size, pixmap)
        return pixmap
