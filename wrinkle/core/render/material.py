"""What fills a wrinkle: clips in its slots, each with its cut, and the pictures it carries."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from typing import Protocol

from wrinkle.core.design.document.slots import OUTGOING
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.picture.faces import Fonts
from wrinkle.core.picture.image import Image, Size
from wrinkle.core.picture.lut import Lut
from wrinkle.core.store import Store


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
    def duration(self) -> Fraction:
        """How long it lasts, in seconds."""

    def index_at(self, seconds: Fraction) -> int:
        """The picture shown at a time from the start, clamped to the first and the last."""

    def following(self, seconds: Fraction) -> tuple[int, float] | None:
        """The picture after the one at a time, and how far the time is on its way to it, 0…1.

        None where there is no next picture.
        """

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
        luts: the colour tables among the assets, by their name.
        sounds: the files of sound among the assets, by their name; each is something that sounds.
        fonts: the font files that ship, for words that name no font of the system.
        store: where parts of pictures are kept: the same ones are not made twice.
    """

    slots: Mapping[str, Filling] = field(default_factory=dict)
    pictures: Mapping[str, FrameSource] = field(default_factory=dict)
    luts: Mapping[str, Lut] = field(default_factory=dict)
    sounds: Mapping[str, object] = field(default_factory=dict)
    fonts: Fonts = field(default_factory=dict)
    store: Store = field(default_factory=Store, compare=False)


def default_cut(slot: str, source: FrameSource, wrinkle: Wrinkle) -> Fraction:
    """Where a clip is cut when nobody has said: near its end if it goes out, else near its start.

    Leaves the window's length of media beyond the cut where the clip is long enough, else cuts in
    the middle; on a whole frame of the wrinkle's rate that lies within the clip.
    """
    room = min(wrinkle.lead + wrinkle.tail, source.duration / 2)
    cut = source.duration - room if slot == OUTGOING.key else room
    rate = wrinkle.frame_rate
    # At a slow rate the nearest frame can lie beyond the end.
    return rate.seconds(min(rate.nearest_frame(cut), rate.frame_at(source.duration)))
