"""The declaration of a check, what it finds, and what mends it."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.measure.subject import Subject


@dataclass(frozen=True)
class Mend:
    """A repair that is offered with a finding.

    Attributes:
        key: its name among those of the finding.
        label: what it does, as a button says it.
        apply: gives the design with the repair. It may take some seconds. Raises InputError where
            it cannot be done, with the reason.
    """

    key: str
    label: str
    apply: Callable[[], Wrinkle] = field(compare=False)


@dataclass(frozen=True)
class Finding:
    """Something that is not right.

    Attributes:
        check: the key of the check that found it.
        sentence: says what, in plain words, with the frame and the number.
        layer: the id of the layer that it concerns; empty where no single one is the cause.
        address: of the setting within that layer; empty where no single one is the cause.
        frames: those that it is seen on, counted from the cut.
        worst: the one on which it is seen best.
        weight: how far beyond the limit it is, from 0 on: 1 is twice the limit.
        mends: the repairs, the usual one first.
    """

    check: str
    sentence: str
    layer: str = ""
    address: str = ""
    frames: tuple[int, ...] = ()
    worst: int = 0
    weight: float = 0.0
    mends: tuple[Mend, ...] = field(default=(), compare=False)

    @property
    def about(self) -> tuple[str, str, str]:
        """What it is about: the check, the layer and the setting."""
        return self.check, self.layer, self.address


@dataclass(frozen=True)
class Check:
    """A rule that a wrinkle is tested against.

    Attributes:
        key: its name in files.
        label: what the window calls it.
        about: what is tested, in one sentence.
        find: gives what breaks the rule.
        gravity: what comes first among the worst; 3 can do harm, 2 is seen, 1 may be seen, 0 is
            untidy.
        pictures: it looks at the frames; else at the document alone.
        trace: the key of the trace on which it is seen; empty where there is none.
    """

    key: str
    label: str
    about: str
    find: Callable[[Subject], Iterable[Finding]]
    gravity: int = 1
    pictures: bool = True
    trace: str = ""


def frames_word(frames: tuple[int, ...]) -> str:
    """Frames as a sentence begins with them: ``Frame −1`` or ``Frames −3 to 4``."""
    first, last = frames[0], frames[-1]
    if first == last:
        return f"Frame {frame_word(first)}"
    between = "to" if last - first + 1 == len(frames) and len(frames) > 2 else "and"
    if between == "and" and len(frames) > 2:
        return f"{len(frames)} frames from {frame_word(first)} to {frame_word(last)}"
    return f"Frames {frame_word(first)} {between} {frame_word(last)}"


def frame_word(frame: int) -> str:
    """A frame's number with its sign, as the ruler has it."""
    return f"−{-frame}" if frame < 0 else f"{frame}"
