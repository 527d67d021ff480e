"""A piece as a timeline: what did not change is written back as it was read."""

from __future__ import annotations

import json
from fractions import Fraction
from pathlib import Path
from typing import Any

import msgspec
from opentimelineio import schema
from opentimelineio._otio import SerializableObject
from opentimelineio.opentime import TimeRange

from wrinkle.core.design.document.coding import to_json
from wrinkle.core.errors import InputError
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.use import PieceUse
from wrinkle.timeline.bed_track import put_bed
from wrinkle.timeline.piece_file import PieceFile, Segment
from wrinkle.timeline.places import readdressed, url_of
from wrinkle.timeline.reading import OwnClip
from wrinkle.timeline.times import ranged, rational, seconds
from wrinkle.timeline.uses import KEY, Embedded, encoded


def timeline_of(piece: Piece, file: PieceFile, folder: Path) -> SerializableObject:
    """What is written of a piece.

    Args:
        piece: what is written.
        file: what it was read from.
        folder: into which it is written; files in it are named relative to it.
    """
    writing = _Writing(piece, file, folder)
    root = writing.held(file.root) if file.root else schema.Timeline(piece.title)
    timeline = root[file.within] if file.within is not None else root
    if timeline.name.strip() != piece.title:
        timeline.name = piece.title
    items = writing.items()
    if file.track is not None:
        track = timeline.tracks[file.track]
        del track[:]
    else:
        track = schema.Track("video", kind=schema.TrackKind.Video)
        timeline.tracks.append(track)
    track.extend(items)
    put_bed(timeline, piece, folder)
    if piece.markers != file.markers:
        _mark(timeline.tracks, piece)
    noted = timeline.metadata.get(KEY)
    if noted is not None or not file.root or _must_be_noted(piece, file):
        timeline.metadata[KEY] = writing.noted()
    return root


class _Writing:
    """One piece that is being written."""

    def __init__(self, piece: Piece, file: PieceFile, folder: Path) -> None:
        self._piece = piece
        self._file = file
        self._folder = folder
        self._read_in = Path(file.folder) if file.folder else folder
        self._embedded = Embedded()
        self._segments = {x.clips[0].id: x for x in file.segments}
        self._single = {x.clips[0].id: x for x in file.segments if len(x.clips) == 1}

    def held(self, text: str) -> Any:
        """What stands in the file that was read, naming its files from where it will lie."""
        return _parsed(readdressed(text, self._read_in, self._folder))

    def items(self) -> list[SerializableObject]:
        """What the track holds."""
        found: list[SerializableObject] = []
        clips, place = self._piece.clips, 0
        while place < len(clips):
            clip = clips[place]
            segment = self._segments.get(clip.id)
            found += self._crossing(clip, segment, first=place == 0)
            if segment is not None and _is_as_read(segment, clips[place:]):
                found += map(self.held, segment.items)
                place += len(segment.clips)
            else:
                found += self._clip(clip, first=place == 0)
                place += 1
        return [*found, *map(self.held, self._file.after)]

    def noted(self) -> dict[str, Any]:
        """What the timeline's metadata holds."""
        piece = self._piece
        noted: dict[str, Any] = {"rate": str(piece.rate), "size": piece.size.label}
        if piece.loudness is not None:
            noted["loudness"] = piece.loudness
        wrinkles = self._embedded.metadata()
        return noted | ({"wrinkles": wrinkles} if wrinkles else {})

    def _crossing(
        self, clip: PieceClip, segment: Segment | None, first: bool
    ) -> list[SerializableObject]:
        use = clip.entry
        if segment is not None and segment.transition and use == segment.entry:
            held = self.held(segment.transition)
            if use is not None and held.metadata.get(KEY) is not None:
                # What it refers to stands in the timeline under a name that may be another one.
                held.metadata[KEY] = encoded(use, self._embedded, self._folder)
            return [held]
        return [self._transition(use)] if use is not None and not first else []

    def _transition(self, use: PieceUse) -> schema.Transition:
        rate = self._piece.rate
        try:
            reach = use.reach(rate)
            lead, tail = reach.lead, reach.tail
        except InputError:
            lead = rate.nearest_frame(use.wrinkle.lead)
            tail = rate.nearest_frame(use.wrinkle.tail)
        return schema.Transition(
            use.wrinkle.name,
            schema.TransitionTypes.Custom,
            rational(rate.seconds(lead), rate),
            rational(rate.seconds(tail), rate),
            {KEY: encoded(use, self._embedded, self._folder)},
        )

    def _clip(self, clip: PieceClip, first: bool) -> list[SerializableObject]:
        """A clip that is new or was changed; what stood before it and takes no time is kept."""
        before: list[SerializableObject] = []
        held = self._single.get(clip.id)
        made: Any = None
        if held is not None:
            *before, made = map(self.held, held.items)
        if not clip.media.path:
            length = _length(self._piece, clip)
            gap = made if isinstance(made, schema.Gap) else schema.Gap(clip.name)
            gap.source_range = ranged(Fraction(0), length, self._piece.rate)
            return [*before, gap]
        if not isinstance(made, schema.Clip):
            made = schema.Clip()
        self._fill(made, clip, held, first)
        return [*before, made]

    def _fill(self, made: schema.Clip, clip: PieceClip, held: Segment | None, first: bool) -> None:
        piece, media = self._piece, clip.media
        was = held.clips[0] if held is not None else None
        if was is None or was.media.path != media.path:
            made.media_reference = schema.ExternalReference(
                url_of(Path(media.path), self._folder),
                None if media.still else ranged(Fraction(0), media.duration, piece.rate),
            )
        made.name = clip.name
        reference = made.media_reference
        available = reference.available_range if reference is not None else None
        begins = seconds(available.start_time if available is not None else None)
        made.source_range = ranged(begins + clip.start, _length(piece, clip), piece.rate)
        pace = (clip.speed, clip.reverse, clip.stands)
        if was is None or pace != (was.speed, was.reverse, was.stands):
            others = [x for x in made.effects if not isinstance(x, schema.TimeEffect)]
            made.effects[:] = [*others, *_pace(clip)]
        made.metadata[KEY] = self._own(clip, made.source_range, first)

    def _own(self, clip: PieceClip, source: TimeRange, first: bool) -> dict[str, Any]:
        media = clip.media
        own = OwnClip(
            clip.start,
            clip.end,
            clip.speed,
            clip.reverse,
            clip.frozen,
            clip.fit,
            clip.focus,
            clip.level,
            media.duration,
            (media.size.width, media.size.height) if media.size is not None else None,
            media.still,
            (source.start_time.value, source.duration.value),
            encoded(clip.entry, self._embedded, self._folder)
            if first and clip.entry is not None
            else None,
            clip.pitch_kept,
            clip.track,
            clip.muted,
            clip.rise or None,
            clip.fall or None,
        )
        return json.loads(msgspec.json.encode(own, enc_hook=to_json))  # type: ignore[no-any-return]


def _is_as_read(segment: Segment, clips: tuple[PieceClip, ...]) -> bool:
    """Whether the clips of a segment stand there as they were, with no use within."""
    there = clips[: len(segment.clips)]
    if any(clip.entry is not None for clip in there[1:]):
        return False
    return [_said(clip) for clip in there] == [_said(clip) for clip in segment.clips]


def _must_be_noted(piece: Piece, file: PieceFile) -> bool:
    """Whether anything was changed in a timeline that somebody else wrote."""
    was = [
        (_said(clip), segment.entry if not place else None)
        for segment in file.segments
        for place, clip in enumerate(segment.clips)
    ]
    changed = [(_said(clip), clip.entry) for clip in piece.clips] != was
    return changed or piece.loudness is not None


def _said(clip: PieceClip) -> tuple[object, ...]:
    """What a timeline says of a clip; what was found out of its file since is no change."""
    return (
        clip.id, clip.name, clip.media.path, clip.start, clip.end, clip.speed, clip.reverse,
        clip.frozen, clip.fit, clip.focus, clip.level, clip.pitch_kept, clip.track,
        clip.muted, clip.rise, clip.fall,
    )  # fmt: skip


def _length(piece: Piece, clip: PieceClip) -> Fraction:
    """How long a clip is in the timeline: whole frames, as it is seen."""
    return piece.rate.seconds(piece.frames_of(clip))


def _pace(clip: PieceClip) -> list[schema.TimeEffect]:
    if clip.stands:
        return [schema.FreezeFrame()]
    if clip.plain:
        return []
    scalar = float(-clip.speed if clip.reverse else clip.speed)
    return [schema.LinearTimeWarp(name="speed", time_scalar=scalar)]


def _mark(tracks: schema.Stack, piece: Piece) -> None:
    tracks.markers[:] = [
        schema.Marker(marker.text, ranged(marker.time, Fraction(0), piece.rate))
        for marker in piece.markers
    ]


def _parsed(text: str) -> Any:
    return SerializableObject.from_json_string(text)
