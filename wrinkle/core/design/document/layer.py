"""A layer: one picture or treatment of the stack, with all its settings."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from typing import ClassVar

from msgspec.structs import replace

from wrinkle.core.design.document import limits
from wrinkle.core.design.document.address import Address, Part
from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.layer_kinds import Source
from wrinkle.core.design.document.limits import check_count
from wrinkle.core.design.document.masking import Mask, Matte
from wrinkle.core.design.document.owner import Holder, Owner
from wrinkle.core.design.document.setting import HasSettings, Setting, neutral, settings_in
from wrinkle.core.design.document.setting_specs import LAYER_SETTINGS, PLACEMENT_SETTINGS
from wrinkle.core.design.document.timing import Span, Timing
from wrinkle.core.errors import InputError
from wrinkle.core.motion.held_at import HeldAt
from wrinkle.core.motion.setting_spec import SettingSpec


class Placement(HasSettings, frozen=True):
    """Where a layer's picture stands; each field is described in ``PLACEMENT_SETTINGS``."""

    specs: ClassVar[Mapping[str, SettingSpec]] = PLACEMENT_SETTINGS

    position: Setting = neutral(PLACEMENT_SETTINGS["position"])
    scale: Setting = neutral(PLACEMENT_SETTINGS["scale"])
    rotation: Setting = neutral(PLACEMENT_SETTINGS["rotation"])
    skew: Setting = neutral(PLACEMENT_SETTINGS["skew"])
    skew_axis: Setting = neutral(PLACEMENT_SETTINGS["skew_axis"])
    anchor: Setting = neutral(PLACEMENT_SETTINGS["anchor"])
    tilt: Setting = neutral(PLACEMENT_SETTINGS["tilt"])
    camera: Setting = neutral(PLACEMENT_SETTINGS["camera"])


class Layer(Owner, frozen=True, kw_only=True):
    """One picture or treatment of the stack.

    Attributes:
        id: unique and stable.
        source: what it shows.
        span, timing: when it is there, and how its clip runs.
        parent: the layer that it moves with.
        group: the group that it belongs to.
        keeps: where it is held, with all that it holds, and keeps its length, when the wrinkle
            gets another one; None where its group says so, or where it stretches.
        effects: in the order in which they act, on the picture before it is placed.
        masks: in the order in which they meet.
        matte: the layer that cuts it.
    """

    specs: ClassVar[Mapping[str, SettingSpec]] = LAYER_SETTINGS

    id: str
    name: str
    source: Source
    span: Span = Span()
    timing: Timing = Timing()
    visible: Setting = neutral(LAYER_SETTINGS["visible"])
    fit: Setting = neutral(LAYER_SETTINGS["fit"])
    focus: Setting = neutral(LAYER_SETTINGS["focus"])
    edge_cover: Setting = neutral(LAYER_SETTINGS["edge_cover"])
    motion_blur: Setting = neutral(LAYER_SETTINGS["motion_blur"])
    opacity: Setting = neutral(LAYER_SETTINGS["opacity"])
    blend: Setting = neutral(LAYER_SETTINGS["blend"])
    within: Setting = neutral(LAYER_SETTINGS["within"])
    placement: Placement = Placement()
    effects: tuple[EffectUse, ...] = ()
    masks: tuple[Mask, ...] = ()
    matte: Matte | None = None
    parent: str | None = None
    group: str | None = None
    keeps: HeldAt | None = None

    def __post_init__(self) -> None:
        if not self.id:
            raise InputError("A layer needs an id.")
        super().__post_init__()
        check_count("characters in a layer's name", self.name, limits.MOST_CHARACTERS)
        check_count(f"masks on '{self.name}'", self.masks, limits.MOST_MASKS)
        check_count(f"effects on '{self.name}'", self.effects, limits.MOST_EFFECTS)
        check_unique("mask", [mask.id for mask in self.masks])
        check_unique("effect", [use.id for use in self.effects])

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

    def with_mask(self, mask: Mask) -> Layer:
        """The layer with the mask of that id exchanged."""
        return replace(self, masks=tuple(mask if x.id == mask.id else x for x in self.masks))

    def with_effect(self, use: EffectUse) -> Layer:
        """The layer with the effect of that id exchanged."""
        return replace(self, effects=tuple(use if x.id == use.id else x for x in self.effects))

    def addresses(self) -> tuple[Address, ...]:
        """The addresses of all settings that the layer has."""
        found = [*map(Address, (*settings_in(self.placement), *settings_in(self)))]
        found += [Address.of(Part.SOURCE, name) for name in settings_in(self.source)]
        found += [Address.of(Part.TIMING, name) for name in settings_in(self.timing)]
        for use in self.effects:
            found += use.addresses()
        for mask in self.masks:
            found += [Address.of(Part.MASK, name, mask.id) for name in settings_in(mask)]
        return tuple(found)

    def _holder(self, address: Address) -> Holder:
        """The part of the layer that has a setting."""
        match address.part:
            case Part.MASK:
                return self.mask(address.mask)
            case Part.EFFECT:
                return self.effect_use(address.effect)
            case Part.SOURCE:
                return self.source
            case Part.TIMING:
                return self.timing
            case Part.LAYER:
                return self.placement if address.name in PLACEMENT_SETTINGS else self

    def _with_holder(self, address: Address, holder: Holder) -> Layer:
        """The layer with another part in place of the one that has a setting."""
        if isinstance(holder, Mask):
            return self.with_mask(holder)
        if isinstance(holder, EffectUse):
            return self.with_effect(holder)
        field = "placement" if address.part is Part.LAYER else address.part.value
        return replace(self, **{field: holder})


def check_unique(what: str, names: Sequence[str]) -> None:
    """Refuses a name that occurs twice.

    Raises:
        InputError: says what it names, and the name.
    """
    twice = [name for name, count in Counter(names).items() if count > 1]
    if twice:
        raise InputError(f"The {what} '{min(twice)}' occurs twice.")
