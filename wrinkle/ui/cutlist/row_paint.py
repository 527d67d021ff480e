"""The rows of the running order: a clip, and a cut between two of them."""

from __future__ import annotations

from dataclasses import dataclass, field

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QFont, QFontMetricsF, QImage, QPainter

from wrinkle.core.picture.image import Size
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.reuse.use import directions_of
from wrinkle.core.time.timecode import timecode
from wrinkle.ui.cutlist.order_geometry import clip_height
from wrinkle.ui.cutlist.trim_bar import HEIGHT as BAR_HEIGHT
from wrinkle.ui.shared.picture_view import fitted
from wrinkle.ui.shared.seam import seam_pen
from wrinkle.ui.text_size import scaled
from wrinkle.ui.theme import SURROUND, Theme, small_font

_NARROWEST, _WIDEST = 30.0, 84.0
_LEFT = 10.0
_BAR_SHARE = 0.4
_CORNER = 4.0
_STRIP_SHARE = 0.34


@dataclass(frozen=True)
class RowPaint:
    """How a row is painted.

    Attributes:
        painter, theme, font: with which.
        area: where.
        chosen: it is among the chosen rows.
        current: it is the one that was chosen last, and the running order has the focus.
        target: what is dragged would land on it.
    """

    painter: QPainter
    theme: Theme
    font: QFont
    area: QRectF
    chosen: bool = False
    current: bool = False
    target: bool = False

    def ground(self, colour: str) -> None:
        """The row's own ground and border."""
        painter, theme = self.painter, self.theme
        painter.setBrush(theme.colour("selected" if self.chosen or self.target else colour))
        painter.setPen(theme.colour("ink" if self.current else "rule"))
        painter.drawRoundedRect(self.area.adjusted(0.5, 0.5, -0.5, -0.5), _CORNER, _CORNER)
        if self.target:
            painter.setPen(seam_pen())
            painter.drawRect(self.area.adjusted(2, 2, -2, -2))

    def words(
        self, text: str, area: QRectF, colour: str = "ink", bold: bool = False, small: bool = False,
        right: bool = False,
    ) -> None:  # fmt: skip
        """One line, cut short in the middle where there is no room."""
        font = small_font(self.font) if small else QFont(self.font)
        if bold:
            font.setWeight(QFont.Weight.DemiBold)
        self.painter.setFont(font)
        self.painter.setPen(self.theme.colour(colour))
        side = Qt.AlignmentFlag.AlignRight if right else Qt.AlignmentFlag.AlignLeft
        shown = QFontMetricsF(font).elidedText(text, Qt.TextElideMode.ElideMiddle, area.width())
        self.painter.drawText(area, int(side | Qt.AlignmentFlag.AlignVCenter), shown)


@dataclass(frozen=True)
class ClipRow:
    """What a clip's row says.

    Attributes:
        piece, clip: of what.
        pictures: of its first and its last frame; None while they are read.
        fault: why its file cannot be read; empty where it can.
    """

    piece: Piece
    clip: PieceClip
    pictures: tuple[QImage | None, QImage | None]
    fault: str = ""

    def paint(self, look: RowPaint) -> None:
        """Paints all but the bar."""
        look.ground("ground")
        area, clip, piece = look.area, self.clip, self.piece
        top, height = area.top(), clip_height()
        painter = look.painter
        shape = piece.size
        wide = min(max((height - 12) * shape.width / shape.height, _NARROWEST), _WIDEST)
        for place, picture in enumerate(self.pictures):
            cell = QRectF(area.left() + _LEFT + place * (wide + 4), top + 6, wide, height - 12)
            painter.fillRect(cell, SURROUND)
            if picture is not None:
                own = Size(picture.width(), picture.height())
                painter.drawImage(fitted(cell, own), picture)
        left = area.left() + _LEFT + 2 * wide + 4 + 12
        bar = bar_area(area)
        text = QRectF(left, top + 7, bar.left() - left - 12, scaled(20))
        look.words(clip.name, text, bold=True)
        rate = piece.rate
        if self.fault:
            look.words(self.fault, text.translated(0, scaled(20)), "seam", small=True)
            look.words("Find missing files…", text.translated(0, scaled(38)), "quiet", small=True)
        else:
            first, last = (rate.nearest_frame(x) for x in (clip.start, clip.end))
            places = f"{timecode(first, rate)} – {timecode(last, rate)}"
            kind = "picture" if clip.media.still else "stands still" if clip.frozen else places
            if not clip.media.path:
                kind = "nothing is seen"
            look.words(kind, text.translated(0, scaled(20)), "quiet", small=True)
            look.words(_pace(clip), text.translated(0, scaled(37)), "quiet", small=True)
        length = QRectF(bar.left(), top + 7, bar.width(), scaled(20))
        look.words(timecode(piece.frames_of(clip), rate), length, bold=True, right=True)

    def spare(self, look: RowPaint, spare: tuple[int, int] | None) -> None:
        """How many frames are to spare, under the ends of the bar."""
        if spare is None:
            return
        bar = bar_area(look.area)
        foot = QRectF(bar.left(), bar.bottom() + 2, bar.width(), scaled(14))
        look.words(f"{spare[0]} to spare", foot, "quiet", small=True)
        look.words(f"{spare[1]} to spare", foot, "quiet", small=True, right=True)


@dataclass(frozen=True)
class CutRow:
    """What a cut's row says.

    Attributes:
        piece: of what.
        use: the wrinkle there; None for a plain cut.
        strip: its small pictures.
        step: which of them is shown as the moving one.
        spare: what the outgoing clip has after the cut, and the incoming one before it, in frames.
        faults: what does not fit there, in a few words each.
    """

    piece: Piece
    use: PieceUse | None
    strip: list[QImage] = field(default_factory=list)
    step: int = 0
    spare: tuple[int | None, int | None] = (None, None)
    faults: tuple[str, ...] = ()

    def paint(self, look: RowPaint) -> None:
        """Paints the row with its stretch of the seam."""
        area, painter = look.area, look.painter
        x = area.left() - 22
        painter.setPen(seam_pen())
        painter.drawLine(QPointF(x, area.top() - 4), QPointF(x, area.bottom() + 4))
        if self.use is None:
            look.ground("ground")
            words = area.adjusted(14, 0, -14, 0)
            look.words("Plain cut. Drop a wrinkle here, or double-click one below.", words, "quiet")
            return
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(look.theme.colour("seam"))
        painter.drawEllipse(QPointF(x, area.center().y()), 5, 5)
        look.ground("panel")
        right = self._paint_strip(look)
        text = QRectF(right + 12, area.top() + 5, area.right() - right - 24, scaled(20))
        look.words(self.use.wrinkle.name, text, bold=True)
        if self.faults:
            look.words(" · ".join(self.faults), text.translated(0, scaled(20)), "seam", small=True)
        else:
            look.words(self._facts(), text.translated(0, scaled(20)), "quiet", small=True)

    def _paint_strip(self, look: RowPaint) -> float:
        """The moving picture, and some of the others beside it; gives where they end."""
        area, painter = look.area, look.painter
        shape = self.piece.size
        height = area.height() - 10
        width = max(14.0, min(height * shape.width / shape.height, 76.0))
        count = max(2, int((area.width() * _STRIP_SHARE) // (width + 2)))
        for cell in range(count):
            at = QRectF(area.left() + 6 + cell * (width + 2), area.top() + 5, width, height)
            painter.fillRect(at, SURROUND)
            if self.strip:
                number = self.step if cell == 0 else _spread(cell - 1, count - 1, len(self.strip))
                painter.drawImage(at, self.strip[number])
            if cell == 0:
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.setPen(look.theme.colour("ink"))
                painter.drawRect(at)
        return area.left() + 6 + count * (width + 2)

    def _facts(self) -> str:
        use = self.use
        if use is None:
            return ""
        reach, chosen = use.reach(self.piece.rate), use.choices
        words = [f"{reach.lead} + {reach.tail} frames"]
        ways = directions_of(use.wrinkle)
        if len(ways) > 1 and use.wrinkle.directions:
            words.append(ways.get(chosen.direction, chosen.direction.label))
        if chosen.strength != 100:
            words.append(f"{chosen.strength:g} %")
        names = {dial.id: dial.name for dial in use.wrinkle.dials}
        changed = [names[key] for key in chosen.dials if key in names]
        if changed:
            words.append(f"{', '.join(changed)} changed")
        after, before = self.spare
        if after is not None:
            words.append(f"{after} spare out")
        if before is not None:
            words.append(f"{before} spare in")
        return " · ".join(words)


def bar_area(row: QRectF) -> QRectF:
    """Where the bar stands in a clip's row."""
    width = max(120.0, row.width() * _BAR_SHARE)
    return QRectF(row.right() - 14 - width, row.top() + scaled(30), width, BAR_HEIGHT)


def _pace(clip: PieceClip) -> str:
    words = [] if clip.stands else [f"speed {float(clip.speed * 100):g} %"]
    if clip.reverse:
        words.append("reversed")
    words.append(clip.fit.value)
    if clip.muted:
        words.append("muted")
    if clip.level:
        words.append(f"sound {clip.level:+g} dB")
    return " · ".join(words)


def _spread(cell: int, cells: int, pictures: int) -> int:
    return round(cell * (pictures - 1) / max(cells - 1, 1))
