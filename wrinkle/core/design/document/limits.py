"""How large a wrinkle may be: far beyond any that a person would make, and small enough to open.

A file from a stranger either works or is refused in one sentence, within seconds and a memory that
is known before.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence, Sized
from fractions import Fraction
from typing import Final

from wrinkle.core.errors import InputError

MOST_LAYERS: Final = 500
"""A stack of thirty is a large one, and each layer costs a card and a pass over the picture."""
MOST_SLOTS: Final = 64
"""Each is a clip that may be open."""
MOST_MASKS: Final = 100
"""In a layer; each is drawn for each frame."""
MOST_EFFECTS: Final = 100
"""In a layer."""
MOST_PAINTED: Final = 20_000
"""Painted frames of a mask; two minutes at 120 frames a second have 14,400."""
MOST_CONTOURS: Final = 1_000
"""Further contours of a shape; a whole alphabet has some hundreds."""
DEEPEST: Final = 40
"""Parents of parents, groups in groups, mattes of mattes; what lies deeper is planned over and over
and would end beyond what a program can call."""
MOST_DRAWN: Final = 2_000
"""Pictures that have to be drawn for one layer, counted with all that its effects look at: a chain
of effects that look at each other doubles with each link."""
MOST_DIALS: Final = 64
"""More than six or so nobody finds their way in."""
MOST_SET_ASIDE: Final = 1000
MOST_SOUNDS: Final = 64
"""Of a wrinkle; more at once are noise."""
MOST_DRIVES: Final = 500
"""Settings that one dial drives."""
MOST_OPTIONS: Final = 64
"""Of a dial; each is a line of a list."""
LONGEST_HALF: Final = Fraction(60)
"""Seconds of a lead or a tail; the longest wipe has five."""
MOST_CHARACTERS: Final = 10_000
"""In a name or a text; a title has some dozens."""


def check_count(what: str, things: Sized, most: int) -> None:
    """Refuses more than there may be.

    Raises:
        InputError: says what, how many there are and how many there may be.
    """
    if len(things) > most:
        raise InputError(f"There are {len(things)} {what}; {most} are the most.")


def check_depth(what: str, onward: Mapping[str, Sequence[str]]) -> None:
    """Refuses chains that are too long; there must be no circle in them.

    Args:
        what: of what the chain is, such as ``parents``.
        onward: where each layer leads.

    Raises:
        InputError: says of what there is a chain too long.
    """
    depth: dict[str, int] = {}
    for start in onward:
        waiting = [start]
        while waiting:
            here = waiting[-1]
            unknown = [x for x in onward[here] if x not in depth]
            if unknown and here not in depth:
                waiting += unknown
                continue
            waiting.pop()
            depth[here] = 1 + max((depth[x] for x in onward[here]), default=0)
            if depth[here] > DEEPEST:
                raise InputError(f"A chain of {what} is longer than {DEEPEST} layers.")


def check_drawn(ids: Iterable[str], looked_at: Mapping[str, Iterable[str]]) -> None:
    """Refuses layers whose effects look at so much that a frame would take for ever.

    Args:
        ids: of all layers, each after those that it looks at, where there is no circle.
        looked_at: what is drawn anew for a layer, once for each time it is named.

    Raises:
        InputError: there is too much.
    """
    drawn: dict[str, int] = {}

    def count(layer: str) -> int:
        if layer not in drawn:
            drawn[layer] = 1 + sum(count(x) for x in looked_at.get(layer, ()))
        return drawn[layer]

    if any(count(layer) > MOST_DRAWN for layer in ids):
        raise InputError(
            f"The effects of a layer look at more than {MOST_DRAWN} pictures of other layers."
        )
