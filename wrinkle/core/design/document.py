"""The document: frozen values that share what an edit did not change.

Time is in exact seconds from the cut, negative before it. Layers stand in the order in which they
are laid down: the last one is front-most. A layer in a group names it; a group's layers stand
anywhere among the others, and their order among themselves counts. Ids are stable, so that links
survive reordering.
"""

from __future__ import annotations

from enum import Enum
from fractions import Fraction

import msgspec
from msgspec.structs import replace

from wrinkle.core.design.effect_use import EffectUse
from wrinkle.core.design.links import check_links
from wrinkle.core.design.masking import Mask, Matte
from wrinkle.core.design.setting import Setting, check_settings, settings_in
from wrinkle.core.design.settings import EFFECTS, JITTER, MASKS, PLACEMENT_KEYS, SOURCE, TIMING
from wrinkle.core.design.sources import PictureSource, SlotSource, Source
from wrinkle.core.design.timing import Span, Timing
from wrinkle.core.errors import InputError
from wrinkle.core.motion.clock import Clock
from wrinkle.core.motion.track import CUT
from wrinkle.core.picture.blending import BlendMode
from wrinkle.core.picture.fit import Fit
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.resample import EdgeCover
from wrinkle.core.time.rate import FrameRate

FORMAT = 1
LONGEST_HALF = Fraction(60)


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
        check_settings(self)


class Layer(
    msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True, kw_only=True
):
    """One picture or treatment of the stack.

    Attributes:
        id: unique and stable.
        source: what it shows.
        span, timing: when it is there, and how its clip runs.
        parent: the layer that it moves with.
        group: the group that it belongs to.
        effects: in the order in which they act, on the picture before it is placed.
        masks: in the order in which they meet.
        matte: the layer that cuts it.
    """

    id: str
    name: str
    source: Source
    span: Span = Span()
    timing: Timing = Timing()
    visible: Setting = Setting(True)
    fit: Setting = Setting(Fit.FILL.value)
    focus: Setting = Setting((0.5, 0.5))
    edge_cover: Setting = Setting(EdgeCover.MIRROR.value)
    motion_blur: Setting = Setting(True)
    opacity: Setting = Setting(100.0)
    blend: Setting = Setting(BlendMode.NORMAL.value)
    within: Setting = Setting(False)
    placement: Placement = Placement()
    effects: tuple[EffectUse, ...] = ()
    masks: tuple[Mask, ...] = ()
    matte: Matte | None = None
    parent: str | None = None
    group: str | None = None

    def __post_init__(self) -> None:
        if not self.id:
            raise InputError("A layer needs an id.")
        check_settings(self)
        _check_unique("mask", [mask.id for mask in self.masks])
        _check_unique("effect", [use.id for use in self.effects])

    def mask(self, mask_id: str) -> Mask:
        """The mask with that id.

        Raises:
            KeyError: there is none.
        """
        for mask in self.masks:
            if mask.id == mask_id:
                return mask
        raise KeyError(mask_id)

    def effect_use(self, use_id: str) -> EffectUse:
        """The effect with that id.

        Raises:
            KeyError: there is none.
        """
        for use in self.effects:
            if use.id == use_id:
                return use
        raise KeyError(use_id)

    def setting(self, key: str) -> Setting:
        """The setting with that key, or the amount of its jitter.

        Raises:
            KeyError: there is no such setting.
        """
        base = key.removesuffix(JITTER)
        found = self._setting(base)
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
        holder, name = self._holder(key)
        if isinstance(holder, EffectUse):
            return self.with_effect(holder.with_setting(name, setting))
        if holder is self:
            return replace(self, **{name: setting})
        if isinstance(holder, Mask):
            return self.with_mask(replace(holder, **{name: setting}))
        changed = replace(holder, **{name: setting})
        part = key.partition(".")[0] if "." in key else "placement"
        return replace(self, **{part: changed})

    def with_mask(self, mask: Mask) -> Layer:
        """The layer with the mask of that id exchanged."""
        return replace(self, masks=tuple(mask if x.id == mask.id else x for x in self.masks))

    def with_effect(self, use: EffectUse) -> Layer:
        """The layer with the effect of that id exchanged."""
        return replace(self, effects=tuple(use if x.id == use.id else x for x in self.effects))

    def setting_keys(self) -> tuple[str, ...]:
        """The keys of all settings that the layer has."""
        found = [*PLACEMENT_KEYS, *settings_in(self)]
        found += [f"{SOURCE}.{name}" for name in settings_in(self.source)]
        found += [f"{TIMING}.{name}" for name in settings_in(self.timing)]
        for use in self.effects:
            found += use.setting_keys()
        for mask in self.masks:
            found += [f"{MASKS}.{mask.id}.{name}" for name in settings_in(mask)]
        return tuple(found)

    def lanes(self) -> tuple[str, ...]:
        """The keys of the settings that are animated."""
        keys = []
        for key in self.setting_keys():
            setting = self.setting(key)
            if setting.track is not None:
                keys.append(key)
            if setting.jitter is not None and setting.jitter.amount.track is not None:
                keys.append(key + JITTER)
        return tuple(keys)

    def _setting(self, key: str) -> Setting:
        holder, name = self._holder(key)
        if isinstance(holder, EffectUse):
            return holder.setting(name)
        if name not in settings_in(holder):
            raise KeyError(key)
        found: Setting = getattr(holder, name)
        return found

    def _holder(self, key: str) -> tuple[msgspec.Struct, str]:
        """The part of the layer that has a setting, and the setting's name there."""
        part, _, name = key.partition(".")
        if not name:
            return (self.placement if key in PLACEMENT_KEYS else self), key
        if part == MASKS:
            mask, _, name = name.partition(".")
            return self.mask(mask), name
        if part == EFFECTS:
            use, _, name = name.rpartition(".")
            return self.effect_use(use.partition(":")[0]), name
        if part not in (SOURCE, TIMING):
            raise KeyError(key)
        holder: msgspec.Struct = getattr(self, part)
        return holder, name


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
        check_links(self.layers)

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
        names = {x.source.asset for x in self.layers if isinstance(x.source, PictureSource)}
        for layer in self.layers:
            names.update(use.asset for use in layer.effects if use.asset)
            names.update(frame.asset for mask in layer.masks for frame in mask.painted)
        return tuple(sorted(names))


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
