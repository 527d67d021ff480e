"""What is heard of a clip, under its row: its wave, level and fades, and whether it is muted."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen, QPolygonF

from wrinkle.core.design.document.sounds import LOUDEST, QUIETEST
from wrinkle.core.piece import edits
from wrinkle.core.piece.bed import LONGEST_FADE
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.sound.heard import factor
from wrinkle.core.sound.wave_picture import Peaks
from wrinkle.ui import icons
from wrinkle.ui.cutlist.clip_waves import A_SECOND
from wrinkle.ui.theme import Theme

HEIGHT = 40.0
_EAR, _GRIP, _SOFT = 18.0, 12.0, 0.6
_A_DECIBEL = 0.75
"""Points by which the level is pulled."""
MUTE, RISE, FALL, LEVEL = "mute", "rise", "fall", "level"
PART_WORDS = {RISE: "sound rises", FALL: "sound falls", LEVEL: "sound"}
"""What pulling a part is called as a step."""
CURSORS = {
    MUTE: Qt.CursorShape.PointingHandCursor,
    RISE: Qt.CursorShape.SizeHorCursor,
    FALL: Qt.CursorShape.SizeHorCursor,
    LEVEL: Qt.CursorShape.SizeVerCursor,
}


@dataclass(frozen=True)
class SoundBand:
    """One clip's band.

    Attributes:
        piece, clip: of what.
        area: where, the button at its left among it.
    """

    piece: Piece
    clip: PieceClip
    area: QRectF

    @classmethod
    def under(cls, piece: Piece, clip: PieceClip, row: QRectF) -> SoundBand:
        """The band at the foot of a clip's row."""
        return cls(piece, clip, QRectF(row.left() + 10, row.bottom() - HEIGHT,
                                       row.width() - 24, HEIGHT - 6))  # fmt: skip

    @property
    def wave(self) -> QRectF:
        """Where the wave is drawn."""
        return self.area.adjusted(_EAR + 10, 0, 0, 0)

    @property
    def seconds(self) -> float:
        """How long the clip is."""
        return float(self.piece.rate.seconds(self.piece.frames_of(self.clip)))

    def x(self, seconds: float) -> float:
        """Where a time of the clip stands, from its beginning on."""
        wave = self.wave
        return wave.left() + seconds / max(self.seconds, 1e-6) * wave.width()

    @property
    def level_y(self) -> float:
        """How high the line of the level stands: in the middle for the file's own."""
        wave = self.wave
        y = wave.center().y() - self.clip.level * _A_DECIBEL
        return min(max(y, wave.top() + 1), wave.bottom() - 1)

    def part_at(self, x: float, y: float) -> str:
        """What is taken hold of at a point; empty for nothing."""
        if self.clip.stands or not self.area.adjusted(-2, -3, 4, 3).contains(x, y):
            return ""
        if x < self.wave.left() - 4:
            return MUTE
        top = y < self.wave.top() + 12
        ends = ((RISE, self.x(float(self.clip.rise))),
                (FALL, self.x(self.seconds - float(self.clip.fall))))  # fmt: skip
        for part, there in ends:
            if top and abs(x - there) <= _GRIP:
                return part
        return LEVEL if abs(y - self.level_y) <= _GRIP else ""

    def pulled(self, piece: Piece, part: str, by: QPointF) -> Piece:
        """A piece in which a part is pulled so far, in points."""
        if part == LEVEL:
            level = min(max(self.clip.level - by.y() / _A_DECIBEL, QUIETEST), LOUDEST)
            return edits.change(piece, self.clip.id, level=round(level * 2) / 2)
        seconds = by.x() / self.wave.width() * self.seconds
        own = float(getattr(self.clip, part)) + (seconds if part == RISE else -seconds)
        other = float(self.clip.fall if part == RISE else self.clip.rise)
        length = min(max(own, 0.0), max(self.seconds - other, 0.0), float(LONGEST_FADE))
        value = Fraction(round(length * 100), 100)
        return edits.change(piece, self.clip.id, **{part: value})

    def paint(self, painter: QPainter, theme: Theme, wave: Peaks | None, sounds: int) -> None:
        """Paints it.

        Args:
            painter, theme: with which.
            wave: of the file; None while it is drawn.
            sounds: how many the file has.
        """
        area, clip = self.wave, self.clip
        silent = clip.muted or clip.stands or not sounds
        ear = icons.icon("ear", theme.quiet if silent else theme.ink)
        at = QRectF(self.area.left(), area.center().y() - _EAR / 2, _EAR, _EAR)
        ear.paint(painter, at.toRect())
        if silent:
            painter.setPen(QPen(theme.colour("quiet"), 1.4))
            painter.drawLine(at.bottomLeft(), at.topRight())
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("field"))
        painter.drawRoundedRect(area, 3, 3)
        if not sounds or clip.stands:
            painter.setPen(theme.colour("quiet"))
            words = "stands still: nothing is heard" if sounds else "no sound"
            painter.drawText(area, int(Qt.AlignmentFlag.AlignCenter), words)
            return
        self._paint_wave(painter, theme, wave, silent)
        self._paint_handles(painter, theme)

    def _paint_wave(
        self, painter: QPainter, theme: Theme, wave: Peaks | None, silent: bool
    ) -> None:
        if wave is None or not len(wave):
            return
        area, clip = self.wave, self.clip
        middle, half = area.center().y(), area.height() / 2 - 2
        loud = factor(clip.level)
        first, last = float(clip.own_time(Fraction(0))), float(clip.own_time(clip.length))
        lines = []
        columns = max(int(area.width()), 1)
        for column in range(columns):
            share, after = column / columns, (column + 1) / columns
            one, other = sorted((first + (last - first) * share, first + (last - first) * after))
            low = int(one * A_SECOND)
            part = wave[max(low, 0) : max(int(other * A_SECOND), low + 1)]
            if not len(part):
                continue
            gain = loud * self._fade(share * self.seconds)
            up, down = float(part[:, 1].max()) * gain, -float(part[:, 0].min()) * gain
            if max(up, down) > 1e-4:
                x = area.left() + column + 0.5
                top, foot = (min(max(v, 0.0), 1.0) ** _SOFT * half for v in (up, down))
                lines.append(QLineF(x, middle - top, x, middle + foot))
        painter.setPen(QPen(theme.colour("quiet", 0.5) if silent else theme.colour("ink", 0.6), 1))
        if lines:
            painter.drawLines(*lines)

    def _fade(self, seconds: float) -> float:
        rise, fall = float(self.clip.rise), float(self.clip.fall)
        gain = min(seconds / rise, 1.0) if rise else 1.0
        left = self.seconds - seconds
        return gain * (min(left / fall, 1.0) if fall else 1.0)

    def _paint_handles(self, painter: QPainter, theme: Theme) -> None:
        area = self.wave
        rise, fall = self.x(float(self.clip.rise)), self.x(self.seconds - float(self.clip.fall))
        painter.setPen(QPen(theme.colour("outgoing"), 1.4))
        y = self.level_y
        painter.drawLine(QLineF(area.left(), y, area.right(), y))
        painter.setPen(QPen(theme.colour("ink"), 1.2))
        slopes = [QPointF(area.left(), area.bottom()), QPointF(rise, area.top() + 4),
                  QPointF(fall, area.top() + 4), QPointF(area.right(), area.bottom())]  # fmt: skip
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(QPolygonF(slopes[:2]))
        painter.drawPolyline(QPolygonF(slopes[2:]))
        painter.setBrush(theme.colour("ink"))
        for at in (rise, fall):
            painter.drawEllipse(QPointF(at, area.top() + 4), 3.5, 3.5)
