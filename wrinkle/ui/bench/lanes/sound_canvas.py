"""A wave along the frames: the hit of its sound is a pin, its end and its fades are handles."""

from __future__ import annotations

from fractions import Fraction

import numpy as np
from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen

from wrinkle.core.design.document.sounds import WrinkleSound
from wrinkle.core.sound.wave_picture import MOMENT, Peaks, coarser
from wrinkle.core.synthesis.samples import SAMPLE_RATE, sample_at
from wrinkle.core.time.rate import FrameRate
from wrinkle.ui.shared.frame_canvas import FrameCanvas
from wrinkle.ui.shared.frame_table import Column, FrameModel
from wrinkle.ui.theme import active

HEIGHT = 44
_PIN = 4.5
_NEAR = 12.0
_EDGE = 3.0
_GRIP = 6.0
RISE, FALL = "rise", "fall"
_NO_PEAKS: Peaks = np.zeros((0, 2), np.float32)


class SoundCanvas(FrameCanvas):
    """Draws one wave.

    Args:
        name: what it is, for screen readers.

    Signals:
        hitDragged: where the hit is pulled to, in seconds from the cut; and whether it is let go.
        markDragged: where the hit is pulled to over the wave of a file, which stays, in seconds
            from the cut; and whether it is let go.
        endDragged: where the end is pulled to, in seconds from the cut; and whether it is let go.
        fadeDragged: which fade of a file is pulled, ``RISE`` or ``FALL``; how long it becomes, in
            seconds; and whether it is let go.
    """

    hitDragged = pyqtSignal(object, bool)
    markDragged = pyqtSignal(object, bool)
    endDragged = pyqtSignal(object, bool)
    fadeDragged = pyqtSignal(str, object, bool)

    def __init__(self, name: str) -> None:
        model = FrameModel(name, (Column("Frame", str), Column("Peak (dBFS)", self._level_words)),
                           lambda frame: frame, lambda: self.frames)  # fmt: skip
        super().__init__(name, model, scrubs=True)
        self._rate = FrameRate.of(30)
        self._peaks, self._first = _NO_PEAKS, 0
        self._sound: WrinkleSound | None = None
        self._extent = range(0)
        self._held = ""
        self.setFixedHeight(HEIGHT)
        self.setMouseTracking(True)

    def show_frames(self, frames: range, rate: FrameRate) -> None:
        """The frames along it, at a rate."""
        self._rate = rate
        self.set_frames(frames)
        if self.model is not None:
            self.model.refresh()

    def show_peaks(self, peaks: Peaks, first: int) -> None:
        """Shows a wave.

        Args:
            peaks: of each thousandth of a second.
            first: the sample with which they begin, counted from the cut.
        """
        self._peaks, self._first = peaks, first
        if self.model is not None:
            self.model.refresh()
        self.update()

    def show_sound(self, sound: WrinkleSound | None) -> None:
        """Whose hit and end can be pulled; None for none."""
        self._sound = sound
        self.update()

    def show_extent(self, extent: range) -> None:
        """Between which samples, counted from the cut, a file is heard."""
        self._extent = extent
        self.update()

    def x_of(self, seconds: Fraction) -> float:
        """Where a time from the cut stands."""
        return self.axis.x(float(seconds * self._rate.per_second))

    @property
    def hit_x(self) -> float | None:
        """Where the hit stands."""
        return self.x_of(self._sound.hit) if self._sound is not None else None

    @property
    def end_x(self) -> float | None:
        """Where the end stands."""
        if self._sound is None or "length" not in self._sound.addresses():
            return None
        return self.x_of(self._sound.begins + Fraction(self._sound.seconds))

    @property
    def fades(self) -> dict[str, Fraction]:
        """Where the fades of a file end and begin, in seconds from the cut; none for others."""
        sound = self._sound
        if sound is None or not sound.slot or not self._extent:
            return {}
        begin, end = (Fraction(x, SAMPLE_RATE) for x in (self._extent.start, self._extent.stop))
        return {RISE: begin + (sound.file.rise or 0), FALL: end - (sound.file.fall or 0)}

    def _level_words(self, frame: int) -> str:
        start = sample_at(self._rate, frame) - self._first
        count = round(SAMPLE_RATE / self._rate.per_second)
        low, high = max(start // MOMENT, 0), max((start + count) // MOMENT, 0)
        part = self._peaks[low:high]
        most = float(np.abs(part).max(initial=0.0))
        return f"{20.0 * np.log10(most):.1f}" if most > 1e-6 else ""

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme, axis = QPainter(self), active(), self.axis
        painter.fillRect(self.rect(), theme.colour("panel"))
        if self.playhead in self.frames:
            painter.fillRect(self.column(self.playhead), theme.colour("selected", 0.6))
        middle, half = self.height() / 2.0, self.height() / 2.0 - _EDGE
        painter.setPen(QPen(theme.colour("rule"), 1.0))
        painter.drawLine(QLineF(axis.x(axis.first), middle, axis.x(axis.end), middle))
        self._paint_wave(painter, middle, half)
        self.paint_seam(painter)
        if self._sound is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._paint_fades(painter)
        hit, end = self.hit_x, self.end_x
        assert hit is not None
        painter.setPen(QPen(theme.colour("ink"), 1.0))
        painter.drawLine(QLineF(hit, 0, hit, self.height()))
        painter.setBrush(theme.colour("ink"))
        painter.drawEllipse(QPointF(hit, _PIN + 1), _PIN, _PIN)
        if end is not None:
            painter.fillRect(QRectF(end - 1.5, middle - 8, 3, 16), theme.colour("ink"))

    def _paint_fades(self, painter: QPainter) -> None:
        theme, foot = active(), self.height() - 1.0
        places = {key: self.x_of(x) for key, x in self.fades.items()}
        ends = (self._extent.start, self._extent.stop)
        for (key, x), end in zip(places.items(), ends, strict=False):
            corner = self.x_of(Fraction(end, SAMPLE_RATE))
            painter.setPen(QPen(theme.colour("ink", 0.6), 1.0))
            painter.drawLine(QLineF(corner, foot, x, _EDGE))
            painter.drawLine(QLineF(x, _EDGE, x, foot))
            side = 0.0 if key == RISE else -_GRIP
            painter.fillRect(QRectF(x + side, foot - _GRIP, _GRIP, _GRIP), theme.colour("ink"))

    def _paint_wave(self, painter: QPainter, middle: float, half: float) -> None:
        """One line for each point of the screen, in the colours of both sides."""
        theme, axis = active(), self.axis
        per_moment = MOMENT / SAMPLE_RATE * float(self._rate.per_second) * axis.cell
        if not len(self._peaks) or per_moment <= 0.0:
            return
        times = max(int(1.0 / per_moment), 1)
        seen = coarser(self._peaks, times)
        left = axis.x(self._first / SAMPLE_RATE * float(self._rate.per_second))
        step, seam = per_moment * times, axis.x(0)
        low, high = axis.x(axis.first), axis.x(axis.end)
        sides: dict[str, list[QLineF]] = {"outgoing": [], "incoming": []}
        for place, (least, most) in enumerate(seen.tolist()):
            x = left + (place + 0.5) * step
            if low <= x < high and (most > 1e-4 or least < -1e-4):
                line = QLineF(
                    x, middle - min(most, 1.0) * half, x, middle - max(least, -1.0) * half
                )
                sides["outgoing" if x < seam else "incoming"].append(line)
        for role, lines in sides.items():
            painter.setPen(QPen(theme.colour(role), max(step, 1.0)))
            if lines:
                painter.drawLines(*lines)

    # By hand

    def _under(self, spot: QPointF) -> str:
        x = spot.x()
        if spot.y() >= self.height() - 2 * _GRIP:
            for key, time in self.fades.items():
                if abs(x - self.x_of(time)) <= _NEAR:
                    return key
        for what, there in (("hit", self.hit_x), ("end", self.end_x)):
            if there is not None and abs(x - there) <= _NEAR:
                return what
        return ""

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        self._held = self._under(event.position())
        if not self._held or event.button() != Qt.MouseButton.LeftButton:
            self._held = ""
            super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        if self._held:
            self._pull(event, False)
            return
        under = self._under(event.position())
        shape = Qt.CursorShape.SizeHorCursor if under else Qt.CursorShape.ArrowCursor
        self.setCursor(shape)
        super().mouseMoveEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._held:
            self._pull(event, True)
            self._held = ""

    def _pull(self, event: QMouseEvent, done: bool) -> None:
        """On whole frames; with Alt on thousandths of a second; with Shift along a file's wave."""
        frame = self.axis.frame(event.position().x())
        if event.modifiers() & Qt.KeyboardModifier.AltModifier:
            time = Fraction(round(frame * 1000 / float(self._rate.per_second)), 1000)
        else:
            time = self._rate.seconds(round(frame))
        shifted = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
        if self._held == "hit" and shifted and self._sound is not None and self._sound.slot:
            exact = Fraction(round(frame * 1000 / float(self._rate.per_second)), 1000)
            self.markDragged.emit(exact, done)
        elif self._held == "hit":
            self.hitDragged.emit(time, done)
        elif self._held in (RISE, FALL):
            first, end = (Fraction(x, SAMPLE_RATE) for x in (self._extent.start, self._extent.stop))
            length = time - first if self._held == RISE else end - time
            self.fadeDragged.emit(self._held, min(max(length, Fraction(0)), end - first), done)
        else:
            self.endDragged.emit(time, done)
