"""The declaration of a trace: a value of each frame, with the limits that it is tested against."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from wrinkle.core.measure.subject import Subject
from wrinkle.core.measure.survey import Series


@dataclass(frozen=True)
class Limit:
    """A line that a trace is not to cross.

    Attributes:
        value: where it lies.
        label: what it is.
    """

    value: float
    label: str


@dataclass(frozen=True, eq=False)
class TraceLine:
    """One line of a trace.

    Attributes:
        label: what it is, where there are several; else empty.
        values: one for each frame of the window, NaN where there is none.
    """

    label: str
    values: Series


@dataclass(frozen=True)
class Trace:
    """Something that is measured of each frame.

    Attributes:
        key: its name in ids and tables.
        label: what the window calls it.
        about: what is measured, in one sentence.
        unit: written after a number.
        full: the value that fills the height of its drawing; larger ones make it higher.
        measure: gives its lines.
        limits: what it is tested against.
        digits: so many behind the point.
        low: the value at the foot of its drawing.
    """

    key: str
    label: str
    about: str
    unit: str
    full: float
    measure: Callable[[Subject], Sequence[TraceLine]]
    limits: tuple[Limit, ...] = ()
    digits: int = 1
    low: float = 0.0

    def beyond(self, lines: Sequence[TraceLine], first: int) -> tuple[int, ...]:
        """The frames on which a line lies beyond a limit.

        Args:
            lines: what was measured.
            first: the number of their first frame.
        """
        if not self.limits or not lines:
            return ()
        limit = min(x.value for x in self.limits)
        return tuple(
            sorted({first + n for line in lines for n, x in enumerate(line.values) if x > limit})
        )
