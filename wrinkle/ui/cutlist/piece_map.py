"""The whole piece in one line: clips, windows, what is rendered, the playhead."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, QTimer
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPixmap

from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.running import windows
from wrinkle.core.time.timecode import timecode
from wrinkle.ui.cutlist.piece_looking import PieceLooking
from wrinkle.ui.cutlist.piece_screen import PieceScreen
from wrinkle.ui.desk.music import Music
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.desk.stretch import Stretch
from wrinkle.ui.shared.frame_canvas import FrameCanvas
from wrinkle.ui.shared.frame_table import Column, FrameModel
from wrinkle.ui.shared.seam import draw_seam
from wrinkle.ui.text_size import Extent, keep
from wrinkle.ui.theme import active, small_font

_HEIGHT = 40
_SIDE = 12
_BAR_TOP, _BAR = 4, 20
_FIRST, _LAST = "first", "last"
_TAB, _TAB_TOP, _GRIP = 7, _BAR_TOP + _BAR + 7, 9
"""Of the tabs: their width, where they begin, and how far beside them one can still take them."""
_SOON_MS = 120
_APART = 3.0
"""Points: beats that are nearer to each other would be a grey line."""
_NARROW, _NAMED = 5, 24
"""Points: from which width on clips have a border, and a name."""


class PieceMap(FrameCanvas):
    """Pressing and dragging moves the playhead; the two tabs below bound what is written."""

    around = 2

    def __init__(
        self,
        document: PieceDocument,
        stretch: Stretch,
        looking: PieceLooking,
        screen: PieceScreen,
        music: Music,
    ) -> None:
        columns = (
            Column("Cut", self._cut_words),
            Column("From", lambda place: self._piece.clips[place - 1].name),
            Column("To", lambda place: self._piece.clips[place].name),
            Column("Wrinkle", self._wrinkle_words),
        )
        model = FrameModel(
            "Cuts",
            columns,
            lambda place: self._piece.starts[place],
            lambda: range(1, len(self._piece.clips)),
        )
        super().__init__("Map of the piece", model, scrubs=True)
        self._document = document
        self._stretch = stretch
        self._dragged: str = ""
        self._looking = looking
        self._screen = screen
        self._music = music
        music.changed.connect(self.repaint_all)
        self.set_inset(_SIDE, _SIDE)
        keep(self, Extent.HEIGHT, _HEIGHT)
        self.setToolTip(
            "The whole piece: press or drag to go there; the tabs below bound what is exported"
        )
        stretch.changed.connect(self.repaint_all)
        # Many frames come in a second; the map need not show each of them at once.
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(_SOON_MS)
        self._soon.timeout.connect(self.repaint_all)
        self._ground: QPixmap | None = None
        document.changed.connect(self._show_piece)
        looking.playheadChanged.connect(self.show_playhead)
        looking.chosenChanged.connect(self.repaint_all)
        screen.rendered.connect(
            lambda done, of: None if self._soon.isActive() else self._soon.start()
        )

        self._show_piece()

    @property
    def _piece(self) -> Piece:
        return self._document.state

    def _show_piece(self) -> None:
        piece = self._piece
        self.set_frames(range(piece.frame_count))
        if self.model is not None:
            self.model.refresh()
        self.repaint_all()

    def _cut_words(self, place: int) -> str:
        return timecode(self._piece.starts[place], self._piece.rate)

    def _wrinkle_words(self, place: int) -> str:
        use = self._piece.clips[place].entry
        return use.wrinkle.name if use is not None else "plain cut"

    def x_of(self, frame: float) -> float:
        """Where a frame stands."""
        return self.axis.x(frame)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        piece = self._document.state
        if not piece.clips:
            return
        painter = QPainter(self)
        # Of long pieces only what moves is painted anew with each frame.
        if self._ground is None or self._ground.size() != self.size() * self.devicePixelRatioF():
            self._ground = self._painted()
        painter.drawPixmap(0, 0, self._ground)
        x = self.x_of(self.playhead + 0.5)
        painter.fillRect(QRectF(x - 1, 0, 2, _BAR_TOP + _BAR + 8), active().colour("ink"))

    def repaint_all(self) -> None:
        """Everything is painted anew."""
        self._ground = None
        self.update()

    def _painted(self) -> QPixmap:
        piece, theme, looking = self._document.state, active(), self._looking
        scale = self.devicePixelRatioF()
        ground = QPixmap(self.size() * scale)
        ground.setDevicePixelRatio(scale)
        ground.fill(theme.colour("ground"))
        painter = QPainter(ground)
        painter.setFont(small_font(self.font()))
        for number, clip in enumerate(piece.clips):
            left, right = self.x_of(piece.starts[number]), self.x_of(piece.starts[number + 1])
            area = QRectF(left, _BAR_TOP, right - left, _BAR)
            chosen = clip.id in looking.chosen and looking.clip is not None
            painter.fillRect(area, theme.colour("selected" if chosen else "panel"))
            if area.width() > _NARROW:
                painter.setPen(theme.colour("rule"))
                painter.drawRect(area)
        for window in windows(piece):
            cut = self.x_of(window.cut)
            first, end = self.x_of(window.first), self.x_of(window.end)
            for left, right, colour in ((first, cut, "outgoing"), (cut, end, "incoming")):
                area = QRectF(left, _BAR_TOP, right - left, _BAR)
                painter.fillRect(area, theme.colour(colour, 0.45))
        self._paint_names(painter)
        self._paint_rendered(painter)
        if self.width() / len(piece.clips) > _NARROW:
            for start in piece.starts[1:-1]:
                draw_seam(painter, self.x_of(start), _BAR_TOP, _BAR_TOP + _BAR)
        self._paint_others(painter)
        self._paint_stretch(painter)
        painter.setPen(theme.colour("ink"))
        beats = [self.x_of(frame) for frame in self._music.frames]
        if len(beats) > 1 and beats[1] - beats[0] >= _APART:
            for x in beats:
                painter.drawLine(QPointF(x, _BAR_TOP + _BAR - 3), QPointF(x, _BAR_TOP + _BAR + 2))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("ink"))
        for marker in piece.markers:
            x = self.x_of(float(marker.time * piece.rate.per_second))
            painter.drawEllipse(QPointF(x, _BAR_TOP), 3, 3)
        painter.end()
        return ground

    def _paint_names(self, painter: QPainter) -> None:
        """Each clip's name where no window lies over it."""
        piece = self._piece
        painter.setPen(active().colour("quiet"))
        found = list(windows(piece))
        for number, clip in enumerate(piece.clips):
            first, end = piece.starts[number], piece.starts[number + 1]
            left = max([first, *(x.end for x in found if x.clip == clip.id)])
            right = min([end, *(x.first for x in found if x.cut == end)])
            area = QRectF(self.x_of(left), _BAR_TOP, self.x_of(right) - self.x_of(left), _BAR)
            if area.width() > _NAMED:
                words = painter.fontMetrics().elidedText(
                    clip.name, Qt.TextElideMode.ElideRight, int(area.width() - 8)
                )
                painter.drawText(area.adjusted(4, 0, -4, 0), Qt.AlignmentFlag.AlignVCenter, words)

    # What is written

    def _tab(self, end: str) -> QRectF:
        """Where the tab of the stretch's first frame is, or of its last."""
        frames = self._stretch.frames
        if end == _FIRST:
            return QRectF(self.x_of(frames.start) - _TAB, _TAB_TOP, _TAB, _HEIGHT - _TAB_TOP - 1)
        return QRectF(self.x_of(frames.stop), _TAB_TOP, _TAB, _HEIGHT - _TAB_TOP - 1)

    def _paint_stretch(self, painter: QPainter) -> None:
        theme, frames = active(), self._stretch.frames
        ends = self.x_of(0), self.x_of(frames.start), self.x_of(frames.stop)
        for left, right in ((ends[0], ends[1]), (ends[2], self.x_of(self._piece.frame_count))):
            if right > left:
                area = QRectF(left, _BAR_TOP, right - left, _BAR + 1)
                painter.fillRect(area, theme.colour("ground", 0.72))
        painter.fillRect(QRectF(ends[1], _HEIGHT - 3, ends[2] - ends[1], 1), theme.colour("quiet"))
        for end in (_FIRST, _LAST):
            painter.fillRect(self._tab(end), theme.colour("quiet"))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._dragged = next((x for x in (_FIRST, _LAST) if self._is_on(event, x)), "")
        if not self._dragged:
            super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or not self._dragged:
            super().mouseMoveEvent(event)
            return
        frames = self._stretch.frames
        at = round(self.axis.frame(event.position().x()))
        ends = (at, frames.stop) if self._dragged == _FIRST else (frames.start, at)
        self._stretch.take(*ends)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._dragged = ""
        super().mouseReleaseEvent(event)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        """On a tab: the whole piece again."""
        if event is not None and any(self._is_on(event, x) for x in (_FIRST, _LAST)):
            self._stretch.take_all()
        else:
            super().mouseDoubleClickEvent(event)

    def _is_on(self, event: QMouseEvent, end: str) -> bool:
        around = self._tab(end).adjusted(-_GRIP, -2, _GRIP, 2)
        return around.contains(event.position())

    def _paint_others(self, painter: QPainter) -> None:
        """A line for each stretch of sound that another program laid under the piece."""
        rate = float(self._piece.rate.per_second)
        for one in self._piece.others:
            left = self.x_of(float(one.at) * rate)
            right = min(self.x_of(float(one.at + one.length) * rate), self.width() - 8.0)
            area = QRectF(left, _BAR_TOP + _BAR - 6, max(right - left - 1, 1), 3)
            painter.fillRect(area, active().colour("quiet", 0.8))

    def _paint_rendered(self, painter: QPainter) -> None:
        """A line under what is ready to be played, in stretches."""
        frames, asked = self._screen.frames, self._screen.asked
        top, start = _BAR_TOP + _BAR + 3, None
        for frame in range(asked.start, asked.stop + 1):
            ready = frame < asked.stop and frames.is_ready(frame)
            if ready and start is None:
                start = frame
            elif not ready and start is not None:
                left = self.x_of(start)
                painter.fillRect(
                    QRectF(left, top, self.x_of(frame) - left, 3), active().colour("incoming")
                )
                start = None
