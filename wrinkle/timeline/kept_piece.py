"""How the states of an open piece are kept beside the program.

Clips refer to uses by number and uses to wrinkles by part, so that a step of a long piece is small.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from fractions import Fraction
from functools import partial
from weakref import WeakValueDictionary

import msgspec

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.coding import decode, encode, to_json
from wrinkle.core.design.document.dials import DialValue
from wrinkle.core.errors import DocumentError
from wrinkle.core.motion.direction import Direction
from wrinkle.core.picture.fit import Fit
from wrinkle.core.picture.image import Size
from wrinkle.core.piece.bed import Bed
from wrinkle.core.piece.document import Marker, Piece, PieceClip
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.other_sound import OtherSound
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.reuse.use import Choices
from wrinkle.core.sound.joins import STRAIGHT, SoundJoin
from wrinkle.core.time.rate import FrameRate
from wrinkle.library.autosaves import Get, Put
from wrinkle.timeline.piece_file import PieceFile, Segment

_LONGEST_NUMBER = 200
"""Characters; times in files of others are longer than ours, and those that were met are kept."""


Bundles = WeakValueDictionary[tuple[str, tuple[tuple[str, str], ...]], Bundle]
"""Wrinkles with what they carry, by the names of their parts."""


class _Times(msgspec.Struct, frozen=True):
    """Values of dials; times apart from the others, since both are text or numbers."""

    plain: dict[str, float | bool | str | list[float]]
    times: dict[str, Fraction]


class _Use(msgspec.Struct, frozen=True):
    wrinkle: str
    assets: dict[str, str]
    lead: Fraction | None
    tail: Fraction | None
    words: dict[str, str]
    dials: _Times
    direction: Direction
    strength: float
    softness: float
    fillings: dict[str, int]
    join: tuple[str, int] = (STRAIGHT, 6)


class _Clip(msgspec.Struct, frozen=True, array_like=True):
    id: str
    name: str
    media: int
    start: Fraction
    end: Fraction
    speed: Fraction
    reverse: bool
    frozen: bool
    fit: Fit
    focus: tuple[float, float]
    level: float
    entry: int | None
    pitch_kept: bool = False
    track: int = 0
    muted: bool = False
    rise: Fraction = Fraction(0)
    fall: Fraction = Fraction(0)


class _Media(msgspec.Struct, frozen=True, array_like=True):
    path: str
    name: str
    duration: Fraction
    size: tuple[int, int] | None
    still: bool


class _Bed(msgspec.Struct, frozen=True, array_like=True):
    media: int
    at: Fraction
    start: Fraction
    level: float
    rise: Fraction
    fall: Fraction
    gives_way: float
    pace: Fraction
    other: bool
    moved: Fraction


class _Other(msgspec.Struct, frozen=True, array_like=True):
    media: int
    at: Fraction
    start: Fraction
    length: Fraction


class _Piece(msgspec.Struct, frozen=True):
    title: str
    size: tuple[int, int]
    rate: Fraction
    media: list[_Media]
    uses: list[_Use]
    clips: list[_Clip]
    markers: list[tuple[Fraction, str]]
    bed: _Bed | None = None
    loudness: float | None = None
    others: list[_Other] = []


class _Segment(msgspec.Struct, frozen=True, array_like=True):
    clips: list[_Clip]
    items: tuple[str, ...]
    entry: int | None
    transition: str


class _File(msgspec.Struct, frozen=True):
    """What a piece was read from; whole in itself, since it stays the same from step to step."""

    ours: bool
    root: str
    within: int | None
    track: int | None
    after: tuple[str, ...]
    unseen: tuple[str, ...]
    markers: list[tuple[Fraction, str]]
    media: list[_Media]
    uses: list[_Use]
    segments: list[_Segment]
    parts: dict[str, bytes]
    folder: str = ""
    lost: tuple[str, ...] = ()


class PieceCodec:
    """A piece, and as its rest what it was read from."""

    key = "piece"

    def __init__(self) -> None:
        # Parts are called by what they hold: of states that share a wrinkle it is made once.
        self._bundles: Bundles = WeakValueDictionary()

    def title(self, state: Piece) -> str:
        """Its title."""
        return state.title

    def encode(self, state: Piece, put: Put) -> bytes:
        """All of it but the wrinkles, which are parts."""
        writing = _Writing(put)
        clips, bed = [writing.clip(clip) for clip in state.clips], writing.bed(state.bed)
        others = [writing.other(one) for one in state.others]
        found = _Piece(
            state.title, (state.size.width, state.size.height), state.rate.per_second,
            writing.media, writing.uses, clips, [(x.time, x.text) for x in state.markers],
            bed, state.loudness, others,
        )  # fmt: skip
        return msgspec.json.encode(found, enc_hook=to_json)

    def decode(self, content: bytes, get: Get) -> Piece:
        """The piece in such bytes.

        Raises:
            DocumentError: a part that it refers to is missing.
        """
        found = msgspec.json.decode(content, type=_Piece, dec_hook=_exact)
        try:
            reading = _Reading(found.media, found.uses, get, self._bundles)
            clips = tuple(reading.clip(clip) for clip in found.clips)
            bed = reading.bed(found.bed)
            others = tuple(reading.other(one) for one in found.others)
        except IndexError:
            raise DocumentError("it is damaged") from None
        markers = tuple(Marker(time, text) for time, text in found.markers)
        rate = FrameRate(found.rate)
        size = Size(*found.size)
        return Piece(found.title, size, rate, clips, markers, bed, found.loudness, others)

    def encode_rest(self, rest: PieceFile, put: Put) -> str:
        """The part that holds what was read."""
        return put(rest, lambda: _encoded_file(rest))

    def decode_rest(self, found: object, get: Get) -> PieceFile:
        """What was read."""
        held = msgspec.json.decode(get(str(found)), type=_File, dec_hook=_exact)

        def part(name: str) -> bytes:
            return held.parts[name]

        reading = _Reading(held.media, held.uses, part, self._bundles)
        segments = tuple(
            Segment(
                tuple(reading.clip(clip) for clip in one.clips),
                one.items,
                reading.use(one.entry),
                one.transition,
            )
            for one in held.segments
        )
        markers = tuple(Marker(time, text) for time, text in held.markers)
        return PieceFile(
            held.ours,
            held.root,
            held.within,
            held.track,
            segments,
            held.after,
            markers,
            held.unseen,
            held.folder,
            held.lost,
        )

    def check(self, state: Piece, rest: PieceFile) -> None:
        """Files that are missing are shown dark, and can be found again."""


class _Writing:
    """Clips and uses as numbers into lists of what they have in common."""

    def __init__(self, put: Put) -> None:
        self._put = put
        self._numbers: dict[int, int] = {}
        self._media_numbers: dict[Media, int] = {}
        self.media: list[_Media] = []
        self.uses: list[_Use] = []

    def clip(self, clip: PieceClip) -> _Clip:
        return _Clip(
            clip.id, clip.name, self._media(clip.media), clip.start, clip.end, clip.speed,
            clip.reverse, clip.frozen, clip.fit, clip.focus, clip.level, self.use(clip.entry),
            clip.pitch_kept, clip.track, clip.muted, clip.rise, clip.fall,
        )  # fmt: skip

    def use(self, use: PieceUse | None) -> int | None:
        if use is None:
            return None
        if id(use) not in self._numbers:
            chosen, bundle = use.choices, use.bundle
            assets = bundle.assets
            wrinkle = self._put(bundle.wrinkle, lambda: encode(bundle.wrinkle))
            kept = {name: self._put(one, partial(bytes, one)) for name, one in assets.items()}
            times = {key: x for key, x in chosen.dials.items() if isinstance(x, Fraction)}
            plain = {
                key: list(x) if isinstance(x, tuple) else x
                for key, x in chosen.dials.items()
                if not isinstance(x, Fraction)
            }
            fillings = {slot: self._media(media) for slot, media in use.fillings.items()}
            self.uses.append(_Use(
                wrinkle, kept, chosen.lead, chosen.tail, dict(chosen.words), _Times(plain, times),
                chosen.direction, chosen.strength, chosen.softness, fillings,
                (chosen.join.kind, chosen.join.frames),
            ))  # fmt: skip
            self._numbers[id(use)] = len(self.uses) - 1
        return self._numbers[id(use)]

    def bed(self, bed: Bed | None) -> _Bed | None:
        if bed is None:
            return None
        return _Bed(
            self._media(bed.media), bed.at, bed.start, bed.level, bed.rise, bed.fall,
            bed.gives_way, bed.pace, bed.other, bed.moved,
        )  # fmt: skip

    def other(self, one: OtherSound) -> _Other:
        return _Other(self._media(one.media), one.at, one.start, one.length)

    def _media(self, media: Media) -> int:
        if media not in self._media_numbers:
            size = (media.size.width, media.size.height) if media.size is not None else None
            self.media.append(_Media(media.path, media.name, media.duration, size, media.still))
            self._media_numbers[media] = len(self.media) - 1
        return self._media_numbers[media]


class _Reading:
    """The way back."""

    def __init__(self, media: list[_Media], uses: list[_Use], get: Get, bundles: Bundles) -> None:
        self._get, self._bundles = get, bundles
        self._media = [
            Media(x.path, x.name, x.duration, Size(*x.size) if x.size else None, x.still)
            for x in media
        ]
        self._uses = [self._made(use) for use in uses]

    def clip(self, clip: _Clip) -> PieceClip:
        return PieceClip(
            clip.id, clip.name, self._media[clip.media], clip.start, clip.end, clip.speed,
            clip.reverse, clip.frozen, clip.fit, clip.focus, clip.level, self.use(clip.entry),
            clip.pitch_kept, clip.track, clip.muted, clip.rise, clip.fall,
        )  # fmt: skip

    def use(self, number: int | None) -> PieceUse | None:
        return None if number is None else self._uses[number]

    def bed(self, bed: _Bed | None) -> Bed | None:
        if bed is None:
            return None
        return Bed(
            self._media[bed.media], bed.at, bed.start, bed.level, bed.rise, bed.fall,
            bed.gives_way, bed.pace, bed.other, bed.moved,
        )  # fmt: skip

    def other(self, one: _Other) -> OtherSound:
        return OtherSound(self._media[one.media], one.at, one.start, one.length)

    def _made(self, use: _Use) -> PieceUse:
        key = use.wrinkle, tuple(sorted(use.assets.items()))
        bundle = self._bundles.get(key)
        if bundle is None:
            assets = {name: self._get(part) for name, part in use.assets.items()}
            bundle = self._bundles[key] = Bundle(decode(self._get(use.wrinkle)), assets)
        dials: dict[str, DialValue] = dict(use.dials.times)
        for name, value in use.dials.plain.items():
            dials[name] = tuple(value) if isinstance(value, list) else value
        choices = Choices(
            use.lead, use.tail, use.words, dials, use.direction, use.strength, use.softness,
            SoundJoin(*use.join),
        )  # fmt: skip
        fillings = {slot: self._media[number] for slot, number in use.fillings.items()}
        return PieceUse(bundle, choices, fillings)


def _encoded_file(file: PieceFile) -> bytes:
    parts: dict[str, bytes] = {}

    def put(owner: object, make: Callable[[], bytes]) -> str:
        content = make()
        name = hashlib.sha256(content).hexdigest()
        parts[name] = content
        return name

    writing = _Writing(put)
    segments = [
        _Segment(
            [writing.clip(clip) for clip in one.clips],
            one.items,
            writing.use(one.entry),
            one.transition,
        )
        for one in file.segments
    ]
    held = _File(
        file.ours, file.root, file.within, file.track, file.after, tuple(file.unseen),
        [(marker.time, marker.text) for marker in file.markers], writing.media, writing.uses,
        segments, parts, file.folder, tuple(file.lost),
    )  # fmt: skip
    return msgspec.json.encode(held, enc_hook=to_json)


def _exact(kind: type, value: object) -> Fraction:
    if kind is not Fraction or not isinstance(value, str) or len(value) > _LONGEST_NUMBER:
        raise ValueError("expected an exact number as text")
    return Fraction(value)
