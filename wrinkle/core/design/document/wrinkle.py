"""The document: frozen values that share what an edit did not change.

Time is in exact seconds from the cut, negative before it. Layers stand in the order in which they
are laid down: the last one is front-most. A layer in a group names it; a group's layers stand
anywhere among the others, and their order among themselves counts. Ids are stable, so that links
survive reordering.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from fractions import Fraction
from typing import Any

import msgspec
from msgspec.structs import replace

from wrinkle.core.design.document import limits
from wrinkle.core.design.document.dials import AnyDial
from wrinkle.core.design.document.driven import AnyOwner, check_dials
from wrinkle.core.design.document.layer import Layer, check_unique
from wrinkle.core.design.document.limits import check_count
from wrinkle.core.design.document.links import check_links
from wrinkle.core.design.document.set_aside import SetAside
from wrinkle.core.design.document.slot_kinds import Fills, slot_kind
from wrinkle.core.design.document.slots import INCOMING, OUTGOING, Slot
from wrinkle.core.design.document.sounds import WrinkleSound
from wrinkle.core.design.document.sources import PictureSource, SlotSource, WordsSource, check_asset
from wrinkle.core.design.document.timing import Span
from wrinkle.core.errors import InputError
from wrinkle.core.motion.clock import Clock
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.track import CUT
from wrinkle.core.picture.image import Size
from wrinkle.core.time.rate import FrameRate

FORMAT = 6


class Offered(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A direction that makes sense, and what it is called, such as ``from the left``."""

    direction: Direction
    name: str


class Wrinkle(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """One reusable transition.

    Attributes:
        name, about, tags: what it is called, what it does, and the kinds it is found under.
        reference_size: the frame it was designed in; it can be used in any other.
        frame_rate: the rate it is designed and shown in.
        lead, tail: the lengths before and after the cut, in seconds, above 0.
        shutter_angle: of the motion blur, 0…720 degrees; 360 is the whole frame interval.
        shutter_phase: by how much the open shutter's middle is later than the frame, in degrees.
        directions: those in which it can be used, and what they are called; all of them where
            nothing is said.
        slots: the places that reuse fills.
        dials: what whoever reuses it can turn, in the order in which they see it.
        layers: from the back to the front.
        sounds: what is heard besides the clips.
        set_aside: what checks find and is wanted so.

    Raises:
        InputError: a length or the shutter is out of range, an id occurs twice, a layer shows
            a slot that does not exist, or a dial drives a setting that does not.
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
    directions: tuple[Offered, ...] = ()
    slots: tuple[Slot, ...] = (OUTGOING, INCOMING)
    dials: tuple[AnyDial, ...] = ()
    layers: tuple[Layer, ...] = ()
    sounds: tuple[WrinkleSound, ...] = ()
    set_aside: tuple[SetAside, ...] = ()

    def __post_init__(self) -> None:
        if not self.name.strip():
            raise InputError("A wrinkle needs a name.")
        Size.checked(*self.reference_size)
        for label, length in (("lead", self.lead), ("tail", self.tail)):
            if not 0 < length <= limits.LONGEST_HALF:
                raise InputError(
                    f"The {label} must be above 0 and at most {limits.LONGEST_HALF} seconds, not "
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
        check_count("characters in the name", self.name, limits.MOST_CHARACTERS)
        check_count("layers", self.layers, limits.MOST_LAYERS)
        check_count("slots", self.slots, limits.MOST_SLOTS)
        check_unique("layer or sound", [owner.id for owner in self.owners])
        check_unique("slot", [slot.key for slot in self.slots])
        check_count("dials", self.dials, limits.MOST_DIALS)
        check_unique("dial", [dial.id for dial in self.dials])
        check_count("sounds", self.sounds, limits.MOST_SOUNDS)
        check_count("findings set aside", self.set_aside, limits.MOST_SET_ASIDE)
        check_unique("direction", [offered.direction.value for offered in self.directions])
        kinds = {slot.key: slot.kind for slot in self.slots}
        for layer in self.layers:
            _check_slot(layer, kinds)
        for sound in self.sounds:
            _check_sound(sound, kinds, self.layers)
        check_links(self.layers)
        check_dials(self.dials, self.owners)
        for asset in self.assets():
            check_asset(asset)

    @property
    def owners(self) -> tuple[AnyOwner, ...]:
        """All that has settings: the layers, and the sounds after them."""
        return (*self.layers, *self.sounds)

    def owner(self, owner_id: str) -> AnyOwner:
        """The layer or the sound with that id.

        Raises:
            KeyError: there is none.
        """
        return next((x for x in self.owners if x.id == owner_id), None) or _missing(owner_id)

    def with_owners(self, owners: Mapping[str, AnyOwner], **fields: Any) -> Wrinkle:
        """The same with these layers and sounds, by their ids, in the order in which they are.

        Args:
            owners: all of them.
            fields: others that are exchanged in the same step.

        Raises:
            InputError: the parts do not fit each other.
        """
        layers, sounds = (tuple(owners[x.id] for x in some) for some in (self.layers, self.sounds))
        return replace(self, layers=layers, sounds=sounds, **fields)

    def clock(self, owner: AnyOwner, time: Fraction) -> Clock:
        """What the settings of a layer or a sound know of the time of a frame."""
        return Clock(self.frame_rate, *self.ends(owner), time)

    def ends(self, owner: AnyOwner) -> tuple[Fraction, Fraction]:
        """When a layer or a sound begins and ends; what is tied to the window does so with it."""
        if isinstance(owner, WrinkleSound):
            begins = owner.begins
            return begins, begins + Fraction(owner.seconds).limit_denominator(1_000_000)
        start, end = owner.span.start, owner.span.end
        return (-self.lead if start is None else start, self.tail if end is None else end)

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

    def slot(self, key: str) -> Slot:
        """The slot with that key.

        Raises:
            KeyError: there is none.
        """
        return {slot.key: slot for slot in self.slots}[key]

    def assets(self) -> tuple[str, ...]:
        """The names of the files that layers and slots need from the wrinkle's assets."""
        names = {slot.stand_in for slot in self.slots if slot.stand_in}
        names |= {x.source.asset for x in self.layers if isinstance(x.source, PictureSource)}
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


def _check_slot(layer: Layer, kinds: Mapping[str, str]) -> None:
    """Refuses a layer that shows a slot that is not there, or takes what the layer cannot show."""
    source = layer.source
    if isinstance(source, SlotSource):
        slot, fits = source.slot, Fills.PICTURES
    elif isinstance(source, WordsSource) and source.slot:
        slot, fits = source.slot, Fills.WORDS
    else:
        return
    if slot not in kinds:
        raise InputError(f"The layer '{layer.name}' shows the slot '{slot}', which does not exist.")
    if slot_kind(kinds[slot]).fills is not fits:
        raise InputError(
            f"The layer '{layer.name}' cannot show the slot '{slot}', which takes {kinds[slot]}."
        )


def _check_sound(sound: WrinkleSound, kinds: Mapping[str, str], layers: Sequence[Layer]) -> None:
    """Refuses a sound in a slot that is not there or takes none, or that follows no layer."""
    if sound.slot and sound.slot not in kinds:
        raise InputError(
            f"The sound '{sound.name}' fills the slot '{sound.slot}', which does not exist."
        )
    if sound.slot and slot_kind(kinds[sound.slot]).fills is not Fills.SOUND:
        raise InputError(
            f"The sound '{sound.name}' cannot fill the slot '{sound.slot}', which takes "
            f"{kinds[sound.slot]}."
        )
    if sound.layer is not None and all(layer.id != sound.layer for layer in layers):
        raise InputError(f"The layer that '{sound.name}' follows does not exist.")


def _missing(layer_id: str) -> Layer:
    raise KeyError(layer_id)
