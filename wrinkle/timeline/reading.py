"""A timeline as a piece: the first video track is shown, all else is kept."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Iterator, Mapping
from contextlib import suppress
from dataclasses import dataclass, field, replace
from fractions import Fraction
from itertools import count
from pathlib import Path
from typing import Any

import msgspec
from opentimelineio import schema
from opentimelineio._otio import SerializableObject
from opentimelineio.algorithms import flatten_stack, track_trimmed_to_range
from opentimelineio.core import Composition, Item

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.coding import from_json
from wrinkle.core.errors import DocumentError, InputError
from wrinkle.core.picture.fit import Fit
from wrinkle.core.picture.image import Size
from wrinkle.core.piece.crossfade import crossfade
from wrinkle.core.piece.document import Marker, Piece, PieceClip
from wrinkle.core.piece.media import STILL_LASTS, Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.time.rate import FrameRate
from wrinkle.media.fillings import PICTURES
from wrinkle.timeline.bed_track import bed_of, is_bed
from wrinkle.timeline.other_sounds import other_sounds
from wrinkle.timeline.piece_file import PieceFile, Segment
from wrinkle.timeline.places import path_of
from wrinkle.timeline.times import rate_of, seconds
from wrinkle.timeline.uses import KEY, Embedded, decoded

_DEEPEST = 32
_USUAL = Piece()
_LENGTHS = (Fraction(1, 100), Fraction(100))


class OwnClip(msgspec.Struct, frozen=True, omit_defaults=True):
    """What the metadata of a clip holds under ``wrinkle``: all that a timeline has no word for."""

    start: Fraction
    end: Fraction
    speed: Fraction = Fraction(1)
    reverse: bool = False
    frozen: bool = False
    fit: Fit = Fit.FILL
    focus: tuple[float, float] = (0.5, 0.5)
    level: float = 0.0
    duration: Fraction = Fraction(1)
    size: tuple[int, int] | None = None
    still: bool = False
    source: tuple[float, float] | None = None
    entry: Any = None
    pitch_kept: bool = False
    track: int = 0
    muted: bool = False
    rise: Fraction | None = None
    fall: Fraction | None = None


@dataclass
class _Reading:
    """One timeline that is being read."""

    folder: Path
    rate: FrameRate
    embedded: Embedded
    unseen: Counter[str] = field(default_factory=Counter)
    lost: list[str] = field(default_factory=list)
    ids: Iterator[int] = field(default_factory=lambda: count(1))

    def track(self, track: schema.Track) -> tuple[list[Segment], list[str]]:
        """What a track is shown as, and what stands after its last clip."""
        segments: list[Segment] = []
        passed: list[str] = []
        crossing: schema.Transition | None = None
        for child in track:
            if isinstance(child, schema.Transition):
                if crossing is None:
                    crossing = child
                else:
                    passed.append(child.to_json_string())
                continue
            clips = self.clips(child)
            passed.append(child.to_json_string())
            if not clips:
                continue
            entry = self._entry(crossing) if crossing is not None else None
            entry = entry or self._kept_entry(child)
            held = crossing.to_json_string() if crossing is not None else ""
            segments.append(Segment(tuple(clips), tuple(passed), entry, held))
            passed, crossing = [], None
        if crossing is not None:
            passed.append(crossing.to_json_string())
        return segments, passed

    def clips(self, item: object, deep: int = 0) -> list[PieceClip]:
        """What an item is shown as; nothing where it takes no time."""
        if isinstance(item, schema.Clip) and item.enabled:
            return self._clip(item)
        if isinstance(item, Composition) and isinstance(item, Item) and item.enabled:
            found = self._nested(item, deep)
            if found is not None:
                return found
        if isinstance(item, Item):
            if isinstance(item, schema.Clip):
                self.unseen["clips that are switched off"] += 1
            return self._empty(item)
        self.unseen[f"'{_word(item)}' in the track"] += 1
        return []

    def _clip(self, item: schema.Clip) -> list[PieceClip]:
        reference = item.media_reference
        available = reference.available_range if reference is not None else None
        own = _own_clip(item)
        shown = item.source_range or available
        if shown is None:
            self.unseen["clips of no length"] += 1
            return []
        start = seconds(shown.start_time) - seconds(available.start_time if available else None)
        length = seconds(shown.duration)
        if length <= 0:
            return []
        speed, reverse, frozen = self._pace(item)
        start = max(start, Fraction(0))
        end = start + length * speed
        place = self._place(item, reference)
        still = place.suffix.lower() in PICTURES if place is not None else True
        duration = max(seconds(available.duration) if available else end, end)
        media = Media(
            str(place) if place is not None else "",
            place.name if place is not None else item.name or "nothing",
            STILL_LASTS if still else duration,
            still=still,
        )
        if still:
            start, end = Fraction(0), min(end - start, STILL_LASTS)
        clip = PieceClip(
            self._id(), item.name or media.name, media, start, end, speed, reverse, frozen
        )
        if own is not None:
            clip = _with_own(clip, own, (shown.start_time.value, shown.duration.value))
        return [clip]

    def _pace(self, item: schema.Clip) -> tuple[Fraction, bool, bool]:
        """Speed, whether it runs backwards, whether it stands."""
        speed = Fraction(1)
        for effect in item.effects:
            if isinstance(effect, schema.FreezeFrame):
                return Fraction(1), False, True
            if isinstance(effect, schema.LinearTimeWarp):
                speed *= Fraction(effect.time_scalar).limit_denominator(10**6)
            elif effect.metadata.get(KEY) is None:
                self.unseen[f"the effect '{effect.effect_name or effect.name or 'unnamed'}'"] += 1
        if speed == 0:
            return Fraction(1), False, True
        return min(max(abs(speed), _LENGTHS[0]), _LENGTHS[1]), speed < 0, False

    def _place(self, item: schema.Clip, reference: object) -> Path | None:
        if isinstance(reference, schema.ExternalReference) and reference.target_url:
            return path_of(reference.target_url, self.folder)
        if isinstance(reference, schema.MissingReference) or reference is None:
            self.unseen["clips without a file"] += 1
            self.lost.append(item.name or "unnamed")
        elif not isinstance(reference, schema.ExternalReference):
            self.unseen[f"clips from a {_word(reference)}"] += 1
        return None

    def _nested(self, item: Composition, deep: int) -> list[PieceClip] | None:
        """What a track or stack within the track is shown as; None where it cannot be."""
        if deep >= _DEEPEST:
            return None
        # What the library cannot flatten is shown as nothing, for its length.
        with suppress(Exception):
            whole = item.deepcopy()
            flat = flatten_stack(whole) if isinstance(whole, schema.Stack) else whole
            if item.source_range is not None:
                flat.source_range = None
                flat = track_trimmed_to_range(flat, item.source_range)
            self.unseen["tracks within the track, which are shown flat"] += 1
            return [
                clip
                for child in flat
                if not isinstance(child, schema.Transition)
                for clip in self.clips(child, deep + 1)
            ]
        return None

    def _empty(self, item: Item) -> list[PieceClip]:
        """An item of which nothing is seen, for its length."""
        try:
            length = seconds(item.trimmed_range().duration)
        except Exception:  # noqa: BLE001 - the library has one error of its own for each case
            length = Fraction(0)
        length = min(length, STILL_LASTS)
        if length <= 0:
            return []
        name = item.name or "gap"
        media = Media("", name, STILL_LASTS, still=True)
        return [PieceClip(self._id(), name, media, Fraction(0), length)]

    def _entry(self, crossing: schema.Transition) -> PieceUse | None:
        metadata = crossing.metadata.get(KEY)
        if metadata is not None:
            try:
                return decoded(plain(metadata), self.embedded, self.folder)
            except InputError as fault:
                self.unseen[f"a use ({fault})"] += 1
        lead, tail = seconds(crossing.in_offset), seconds(crossing.out_offset)
        if lead + tail <= 0:
            return None
        kind = crossing.name or crossing.transition_type or "unnamed"
        self.unseen[f"the transition '{kind}', for which a crossfade is shown"] += 1
        try:
            return PieceUse(Bundle(crossfade(kind, lead, tail, self.rate)))
        except InputError:
            return None

    def _kept_entry(self, item: SerializableObject) -> PieceUse | None:
        """The use of a clip before which there is no cut."""
        own = _own_clip(item) if isinstance(item, schema.Clip) else None
        if own is None or own.entry is None:
            return None
        with suppress(InputError):
            return decoded(own.entry, self.embedded, self.folder)
        return None

    def _id(self) -> str:
        return f"clip-{next(self.ids)}"


def piece_of(root: SerializableObject, folder: Path) -> tuple[Piece, PieceFile]:
    """The piece that a timeline shows, and what else it holds.

    Args:
        root: what a file held.
        folder: of the file; addresses are relative to it.

    Raises:
        InputError: it holds no timeline, or an impossible value.
    """
    within, timeline = _timeline(root)
    metadata = plain(timeline.metadata.get(KEY)) or {}
    if not isinstance(metadata, Mapping):
        raise DocumentError("what Wrinkle noted in it is damaged")
    ours = "rate" in metadata
    number = next((n for n, x in enumerate(timeline.tracks) if _is_video(x)), None)
    track = timeline.tracks[number] if number is not None else None
    rate = _rate(metadata, track)
    reading = _Reading(folder, rate, Embedded(metadata.get("wrinkles")))
    segments, after = reading.track(track) if track is not None else ([], [])
    size = metadata.get("size")
    try:
        size = Size.parse(str(size)) if size else _USUAL.size
    except InputError:
        size = _USUAL.size
    clips = [
        replace(clip, entry=segment.entry) if not place else clip
        for segment in segments
        for place, clip in enumerate(segment.clips)
    ]
    title = timeline.name.strip() or _USUAL.title
    markers = tuple(_markers(timeline.tracks))
    loudness = metadata.get("loudness")
    piece = Piece(
        title,
        size,
        rate,
        tuple(clips),
        markers,
        bed_of(timeline, folder),
        float(loudness) if isinstance(loudness, int | float) else None,
    )
    others, heard = other_sounds(timeline, folder, piece)
    piece = replace(piece, others=others)
    unseen = [*_others(timeline, number, heard), *_counted(reading.unseen)]
    return piece, PieceFile(
        ours, root.to_json_string(), within, number, tuple(segments), tuple(after), markers, unseen,
        str(folder.absolute()), tuple(reading.lost),
    )  # fmt: skip


def plain(value: Any) -> Any:
    """The library's values as Python's own."""
    if isinstance(value, Mapping) or hasattr(value, "items"):
        return {str(key): plain(one) for key, one in value.items()}
    if isinstance(value, str | int | float | bool | None):
        return value
    if hasattr(value, "__iter__"):
        return [plain(one) for one in value]
    return value


def _timeline(root: object) -> tuple[int | None, schema.Timeline]:
    if isinstance(root, schema.Timeline):
        return None, root
    if isinstance(root, schema.SerializableCollection):
        for number, child in enumerate(root):
            if isinstance(child, schema.Timeline):
                return number, child
    raise DocumentError(f"it holds no timeline, but a {_word(root)}")


def _rate(metadata: Mapping[str, Any], track: schema.Track | None) -> FrameRate:
    """The rate of the piece: what was noted, else that of the first thing that has a length."""
    if metadata.get("rate"):
        return FrameRate.parse(str(metadata["rate"]))
    for child in track or ():
        shown = getattr(child, "source_range", None)
        if shown is not None and shown.duration.value > 0:
            rate = rate_of(shown.duration.rate)
            # Files that count in milliseconds or samples say nothing of the frames.
            return FrameRate(rate) if rate <= 240 else _USUAL.rate
    return _USUAL.rate


def _own_clip(item: schema.Clip) -> OwnClip | None:
    metadata = item.metadata.get(KEY)
    if metadata is None:
        return None
    try:
        return msgspec.convert(plain(metadata), OwnClip, dec_hook=from_json)
    except msgspec.ValidationError:
        return None


def _with_own(clip: PieceClip, own: OwnClip, source: tuple[float, float]) -> PieceClip:
    """The clip with what Wrinkle noted; where it was changed since, its range counts as it is."""
    size = Size(*own.size) if own.size is not None and min(own.size) > 0 else None
    duration = max(own.duration, clip.end)
    media = replace(clip.media, size=size, duration=duration, still=own.still)
    clip = replace(clip, fit=own.fit, focus=own.focus, level=own.level)
    with suppress(InputError):
        clip = replace(
            clip, pitch_kept=own.pitch_kept, track=max(own.track, 0), muted=own.muted,
            rise=own.rise or Fraction(0), fall=own.fall or Fraction(0),
        )  # fmt: skip
    if own.source == source:
        with suppress(InputError):
            return replace(
                clip,
                media=replace(media, duration=max(own.duration, own.end)),
                start=own.start,
                end=own.end,
                speed=own.speed,
                reverse=own.reverse,
                frozen=own.frozen,
            )
    return replace(clip, media=media)


def _markers(tracks: schema.Stack) -> list[Marker]:
    return [
        Marker(max(seconds(x.marked_range.start_time), Fraction(0)), x.name) for x in tracks.markers
    ]


def _others(timeline: schema.Timeline, shown: int | None, heard: Collection[int]) -> list[str]:
    """What the timeline holds beside the track that is shown, and those that are heard."""
    video = sum(_is_video(x) for n, x in enumerate(timeline.tracks) if n != shown)
    other = sum(
        not _is_video(x) and not is_bed(x) and n not in heard for n, x in enumerate(timeline.tracks)
    )
    found = [
        f"{number} {word}{'s' if number > 1 else ''}"
        for number, word in ((video, "further video track"), (other, "other track"))
        if number
    ]
    if timeline.tracks.source_range is not None or (
        shown is not None and timeline.tracks[shown].source_range is not None
    ):
        found.append("the trimming of a whole track")
    return found


def _counted(words: Counter[str]) -> list[str]:
    return [f"{word} ({number} times)" if number > 1 else word for word, number in words.items()]


def _is_video(track: object) -> bool:
    return isinstance(track, schema.Track) and track.kind == schema.TrackKind.Video


def _word(item: object) -> str:
    """What something of the library is called."""
    name = getattr(item, "schema_name", None)
    return str(name() if callable(name) else type(item).__name__)
