"""How the sounds of two clips meet at a cut. Each way is a declaration beside its function."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from wrinkle.core.errors import InputError
from wrinkle.core.registering import Registry

MOST_FRAMES = 240
"""By which one sound is early or late."""


@dataclass(frozen=True)
class Meeting:
    """When two sounds meet, in frames from the cut.

    Attributes:
        starts: when the incoming one begins.
        ends: when the outgoing one ends; both change places evenly in between.
    """

    starts: int
    ends: int

    def within(self, earliest: int, latest: int) -> Meeting:
        """The same, no further than both sounds are there.

        Args:
            earliest: when the incoming one can begin, not above 0.
            latest: when the outgoing one can end, not below 0.
        """
        starts = min(max(self.starts, earliest), latest)
        return Meeting(starts, max(min(self.ends, latest), earliest, starts))


@dataclass(frozen=True)
class JoinKind:
    """A way in which two sounds meet.

    Attributes:
        key: which one, in the file too.
        label: what a person calls it.
        about: what is heard, in a sentence.
        meets: gives when they meet, from the lengths of the window before and after the cut, and
            from how many frames were chosen.
        counted: a number of frames is chosen.
    """

    key: str
    label: str
    about: str
    meets: Callable[[int, int, int], Meeting]
    counted: bool = False


STRAIGHT = "straight"
JOINS: Registry[JoinKind] = Registry(
    "way in which sounds meet",
    (
        JoinKind(STRAIGHT, "Straight at the cut", "Each clip is heard while it is seen.",
                 lambda lead, tail, frames: Meeting(0, 0)),
        JoinKind("crossfade", "Crossfade", "One fades into the other while the wrinkle lasts, "
                 "as loud together as each alone.",
                 lambda lead, tail, frames: Meeting(-lead, tail)),
        JoinKind("outgoing", "Outgoing only", "The outgoing clip is heard until the wrinkle ends.",
                 lambda lead, tail, frames: Meeting(tail, tail)),
        JoinKind("incoming", "Incoming only", "The incoming clip is heard as soon as the wrinkle "
                 "begins.", lambda lead, tail, frames: Meeting(-lead, -lead)),
        JoinKind("early", "Early", "The incoming clip is heard so many frames before its picture.",
                 lambda lead, tail, frames: Meeting(-frames, -frames), counted=True),
        JoinKind("late", "Late", "The outgoing clip is heard for so many frames after its picture.",
                 lambda lead, tail, frames: Meeting(frames, frames), counted=True),
    ),
)  # fmt: skip


@dataclass(frozen=True)
class SoundJoin:
    """How the sounds of the two clips meet at one cut.

    Attributes:
        kind: the key of a way.
        frames: by how many one is early or late, where that is chosen.

    Raises:
        InputError: there is no such way, or so many frames are not possible.
    """

    kind: str = STRAIGHT
    frames: int = 6

    def __post_init__(self) -> None:
        if self.kind not in JOINS:
            raise InputError(f"Sounds do not meet as '{self.kind}'; use one of {', '.join(JOINS)}.")
        if not 0 <= self.frames <= MOST_FRAMES:
            raise InputError(
                f"Sound can be early or late by 0 to {MOST_FRAMES} frames, not {self.frames}."
            )

    def meeting(self, lead: int, tail: int) -> Meeting:
        """When they meet, at a wrinkle that is so many frames long before and after the cut."""
        return JOINS[self.kind].meets(lead, tail, self.frames)


STRAIGHT_JOIN = SoundJoin()
