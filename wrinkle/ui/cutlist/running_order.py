"""The running order: clips and cuts from top to bottom; only those that are seen are painted."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QPoint, QPointF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QDragEnterEvent,
    QDragLeaveEvent,
    QDragMoveEvent,
    QDropEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
)
from PyQt6.QtWidgets import QAbstractScrollArea, QApplication

from wrinkle.core.piece import edits
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.library.tiles import STEPS_A_SECOND
from wrinkle.ui.cutlist.clip_waves import ClipWaves
from wrinkle.ui.cutlist.cut_strips import PICTURES, CutStrips
from wrinkle.ui.cutlist.order_rows import OrderRows
from wrinkle.ui.cutlist.piece_looking import PieceLooking, Row
from wrinkle.ui.cutlist.row_paint import ClipRow, CutRow, RowPaint
from wrinkle.ui.cutlist.sound_band import CURSORS, MUTE, PART_WORDS, SoundBand
from wrinkle.ui.cutlist.trim_bar import TrimBar
from wrinkle.ui.desk.examiner import Examiner
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.less_motion import moves
from wrinkle.ui.pictures.clip_pictures import ClipPictures
from wrinkle.ui.shared.drops import accept_files, dropped_files, paths_of
from wrinkle.ui.shared.plain_text import tip
from wrinkle.ui.shared.seam import seam_pen
from wrinkle.ui.theme import active

_PICTURE_SIDE = 120
_SOON_MS = 250
_SAID_ALREADY = "handles"
"""The check whose findings are faults of the piece too."""


class RunningOrder(QAbstractScrollArea):
    """Rows are chosen, moved, trimmed, and dropped upon.

    Signals:
        filesDropped: files, and before which clip they landed.
        wrinkleDropped: a wrinkle's file or folder, and the id of the cut that it landed on.
        opened: a cut was double-clicked.
        taken: Return was pressed: what is selected elsewhere is meant for the chosen cuts.
        faulted: one sentence.
    """

    filesDropped = pyqtSignal(list, int)
    wrinkleDropped = pyqtSignal(object, str)
    opened = pyqtSignal()
    taken = pyqtSignal()
    faulted = pyqtSignal(str)

    def __init__(
        self,
        document: PieceDocument,
        looking: PieceLooking,
        pictures: ClipPictures,
        strips: CutStrips,
        is_wrinkle: Callable[[Path], bool],
        examiner: Examiner,
        waves: ClipWaves,
    ) -> None:
        super().__init__()
        self.rows = OrderRows(document, looking, pictures, strips, examiner, self._width)
        """What is shown; where it stands before scrolling."""
        self._document = document
        self._looking = looking
        self._strips = strips
        self._waves = waves
        self._is_wrinkle = is_wrinkle
        self._pressed: tuple[QPointF, str] | None = None
        self._pulled: tuple[SoundBand, str, QPointF] | None = None
        self._gripped: tuple[str, str, TrimBar, float] | None = None
        self._moving_to: int | None = None
        self._target = ""
        self._hovered = ""
        self._since = time.monotonic()
        self.setAcceptDrops(True)
        self.setObjectName("order")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Running order")
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFrameShape(QAbstractScrollArea.Shape.NoFrame)
        view = self.viewport()
        if view is not None:
            view.setMouseTracking(True)
        self._timer = QTimer(self)
        self._timer.setInterval(round(1000 / STEPS_A_SECOND))
        self._timer.timeout.connect(self._tick)
        # Many cuts may be examined one after the other.
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(_SOON_MS)
        self._soon.timeout.connect(self._changed)
        examiner.changed.connect(self._soon.start)
        document.changed.connect(self._changed)
        looking.chosenChanged.connect(self._show_chosen)
        looking.soundShownChanged.connect(self._changed)
        waves.came.connect(self._repaint)
        document.media.changed.connect(self._repaint)
        pictures.ready.connect(self._repaint)
        strips.came.connect(self._repaint)
        self._changed()

    @property
    def _piece(self) -> Piece:
        return self._document.state

    @property
    def _scrolled(self) -> int:
        bar = self.verticalScrollBar()
        return bar.value() if bar is not None else 0

    def _width(self) -> int:
        view = self.viewport()
        return view.width() if view is not None else 0

    # What is shown

    def _changed(self) -> None:
        self.rows.refresh()
        self._measure()
        self._repaint()

    def _measure(self) -> None:
        bar, view = self.verticalScrollBar(), self.viewport()
        if bar is not None and view is not None:
            height = round(self.rows.geometry.height)
            bar.setRange(0, max(0, height - view.height()))
            bar.setPageStep(view.height())
            bar.setSingleStep(40)

    def _repaint(self) -> None:
        view = self.viewport()
        if view is not None:
            view.update()

    def _show_chosen(self) -> None:
        """The chosen row is scrolled to where it can be seen."""
        current, bar, view = self._looking.current, self.verticalScrollBar(), self.viewport()
        if bar is None or view is None:
            return
        for number, clip in enumerate(self._piece.clips):
            if clip.id == current:
                rows = self.rows.geometry
                area = rows.cut(number) if self._looking.row is Row.CUT else rows.clip(number)
                top, foot = round(area.top()) - 8, round(area.bottom()) + 8
                if top < bar.value():
                    bar.setValue(top)
                elif foot > bar.value() + view.height():
                    bar.setValue(foot - view.height())
        self._repaint()

    def _tick(self) -> None:
        # Only the moving pictures of the rows that are pointed at or chosen are painted anew.
        rows = self.rows.geometry
        view = self.viewport()
        if view is None or not moves(self):
            return
        for number, clip in enumerate(self._piece.clips):
            if self._moves(clip) and number:
                area = rows.cut(number).translated(0, -self._scrolled).toAlignedRect()
                view.update(area)

    def _moves(self, clip: PieceClip) -> bool:
        chosen = self._looking.row is Row.CUT and clip.id in self._looking.chosen
        return clip.entry is not None and (clip.id == self._hovered or chosen)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        view = self.viewport()
        if view is None or event is None:
            return
        painter = QPainter(view)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(event.rect(), active().colour("panel"))
        if not self._piece.clips:
            return
        painter.translate(0, -self._scrolled)
        region = event.rect().translated(0, self._scrolled)
        for number in self.rows.geometry.seen(region.top(), region.bottom()):
            self._paint_clip(painter, number)
            if number:
                self._paint_cut(painter, number)
        if self._moving_to is not None:
            painter.setPen(seam_pen(3))
            edge = self.rows.geometry.edge(self._moving_to)
            painter.drawLine(QPointF(8, edge), QPointF(view.width() - 8, edge))

    def _look(self, painter: QPainter, row: Row, number: int) -> RowPaint:
        rows, clip, looking = self.rows.geometry, self._piece.clips[number], self._looking
        chosen = looking.row is row and clip.id in looking.chosen
        area = rows.clip(number) if row is Row.CLIP else rows.cut(number)
        current = chosen and clip.id == looking.current and self.hasFocus()
        target = row is Row.CUT and clip.id == self._target
        return RowPaint(painter, active(), self.font(), area, chosen, current, target)

    def _paint_clip(self, painter: QPainter, number: int) -> None:
        clip, look = self._piece.clips[number], self._look(painter, Row.CLIP, number)
        row = ClipRow(
            self._piece, clip, self.rows.ends(clip), self._document.media.fault(clip.media.path)
        )
        row.paint(look)
        bar = self.rows.bar(number)
        bar.paint(painter, look.theme)
        row.spare(look, bar.spare)
        band = self.rows.band(number)
        if band is not None:
            sounds = self._document.media.sounds(clip.media.path)
            wave = self._waves.wave(clip.media.path, clip.track)
            band.paint(painter, look.theme, wave, sounds)

    def _paint_cut(self, painter: QPainter, number: int) -> None:
        piece, clip = self._piece, self._piece.clips[number]
        strip = self.rows.strip(number)
        step = PICTURES // 2 - 1
        if self._moves(clip):
            step = int((time.monotonic() - self._since) * STEPS_A_SECOND) % PICTURES
        before = piece.clips[number - 1]
        spare = (
            None if before.stands else before.spare(piece.rate)[1],
            None if clip.stands else clip.spare(piece.rate)[0],
        )
        short = tuple(fault.short for fault in self.rows.faults.get(clip.id, ()))
        row = CutRow(piece, clip.entry, strip, step, spare, short)
        row.paint(self._look(painter, Row.CUT, number))

    def pictured(self) -> tuple[int, int]:
        """How many of the rows that are seen have a picture, and how many there are."""
        view = self.viewport()
        below = self._scrolled + (view.height() if view is not None else 0)
        return self.rows.pictured(self._scrolled, below)

    # Events

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        self._timer.start()

    def hideEvent(self, event: object) -> None:
        super().hideEvent(event)  # type: ignore[arg-type]
        self._timer.stop()
        self._strips.drop_waiting()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._measure()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        at = self._at(event.position())
        number = self.rows.geometry.clip_at(at.x(), at.y())
        if number is not None:
            clip, bar = self._piece.clips[number], self.rows.bar(number)
            self._choose(Row.CLIP, clip.id, event)
            end, band = bar.end_at(at.x(), at.y()), self.rows.band(number)
            part = band.part_at(at.x(), at.y()) if band is not None else ""
            if part == MUTE:
                self._mute(clip)
            elif part and band is not None:
                self._pulled = (band, part, at)
            elif end:
                self._gripped = (clip.id, end, bar, at.x())
            else:
                self._pressed = (event.position(), clip.id)
            return
        cut = self.rows.geometry.cut_at(at.y())
        if cut is not None:
            self._choose(Row.CUT, self._piece.clips[cut].id, event)

    def _choose(self, row: Row, clip_id: str, event: QMouseEvent) -> None:
        held = event.modifiers()
        add = bool(held & Qt.KeyboardModifier.ControlModifier)
        up_to = bool(held & Qt.KeyboardModifier.ShiftModifier)
        if add or up_to:
            self._looking.choose(row, clip_id, add, up_to)
        else:
            self._looking.go_to(row, clip_id)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        at = self._at(event.position())
        if self._gripped is not None:
            self._trim(at.x(), done=False)
            return
        if self._pulled is not None:
            self._pull(at, done=False)
            return
        if self._pressed is not None:
            far = (event.position() - self._pressed[0]).manhattanLength()
            if self._moving_to is not None or far >= QApplication.startDragDistance():
                self._moving_to = self.rows.geometry.place_at(at.y())
                self._repaint()
            return
        self._hover(at)

    def _hover(self, at: QPointF) -> None:
        rows = self.rows.geometry
        number, cut = rows.clip_at(at.x(), at.y()), rows.cut_at(at.y())
        self._hovered = self._piece.clips[cut].id if cut is not None else ""
        view = self.viewport()
        end = self.rows.bar(number).end_at(at.x(), at.y()) if number is not None else ""
        if view is not None:
            band = self.rows.band(number) if number is not None else None
            part = band.part_at(at.x(), at.y()) if band is not None else ""
            shape = CURSORS.get(part, Qt.CursorShape.ArrowCursor)
            view.setCursor(Qt.CursorShape.SplitHCursor if end else shape)
            clip = self._piece.clips[number] if number is not None else None
            words = [fault.sentence for fault in self.rows.faults.get(self._hovered, ())]
            view.setToolTip(tip("\n".join(words) or (clip.media.path if clip is not None else "")))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        if self._gripped is not None:
            self._trim(self._at(event.position()).x(), done=True)
        elif self._pulled is not None:
            self._pull(self._at(event.position()), done=True)
        elif self._pressed is not None and self._moving_to is not None:
            self._move(self._pressed[1], self._moving_to)
        self._let_go()

    def _let_go(self) -> None:
        self._gripped = self._pulled = self._pressed = self._moving_to = None
        self._repaint()

    def _move(self, clip_id: str, place: int) -> None:
        was = self._piece.index(clip_id)
        place -= place > was
        if place != was:
            self._document.edit("order", lambda piece: edits.move(piece, clip_id, place))

    def _trim(self, x: float, done: bool) -> None:
        if self._gripped is None:
            return
        clip_id, end, bar, start = self._gripped
        frames = round((x - start) / bar.frame_width)
        before, after = bar.spare if bar.spare is not None else (10**6, 10**6)
        if end == "first":
            frames = min(max(frames, -before), bar.length - 1)
        else:
            frames = min(max(frames, 1 - bar.length), after)
        moved = (frames, 0) if end == "first" else (0, frames)

        def change(piece: Piece) -> Piece:
            return edits.trim(piece, clip_id, *moved)

        if not done:
            self._document.preview(change)
        elif frames:
            self._document.edit("trim", change)
        else:
            self._document.abandon()

    def _mute(self, clip: PieceClip) -> None:
        step = "sound on" if clip.muted else "muted"
        self._document.edit(step, lambda piece: edits.change(piece, clip.id, muted=not clip.muted))

    def _pull(self, at: QPointF, done: bool) -> None:
        """The level or a fade of a clip follows the pointer."""
        if self._pulled is None:
            return
        band, part, start = self._pulled

        def change(piece: Piece) -> Piece:
            return band.pulled(piece, part, at - start)

        self._document.pull(PART_WORDS[part], change, done)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self.rows.geometry.cut_at(self._at(event.position()).y()):
            self.opened.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            if self._gripped is not None or self._pulled is not None:
                self._document.abandon()
            self._let_go()
            return
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.taken.emit()
        elif event is not None:
            # Keys that move the playhead belong to the place; this area would scroll.
            event.ignore()

    def _at(self, position: QPointF) -> QPointF:
        return position + QPointF(0, self._scrolled)

    # What is dropped

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        accept_files(event)

    def dragMoveEvent(self, event: QDragMoveEvent | None) -> None:
        if event is None:
            return
        at = self._at(event.position())
        paths = paths_of(event.mimeData())
        if paths and all(map(self._is_wrinkle, paths)):
            cut = self.rows.geometry.cut_at(at.y())
            self._target = self._piece.clips[cut].id if cut is not None else ""
            event.setAccepted(bool(self._target))
        else:
            self._moving_to = self.rows.geometry.place_at(at.y())
            event.acceptProposedAction()
        self._repaint()

    def dragLeaveEvent(self, event: QDragLeaveEvent | None) -> None:
        self._target = ""
        self._let_go()

    def dropEvent(self, event: QDropEvent | None) -> None:
        if event is None:
            return
        at, paths = self._at(event.position()), dropped_files(event)
        wrinkles = [path for path in paths if self._is_wrinkle(path)]
        others = [path for path in paths if path not in wrinkles]
        cut = self.rows.geometry.cut_at(at.y())
        if wrinkles and cut is not None:
            self.wrinkleDropped.emit(wrinkles[0], self._piece.clips[cut].id)
        elif wrinkles:
            self.faulted.emit("Drop a wrinkle on a cut, between two clips.")
        if others:
            self.filesDropped.emit(others, self.rows.geometry.place_at(at.y()))
        self._target = ""
        self._let_go()


def centre_of(order: RunningOrder, row: Row, number: int) -> QPoint:
    """The middle of a row in the viewport, for those who point at it from outside."""
    rows = order.rows.geometry
    area = rows.clip(number) if row is Row.CLIP else rows.cut(number)
    bar = order.verticalScrollBar()
    return area.center().toPoint() - QPoint(0, bar.value() if bar is not None else 0)
