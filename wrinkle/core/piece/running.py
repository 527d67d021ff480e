"""What is seen at any frame of a piece: a clip, or a use with both clips as its fillings."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Image, Size
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.use import Reach
from wrinkle.core.render.material import FrameSource


@dataclass(frozen=True)
class ClipFrame:
    """A clip as it is.

    Attributes:
        clip: its id.
        seconds: the time of its file.
    """

    clip: str
    seconds: Fraction


@dataclass(frozen=True)
class UseFrame:
    """A frame of a use.

    Attributes:
        clip: the id of the incoming clip, on whose cut it is.
        frame: counted from the cut.
    """

    clip: str
    frame: int


@dataclass(frozen=True)
class CutWindow:
    """The frames of a piece that a use changes.

    Attributes:
        clip: the id of the incoming clip.
        cut: the first frame after the cut.
        first, end: the first frame of the window, and the one after its last.
        reach: how far it reaches.
    """

    clip: str
    cut: int
    first: int
    end: int
    reach: Reach


@dataclass(frozen=True)
class Windows:
    """The windows of a piece, in running order."""

    all: tuple[CutWindow, ...] = ()

    def __iter__(self) -> Iterator[CutWindow]:
        return iter(self.all)

    def __len__(self) -> int:
        return len(self.all)

    def at(self, frame: int) -> CutWindow | None:
        """The window that a frame lies in; of several the one whose cut is nearest."""
        after = bisect_left(self._cuts, frame)
        before = after - 1
        while True:
            # Outwards from the frame, the nearer cut first.
            left = frame - self._cuts[before] if before >= 0 else self._longest + 1
            right = self._cuts[after] - frame if after < len(self.all) else self._longest + 1
            if min(left, right) > self._longest:
                return None
            if left <= right:
                window, before = self.all[before], before - 1
            else:
                window, after = self.all[after], after + 1
            if window.first <= frame < window.end:
                return window

    @cached_property
    def _cuts(self) -> list[int]:
        return [window.cut for window in self.all]

    @cached_property
    def _longest(self) -> int:
        return max((max(x.cut - x.first, x.end - x.cut) for x in self.all), default=0)


_A_MOMENT = Fraction(1, 1000)
"""Seconds; times in files are rounded to as much."""


class Paced:
    """A clip of a piece as a source of pictures, in time of the piece, with its handles.

    Its time 0 is where the file begins to be seen: at the file's beginning, or at its end where
    the clip is reversed.
    """

    def __init__(self, source: FrameSource, clip: PieceClip) -> None:
        self._source = source
        self._speed, self._reverse = clip.speed, clip.reverse
        self._frozen = clip.start if clip.frozen else None
        self.name = source.name
        self.identity = source.identity
        self.size = source.size
        self.duration = source.duration / clip.speed

    @property
    def source(self) -> FrameSource:
        """Whose pictures they are."""
        return self._source

    def _own(self, seconds: Fraction) -> Fraction:
        if self._frozen is not None:
            return self._frozen
        run = seconds * self._speed
        # A picture that runs backwards is seen up to where it begins: that moment is no longer it.
        return self._source.duration - run - _A_MOMENT if self._reverse else run

    def index_at(self, seconds: Fraction) -> int:
        """The picture shown at a time, clamped to the first and the last."""
        return self._source.index_at(self._own(seconds))

    def following(self, seconds: Fraction) -> tuple[int, float] | None:
        """The picture after the one at a time; none where it runs backwards or stands."""
        if self._reverse or self._frozen is not None:
            return None
        return self._source.following(self._own(seconds))

    def image(self, index: int, size: Size) -> Image:
        """Picture ``index`` scaled to ``size``.

        Raises:
            MediaError: it cannot be read.
        """
        return self._source.image(index, size)


def cuts_of(piece: Piece, clip: PieceClip) -> tuple[Fraction, Fraction]:
    """Where a clip is cut as the incoming and as the outgoing one, in the time of ``Paced``.

    They are as far apart as the clip has whole frames.
    """
    first = (clip.media.duration - clip.end if clip.reverse else clip.start) / clip.speed
    last = first + piece.rate.seconds(piece.frames_of(clip))
    return first, min(last, clip.media.duration / clip.speed)


def windows(piece: Piece) -> Windows:
    """The windows of all uses that are possible, in running order."""
    found = []
    for clip, cut in zip(piece.clips[1:], piece.starts[1:], strict=False):
        if clip.entry is None:
            continue
        with suppress(InputError):
            reach = clip.entry.reach(piece.rate)
            found.append(CutWindow(clip.id, cut, cut - reach.lead, cut + reach.tail, reach))
    return Windows(tuple(found))


def seen(piece: Piece, frame: int, of: Windows) -> ClipFrame | UseFrame:
    """What is seen at a frame.

    Where two windows overlap, the one whose cut is nearer is seen.

    Args:
        piece: not empty.
        frame: counted from its beginning; held within it.
        of: the ``windows`` of the piece.
    """
    frame = min(max(frame, 0), piece.frame_count - 1)
    window = of.at(frame)
    if window is not None:
        return UseFrame(window.clip, frame - window.cut)
    starts = piece.starts
    place = bisect_right(starts, frame) - 1
    clip = piece.clips[place]
    offset = piece.rate.seconds(frame - starts[place])
    return ClipFrame(clip.id, clip.own_time(offset))
