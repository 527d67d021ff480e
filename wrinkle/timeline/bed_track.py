"""The music under a piece, as a sound track of its timeline that other programs play too."""

from __future__ import annotations

import json
from contextlib import suppress
from fractions import Fraction
from pathlib import Path
from typing import Any

import msgspec
from opentimelineio import schema

from wrinkle.core.design.document.coding import from_json, to_json
from wrinkle.core.errors import InputError
from wrinkle.core.piece.bed import Bed
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.media import Media
from wrinkle.core.time.rate import FrameRate
from wrinkle.timeline.places import path_of, url_of
from wrinkle.timeline.times import ranged
from wrinkle.timeline.uses import KEY

_NAME = "music"


class _OwnBed(msgspec.Struct, frozen=True, omit_defaults=True):
    """What a sound track's metadata holds: all that a timeline has no word for."""

    duration: Fraction
    at: Fraction = Fraction(0)
    start: Fraction = Fraction(0)
    level: float = -6.0
    rise: Fraction = Fraction(0)
    fall: Fraction = Fraction(1)
    gives_way: float = 9.0
    pace: Fraction = Fraction(1)
    other: bool = False
    moved: Fraction = Fraction(0)


def is_bed(track: object) -> bool:
    """Whether a track is one that Wrinkle wrote for the music."""
    return isinstance(track, schema.Track) and "bed" in (track.metadata.get(KEY) or {})


def bed_of(timeline: schema.Timeline, folder: Path) -> Bed | None:
    """The music of a timeline in a folder; None where there is none that Wrinkle wrote."""
    for track in filter(is_bed, timeline.tracks):
        clip = next((x for x in track if isinstance(x, schema.Clip)), None)
        reference = clip.media_reference if clip is not None else None
        if not isinstance(reference, schema.ExternalReference):
            continue
        place = path_of(reference.target_url, folder)
        if place is None:
            continue
        with suppress(InputError, msgspec.ValidationError):
            held = json.loads(track.metadata[KEY]["bed"])
            own = msgspec.convert(held, _OwnBed, dec_hook=from_json)
            fields = msgspec.structs.asdict(own)
            media = Media(str(place), place.name, fields.pop("duration"))
            return Bed(media, **fields)
    return None


def put_bed(timeline: schema.Timeline, piece: Piece, folder: Path) -> None:
    """Writes the music of a piece into its timeline, which lies in a folder."""
    for number in reversed([n for n, track in enumerate(timeline.tracks) if is_bed(track)]):
        del timeline.tracks[number]
    if piece.bed is not None:
        timeline.tracks.append(_track(piece.bed, piece, folder))


def _track(bed: Bed, piece: Piece, folder: Path) -> schema.Track:
    rate: FrameRate = piece.rate
    reference = schema.ExternalReference(
        url_of(Path(bed.media.path), folder), ranged(Fraction(0), bed.media.duration, rate)
    )
    whole = rate.seconds(piece.frame_count)
    lasts = min(bed.media.duration - bed.start, max(whole - bed.at, rate.seconds(1)))
    clip = schema.Clip(bed.media.name, reference, ranged(bed.start, lasts, rate))
    fields: dict[str, Any] = {
        name: getattr(bed, name) for name in _OwnBed.__struct_fields__ if name != "duration"
    }
    own = _OwnBed(bed.media.duration, **fields)
    held = msgspec.json.encode(own, enc_hook=to_json).decode()
    # As a text: what is a number here would come back as another one.
    track = schema.Track(_NAME, kind=schema.TrackKind.Audio, metadata={KEY: {"bed": held}})
    if bed.at:
        track.append(schema.Gap(source_range=ranged(Fraction(0), bed.at, rate)))
    track.append(clip)
    return track
