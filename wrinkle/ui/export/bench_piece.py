"""The wrinkle on the Bench over its two clips, as a piece of two clips: the same road as any."""

from __future__ import annotations

from fractions import Fraction

from wrinkle.core.design.document.slots import GIVEN, INCOMING, OUTGOING
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.reuse.use import possible
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.tried_clips import TriedClip


def bench_piece(desk: Desk, around: Fraction) -> Piece | None:
    """The wrinkle with so many seconds of the plain clips around it; None without two clips.

    Args:
        desk: whose wrinkle it is, and the clips that it is tried on.
        around: seconds before and after its window.
    """
    tried = desk.tried.clips
    if any(key not in tried or tried[key].path is None for key in GIVEN):
        return None
    wrinkle = desk.document.bundle().wrinkle
    choices = possible(wrinkle, desk.trial.choices)
    lead, tail = choices.lead or wrinkle.lead, choices.tail or wrinkle.tail
    going, coming = tried[OUTGOING.key], tried[INCOMING.key]
    fillings = {key: _media(clip) for key, clip in tried.items() if key not in GIVEN and clip.path}
    use = PieceUse(desk.document.bundle(), choices, fillings)
    rate = going.rate or wrinkle.frame_rate
    frame = rate.seconds(1)
    clips = (
        PieceClip(
            "outgoing", going.source.name, _media(going),
            *_stretch(going, going.cut - lead - around, going.cut, frame),
        ),
        PieceClip(
            "incoming", coming.source.name, _media(coming),
            *_stretch(coming, coming.cut, coming.cut + tail + around, frame), entry=use,
        ),
    )  # fmt: skip
    return Piece(wrinkle.name, going.source.size.even, rate, clips)


def _stretch(
    clip: TriedClip, start: Fraction, end: Fraction, frame: Fraction
) -> tuple[Fraction, Fraction]:
    """What there is of a stretch of a clip, at least a frame: it may be cut at its very end."""
    lasts = clip.source.duration
    start = min(max(start, Fraction(0)), max(lasts - frame, Fraction(0)))
    return start, min(max(end, start + frame), lasts)


def _media(clip: TriedClip) -> Media:
    source = clip.source
    return Media(str(clip.path), source.name, source.duration, source.size)
