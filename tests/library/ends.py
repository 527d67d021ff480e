"""Uses of a wrinkle at the ends of all that can be chosen."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from wrinkle.core.design.document.dial_forms import NumberForm, OptionsForm
from wrinkle.core.design.document.dials import Dial, DialValue
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.direction import Direction
from wrinkle.core.reuse.use import Choices

STRENGTHS = (0.0, 50.0, 150.0, 200.0)
SOFTNESSES = (0.0, 200.0)


def ends_of(dial: Dial) -> tuple[DialValue, ...]:
    """Both ends of its range, or all its options; none of what has no ends."""
    form = dial.form
    if isinstance(form, NumberForm):
        low, high = form.low, form.high
        if isinstance(dial.default, Fraction):
            return Fraction(low).limit_denominator(1000), Fraction(high).limit_denominator(1000)
        return low, high
    return (form.names or (False, True)) if isinstance(form, OptionsForm) else ()


def at_joined_ends(wrinkle: Wrinkle, begin: int = 0, step: int = 1) -> Iterator[Choices]:
    """All dials at the same end at once; strengths, softnesses and directions in their turn.

    Args:
        wrinkle: what is used.
        begin, step: which of the turns are taken.
    """
    ends = {dial.id: found for dial in wrinkle.dials if (found := ends_of(dial))}
    for place in range(max(map(len, ends.values()), default=0)):
        yield Choices(dials={key: found[place % len(found)] for key, found in ends.items()})
    directions = [one.direction for one in wrinkle.directions] or [Direction.AS_MADE]
    for place in range(begin, max(len(directions), len(STRENGTHS)), step):
        yield Choices(
            strength=STRENGTHS[place % len(STRENGTHS)],
            softness=SOFTNESSES[place % len(SOFTNESSES)],
            direction=directions[place % len(directions)],
        )


def at_ends(wrinkle: Wrinkle) -> Iterator[Choices]:
    """One choice at a time at an end, all others as made."""
    for dial in wrinkle.dials:
        for value in ends_of(dial):
            yield Choices(dials={dial.id: value})
    yield from (Choices(strength=strength) for strength in STRENGTHS)
    yield from (Choices(softness=softness) for softness in SOFTNESSES)
    yield from (Choices(direction=one.direction) for one in wrinkle.directions)
