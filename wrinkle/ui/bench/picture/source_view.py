"""One of the two clips that the wrinkle is tried on: its picture, its strip, its cut."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QDragEnterEvent,
    QDropEvent,
    QImage,
    QMouseEvent,
    QPainter,
    QPaintEvent,
)
from PyQt6.QtWidgets import QSizePolicy, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.motion.track import Side
from wrinkle.core.picture.image import Size
from wrinkle.core.time.timecode import timecode
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.pictures.clip_pictures import ClipPictures
from wrinkle.ui.pictures.source_strip import SourceStrip
from wrinkle.ui.shared.colour_picking import picking_of
from wrinkle.ui.shared.drops import CLIP_FILTER, accept_files, dropped_files
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.theme import SURROUND, make_small

_PICTURE_SIDE = 420


class _Picture(QWidget):
    """The clip's frame at the playhead, or an invitation."""

    clicked = pyqtSignal()

    def __init__(self, side: Side, desk: Supplying, pictures: ClipPictures) -> None:
        super().__init__()
        self._side = side
        self._desk = desk
        self._pictures = pictures
        self._pressed = False
        self.setToolTip(tip(f"Press, or drop a file, to try another {side.value} clip"))
        self.setAccessibleName(f"Picture of the {side.value} clip")
        self.setMinimumSize(96, 96)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        pictures.ready.connect(self.update)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        clip = self._desk.tried.clips.get(self._side.value)
        if clip is None:
            self._paint_invitation(painter)
            return
        area, picture = self.area, self.now()
        if picture is not None:
            painter.drawImage(area, picture)
        elif event is not None:
            painter.fillRect(area, SURROUND.darker(112))

    @property
    def area(self) -> QRectF:
        """Where the picture is."""
        clip = self._desk.tried.clips.get(self._side.value)
        size = clip.source.size if clip is not None else Size(9, 16)
        factor = min(self.width() / size.width, self.height() / size.height)
        area = QRectF(0, 0, size.width * factor, size.height * factor)
        area.moveCenter(QRectF(self.rect()).center())
        return area

    def now(self) -> QImage | None:
        """The picture at the playhead; None without a clip, or while it is read."""
        clip = self._desk.tried.clips.get(self._side.value)
        if clip is None:
            return None
        rate = self._desk.document.state.frame_rate
        frame = self._desk.looking.playhead
        frame = min(frame, -1) if self._side is Side.OUTGOING else max(frame, 0)
        index = clip.source.index_at(clip.cut + rate.seconds(frame))
        size = clip.source.size
        small = size.within(_PICTURE_SIDE)
        return self._pictures.get(clip.source, index, small, True)

    def _paint_invitation(self, painter: QPainter) -> None:
        area = QRectF(self.rect()).adjusted(8, 8, -8, -8)
        pen = painter.pen()
        pen.setColor(QColor("#E9E6DF"))
        pen.setStyle(Qt.PenStyle.DashLine)
        painter.setPen(pen)
        painter.drawRoundedRect(area, 6, 6)
        painter.drawText(
            area.adjusted(8, 8, -8, -8),
            Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap,
            f"Drop the {self._side.value} clip here, or click to choose it",
        )

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Takes a colour of the clip, where one is wanted."""
        picking, picture = picking_of(self), self.now()
        if picking is None or not picking.active or picture is None or event is None:
            self._pressed = True
            return
        area = self.area
        x = int((event.position().x() - area.left()) / area.width() * picture.width())
        y = int((event.position().y() - area.top()) / area.height() * picture.height())
        picking.take(picture.pixelColor(x, y) if picture.rect().contains(x, y) else None)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """A press on the picture chooses another clip, whether there is one or not."""
        left = event is not None and event.button() == Qt.MouseButton.LeftButton
        if left and self._pressed and self.rect().contains(event.position().toPoint()):  # type: ignore[union-attr]
            self.clicked.emit()
        self._pressed = False


class SourceView(QWidget):
    """The outgoing or the incoming clip on the Bench."""

    def __init__(self, side: Side, desk: Supplying, pictures: ClipPictures) -> None:
        super().__init__()
        self._side = side
        self._desk = desk
        self._shown: object = None
        self.setAcceptDrops(True)
        self._title = QToolButton()
        self._title.setToolTip(tip(f"Choose another {side.value} clip"))
        self._title.setStyleSheet(
            "QToolButton { color: #FFFFFF; } QToolButton:hover { color: #000; }"
        )
        self._title.clicked.connect(self.choose)
        self.picture = _Picture(side, desk, pictures)
        self.picture.clicked.connect(self.choose)
        self.strip = SourceStrip(side, pictures)
        self._caption = PlainLabel()
        self._caption.setWordWrap(True)
        self._caption.setAlignment(Qt.AlignmentFlag.AlignHCenter)
        make_small(self._caption)
        self._caption.setStyleSheet("color: #FFFFFF;")
        self._caption.setMinimumWidth(60)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(8, 8, 8, 8)
        layout.setSpacing(4)
        layout.addWidget(self._title, 0, Qt.AlignmentFlag.AlignHCenter)
        layout.addWidget(self.picture, 1)
        layout.addWidget(self.strip)
        layout.addWidget(self._caption)
        slot = side.value
        self.strip.sliding.connect(lambda seconds: desk.tried.preview_cut(slot, seconds))
        self.strip.slid.connect(lambda seconds: desk.tried.set_cut(slot, seconds))
        self.strip.abandoned.connect(desk.tried.abandon)
        desk.document.changed.connect(self.refresh)
        desk.tried.changed.connect(self.refresh)
        desk.looking.playheadChanged.connect(self.picture.update)
        self.refresh()

    def refresh(self) -> None:
        """Shows the state of the desk."""
        wrinkle = self._desk.document.state
        clip = self._desk.tried.clips.get(self._side.value)
        step = wrinkle.frame_rate.seconds(1)
        self.strip.show_clip(clip, (wrinkle.lead, wrinkle.tail), step)
        self.strip.setVisible(clip is not None)
        label = "Outgoing" if self._side is Side.OUTGOING else "Incoming"
        reading = self._desk.tried.reading(self._side.value)
        name = clip.source.name if clip else "choose a clip…"
        name = "reading…" if reading else name
        metrics = self._title.fontMetrics()
        # The ends of a file's name tell it from others.
        elide = Qt.TextElideMode.ElideMiddle if clip else Qt.TextElideMode.ElideRight
        room = max(80, self.width() - 40)
        self._title.setText(metrics.elidedText(f"{label} · {name}", elide, room))
        self._title.setAccessibleName(f"{label} clip: {name}")
        self._caption.setText(self._caption_text())
        if (clip, step) != self._shown:
            self._shown = clip, step
            self.picture.update()

    def _caption_text(self) -> str:
        clip = self._desk.tried.clips.get(self._side.value)
        if clip is None:
            return ""
        rate = self._desk.document.state.frame_rate
        cut = rate.nearest_frame(clip.cut)
        if self._side is Side.OUTGOING:
            shown = timecode(max(0, cut - 1), rate)
            spare = rate.frame_at(clip.source.duration - clip.cut)
            missing = rate.frames_until(self._desk.document.state.lead - clip.cut)
            place = "before"
            words = "last"
        else:
            shown = timecode(cut, rate)
            spare = rate.frame_at(clip.cut)
            missing = rate.frames_until(
                self._desk.document.state.tail - (clip.source.duration - clip.cut)
            )
            place = "after"
            words = "first"
        if missing > 0:
            return f"{missing} frames missing {place} the cut"
        return f"{words} {shown} · {spare} to spare"

    def caption(self) -> str:
        """What is said under the strip."""
        return self._caption.text()

    def choose(self) -> None:
        """Asks for a clip."""
        side = self._side.value
        path = self._desk.asking.file(self, f"Choose the {side} clip", "clip", CLIP_FILTER)
        if path is not None:
            self._desk.tried.try_clip(side, path)

    def resizeEvent(self, event: object) -> None:
        self.refresh()

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        accept_files(event)

    def dropEvent(self, event: QDropEvent | None) -> None:
        for path in dropped_files(event)[:1]:
            self._desk.tried.try_clip(self._side.value, path)
