"""The piece document: clips in running order, and what happens at the cut into each.

Documents are immutable. Lengths are whole frames of the piece's rate: a cut stands on a frame.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property
from itertools import accumulate

from wrinkle.core.errors import InputError
from wrinkle.core.picture.fit import Fit
from wrinkle.core.picture.image import Size
from wrinkle.core.piece.bed import LONGEST_FADE, Bed
from wrinkle.core.piece.media import STILL_LASTS, Media
from wrinkle.core.piece.other_sound import OtherSound
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.sound.levelling import LOUDEST, QUIETEST
from wrinkle.core.time.rate import FrameRate

MOST_CLIPS = 2_000
"""Far beyond what is edited by hand: pieces have ten to sixty."""
_SLOWEST, _FASTEST = Fraction(1, 100), Fraction(100)
_MOST_MARKERS = 10_000
_TOUCHING = Fraction(1, 1000)
"""Of a frame: lengths in files of others are rounded."""
_UPRIGHT, _USUAL_RATE = Size(1080, 1920), FrameRate(Fraction(30))


@dataclass(frozen=True)
class PieceClip:
    """A part of a file in a piece, and what happens at the cut into it.

    Attributes:
        id: unique in the piece, and stable.
        name: what it is called.
        media: the file.
        start, end: its in and out point, in seconds of the file's own time.
        speed: 1 is as filmed; above 0.
        reverse: it runs backwards, from its out point to its in point.
        frozen: its picture at the in point stands still for as long.
        fit, focus: how it fills the frame, as a layer's.
        level: of its sound, in decibels.
        pitch_kept: its sound stays as high as it is where it runs faster or slower.
        track: which of the sounds of its file is heard.
        muted: none of them is.
        rise, fall: how long its sound rises and falls at its ends, in seconds.
        entry: the wrinkle on the cut before it; None for a plain cut. That of the first clip of a
            piece is kept and not seen: it is back when the clip is moved.
    """

    id: str
    name: str
    media: Media
    start: Fraction
    end: Fraction
    speed: Fraction = Fraction(1)
    reverse: bool = False
    frozen: bool = False
    fit: Fit = Fit.FILL
    focus: tuple[float, float] = (0.5, 0.5)
    level: float = 0.0
    entry: PieceUse | None = None
    pitch_kept: bool = False
    track: int = 0
    muted: bool = False
    rise: Fraction = Fraction(0)
    fall: Fraction = Fraction(0)

    def __post_init__(self) -> None:
        if not 0 <= self.start < self.end <= self.media.duration:
            raise InputError(
                f"'{self.name}' must begin and end within its file, which lasts "
                f"{float(self.media.duration):.3g} seconds."
            )
        if not (0 <= self.rise <= LONGEST_FADE and 0 <= self.fall <= LONGEST_FADE):
            raise InputError(
                f"The sound of '{self.name}' can rise and fall within 0 and {LONGEST_FADE} seconds."
            )
        if not _SLOWEST <= self.speed <= _FASTEST:
            raise InputError(
                f"The speed of '{self.name}' must be within {float(_SLOWEST * 100):g} and "
                f"{float(_FASTEST * 100):g} %."
            )

    @property
    def length(self) -> Fraction:
        """How long it is in the piece, in seconds."""
        return (self.end - self.start) / self.speed

    @property
    def plain(self) -> bool:
        """Whether it runs as its file does."""
        return self.speed == 1 and not self.reverse and not self.frozen

    @property
    def stands(self) -> bool:
        """Whether one picture is seen all the time."""
        return self.frozen or self.media.still

    @cached_property
    def handles(self) -> tuple[Fraction, Fraction]:
        """What the file has before and after it, in seconds of the piece."""
        if self.stands:
            return STILL_LASTS, STILL_LASTS
        before, after = self.start / self.speed, (self.media.duration - self.end) / self.speed
        return (after, before) if self.reverse else (before, after)

    def frames_at(self, rate: FrameRate) -> int:
        """How many whole frames it has at a rate; one at least."""
        found = self._counted.get((rate, 0))
        if found is None:
            frames = rate.frame_at(self.length + rate.seconds(1) * _TOUCHING)
            found = self._counted[rate, 0] = max(1, frames)
        return found

    def spare(self, rate: FrameRate) -> tuple[int, int]:
        """Whole frames that the file has before and after it, at a rate."""
        for side, handle in enumerate(self.handles, 1):
            if (rate, side) not in self._counted:
                self._counted[rate, side] = rate.frame_at(handle)
        return self._counted[rate, 1], self._counted[rate, 2]

    @cached_property
    def _counted(self) -> dict[tuple[FrameRate, int], int]:
        # A piece has many clips, is asked at every edit, and shares them with the one before.
        return {}

    def own_time(self, offset: Fraction) -> Fraction:
        """The file's time that is seen so long after the clip begins; beyond its ends too."""
        if self.frozen:
            return self.start
        run = offset * self.speed
        return self.end - run if self.reverse else self.start + run


@dataclass(frozen=True)
class Marker:
    """A note at a time of the piece.

    Attributes:
        time: in seconds from its beginning.
        text: what it says.
    """

    time: Fraction
    text: str = ""


@dataclass(frozen=True)
class Piece:
    """A piece.

    Attributes:
        title: what it is called.
        size, rate: of its frames.
        clips: in running order.
        markers: in the order of time.
        bed: the music under it; None for none.
        others: what other programs laid under it.
        loudness: how loud it is made when it is written, in LUFS; None as it is.
    """

    title: str = "Untitled piece"
    size: Size = _UPRIGHT
    rate: FrameRate = _USUAL_RATE
    clips: tuple[PieceClip, ...] = ()
    markers: tuple[Marker, ...] = ()
    bed: Bed | None = None
    loudness: float | None = None
    others: tuple[OtherSound, ...] = ()

    def __post_init__(self) -> None:
        if self.loudness is not None and not QUIETEST <= self.loudness <= LOUDEST:
            raise InputError(
                f"A piece can be made {QUIETEST:g} to {LOUDEST:g} LUFS loud, not {self.loudness:g}."
            )
        if not self.title.strip():
            raise InputError("A piece needs a title.")
        if len(self.clips) > MOST_CLIPS:
            raise InputError(f"A piece can have {MOST_CLIPS} clips at most.")
        if len(self.markers) > _MOST_MARKERS:
            raise InputError(f"A piece can have {_MOST_MARKERS} markers at most.")
        twice = [x for x, count in Counter(clip.id for clip in self.clips).items() if count > 1]
        if twice:
            raise InputError(f"Two clips of the piece have the id '{twice[0]}'.")

    def index(self, clip_id: str) -> int:
        """The place of a clip in the running order.

        Raises:
            KeyError: there is none of that id.
        """
        for place, clip in enumerate(self.clips):
            if clip.id == clip_id:
                return place
        raise KeyError(clip_id)

    def clip(self, clip_id: str) -> PieceClip:
        """The clip of an id.

        Raises:
            KeyError: there is none.
        """
        return self.clips[self.index(clip_id)]

    def frames_of(self, clip: PieceClip) -> int:
        """How many whole frames a clip has; one at least."""
        return clip.frames_at(self.rate)

    @cached_property
    def starts(self) -> tuple[int, ...]:
        """The first frame of each clip, and at last the number of frames of the piece."""
        return tuple(accumulate((self.frames_of(clip) for clip in self.clips), initial=0))

    @property
    def frame_count(self) -> int:
        """How many frames it has."""
        return self.starts[-1]

    def with_clips(self, *clips: PieceClip) -> Piece:
        """The piece with other clips."""
        return replace(self, clips=clips)
