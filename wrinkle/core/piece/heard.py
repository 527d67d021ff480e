"""What is heard of a piece: its clips, as they meet at each cut, and the sounds of its wrinkles."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.slots import INCOMING, OUTGOING
from wrinkle.core.piece.bed import Bed
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.running import CutWindow, windows
from wrinkle.core.reuse.hearing import NOTHING_CARRIED
from wrinkle.core.reuse.sound_along import along_pictures
from wrinkle.core.sound.clip_sound import running, sound_of
from wrinkle.core.sound.giving_way import GivingWay
from wrinkle.core.sound.heard import Dip, Mix, MixPart, Ramp, SoundSource, factor
from wrinkle.core.sound.hears import Hears
from wrinkle.core.synthesis.samples import SAMPLE_RATE, sample_at


def piece_heard(
    piece: Piece,
    sources: Mapping[str, object],
    hears: Hears = Hears.BOTH,
    carried: Callable[[Bundle], Mapping[str, object]] = lambda bundle: NOTHING_CARRIED,
) -> Mix:
    """The sound of a piece, from its first frame to its last.

    Args:
        piece: what is heard.
        sources: its files by their path; those that are ``Sounding`` are heard.
        hears: what of it.
        carried: gives the sounds among a wrinkle's assets, by their name.

    Raises:
        InputError: an asset cannot be read.
        MediaError: a file in a slot for sound cannot be read.
    """
    entries = {clip.id: clip.entry for clip in piece.clips}
    shown = {window.clip: window for window in windows(piece)}
    meetings = [
        _meeting(piece, place, shown.get(clip.id)) for place, clip in enumerate(piece.clips)
    ]
    parts = []
    for place, clip in enumerate(piece.clips):
        sound = sound_of(sources.get(clip.media.path), clip.track)
        if sound is None or clip.stands or clip.muted or not hears.clips:
            continue
        after = meetings[place + 1] if place + 1 < len(piece.clips) else None
        part = _clip_part(piece, place, sound, meetings[place], after)
        if part is not None:
            parts.append(_along_windows(piece, place, part, shown))
    parts += _other_parts(piece, sources) if hears.clips else []
    made = []
    dips: list[Dip] = []
    for window in shown.values() if hears.wrinkles else ():
        use = entries[window.clip]
        if use is None or not use.wrinkle.sounds:
            continue
        sounds, cut = use.sounds(piece.rate, sources, carried), sample_at(piece.rate, window.cut)
        dips += sounds.dips(cut)
        if sounds.span:
            made.append(sounds.part(cut))
    parts = [*(_dipped(part, dips) for part in parts), *made]
    end = sample_at(piece.rate, piece.frame_count)
    bed = _bed_part(piece.bed, sources, Mix(tuple(parts), range(end))) if hears.clips else None
    return Mix((*parts, bed) if bed is not None else tuple(parts), range(end))


def _other_parts(piece: Piece, sources: Mapping[str, object]) -> list[MixPart]:
    """What other programs laid under the piece."""
    found = []
    for one in piece.others:
        sound = sound_of(sources.get(one.media.path))
        run = running(sound, one.start) if sound is not None else None
        place = round(one.at * SAMPLE_RATE)
        span = range(place, place + round(one.length * SAMPLE_RATE))
        if run is not None and span:
            found.append(MixPart(run, place, span))
    return found


def _dipped(part: MixPart, dips: Sequence[Dip]) -> MixPart:
    """A clip's part, quieter where a wrinkle wants it so."""
    first, end = part.span.start, part.span.stop
    over = tuple(dip for dip in dips if dip.span.start < end and first < dip.span.stop)
    return replace(part, dips=over) if over else part


def _bed_part(bed: Bed | None, sources: Mapping[str, object], others: Mix) -> MixPart | None:
    """The music under what else is heard."""
    sound = sound_of(sources.get(bed.media.path)) if bed is not None else None
    if bed is None or sound is None:
        return None
    place = round(bed.at * SAMPLE_RATE)
    lasts = round((bed.media.duration - bed.start) * SAMPLE_RATE)
    span = range(place, min(place + lasts, others.span.stop))
    if not span:
        return None
    source = running(sound, bed.start)
    if source is None:
        return None
    if bed.gives_way and others.parts:
        source = GivingWay(source, others.from_(place), bed.gives_way)
    rise, fall = (round(x * SAMPLE_RATE) for x in (bed.rise, bed.fall))
    return MixPart(
        source,
        place,
        span,
        factor(bed.level),
        Ramp(range(span.start, span.start + rise)) if rise else None,
        Ramp(range(span.stop - fall, span.stop)) if fall else None,
    )


@dataclass(frozen=True)
class _Met:
    """How the sounds of two clips meet, in samples of the piece."""

    starts: int
    ends: int

    @property
    def ramp(self) -> Ramp | None:
        return Ramp(range(self.starts, self.ends), power=True) if self.starts < self.ends else None


def _meeting(piece: Piece, place: int, window: CutWindow | None) -> _Met:
    """How a clip's sound takes over from the one before it."""
    cut = piece.starts[place]
    clip, rate = piece.clips[place], piece.rate
    if window is None or clip.entry is None or not place:
        return _Met(sample_at(rate, cut), sample_at(rate, cut))
    before = piece.clips[place - 1]
    # Not into the clips on their other sides either.
    earliest = max(piece.starts[place - 1] - cut, -clip.spare(rate)[0])
    latest = min(piece.starts[place + 1] - cut, before.spare(rate)[1])
    join = clip.entry.choices.join.meeting(cut - window.first, window.end - cut)
    met = join.within(earliest, latest)
    return _Met(sample_at(rate, cut + met.starts), sample_at(rate, cut + met.ends))


def _clip_part(
    piece: Piece, place: int, sound: SoundSource, met: _Met, after: _Met | None
) -> MixPart | None:
    clip = piece.clips[place]
    speed = -clip.speed if clip.reverse else clip.speed
    run = running(sound, _origin(clip), speed, clip.pitch_kept)
    end = after.ends if after is not None else sample_at(piece.rate, piece.frame_count)
    if run is None or met.starts >= end:
        return None
    rise, fall = (round(x * SAMPLE_RATE) for x in (clip.rise, clip.fall))
    # Where two clips cross there is a rise and a fall already.
    ends = after.ramp if after is not None else None
    return MixPart(
        run,
        sample_at(piece.rate, piece.starts[place]),
        range(met.starts, end),
        factor(clip.level),
        met.ramp or (Ramp(range(met.starts, met.starts + rise)) if rise else None),
        ends or (Ramp(range(end - fall, end)) if fall else None),
    )


def _along_windows(
    piece: Piece, place: int, part: MixPart, shown: Mapping[str, CutWindow]
) -> MixPart:
    """A clip's part, run through as the wrinkles at its two ends run its pictures."""
    sound = part.sound
    for slot, at in ((INCOMING, place), (OUTGOING, place + 1)):
        clip = piece.clips[at] if at < len(piece.clips) else None
        if clip is None or clip.entry is None or clip.id not in shown:
            continue
        cut = sample_at(piece.rate, piece.starts[at]) - part.place
        sound = along_pictures(clip.entry.at(piece.rate), slot.key, sound, cut)
    return replace(part, sound=sound)


def _origin(clip: PieceClip) -> Fraction:
    return clip.end if clip.reverse else clip.start
