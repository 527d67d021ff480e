"""A use: a wrinkle on one cut, with what is chosen there."""

from __future__ import annotations

from collections.abc import Mapping
from contextlib import suppress
from dataclasses import dataclass, field, replace
from fractions import Fraction

from msgspec.structs import replace as replaced

from wrinkle.core.design.dials.driving import driven
from wrinkle.core.design.document.dials import DialValue
from wrinkle.core.design.document.slot_kinds import Fills
from wrinkle.core.design.document.slots import GIVEN, INCOMING, OUTGOING, Unfilled
from wrinkle.core.design.document.sources import WordsSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.layer_edits import with_layers
from wrinkle.core.design.edits.mirroring import mirrored_wrinkle
from wrinkle.core.design.edits.retiming import Retiming, retime
from wrinkle.core.errors import InputError
from wrinkle.core.motion.direction import Direction
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Filling, Material
from wrinkle.core.render.showing import Showing
from wrinkle.core.reuse.strength import with_softness, with_strength
from wrinkle.core.sound.joins import STRAIGHT_JOIN, SoundJoin
from wrinkle.core.time.rate import FrameRate


@dataclass(frozen=True)
class Choices:
    """What is chosen for one use of a wrinkle, besides its pictures.

    Attributes:
        lead, tail: the lengths before and after the cut, in seconds; None for those designed, or
            those that the dials give. What lies between cut and end moves in proportion.
        words: what fills its slots for words, by their key.
        dials: the values of its dials by their id; the others are at their default.
        direction: which way it goes.
        strength, softness: in per cent, 0…200; 100 is as made.
        join: how the sounds of the two clips meet.
    """

    lead: Fraction | None = None
    tail: Fraction | None = None
    words: Mapping[str, str] = field(default_factory=dict)
    dials: Mapping[str, DialValue] = field(default_factory=dict)
    direction: Direction = Direction.AS_MADE
    strength: float = 100.0
    softness: float = 100.0
    join: SoundJoin = STRAIGHT_JOIN


AS_MADE = Choices()


@dataclass(frozen=True)
class Use:
    """A wrinkle put on one cut.

    Attributes:
        wrinkle: as it was designed.
        fillings: what fills its slots for pictures, by their key.
        sounds: what fills its slots for sound, by their key; each is something that sounds.
        choices: what is chosen besides.
    """

    wrinkle: Wrinkle
    fillings: Mapping[str, Filling]
    choices: Choices = AS_MADE
    sounds: Mapping[str, object] = field(default_factory=dict)


def resolved(use: Use, rate: FrameRate) -> Wrinkle:
    """The plain wrinkle that a use comes to at a rate; it is the same in every size of frame.

    Times stay as they are in seconds, but for what holds: it changes on whole frames.

    Raises:
        InputError: a length, a dial's value, a strength or the direction is not possible.
    """
    chosen = use.choices
    wrinkle, lead, tail = driven(use.wrinkle, chosen.dials)
    wrinkle = _worded(wrinkle, chosen.words)
    wrinkle = with_softness(with_strength(wrinkle, chosen.strength), chosen.softness)
    wrinkle = mirrored_wrinkle(wrinkle, _offered(use.wrinkle, chosen.direction))
    lead = chosen.lead if chosen.lead is not None else lead
    tail = chosen.tail if chosen.tail is not None else tail
    return retime(wrinkle, Retiming(rate, lead, tail, stretch=True))


def showing(
    use: Use, carried: Material, size: Size, rate: FrameRate, quality: Quality = Quality.FINAL
) -> Showing:
    """A use as it is shown.

    Args:
        use: what is put on the cut.
        carried: what the wrinkle brings with it: pictures, colour tables and fonts.
        size: of the pictures.
        rate: of the frames.
        quality: how closely they are rendered.

    Raises:
        InputError: a cut lies outside its clip, or something chosen is not possible.
    """
    for filling in use.fillings.values():
        source, cut = filling.source, filling.cut
        if not 0 <= cut <= source.duration:
            raise InputError(
                f"The cut of {source.name} must lie within 0 and {float(source.duration):.3g} "
                f"seconds, not {float(cut):.3g}."
            )
    slots = filled(use.wrinkle, use.fillings, carried)
    return Showing(resolved(use, rate), replace(carried, slots=slots), size, quality)


def filled(
    wrinkle: Wrinkle, fillings: Mapping[str, Filling], carried: Material
) -> dict[str, Filling]:
    """What is in each slot: what was chosen, or what is there when a slot stays empty."""
    found = dict(fillings)
    for slot in wrinkle.slots:
        if slot.key in found or slot.key in GIVEN or not slot.moving:
            continue
        stand_in = carried.pictures.get(slot.stand_in)
        given = {Unfilled.OUTGOING: OUTGOING.key, Unfilled.INCOMING: INCOMING.key}
        if slot.unfilled is Unfilled.STAND_IN and stand_in is not None:
            found[slot.key] = Filling(stand_in, slot.stand_in_cut or Fraction(0))
        elif given.get(slot.unfilled) in fillings:
            found[slot.key] = fillings[given[slot.unfilled]]
    return found


def possible(wrinkle: Wrinkle, choices: Choices) -> Choices:
    """The choices without those that a wrinkle does not have."""
    dials: dict[str, DialValue] = {}
    for dial in wrinkle.dials:
        if dial.id in choices.dials:
            with suppress(InputError):
                dials[dial.id] = dial.checked(choices.dials[dial.id])
    words = {slot.key for slot in wrinkle.slots if slot.fills is Fills.WORDS}
    direction = choices.direction
    if direction not in directions_of(wrinkle):
        direction = Direction.AS_MADE
    kept = {key: text for key, text in choices.words.items() if key in words}
    return replace(choices, dials=dials, words=kept, direction=direction)


def plainest(wrinkle: Wrinkle, choices: Choices) -> Choices:
    """The same choices without what says only how the wrinkle was made."""
    made = {dial.id: dial.default for dial in wrinkle.dials}
    dials = {key: value for key, value in choices.dials.items() if made.get(key) != value}
    found = replace(choices, dials=dials)
    if not dials:
        # With dials, those may give other lengths.
        lead = None if choices.lead == wrinkle.lead else choices.lead
        tail = None if choices.tail == wrinkle.tail else choices.tail
        found = replace(found, lead=lead, tail=tail)
    return found


def natural_size(use: Use) -> Size:
    """The size of the outgoing clip, one pixel larger where a side is odd."""
    return use.fillings[OUTGOING.key].source.size.even


def direction_of(wrinkle: Wrinkle, word: str) -> Direction:
    """The direction of that word, or of the name that the designer gave it.

    Raises:
        InputError: there is none, or it makes no sense; names those that do.
    """
    for offered in wrinkle.directions:
        if word.casefold() == offered.name.casefold():
            return offered.direction
    for direction in Direction:
        if word == direction.value:
            return _offered(wrinkle, direction)
    words = ", ".join(direction.value for direction in directions_of(wrinkle))
    raise InputError(f"'{word}' is no direction of {wrinkle.name}; it has {words}.")


def directions_of(wrinkle: Wrinkle) -> dict[Direction, str]:
    """The directions in which a wrinkle can be used, and what they are called."""
    if not wrinkle.directions:
        return {direction: direction.label for direction in Direction}
    named = {offered.direction: offered.name for offered in wrinkle.directions}
    as_made = named.get(Direction.AS_MADE, Direction.AS_MADE.label)
    return {Direction.AS_MADE: as_made} | named


def _offered(wrinkle: Wrinkle, direction: Direction) -> Direction:
    if direction not in directions_of(wrinkle):
        words = ", ".join(x.value for x in directions_of(wrinkle))
        raise InputError(f"{wrinkle.name} does not go {direction.value}; it has {words}.")
    return direction


def _worded(wrinkle: Wrinkle, words: Mapping[str, str]) -> Wrinkle:
    """The wrinkle with the words that fill its slots.

    Raises:
        InputError: there is no such slot for words.
    """
    slots = {slot.key: slot for slot in wrinkle.slots if slot.fills is Fills.WORDS}
    for key in words:
        if key not in slots:
            names = ", ".join(sorted(slots)) or "none"
            raise InputError(f"{wrinkle.name} has no slot '{key}' for words; it has {names}.")
    if not words:
        return wrinkle
    layers = []
    for layer in wrinkle.layers:
        source = layer.source
        if isinstance(source, WordsSource) and source.slot in words:
            layer = replaced(layer, source=replaced(source, text=words[source.slot]))
        layers.append(layer)
    return with_layers(wrinkle, tuple(layers))
