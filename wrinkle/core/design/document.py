"""The document: frozen values that share what an edit did not change.

Time is in exact seconds from the cut, negative before it. Layers stand in the order in which they
are laid down: the last one is front-most. Ids are stable, so that links survive reordering.
"""

from __future__ import annotations

from enum import Enum
from fractions import Fraction

import msgspec

from wrinkle.core.design.settings import PLACEMENT_KEYS, SETTINGS
from wrinkle.core.errors import InputError
from wrinkle.core.motion.track import CUT, Side, Track
from wrinkle.core.motion.values import Value, require_finite, same_kind
from wrinkle.core.picture.fit import Fit
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.resample import EdgeCover
from wrinkle.core.time.rate import FrameRate

FORMAT = 1
LONGEST_HALF = Fraction(60)


class Setting(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A value that can be animated: the rest value, and keyframes if it is a lane.

    Raises:
        InputError: the rest value is not finite, or the keyframes are of another kind.
    """

    rest: Value
    track: Track | None = None

    def __post_init__(self) -> None:
        require_finite(self.rest, "A setting's rest value")
        if self.track is not None and not same_kind(self.rest, self.track.keys[0].value):
            raise InputError("The keyframes must be of the same kind as the rest value.")

    def at(self, time: Fraction, side: Side | None = None) -> Value:
        """The value at a time, seen from a side of the cut."""
        if self.track is None:
            return self.rest
        return self.track.value_at(time, self.rest, side)


def _check_setting(key: str, setting: Setting) -> None:
    SETTINGS[key].checked(setting.rest)
    for keyframe in setting.track.keys if setting.track else ():
        SETTINGS[key].checked(keyframe.value)


class Placement(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """Where a layer's picture stands; each field is described in ``SETTINGS``."""

    position: Setting = Setting((0.0, 0.0))
    scale: Setting = Setting((100.0, 100.0))
    rotation: Setting = Setting(0.0)
    skew: Setting = Setting(0.0)
    skew_axis: Setting = Setting(0.0)
    anchor: Setting = Setting((0.5, 0.5))

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


Source = SlotSource | TreatmentSource | PictureSource


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
    visible: bool = True
    fit: Fit = Fit.FILL
    edge_cover: EdgeCover = EdgeCover.MIRROR
    motion_blur: bool = True
    opacity: Setting = Setting(100.0)
    placement: Placement = Placement()

    def __post_init__(self) -> None:
        if not self.id:
            raise InputError("A layer needs an id.")
        _check_setting("opacity", self.opacity)

    def setting(self, key: str) -> Setting:
        """The setting with that key."""
        holder = self.placement if key in PLACEMENT_KEYS else self
        found: Setting = getattr(holder, _known(key))
        return found

    def with_setting(self, key: str, setting: Setting) -> Layer:
        """The layer with that setting exchanged."""
        if _known(key) in PLACEMENT_KEYS:
            placement = msgspec.structs.replace(self.placement, **{key: setting})
            return msgspec.structs.replace(self, placement=placement)
        return msgspec.structs.replace(self, **{key: setting})

    def lanes(self) -> tuple[str, ...]:
        """The keys of the settings that are animated."""
        return tuple(key for key in SETTINGS if self.setting(key).track is not None)


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
        _check_unique("layer", [layer.id for layer in self.layers])
        _check_unique("slot", [slot.key for slot in self.slots])
        keys = {slot.key for slot in self.slots}
        for layer in self.layers:
            if isinstance(layer.source, SlotSource) and layer.source.slot not in keys:
                raise InputError(
                    f"The layer '{layer.name}' shows the slot '{layer.source.slot}', which does "
                    "not exist."
                )

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


def _known(key: str) -> str:
    if key not in SETTINGS:
        raise KeyError(key)
    return key


def _missing(layer_id: str) -> Layer:
    raise KeyError(layer_id)


def _check_unique(what: str, names: list[str]) -> None:
    twice = {name for name in names if names.count(name) > 1}
    if twice:
        raise InputError(f"The {what} '{min(twice)}' occurs twice.")
