"""The cuts of a finished video: found, looked at, refused, and taken as clips."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QImage, QMouseEvent, QPainter, QPaintEvent, QPolygonF
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.jobs import Job
from wrinkle.core.measure.cuts import USUAL, Scores, cuts_in
from wrinkle.core.picture.image import Size
from wrinkle.core.time.timecode import timecode
from wrinkle.media.clip import Clip
from wrinkle.media.finding_cuts import scores_of
from wrinkle.ui.desk.workers import Workers
from wrinkle.ui.pictures.clip_pictures import ClipPictures
from wrinkle.ui.shared.picture_view import fitted
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.shared.seam import seam_pen
from wrinkle.ui.theme import SURROUND, active, small_font

_SIDE = 10
_GRIP = 12.0
_HEADROOM = 1.1
_TOP, _FOOT = 16.0, 8.0
_LEAST = 0.005
_PICTURE = 240


class TraceView(QWidget):
    """How much each frame looks like a cut, the threshold, and the cuts that it gives.

    Signals:
        thresholdMoved: the threshold is another one.
        pointed: a cut was clicked; its frame.
    """

    thresholdMoved = pyqtSignal()
    pointed = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self.scores: Scores = np.zeros(0, np.float32)
        self.threshold = USUAL
        self.refused: set[int] = set()
        self.current: int | None = None
        self._dragging = False
        self.setMinimumHeight(150)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Difference from frame to frame")
        self.setToolTip("Drag the line: what rises above it is a cut. Click a cut to look at it.")

    def show_scores(self, scores: Scores) -> None:
        """Shows what was measured."""
        self.scores = scores
        self.update()

    @property
    def found(self) -> list[int]:
        """All cuts above the threshold, those that are refused too."""
        return cuts_in(self.scores, self.threshold)

    @property
    def taken(self) -> list[int]:
        """The cuts that count."""
        return [cut for cut in self.found if cut not in self.refused]

    def x_of(self, frame: float) -> float:
        """Where a frame stands."""
        return _SIDE + frame / max(len(self.scores), 1) * (self.width() - 2 * _SIDE)

    def y_of(self, score: float) -> float:
        """Where a score stands; 0 and less at the foot."""
        height = self.height() - _TOP - _FOOT
        return _TOP + (1.0 - max(score, 0.0) / self._most) * height

    @property
    def _most(self) -> float:
        """The score at the top."""
        return max(float(self.scores.max(initial=0.0)), 2 * USUAL) * _HEADROOM

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), active()
        painter.fillRect(self.rect(), theme.colour("field"))
        if not len(self.scores):
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        foot = self.y_of(0.0)
        outline = [QPointF(self.x_of(0), foot)]
        outline += [QPointF(self.x_of(n), self.y_of(float(x))) for n, x in enumerate(self.scores)]
        outline.append(QPointF(self.x_of(len(self.scores)), foot))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("incoming", 0.7))
        painter.drawPolygon(QPolygonF(outline))
        for cut in self.found:
            x = self.x_of(cut)
            counts = cut not in self.refused
            painter.setPen(theme.colour("seam"))
            painter.setBrush(theme.colour("seam") if counts else theme.colour("field"))
            painter.drawPolygon(QPolygonF([QPointF(x - 5, 2), QPointF(x + 5, 2), QPointF(x, 12)]))
            if cut == self.current:
                painter.drawLine(QPointF(x, 12), QPointF(x, foot))
        painter.setPen(seam_pen())
        line = self.y_of(self.threshold)
        painter.drawLine(QPointF(_SIDE, line), QPointF(self.width() - _SIDE, line))
        painter.setFont(small_font(self.font()))
        painter.setPen(theme.colour("quiet"))
        label = QRectF(_SIDE, line - 16, self.width() - 2 * _SIDE, 14)
        painter.drawText(label, Qt.AlignmentFlag.AlignRight, f"cut from {self.threshold:.3f} on")

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or not len(self.scores):
            return
        at = event.position()
        near = [cut for cut in self.found if abs(self.x_of(cut) - at.x()) < _GRIP]
        if near and abs(self.y_of(self.threshold) - at.y()) > _GRIP:
            self.current = min(near, key=lambda cut: abs(self.x_of(cut) - at.x()))
            self.update()
            self.pointed.emit(self.current)
        else:
            self._dragging = True
            self._move(at.y())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._dragging:
            self._move(event.position().y())

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._dragging = False

    def _move(self, y: float) -> None:
        foot, height = self.y_of(0.0), self.height() - _TOP - _FOOT
        share = min(max((foot - y) / max(height, 1.0), _LEAST), 1.0)
        self.threshold = share * self._most
        self.update()
        self.thresholdMoved.emit()


class CutsDialog(QDialog):
    """Measures a video in the background.

    Args:
        clip: the video.
        workers: who measures.
        pictures: gives its pictures.

    Signals:
        taken: the video, and the first frame after each cut.
    """

    taken = pyqtSignal(object, list)

    def __init__(
        self, clip: Clip, workers: Workers, pictures: ClipPictures, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._clip = clip
        self._workers = workers
        self._pictures = pictures
        self.setWindowTitle(f"Cuts in {clip.path.name}")
        self.resize(820, 560)
        self.trace = TraceView()
        self.told = PlainLabel("Looking at every frame…")
        self.progress = QProgressBar()
        self.before, self.after = _Side(), _Side()
        self.refuse = QPushButton("This is no cut")
        self.refuse.setCheckable(True)
        self.refuse.setEnabled(False)
        self.take = QPushButton("Take as clips")
        self.take.setObjectName("main")
        self.take.setEnabled(False)
        self._lay_out()
        self.trace.thresholdMoved.connect(self._show)
        self.trace.pointed.connect(lambda cut: self._show())
        self.refuse.clicked.connect(self._refuse)
        self.take.clicked.connect(self._take)
        pictures.ready.connect(self._show_pictures)
        self._job = workers.jobs.start(
            self._measured,
            self._came,
            self._failed,
            f"The cuts of {clip.path.name} cannot be found",
            self._progressed,
        )

    def _lay_out(self) -> None:
        pictures = QHBoxLayout()
        pictures.addWidget(self.before, 1)
        pictures.addWidget(self.after, 1)
        foot = QHBoxLayout()
        foot.addWidget(self.told, 1)
        close = QPushButton("Close")
        close.clicked.connect(self.reject)
        for button in (self.refuse, close, self.take):
            foot.addWidget(button)
        column = QVBoxLayout(self)
        column.addLayout(pictures, 3)
        column.addWidget(self.trace, 2)
        column.addWidget(self.progress)
        column.addLayout(foot)

    def _measured(self, job: Job) -> Scores:
        return scores_of(self._clip, job)

    def _came(self, scores: Scores) -> None:
        if self._job.cancelled:
            return
        self.progress.hide()
        self.trace.show_scores(scores)
        found = self.trace.found
        self.trace.current = found[0] if found else None
        self._show()

    def _failed(self, sentence: str) -> None:
        if self._job.cancelled:
            return
        self.progress.hide()
        self.told.setObjectName("fault")
        self.told.setText(sentence)

    def _progressed(self, done: int, total: int, left: float) -> None:
        if self._job.cancelled:
            return
        self.progress.setMaximum(total)
        self.progress.setValue(done)

    def _show(self) -> None:
        trace, rate = self.trace, self._clip.facts.rate
        if trace.current not in trace.found:
            trace.current = None
        count = len(trace.taken)
        words = f"{count} cut{'s' if count != 1 else ''}, {count + 1} clips"
        if trace.current is not None:
            words += f" · at {timecode(trace.current, rate)}"
        self.told.setText(words)
        self.refuse.setEnabled(trace.current is not None)
        self.refuse.setChecked(trace.current in trace.refused)
        self.take.setEnabled(bool(len(trace.scores)))
        self._show_pictures()

    def _show_pictures(self) -> None:
        cut = self.trace.current
        size = self._clip.size.within(_PICTURE)
        for side, frame in ((self.before, -1), (self.after, 0)):
            shown = None
            if cut is not None:
                shown = self._pictures.get(self._clip, cut + frame, size, urgent=True)
            side.show_picture(shown)

    def _refuse(self, refused: bool) -> None:
        trace = self.trace
        if trace.current is not None:
            trace.refused ^= {trace.current}
            trace.update()
            self._show()

    def _take(self) -> None:
        self.taken.emit(self._clip, self.trace.taken)
        self.accept()

    def done(self, result: int) -> None:
        """Nobody wants to know any more."""
        self._job.cancel()
        super().done(result)


class _Side(QWidget):
    """The frame on one side of a cut."""

    def __init__(self) -> None:
        super().__init__()
        self._picture: QImage | None = None
        self.setMinimumHeight(140)

    def show_picture(self, picture: QImage | None) -> None:
        self._picture = picture
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), SURROUND)
        picture = self._picture
        if picture is not None:
            shape = Size(picture.width(), picture.height())
            painter.drawImage(fitted(QRectF(self.rect()).adjusted(4, 4, -4, -4), shape), picture)
