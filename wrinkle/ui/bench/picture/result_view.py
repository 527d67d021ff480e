"""The result picture with the handles of the selected layer and its way over the frames."""

from __future__ import annotations

from contextlib import suppress
from fractions import Fraction
from functools import partial

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QDragEnterEvent,
    QDropEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
    QWheelEvent,
)

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.isolating import masks_alone
from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Urgency
from wrinkle.core.picture.image import Size
from wrinkle.core.render.extent import Box, layer_extent
from wrinkle.ui.bench.picture.line_paint import (
    bare_veil,
    cover_veil,
    guide_at,
    guide_under,
    paint_lines,
    paint_rulers,
    ruler_under,
)
from wrinkle.ui.bench.picture.paint_tool import PaintTool
from wrinkle.ui.bench.picture.path_tool import PathTool
from wrinkle.ui.bench.picture.picture_hand import PictureHand
from wrinkle.ui.bench.picture.picture_handles import Drag, Grasp, PictureHandles, length_of
from wrinkle.ui.desk.parts import Trying
from wrinkle.ui.desk.picture_lines import Lines
from wrinkle.ui.pictures.frame_pictures import FramePictures
from wrinkle.ui.pictures.part_pictures import PartPictures
from wrinkle.ui.shared.drops import accept_files, dropped_files
from wrinkle.ui.shared.key_hand import KeyHand
from wrinkle.ui.shared.picture_view import PictureOf, PictureView
from wrinkle.ui.theme import active, small_font

_LIGHT = QColor("#FFFFFF")
_DARK = QColor(0, 0, 0, 150)
_SHORTEST_PATH = 2.0
_LINE_REACH = 12.0
_MASKS, _COVER_SIDE = "masks", 640


class ResultView(PictureView):
    """Shows the result; drags move, scale and turn the selected layer, or edit its paths.

    Signals:
        fileDropped: a file was dropped on the picture.
    """

    fileDropped = pyqtSignal(object)

    def __init__(self, desk: Trying, pictures: FramePictures, picture: PictureOf) -> None:
        super().__init__(picture)
        self._before, self._fault = pictures.before, pictures.fault
        self._desk = desk
        pictures.frameReady.connect(self.frame_came)
        self._shown = True
        self._start: tuple[PictureHandles, Grasp] | None = None
        self._handled: tuple[Wrinkle, object, PictureHandles] | None = None
        """The handles as they stand: the picture is painted far oftener than they move."""
        self._lined: tuple[object, QPixmap] | None = None
        self._split = 0.5
        self._splitting = False
        self._guide: tuple[int, bool] | None = None
        """The guide that is dragged, and whether it is upright."""
        self.masks = PartPictures(desk, Urgency.LOOKED_AT, self)
        self.masks.came.connect(lambda name: self.update())
        self.paths = PathTool(desk)
        self.brush = PaintTool(desk)
        self.setMouseTracking(True)
        self.setAcceptDrops(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Result")
        self.hand = PictureHand(
            desk, self.handles, lambda: self.paths.handles(self.area), self.update
        )
        self._keys = KeyHand(self, self.hand, desk.messages.told.emit)
        for changed in (desk.lines.changed, desk.document.changed, desk.looking.selectionChanged):
            changed.connect(self.update)
            changed.connect(self.ask_masks)
        desk.looking.playheadChanged.connect(self.ask_masks)
        desk.tried.changed.connect(self._forget_handles)

    def show_handles(self, shown: bool) -> None:
        """Shows or hides the handles; while it plays they would be in the way."""
        if shown != self._shown:
            self._shown = shown
            self.update()

    @property
    def _tool_active(self) -> bool:
        return self.paths.active or self.brush.active

    @property
    def shape(self) -> Size:
        """The frame that is designed in, whatever is shown yet."""
        return self._desk.document.frame_size

    def handles(self) -> PictureHandles | None:
        """The handles as they stand now; None without a layer or while they are hidden."""
        desk = self._desk
        if (
            not self._shown
            or not desk.looking.layer
            or desk.looking.plain_shown
            or self._tool_active
        ):
            return None
        wrinkle = desk.document.state
        layer = wrinkle.layer(desk.looking.layer)
        frame = desk.document.frame_size
        guides, time = desk.lines.snapping, desk.looking.time
        wanted = (layer.id, time, frame, self.area, guides)
        kept = self._handled
        if kept is None or kept[0] is not wrinkle or kept[1] != wanted:
            box = self._box(wrinkle, layer.id, time)
            made = PictureHandles(wrinkle, layer, time, frame, self.area, guides, box)
            kept = self._handled = wrinkle, wanted, made
        return kept[2]

    def _forget_handles(self) -> None:
        self._handled = None

    def _box(self, wrinkle: Wrinkle, layer: str, time: Fraction) -> Box | None:
        """Around what a layer draws; None where that cannot be said."""
        with suppress(InputError):
            frame = self._desk.document.frame_size
            return layer_extent(wrinkle, self._desk.material(), layer, time, frame)
        return None

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._fault(self._frame) is not None:
            self._paint_fault(painter)
            return
        self._paint_split(painter)
        self._paint_lines(painter)
        self._paint_picked(painter)
        if self._shown and self.brush.active:
            self.brush.paint(painter, self.area)
            self._paint_hint(painter, self.brush.hint)
            return
        if self._shown and self.paths.active:
            self.paths.paint(painter, self.area)
            self._paint_key_grip(painter)
            self._paint_hint(painter, self.paths.hint)
            return
        handles = self.handles()
        if handles is None:
            return
        try:
            self._paint_path(painter, handles)
            self._paint_frame(painter, handles)
            self._paint_key_grip(painter)
        except InputError:
            # A formula without a value at some frame: the status line says so already.
            return

    def _paint_key_grip(self, painter: QPainter) -> None:
        """A ring about what the keys would carry, where they are used."""
        grip = self.hand.grip if self._keys.in_use else None
        if grip is None:
            return
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for colour, width in ((_DARK, 4.0), (_LIGHT, 2.0)):
            painter.setPen(QPen(colour, width))
            painter.drawEllipse(grip.spot, 10.0, 10.0)

    def _paint_hint(self, painter: QPainter, words: str) -> None:
        """What can be done next, at the foot of the view."""
        painter.setFont(small_font(self.font()))
        flags = int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap)
        room = QRectF(self.rect()).adjusted(8, 0, -8, -6)
        needed = painter.boundingRect(room, flags, words)
        needed.moveBottom(room.bottom() - 4.0)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(0, 0, 0, 190))
        painter.drawRoundedRect(needed.adjusted(-8, -4, 8, 4), 4.0, 4.0)
        painter.setPen(_LIGHT)
        painter.drawText(needed, flags, words)

    def _paint_lines(self, painter: QPainter) -> None:
        lines = self._desk.lines
        if not lines.shown:
            return
        area, playing = self.area, self._desk.looking.playing
        if Lines.ONION in lines.shown and not playing:
            # The nearer a frame is, the more of it is seen.
            for away, share in ((2, 0.12), (1, 0.22)):
                for frame in (self._frame - away, self._frame + away):
                    picture = self._picture(frame)
                    if picture is not None:
                        painter.setOpacity(share)
                        painter.drawImage(area, picture)
            painter.setOpacity(1.0)
        if Lines.MASKS in lines.shown and not playing:
            cover = self.masks.picture(_MASKS)
            if cover is not None:
                painter.drawImage(area, cover_veil(cover))
        if Lines.BARE in lines.shown:
            picture = self._picture(self._frame)
            veil = bare_veil(picture) if picture is not None else None
            if veil is not None:
                painter.drawImage(area, veil)
        painter.drawPixmap(0, 0, self._overlay(area))

    def _overlay(self, area: QRectF) -> QPixmap:
        """The lines and rulers on clear ground: the picture below changes far oftener."""
        lines, sharpness = self._desk.lines, self.devicePixelRatioF()
        look = area, self.size(), lines.shown, lines.guides, self.shape, sharpness
        if self._lined is None or self._lined[0] != look:
            drawn = QPixmap(self.size() * sharpness)
            drawn.setDevicePixelRatio(sharpness)
            drawn.fill(Qt.GlobalColor.transparent)
            painter, room = QPainter(drawn), QRectF(self.rect())
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setFont(self.font())
            paint_lines(painter, area, room, lines)
            if Lines.GUIDES in lines.shown:
                paint_rulers(painter, area, self.shape, room)
            painter.end()
            self._lined = look, drawn
        return self._lined[1]

    def ask_masks(self) -> None:
        """Asks for what the masks of the selected layer cover, where that is to be seen."""
        desk = self._desk
        layers = desk.document.state.layers
        masked = any(x.id == desk.looking.layer and x.masks for x in layers)
        wanted = Lines.MASKS in desk.lines.shown and masked and not desk.looking.playing
        if not wanted:
            self.masks.forget()
            return
        parts = {_MASKS: partial(masks_alone, layer_id=desk.looking.layer)}
        shown = desk.shown(desk.document.frame_size.within(_COVER_SIDE))
        self.masks.ask(shown, parts, desk.looking.playhead)

    def _takes_guide(self, event: QMouseEvent) -> bool:
        """Begins to drag a guide, out of a ruler or where it stands; gives whether it did."""
        lines, spot = self._desk.lines, event.position()
        ruler = ruler_under(spot, lines)
        if ruler is not None:
            self._guide = (-1, ruler)
            return True
        number = guide_under(spot, self.area, lines)
        if number is None:
            return False
        self._guide = (number, lines.guides[number].upright)
        return True

    def _moves_guide(self, event: QMouseEvent) -> bool:
        if self._guide is None:
            return False
        number, upright = self._guide
        guide = guide_at(event.position(), self.area, upright, self.shape)
        instead = number if number >= 0 else None
        self._guide = (self._desk.lines.put_guide(guide, instead), upright)
        return True

    @property
    def split_line(self) -> float | None:
        """Where the line between before and after stands, in pixels; None without one."""
        if self._before(self._frame) is None:
            return None
        return self.area.left() + self._split * self.area.width()

    def _paint_fault(self, painter: QPainter) -> None:
        """Says on the frame itself why it is not as it was asked for."""
        fault, area = self._fault(self._frame), self.area
        painter.fillRect(area, QColor(0, 0, 0, 170))
        painter.setPen(QPen(active().colour("seam"), 3.0))
        painter.drawRect(area.adjusted(1.5, 1.5, -1.5, -1.5))
        painter.setPen(_LIGHT)
        painter.setFont(small_font(self.font(), bold=True))
        flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
        painter.drawText(area.adjusted(16, 16, -16, -16), int(flags), fault)

    def _paint_split(self, painter: QPainter) -> None:
        """The picture before the effects at the left of the line."""
        before, line, area = self._before(self._frame), self.split_line, self.area
        if before is None or line is None:
            return
        painter.save()
        painter.setClipRect(QRectF(area.topLeft(), QPointF(line, area.bottom())))
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(area, before)
        painter.restore()
        for colour, width in ((_DARK, 3.0), (_LIGHT, 1.4)):
            painter.setPen(QPen(colour, width))
            painter.drawLine(QPointF(line, area.top()), QPointF(line, area.bottom()))
        middle = QPointF(line, area.bottom() - 24.0)
        painter.setPen(QPen(_DARK, 1.0))
        painter.setBrush(_LIGHT)
        painter.drawEllipse(middle, 7.0, 7.0)
        painter.setBrush(_DARK)
        painter.setPen(Qt.PenStyle.NoPen)
        # A button, sewn on: two holes.
        for side in (-2.2, 2.2):
            painter.drawEllipse(middle + QPointF(side, 0.0), 1.3, 1.3)
        painter.setFont(small_font(self.font(), bold=True))
        kept = self._desk.looking.kept.chosen
        words = ("before", "after") if kept is None else (kept.word, "now")
        for word, side in zip(
            words, (Qt.AlignmentFlag.AlignRight, Qt.AlignmentFlag.AlignLeft), strict=True
        ):
            left = line - 74.0 if side is Qt.AlignmentFlag.AlignRight else line + 14.0
            room = QRectF(left, middle.y() - 8.0, 60.0, 16.0)
            painter.setPen(_DARK)
            painter.drawText(room.translated(1.0, 1.0), side, word)
            painter.setPen(_LIGHT)
            painter.drawText(room, side, word)

    def _paint_frame(self, painter: QPainter, handles: PictureHandles) -> None:
        corners, turn = handles.corners(), handles.turn_handle()
        stem = QPolygonF([(corners[0] + corners[1]) / 2, turn])
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for colour, width in ((_DARK, 3.0), (_LIGHT, 1.2)):
            pen = QPen(colour, width)
            pen.setDashPattern([6 / width, 4 / width])
            painter.setPen(pen)
            painter.drawPolygon(QPolygonF(corners))
            painter.drawPolyline(stem)
        painter.setPen(QPen(_DARK, 1.0))
        painter.setBrush(_LIGHT)
        for grip in handles.scale_handles():
            painter.drawEllipse(grip, 4.0, 4.0)
        painter.setBrush(active().colour("outgoing"))
        painter.drawEllipse(turn, 5.0, 5.0)
        anchor = handles.anchor()
        painter.setPen(QPen(_LIGHT, 1.4))
        painter.drawLine(anchor - QPointF(6, 0), anchor + QPointF(6, 0))
        painter.drawLine(anchor - QPointF(0, 6), anchor + QPointF(0, 6))

    def _paint_path(self, painter: QPainter, handles: PictureHandles) -> None:
        """The way before the seam in rust, after it in teal, a dot for each frame."""
        path = handles.path()
        if length_of(path) < _SHORTEST_PATH:
            return
        before = -handles.wrinkle.first_frame
        theme = active()
        for role, part in (("outgoing", path[: before + 1]), ("incoming", path[before:])):
            painter.setPen(QPen(theme.colour(role), 1.6))
            painter.setBrush(theme.colour(role))
            painter.drawPolyline(QPolygonF(part))
            for spot in part:
                painter.drawEllipse(spot, 1.6, 1.6)
        painter.setPen(QPen(_LIGHT, 1.4))
        for _, pin in handles.path_pins():
            painter.setBrush(theme.colour("seam"))
            painter.drawEllipse(pin, 5.0, 5.0)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self.begins_picking(event) or self.begins_moving(event):
            return
        if event.button() != Qt.MouseButton.LeftButton:
            return
        line = self.split_line
        if line is not None and abs(event.position().x() - line) <= _LINE_REACH:
            self._splitting = True
            return
        if not self._tool_active and self._takes_guide(event):
            return
        if self._tool_active:
            tool = self.brush if self.brush.active else self.paths
            tool.press(event, self.area)
            self.update()
            return
        handles = self.handles()
        if handles is None:
            return
        grasp = handles.grasp(event.position())
        self._start = (handles, grasp) if grasp is not None else None

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and (self.picks(event) or self.moves(event)):
            return
        if event is not None and self._moves_guide(event):
            return
        if event is not None and self._splitting:
            share = (event.position().x() - self.area.left()) / self.area.width()
            self._split = min(max(share, 0.0), 1.0)
            self.update()
            return
        if event is not None and self.brush.active:
            self.brush.move(event, self.area)
            self.update()
            return
        if event is not None and self.paths.active:
            self.paths.move(event)
            self.update()
            return
        if event is None or self._start is None:
            return
        handles, grasp = self._start
        keys = event.modifiers()
        how = Drag(
            stepped=bool(keys & Qt.KeyboardModifier.ShiftModifier),
            free=bool(keys & Qt.KeyboardModifier.ControlModifier),
        )
        spot = event.position()
        self._desk.document.preview(lambda wrinkle: handles.dragged(grasp, spot, how))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self.ends_picking() or self.ends_moving():
            return
        self._splitting, self._guide = False, None
        self.brush.release()
        self.paths.release()
        if self._start is not None:
            _, grasp = self._start
            self._start = None
            self._desk.document.edit(f"{grasp.grip.value} on the picture")

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self.paths.active:
            self.paths.double_click(event, self.area)
            self.update()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None and self.brush.active:
            grown = 1.1 if event.angleDelta().y() > 0 else 1 / 1.1
            self._desk.looking.mode.set_brush(self._desk.looking.mode.brush * grown)
        else:
            super().wheelEvent(event)

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        accept_files(event)

    def dropEvent(self, event: QDropEvent | None) -> None:
        for path in dropped_files(event):
            self.fileDropped.emit(path)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and self.paths.active and self.paths.key(event, self.area):
            self.update()
        elif event is not None and event.key() == Qt.Key.Key_Escape and self._start is not None:
            self._start = None
            self._desk.document.abandon()
        else:
            super().keyPressEvent(event)
