"""Which way a wrinkle goes: as it was made, or mirrored."""

from __future__ import annotations

from enum import Enum


class Direction(Enum):
    """What of the frame is exchanged; a turn goes the other way round where one of both is."""

    AS_MADE = "as-made"
    LEFT_RIGHT = "left-right"
    UP_DOWN = "up-down"
    BOTH = "both"

    @classmethod
    def of(cls, across: bool, down: bool) -> Direction:
        """The direction in which left and right, and up and down, are exchanged or not."""
        return (cls.AS_MADE, cls.LEFT_RIGHT, cls.UP_DOWN, cls.BOTH)[across + 2 * down]

    @property
    def across(self) -> bool:
        """Whether left and right are exchanged."""
        return self in (Direction.LEFT_RIGHT, Direction.BOTH)

    @property
    def down(self) -> bool:
        """Whether up and down are exchanged."""
        return self in (Direction.UP_DOWN, Direction.BOTH)

    @property
    def turned(self) -> bool:
        """Whether turns go the other way round."""
        return self.across != self.down

    @property
    def label(self) -> str:
        """What the window calls it."""
        return _LABELS[self]

    def then(self, other: Direction) -> Direction:
        """Both mirrors, one after the other; twice the same is none."""
        return Direction.of(self.across != other.across, self.down != other.down)


_LABELS = {
    Direction.AS_MADE: "as made",
    Direction.LEFT_RIGHT: "left and right exchanged",
    Direction.UP_DOWN: "up and down exchanged",
    Direction.BOTH: "both exchanged",
}
