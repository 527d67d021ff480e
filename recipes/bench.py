"""A wrinkle in work: each method is one thing that is done on the Bench."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction
from typing import Any

from msgspec.structs import replace

from wrinkle.core.design.dials import dial_edits
from wrinkle.core.design.document.dials import TAIL, WRINKLE, Drive, How
from wrinkle.core.design.document.layer_kinds import LayerSource
from wrinkle.core.design.document.masking import Matte, MatteBy
from wrinkle.core.design.document.named_dials import ChoiceDial
from wrinkle.core.design.document.setting import Jitter, Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.slot_kinds import CLIP, WORDS
from wrinkle.core.design.document.slots import Unfilled
from wrinkle.core.design.document.sources import (
    FillSource,
    SlotSource,
    TreatmentSource,
    WordsSource,
)
from wrinkle.core.design.document.timing import Span
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.design.edits import (
    effect_edits,
    grouping,
    lane_edits,
    layer_copies,
    layer_edits,
    mask_edits,
    slot_edits,
    wrinkle_edits,
)
from wrinkle.core.design.edits.layer_edits import with_layer
from wrinkle.core.design.edits.set_aside_edits import set_aside
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.feels import parse_ease
from wrinkle.core.motion.held_at import HeldAt
from wrinkle.core.motion.track import IncomingHalf, Keyframe, Track
from wrinkle.core.motion.values import Value, number_of
from wrinkle.core.picture.faces import ShippedFace
from wrinkle.core.picture.paths import Outline, ellipse, rectangle

RATE = 30
HALF = 15
"""Frames of lead and of tail."""
ACTIVE = 11
"""Frames from the cut within which anything moves: at half the length, and at any rate, the first
and the last frame are at rest with their whole shutter."""
_UPRIGHT = 1920 / 1080
_PLACES = {
    "top": (0.5, 0.04),
    "upper third": (0.5, 0.28),
    "middle": (0.5, 0.5),
    "lower third": (0.5, 0.72),
    "bottom": (0.5, 0.96),
}
Key = tuple[float, Value] | tuple[float, Value, str]
"""A frame, a value there, and the feel or the ease, as it is typed, that leads on."""


class Work:
    """A plain cut that becomes a wrinkle.

    Args:
        name, about: what it is called, and what it is for.
        kinds: under which it is found.
    """

    def __init__(self, name: str, about: str, *kinds: str, half: int = HALF) -> None:
        wrinkle = wrinkle_edits.rename(plain_cut(), name)
        wrinkle = wrinkle_edits.describe(wrinkle, about, kinds)
        length = Fraction(half, RATE)
        self.wrinkle = wrinkle_edits.set_length(wrinkle, length, length)

    def lengths(self, lead: int, tail: int) -> None:
        """How many frames lie before the cut and after it, where they are not the same."""
        before, after = Fraction(lead, RATE), Fraction(tail, RATE)
        self.wrinkle = wrinkle_edits.set_length(self.wrinkle, before, after)

    def layer(
        self,
        name: str,
        source: LayerSource | str | None = None,
        first: float | None = None,
        end: float | None = None,
        **settings: Value,
    ) -> str:
        """A new layer in front; gives its id. Without a source it is a treatment."""
        if isinstance(source, str):
            source = SlotSource(source)
        before = self.wrinkle
        shown = source if source is not None else TreatmentSource()
        self.wrinkle = layer_edits.add_layer(self.wrinkle, name, shown)
        new = layer_edits.added(before, self.wrinkle)[0].id
        self.span(new, first, end)
        for key, value in settings.items():
            self.put(new, key, value)
        return new

    def aside(self, check: str, reason: str, layer: str = "", address: str = "") -> None:
        """What a check finds is wanted so."""
        self.wrinkle = set_aside(self.wrinkle, (check, layer, address), reason)

    def span(self, layer: str, first: float | None, end: float | None) -> None:
        """When a layer is there, in frames; None is the window's end."""
        ends = (None if x is None else _seconds(x) for x in (first, end))
        changed = replace(self.wrinkle.layer(layer), span=Span(*ends))
        self.wrinkle = with_layer(self.wrinkle, changed)

    def order(self, *ids: str) -> None:
        """The layers from the back to the front."""
        layers = {x.id: x for x in self.wrinkle.layers}
        self.wrinkle = layer_edits.with_layers(self.wrinkle, tuple(layers[x] for x in ids))

    def panel(
        self, name: str, row: int, rows: int, side: float, start: float, home: float, end: float
    ) -> str:
        """One of so many rows of the next clip, which slides in from a side; gives its id.

        Args:
            name: of its layer.
            row, rows: which one it is, from 0, and of how many.
            side: where it comes from, in widths of the frame.
            start, home, end: the frames on which it sets off, is there, and gives way.
        """
        layer = self.layer(name, "incoming", start, end)
        self.mask(layer, rectangle(-0.5, row / rows, 1.5, row / rows + 1 / rows))
        self.lane(layer, "position", (start, (side, 0.0), "brake"), (home, (0.0, 0.0)))
        # Weaker, it does not come from outside: it fades in then.
        self.lane(layer, "opacity", (start, 0.0), (start + 3, 100.0))
        self.put(layer, "edge_cover", "bare")
        return layer

    def put(self, layer: str, key: str, value: Value) -> None:
        """A still value."""
        ref = SettingRef(layer, key)
        self.wrinkle = lane_edits.set_value(self.wrinkle, ref, Fraction(0), value)

    def lane(self, layer: str, key: str, *keys: Key, half: IncomingHalf = IncomingHalf.OWN) -> None:
        """Keyframes of a setting."""
        rest = self.wrinkle.layer(layer).setting(key).rest
        track = Track(tuple(_key(one) for one in keys), half)
        self.wrinkle = lane_edits.with_track(self.wrinkle, SettingRef(layer, key), track)
        if self.wrinkle.layer(layer).setting(key).rest != rest:
            raise ValueError(key)

    def speed(self, layer: str, *keys: Key) -> None:
        """How fast a layer's clip runs, in per cent."""
        track = Track(tuple(_key(one) for one in keys))
        timing = self.wrinkle.layer(layer).timing
        self.change(layer, timing=replace(timing, speed=Setting(100.0, track)))

    def carry_on(self, layer: str, key: str, goal: Value, feel: str = "rush") -> None:
        """From rest to a value at the cut, and on in the same direction to rest again."""
        rest = self.wrinkle.layer(layer).setting(key).rest
        self.lane(layer, key, (-ACTIVE, rest, feel), (0, goal), half=IncomingHalf.CARRY_ON)

    def peak(
        self, layer: str, key: str, goal: Value, feel: str = "swell", reach: float = ACTIVE
    ) -> None:
        """From rest to a value at the cut, and back."""
        rest = self.wrinkle.layer(layer).setting(key).rest
        self.lane(layer, key, (-reach, rest, feel), (0, goal), half=IncomingHalf.RETURN)

    def jitter(self, layer: str, key: str, rate: float, seed: int, *keys: Key) -> None:
        """Random movement whose amount is a lane."""
        amount = Setting(0.0, Track(tuple(_key(one) for one in keys)))
        ref = SettingRef(layer, key)
        self.wrinkle = lane_edits.set_jitter(self.wrinkle, ref, Jitter(amount, rate, 0.4, seed))

    def effect(self, layer: str, kind: str, **values: Value) -> Mapping[str, str]:
        """An effect with still values; gives the addresses of its settings."""
        self.wrinkle, use = effect_edits.add_effect(self.wrinkle, layer, kind)
        added = self.wrinkle.layer(layer).effect_use(use)
        cleared = replace(added, values={})
        self.wrinkle = with_layer(self.wrinkle, self.wrinkle.layer(layer).with_effect(cleared))
        found = {spec.key: str(added.address(spec.key)) for spec in added.effect.settings}
        for key, value in values.items():
            self.put(layer, found[key], value)
        return found

    def round_mask(self, layer: str, outline: Outline, **values: Value) -> str:
        """A mask that stays round in a frame of another shape; gives the address of its path."""
        return self.mask(layer, outline, keeps_form=True, **values)

    def patch(
        self,
        name: str,
        first: float,
        end: float,
        colour: Value,
        outline: Outline,
        blend: str | None = None,
        **mask: Value,
    ) -> tuple[str, str]:
        """A shade or a light: a colour within a soft mask, bare outside it and never blurred.

        Returns:
            The layer's id, and the address of the mask's path.
        """
        layer = self.layer(name, FillSource(), first, end)
        if blend is not None:
            self.put(layer, "blend", blend)
        settings = ("source.colour", colour), ("edge_cover", "bare"), ("motion_blur", False)
        for key, value in settings:
            self.put(layer, key, value)
        return layer, self.mask(layer, outline, **mask)

    def mask(self, layer: str, outline: Outline, **values: Value) -> str:
        """A mask; gives the address of its path."""
        self.wrinkle, mask = mask_edits.add_mask(self.wrinkle, layer, outline)
        for key, value in values.items():
            self.put(layer, f"masks.{mask}.{key}", value)
        return f"masks.{mask}.path"

    def matte(
        self, layer: str, cutter: str, by: MatteBy = MatteBy.COVERAGE, inverted: bool = False
    ) -> None:
        """A layer is cut by another one."""
        changed = replace(self.wrinkle.layer(layer), matte=Matte(cutter, by, inverted))
        self.wrinkle = with_layer(self.wrinkle, changed)

    def change(self, layer: str, **fields: Any) -> None:
        """Plain fields of a layer."""
        self.wrinkle = with_layer(self.wrinkle, replace(self.wrinkle.layer(layer), **fields))

    def group(self, name: str, *ids: str) -> str:
        """Layers as one; gives the group's id."""
        before = self.wrinkle
        self.wrinkle = grouping.group_layers(self.wrinkle, ids, name)
        return layer_edits.added(before, self.wrinkle)[0].id

    def lut(self, layer: str, asset: str) -> str:
        """A look from a file; gives the address of its amount."""
        found = self.effect(layer, "lut")
        use = self.wrinkle.layer(layer).effects[-1].id
        self.wrinkle = effect_edits.change_effect(self.wrinkle, layer, use, asset=asset)
        return found["amount"]

    def words_slot(self, label: str, about: str, words: str) -> str:
        """A slot for words; gives its key."""
        return self._further_slot(WORDS, label, about, words=words)

    def clip_slot_if_filled(self, label: str, about: str) -> str:
        """A slot for a clip that shows nothing as long as nothing fills it; gives its key."""
        return self._further_slot(CLIP, label, about, unfilled=Unfilled.NOTHING)

    def clip_slot(self, label: str, about: str, asset: str, cut: float) -> str:
        """A slot for a clip; gives its key. The stand-in's second ``cut`` falls on the cut."""
        at = Fraction(cut).limit_denominator(1000)
        return self._further_slot(CLIP, label, about, stand_in=asset, stand_in_cut=at)

    def _further_slot(
        self,
        kind: str,
        label: str,
        about: str,
        unfilled: Unfilled = Unfilled.STAND_IN,
        **fields: Any,
    ) -> str:
        self.wrinkle, key = slot_edits.add_further_slot(self.wrinkle, kind)
        self.wrinkle = slot_edits.change_slot(
            self.wrinkle, key, label=label, about=about, unfilled=unfilled, **fields
        )
        return key

    def shutter(self, angle: float) -> None:
        """The shutter of the motion blur."""
        self.wrinkle = wrinkle_edits.set_shutter(self.wrinkle, angle)

    def directions(
        self, as_made: str, other: str, mirror: Direction = Direction.LEFT_RIGHT
    ) -> None:
        """The two directions that make sense."""
        names = {Direction.AS_MADE: as_made, mirror: other}
        self.wrinkle = wrinkle_edits.set_directions(self.wrinkle, names)

    def only_as_made(self, name: str) -> None:
        """No mirror makes sense."""
        self.wrinkle = wrinkle_edits.set_directions(self.wrinkle, {Direction.AS_MADE: name})

    def dial(
        self,
        name: str,
        about: str,
        *settings: tuple[str, str],
        ends: tuple[float, float] | None = None,
    ) -> None:
        """A dial on one or more settings, each by its layer and its address.

        Args:
            ends: of its range, where the whole range of the setting does not look good; in per
                cent of what is made where the first setting moves.
        """
        (layer, key), *further = settings
        self.wrinkle, dial = dial_edits.offer(self.wrinkle, layer, key)
        if ends is not None:
            drive = dial_edits.dial_with(self.wrinkle, dial).drives[0]
            part = 1.0 if drive.how is How.SET else 0.01
            drive = replace(drive, start=ends[0] * part, end=ends[1] * part)
            self.wrinkle = dial_edits.change_dial(
                self.wrinkle, dial, low=ends[0], high=ends[1], drives=(drive,)
            )
        for other, address in further:
            self.wrinkle = dial_edits.add_drive(self.wrinkle, dial, other, address)
        self.wrinkle = dial_edits.change_dial(self.wrinkle, dial, name=name, about=about)

    def gives(self, dial: str, layer: str, key: str, *values: Value) -> None:
        """What each option of a dial gives for one of the settings that it drives."""
        found = next(x for x in self.wrinkle.dials if x.name == dial)
        at = next(n for n, x in enumerate(found.drives) if (x.layer, x.key) == (layer, key))
        self.wrinkle = dial_edits.change_drive(self.wrinkle, found.id, at, values=values)

    def words(
        self,
        name: str,
        slot: str,
        text: str,
        first: float,
        end: float,
        face: ShippedFace = ShippedFace.PLAIN,
        **settings: Value,
    ) -> str:
        """Words of a slot that stay inside the safe area; gives the layer's id."""
        words = self.layer(name, WordsSource(text=text, slot=slot), first, end)
        for key, value in {"face": face.value, "keep_inside": True, **settings}.items():
            self.put(words, f"source.{key}", value)
        return words

    def shaded(self, words: str, opacity: float = 62.0, radius: float = 2.8) -> str:
        """A soft dark copy behind words, so that they are read on anything; gives its id.

        It is made when all else of them is set: it moves, and comes and goes, as they do.
        """
        before = self.wrinkle
        self.wrinkle = layer_copies.duplicate(before, words)
        copy = layer_edits.added(before, self.wrinkle)[0].id
        self.change(copy, name=f"Shade of {before.layer(words).name.lower()}")
        for key, value in (("fill", (0.0, 0.0, 0.0)), ("stroke_width", 0.4 * radius)):
            self.put(copy, f"source.{key}", value)
        self.put(copy, "source.stroke", (0.0, 0.0, 0.0))
        opacity_lane = self.wrinkle.layer(copy).setting("opacity")
        ref = SettingRef(copy, "opacity")
        faded = opacity_lane.mapped(lambda x: number_of(x) * opacity / 100.0)
        self.wrinkle = lane_edits.with_setting(self.wrinkle, ref, faded)
        self.effect(copy, "gaussian_blur", radius=radius)
        return copy

    def title_dials(self, *layers: str, largest: float = 40.0) -> None:
        """Size, place and face of words, as dials."""
        keys = [[(layer, f"source.{key}") for layer in layers] for key in ("size", "face")]
        self.dial("Size", "Of the letters, of the short side.", *keys[0], ends=(6.0, largest))
        self.dial("Face", "Of the letters.", *keys[1])
        self.place_dial(*layers)

    def place_dial(self, *layers: str) -> None:
        """Where words stand, as a dial with names."""
        places = tuple(_PLACES.values())
        drives = tuple(Drive(layer, "source.place", values=places) for layer in layers)
        dial = ChoiceDial(
            "place", "Place", "Where the words stand.", drives, tuple(_PLACES), "middle"
        )
        self.wrinkle = replace(self.wrinkle, dials=(*self.wrinkle.dials, dial))

    def length_dial(
        self, name: str, about: str, low: float, high: float, besides: float = 0.0
    ) -> None:
        """How long it is after the cut, in seconds, as a dial.

        Args:
            besides: seconds of it that the dial does not count.
        """
        self.wrinkle, dial = dial_edits.offer(self.wrinkle, WRINKLE, TAIL)
        (drive,) = dial_edits.dial_with(self.wrinkle, dial).drives
        self.wrinkle = dial_edits.change_dial(
            self.wrinkle,
            dial,
            name=name,
            about=about,
            low=Fraction(low).limit_denominator(RATE),
            high=Fraction(high).limit_denominator(RATE),
            default=self.wrinkle.tail - Fraction(besides).limit_denominator(RATE),
            drives=(replace(drive, start=low + besides, end=high + besides),),
        )

    def keeps(self, layer: str, held: HeldAt, *keys: str) -> None:
        """Lanes that keep their length when the wrinkle gets another one."""
        for key in keys:
            self.wrinkle = lane_edits.set_keeps(self.wrinkle, SettingRef(layer, key), held)

    def blur_dial(self) -> None:
        """The shutter as a dial."""
        self.dial("Motion blur", "How long the shutter is open.", ("", "shutter_angle"))

    def seed_dial(self) -> None:
        """All that is random as a dial."""
        self.wrinkle, _ = dial_edits.offer_seed(self.wrinkle)


def oval(x: float, y: float, across: float, down: float) -> Outline:
    """An ellipse about (x, y), in parts of the frame; its radii in parts of the short side.

    The recipes are designed in an upright frame.
    """
    return ellipse(x, y, across, down / _UPRIGHT)


def circle(radius: float) -> Outline:
    """A circle about the middle; above 1.02 it holds an upright or a level frame whole."""
    return oval(0.5, 0.5, radius, radius)


def _key(key: Key) -> Keyframe:
    ease = parse_ease(key[2] if len(key) > 2 else "steady")
    return Keyframe(_seconds(key[0]), key[1], ease)


def _seconds(frame: float) -> Fraction:
    return Fraction(frame).limit_denominator(1000) / RATE
