"""The document: frozen values that share what an edit did not change.

Time is in exact seconds from the cut, negative before it. Layers stand in the order in which they
are laid down: the last one is front-most. Ids are stable, so that links survive reordering.
"""

from __future__ import annotations

from enum import Enum
from fractions import Fraction

import msgspec
from msgspec.structs import replace

from wrinkle.core.design.settings import JITTER, PLACEMENT_KEYS, SETTINGS, spec_of
from wrinkle.core.errors import InputError
from wrinkle.core.motion.clock import Clock
from wrinkle.core.motion.formula import check_formula, evaluate, split_pair
from wrinkle.core.motion.jitter import jitter_at
from wrinkle.core.motion.track import CUT, Side, Track
from wrinkle.core.motion.values import Value, parts, require_finite, same_kind
from wrinkle.core.picture.fit import Fit
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.resample import EdgeCover
from wrinkle.core.time.rate import FrameRate

FORMAT = 1
LONGEST_HALF = Fraction(60)


class Setting(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """A value that can be animated.

    Attributes:
        rest: the value without all that follows.
        track: keyframes, if the setting is a lane.
        jitter: random movement on top.
        formula: gives the value instead of rest and keyframes; for a pair two formulas with a
            comma between them.

    Raises:
        InputError: the rest value is not finite, the keyframes are of another kind, or the formula
            cannot be read.
    """

    rest: Value
    track: Track | None = None
    jitter: Jitter | None = None
    formula: str | None = None

    def __post_init__(self) -> None:
        require_finite(self.rest, "A setting's rest value")
        if self.track is not None and not same_kind(self.rest, self.track.keys[0].value):
            raise InputError("The keyframes must be of the same kind as the rest value.")
        if len(parts(self.rest)) not in (1, 2) and (self.jitter or self.formula):
            raise InputError("Jitter and formulas need a number or a pair of numbers.")
        if self.formula is not None:
            for part in self._formulas():
                check_formula(part)

    def at(self, time: Fraction, side: Side | None = None) -> Value:
        """The value of rest and keyframes at a time, seen from a side of the cut."""
        if self.track is None:
            return self.rest
        return self.track.value_at(time, self.rest, side)

    def seen(self, time: Fraction, side: Side, clock: Clock) -> Value:
        """The value with formula and jitter, as a frame shows it.

        Raises:
            InputError: the formula has no finite value at that time.
        """
        value = self.at(time, side) if self.formula is None else self._worked_out(time, clock)
        if self.jitter is None:
            return value
        away = [self.jitter.at(time, side, clock, channel) for channel in range(len(parts(value)))]
        moved = tuple(a + b for a, b in zip(parts(value), away, strict=True))
        return moved if isinstance(value, tuple) else moved[0]

    def _worked_out(self, time: Fraction, clock: Clock) -> Value:
        frame = float(time * clock.rate.per_second)
        fps = float(clock.rate.per_second)
        names = {"t": float(time), "frame": frame, "p": clock.progress(time), "fps": fps}
        numbers = [evaluate(part, names) for part in self._formulas()]
        return tuple(numbers) if isinstance(self.rest, tuple) else numbers[0]

    def _formulas(self) -> list[str]:
        text = self.formula or ""
        if not isinstance(self.rest, tuple):
            return [text]
        both = split_pair(text)
        if both is None:
            raise InputError("A pair takes two formulas with a comma between them.")
        return list(both)


class Jitter(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """Seeded random movement: a pure function of time and seed, the same at any rate and size.

    Attributes:
        amount: how far it goes at most, in the setting's unit; a lane of it is its envelope.
        rate: new random values in a second.
        roughness: 0…1, the strength of finer movement.
        seed: another one gives another movement.
        stepped: jumps once for each random value instead of gliding.
    """

    amount: Setting
    rate: float = 12.0
    roughness: float = 0.0
    seed: int = 1
    stepped: bool = False

    def __post_init__(self) -> None:
        if not 0.1 <= self.rate <= 240.0:
            raise InputError(f"The rate of jitter must be within 0.1 and 240, not {self.rate:g}.")
        if not 0.0 <= self.roughness <= 1.0:
            raise InputError("The roughness of jitter must be within 0 and 100 %.")
        if not 0 <= self.seed < 1 << 31:
            raise InputError("The seed of jitter must be within 0 and 2147483647.")
        if len(parts(self.amount.rest)) != 1 or self.amount.jitter is not None:
            raise InputError("The amount of jitter must be one number without jitter of its own.")

    def at(self, time: Fraction, side: Side, clock: Clock, channel: int) -> float:
        """The departure from the value at a time, for one number of it."""
        reach = parts(self.amount.seen(time, side, clock))[0]
        # A stepped jitter changes between frames, never while a shutter is open.
        when = clock.frame if self.stepped else time
        return reach * jitter_at(when, self.rate, self.roughness, self.seed, channel, self.stepped)


def _check_setting(key: str, setting: Setting) -> None:
    spec = spec_of(key)
    spec.checked(setting.rest)
    for keyframe in setting.track.keys if setting.track else ():
        spec.checked(keyframe.value)
    if setting.jitter is not None:
        _check_setting(key + JITTER, setting.jitter.amount)


class Placement(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """Where a layer's picture stands; each field is described in ``SETTINGS``."""

    position: Setting = Setting((0.0, 0.0))
    scale: Setting = Setting((100.0, 100.0))
    rotation: Setting = Setting(0.0)
    skew: Setting = Setting(0.0)
    skew_axis: Setting = Setting(0.0)
    anchor: Setting = Setting((0.5, 0.5))
    tilt: Setting = Setting((0.0, 0.0))
    camera: Setting = Setting(200.0)

    def __post_init__(self) -> None:
        for key in PLACEMENT_KEYS:
            _check_setting(key, getattr(self, key))


class SlotSource(
    msgspec.Struct, frozen=True, tag="slot", tag_field="kind", forbid_unknown_fields=True
):
    """The layer shows what fills a slot."""

    slot: str


class TreatmentSource(
    msgspec.Struct, frozen=True, tag="treatment", tag_field="kind", forbid_unknown_fields=True
):
    """The layer has no picture of its own: it acts on everything below it."""


class PictureSource(
    msgspec.Struct, frozen=True, tag="picture", tag_field="kind", forbid_unknown_fields=True
):
    """The layer shows a picture that is stored with the wrinkle.

    Attributes:
        asset: the picture's file name within the wrinkle's assets.
    """

    asset: str

    def __post_init__(self) -> None:
        if not self.asset or "/" in self.asset or "\\" in self.asset or self.asset[0] == ".":
            raise InputError(f"'{self.asset}' cannot be the name of an asset.")


class FillSource(
    msgspec.Struct, frozen=True, tag="fill", tag_field="kind", forbid_unknown_fields=True
):
    """The layer is filled with its colour."""


Source = SlotSource | TreatmentSource | PictureSource | FillSource


class Span(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """When a layer is there: from ``start`` (included) to ``end`` (excluded).

    ``None`` ties an end to the first or the last frame of the window.
    """

    start: Fraction | None = None
    end: Fraction | None = None

    def __post_init__(self) -> None:
        if self.start is not None and self.end is not None and self.start >= self.end:
            raise InputError("A layer must end after it starts.")

    def holds(self, time: Fraction) -> bool:
        """Whether the layer is there at ``time``."""
        return (self.start is None or time >= self.start) and (self.end is None or time < self.end)


class Layer(
    msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True, kw_only=True
):
    """One picture or treatment of the stack."""

    id: str
    name: str
    source: Source
    span: Span = Span()
    visible: Setting = Setting(True)
    fit: Setting = Setting(Fit.FILL.value)
    edge_cover: Setting = Setting(EdgeCover.MIRROR.value)
    motion_blur: Setting = Setting(True)
    colour: Setting = Setting((1.0, 1.0, 1.0))
    opacity: Setting = Setting(100.0)
    placement: Placement = Placement()
    parent: str | None = None

    def __post_init__(self) -> None:
        if not self.id:
            raise InputError("A layer needs an id.")
        for key in SETTINGS:
            if key not in PLACEMENT_KEYS:
                _check_setting(key, getattr(self, key))

    def setting(self, key: str) -> Setting:
        """The setting with that key, or the amount of its jitter.

        Raises:
            KeyError: there is no such setting.
        """
        base = key.removesuffix(JITTER)
        holder = self.placement if base in PLACEMENT_KEYS else self
        found: Setting = getattr(holder, spec_of(base).key)
        if not key.endswith(JITTER):
            return found
        if found.jitter is None:
            raise KeyError(key)
        return found.jitter.amount

    def with_setting(self, key: str, setting: Setting) -> Layer:
        """The layer with that setting exchanged."""
        if key.endswith(JITTER):
            base = key.removesuffix(JITTER)
            whole = self.setting(base)
            if whole.jitter is None:
                raise KeyError(key)
            jitter = replace(whole.jitter, amount=setting)
            return self.with_setting(base, replace(whole, jitter=jitter))
        if spec_of(key).key in PLACEMENT_KEYS:
            return replace(self, placement=replace(self.placement, **{key: setting}))
        return replace(self, **{key: setting})

    def lanes(self) -> tuple[str, ...]:
        """The keys of the settings that are animated."""
        keys = []
        for key in SETTINGS:
            setting = self.setting(key)
            if setting.track is not None:
                keys.append(key)
            if setting.jitter is not None and setting.jitter.amount.track is not None:
                keys.append(key + JITTER)
        return tuple(keys)


class SlotKind(Enum):
    """What a slot takes."""

    CLIP = "clip"


class Slot(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A place that reuse fills."""

    key: str
    label: str
    kind: SlotKind = SlotKind.CLIP


OUTGOING = Slot("outgoing", "Outgoing clip")
INCOMING = Slot("incoming", "Incoming clip")


class Wrinkle(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """One reusable transition.

    Attributes:
        name, about, tags: what it is called, what it does, and the kinds it is found under.
        reference_size: the frame it was designed in; it can be used in any other.
        frame_rate: the rate it is designed and shown in.
        lead, tail: the lengths before and after the cut, in seconds, above 0.
        shutter_angle: of the motion blur, 0…720 degrees; 360 is the whole frame interval.
        shutter_phase: by how much the open shutter's middle is later than the frame, in degrees.
        slots: the places that reuse fills.
        layers: from the back to the front.

    Raises:
        InputError: a length or the shutter is out of range, an id occurs twice, or a layer shows
            a slot that does not exist.
    """

    format: int = FORMAT
    name: str
    about: str = ""
    tags: tuple[str, ...] = ()
    reference_size: Size = Size(1080, 1920)
    frame_rate: FrameRate
    lead: Fraction
    tail: Fraction
    shutter_angle: float = 180.0
    shutter_phase: float = 0.0
    slots: tuple[Slot, ...] = (OUTGOING, INCOMING)
    layers: tuple[Layer, ...] = ()

    def __post_init__(self) -> None:
        if not self.name.strip():
            raise InputError("A wrinkle needs a name.")
        Size.checked(*self.reference_size)
        for label, length in (("lead", self.lead), ("tail", self.tail)):
            if not 0 < length <= LONGEST_HALF:
                raise InputError(
                    f"The {label} must be above 0 and at most {LONGEST_HALF} seconds, not "
                    f"{float(length):g}."
                )
        if not 0.0 <= self.shutter_angle <= 720.0:
            raise InputError(
                f"The shutter angle must be within 0 and 720°, not {self.shutter_angle:g}."
            )
        if not -360.0 <= self.shutter_phase <= 360.0:
            raise InputError(
                f"The shutter phase must be within -360 and 360°, not {self.shutter_phase:g}."
            )
        _check_unique("layer", [layer.id for layer in self.layers])
        _check_unique("slot", [slot.key for slot in self.slots])
        keys = {slot.key for slot in self.slots}
        for layer in self.layers:
            if isinstance(layer.source, SlotSource) and layer.source.slot not in keys:
                raise InputError(
                    f"The layer '{layer.name}' shows the slot '{layer.source.slot}', which does "
                    "not exist."
                )
            self._check_parents(layer)

    def _check_parents(self, layer: Layer) -> None:
        """Refuses a parent that does not exist and a circle of parents, naming it."""
        names = {x.id: x for x in self.layers}
        way, step = [layer], layer
        while step.parent is not None:
            if step.parent not in names:
                raise InputError(f"The parent of the layer '{step.name}' does not exist.")
            step = names[step.parent]
            if step in way:
                circle = " → ".join(x.name for x in (*way, step))
                raise InputError(f"A layer cannot follow itself: {circle}.")
            way.append(step)

    def clock(self, layer: Layer, frame: Fraction) -> Clock:
        """What the layer's settings know of the time of a frame."""
        start = -self.lead if layer.span.start is None else layer.span.start
        end = self.tail if layer.span.end is None else layer.span.end
        return Clock(self.frame_rate, start, end, frame)

    @property
    def first_frame(self) -> int:
        """The first frame of the window, negative or 0; frames count from the cut."""
        return self.frame_rate.frames_until(-self.lead)

    @property
    def end_frame(self) -> int:
        """The frame after the window's last one."""
        return self.frame_rate.frames_until(self.tail)

    @property
    def frames(self) -> range:
        """The frames of the window."""
        return range(self.first_frame, self.end_frame)

    def layer(self, layer_id: str) -> Layer:
        """The layer with that id.

        Raises:
            KeyError: there is none.
        """
        return next((x for x in self.layers if x.id == layer_id), None) or _missing(layer_id)

    def assets(self) -> tuple[str, ...]:
        """The names of the files that the layers need from the wrinkle's assets."""
        names = (x.source.asset for x in self.layers if isinstance(x.source, PictureSource))
        return tuple(sorted(set(names)))


def clip_layer(layer_id: str, name: str, slot: str) -> Layer:
    """A layer that shows a slot; a clip before or after the cut is there on its own side."""
    spans = {OUTGOING.key: Span(end=CUT), INCOMING.key: Span(start=CUT)}
    return Layer(id=layer_id, name=name, source=SlotSource(slot), span=spans.get(slot, Span()))


def plain_cut(name: str = "Untitled") -> Wrinkle:
    """A new wrinkle: the outgoing clip until the cut, the incoming one from it."""
    rate = FrameRate(Fraction(30))
    return Wrinkle(
        name=name,
        lead=rate.seconds(12),
        tail=rate.seconds(12),
        frame_rate=rate,
        layers=(
            clip_layer("outgoing", "Outgoing", OUTGOING.key),
            clip_layer("incoming", "Incoming", INCOMING.key),
        ),
    )


def _missing(layer_id: str) -> Layer:
    raise KeyError(layer_id)


def _check_unique(what: str, names: list[str]) -> None:
    twice = {name for name in names if names.count(name) > 1}
    if twice:
        raise InputError(f"The {what} '{min(twice)}' occurs twice.")
