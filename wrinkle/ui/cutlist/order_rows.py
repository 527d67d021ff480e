"""What the rows of the running order show: where they stand, their bars, pictures and faults."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from PyQt6.QtGui import QImage

from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.faults import PieceFault, faults
from wrinkle.core.piece.running import CutWindow, windows
from wrinkle.ui.cutlist.cut_strips import PICTURES, CutStrips
from wrinkle.ui.cutlist.order_geometry import OrderGeometry
from wrinkle.ui.cutlist.piece_looking import PieceLooking
from wrinkle.ui.cutlist.row_paint import bar_area
from wrinkle.ui.cutlist.sound_band import HEIGHT as BAND_HEIGHT
from wrinkle.ui.cutlist.sound_band import SoundBand
from wrinkle.ui.cutlist.trim_bar import TrimBar
from wrinkle.ui.desk.examiner import Examiner
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.pictures.clip_pictures import ClipPictures

_PICTURE_SIDE = 120
_SAID_ALREADY = "handles"
"""The check whose findings are faults of the piece too."""


class OrderRows:
    """The clips and cuts of a piece as rows; all places are those before scrolling.

    Args:
        width: gives that of the rows now, in pixels.

    Attributes:
        windows: of the cuts that have one, by the id of their clip.
        faults: what does not fit, by the id of the cut.
    """

    def __init__(
        self,
        document: PieceDocument,
        looking: PieceLooking,
        pictures: ClipPictures,
        strips: CutStrips,
        examiner: Examiner,
        width: Callable[[], int],
    ) -> None:
        self._document = document
        self._looking = looking
        self._pictures = pictures
        self._strips = strips
        self._examiner = examiner
        self._width = width
        self.windows: dict[str, CutWindow] = {}
        self.faults: dict[str, tuple[PieceFault, ...]] = {}

    @property
    def geometry(self) -> OrderGeometry:
        """Where the rows stand."""
        under = BAND_HEIGHT if self._looking.sound_shown else 0.0
        return OrderGeometry(len(self._piece.clips), self._width(), under)

    def refresh(self) -> None:
        """Looks at the piece, and at what was found in its cuts, anew."""
        found = windows(self._piece)
        self.windows = {window.clip: window for window in found}
        self.faults = {}
        for fault in (*faults(self._piece, found), *self._open_checks()):
            self.faults[fault.clip] = (*self.faults.get(fault.clip, ()), fault)

    def bar(self, number: int) -> TrimBar:
        """The bar of a clip."""
        piece = self._piece
        clip = piece.clips[number]
        lead = tail = 0
        own = self.windows.get(clip.id)
        if own is not None:
            tail = own.end - own.cut
        following = piece.clips[number + 1].id if number + 1 < len(piece.clips) else ""
        after = self.windows.get(following)
        if after is not None:
            lead = after.cut - after.first
        area = bar_area(self.geometry.clip(number))
        return TrimBar.of(piece, clip, area, lead, tail)

    def band(self, number: int) -> SoundBand | None:
        """What is heard of a clip; None while it is folded."""
        if not self._looking.sound_shown:
            return None
        row = self.geometry.clip(number)
        return SoundBand.under(self._piece, self._piece.clips[number], row)

    def ends(self, clip: PieceClip) -> tuple[QImage | None, QImage | None]:
        """Pictures of its first and its last frame."""
        source = self._document.media.sources.get(clip.media.path)
        if source is None:
            return None, None
        begins, ends = Fraction(0), max(clip.length - self._piece.rate.seconds(1), Fraction(0))
        size = source.size.within(_PICTURE_SIDE)
        first, last = (
            self._pictures.get(source, source.index_at(clip.own_time(x)), size)
            for x in (begins, ends)
        )
        if first is None or last is None:
            # To where a clip begins nothing has to be decoded before: that is seen at once.
            roughly = self._pictures.get(source, 0, size, urgent=True)
            first, last = first or roughly, last or roughly
        return first, last

    def strip(self, number: int) -> list[QImage]:
        """The pictures of a cut; those of its two clips until it is known better."""
        window = self.windows.get(self._piece.clips[number].id)
        if window is None:
            return []
        return self._strips.strip(window) or self._roughly(number)

    def pictured(self, top: float, bottom: float) -> tuple[int, int]:
        """How many of the rows between two heights have a picture, and how many there are."""
        shown: list[bool] = []
        for number in self.geometry.seen(top, bottom):
            clip = self._piece.clips[number]
            shown.append(None not in self.ends(clip))
            if clip.id in self.windows:
                shown.append(bool(self.strip(number)))
        return sum(shown), len(shown)

    @property
    def _piece(self) -> Piece:
        return self._document.state

    def _roughly(self, number: int) -> list[QImage]:
        """The cut as its two clips show it, until it is known better; none while they are read."""
        before, after = (self._piece.clips[x] for x in (number - 1, number))
        out, into = self.ends(before)[1], self.ends(after)[0]
        half = PICTURES // 2
        if out is None or into is None:
            return []
        return [*[out] * half, *[into] * (PICTURES - half)]

    def _open_checks(self) -> list[PieceFault]:
        """What is open of the cuts that are examined; short handles are said already."""
        found = []
        for clip in self._piece.clips[1:]:
            examined = self._examiner.found(clip.id) if clip.id in self.windows else None
            if examined is None:
                continue
            open_ = [x for x in examined.open if x.check != _SAID_ALREADY]
            if open_:
                count = len(open_)
                short = f"{count} check{'s' if count > 1 else ''} open"
                sentence = " ".join(finding.sentence for finding in open_)
                found.append(PieceFault(clip.id, short, sentence))
        return found
