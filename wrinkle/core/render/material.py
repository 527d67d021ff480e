"""What fills a wrinkle: clips in its slots, each with its cut, and the pictures it carries."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from typing import Protocol

from wrinkle.core.picture.image import Image, Size
from wrinkle.core.time.rate import FrameRate


class FrameSource(Protocol):
    """Pictures by number. The same source gives the same picture each time, from any thread."""

    @property
    def name(self) -> str:
        """What it is called, for messages."""

    @property
    def identity(self) -> str:
        """Differs between sources that show different pictures; caches depend on it."""

    @property
    def size(self) -> Size:
        """The size of its pictures as they are to be seen."""

    @property
    def frame_count(self) -> int:
        """How many pictures there are, at least one."""

    def index_at(self, seconds: Fraction) -> int:
        """The picture shown at a time from the start, clamped to the first and the last."""

    def image(self, index: int, size: Size) -> Image:
        """Picture ``index`` scaled to ``size``.

        Raises:
            MediaError: it cannot be read.
        """


@dataclass(frozen=True)
class Filling:
    """A clip in a slot.

    Attributes:
        source: its pictures.
        cut: the clip's own time, in seconds, that falls on the cut.
    """

    source: FrameSource
    cut: Fraction


@dataclass(frozen=True)
class Material:
    """Everything a wrinkle shows that is not its own.

    Attributes:
        slots: what fills each slot, by its key; an empty slot shows nothing.
        pictures: the pictures among the assets, by their name.
    """

    slots: Mapping[str, Filling] = field(default_factory=dict)
    pictures: Mapping[str, FrameSource] = field(default_factory=dict)


def default_cut(slot: str, source: FrameSource, rate: FrameRate, length: Fraction) -> Fraction:
    """Where a clip is cut when nobody has said: near its end if it goes out, else near its start.

    Leaves room for the window's half of ``length`` seconds where the clip is long enough, else
    cuts in the middle.
    """
    end = source.frame_count / rate.per_second
    room = min(length, end / 2)
    return end - room if slot == "outgoing" else room
