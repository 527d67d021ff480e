"""Which lines lie over the result, to judge by and to place by; remembered from day to day."""

from __future__ import annotations

from collections.abc import Iterable
from enum import Enum
from typing import NamedTuple

from PyQt6.QtCore import QObject, pyqtSignal

MOST_GUIDES = 24


class Lines(Enum):
    """Each is switched by itself."""

    AREAS = "areas"
    BUTTONS = "buttons"
    THIRDS = "thirds"
    CENTRE = "centre"
    GUIDES = "guides"
    ONION = "onion"
    BARE = "bare"
    MASKS = "masks"

    @property
    def label(self) -> str:
        """What the menu calls it."""
        return _LABELS[self]


_LABELS = {
    Lines.AREAS: "Safe areas, 90 and 80 %",
    Lines.BUTTONS: "Where players put their buttons",
    Lines.THIRDS: "Thirds",
    Lines.CENTRE: "Centre",
    Lines.GUIDES: "Own guides, from the rulers",
    Lines.ONION: "Two frames before and after",
    Lines.BARE: "Bare parts",
    Lines.MASKS: "What the layer's masks cover",
}


class Guide(NamedTuple):
    """A line of one's own.

    Attributes:
        upright: it goes from the top to the bottom.
        share: where, from the left or from the top, as a share of the frame.
    """

    upright: bool
    share: float


class PictureLines(QObject):
    """What is shown of them.

    Signals:
        changed: others are shown.
    """

    changed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._shown: frozenset[Lines] = frozenset()
        self._guides: tuple[Guide, ...] = ()

    @property
    def shown(self) -> frozenset[Lines]:
        """Those that lie over the picture."""
        return self._shown

    @property
    def guides(self) -> tuple[Guide, ...]:
        """Lines of one's own, shown or not."""
        return self._guides

    @property
    def snapping(self) -> tuple[Guide, ...]:
        """Those to which what is dragged jumps: they are seen."""
        return self._guides if Lines.GUIDES in self._shown else ()

    def toggle(self, one: Lines) -> None:
        """Shows one kind of them, or hides it."""
        self.choose(self._shown ^ {one}, self._guides)

    def put_guide(self, guide: Guide, instead_of: int | None = None) -> int:
        """Puts a guide, or moves one; gives its number. Beyond the frame it is taken away (-1)."""
        others = list(self._guides)
        if instead_of is not None and 0 <= instead_of < len(others):
            others.pop(instead_of)
        if not 0.0 <= guide.share <= 1.0 or len(others) >= MOST_GUIDES:
            self.choose(self._shown, others)
            return -1
        self.choose(self._shown | {Lines.GUIDES}, [*others, guide])
        return len(others)

    def choose(self, shown: Iterable[Lines], guides: Iterable[Guide]) -> None:
        """Takes over what was remembered."""
        now = frozenset(shown), tuple(guides)
        if now != (self._shown, self._guides):
            self._shown, self._guides = now
            self.changed.emit()
