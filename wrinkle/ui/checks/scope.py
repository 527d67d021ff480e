"""What is examined: the wrinkle on the Bench, or all dressed cuts of the piece."""

from __future__ import annotations

from wrinkle.core.examine.examined import Examined
from wrinkle.ui.checks.item import Item
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.examiner import WRINKLE
from wrinkle.ui.place import WorksOn


class Scope:
    """What the Checks are about, and what was found of it.

    Args:
        desk: whose wrinkle and piece are examined.

    Attributes:
        about: of the wrinkle, or of the piece.
    """

    def __init__(self, desk: Desk) -> None:
        self._piece, self._examiner = desk.piece, desk.examiner
        self.about = WorksOn.WRINKLE

    @property
    def keys(self) -> tuple[str, ...]:
        """Under which ids it is examined."""
        return (WRINKLE,) if self.about is WorksOn.WRINKLE else self._examiner.cuts

    @property
    def examined(self) -> list[Examined]:
        """What was examined so far."""
        return [x for x in map(self._examiner.found, self.keys) if x is not None]

    @property
    def items(self) -> list[Item]:
        """All that was found, the worst first."""
        found = []
        for key in self.keys:
            examined = self._examiner.found(key)
            if examined is not None:
                where = self._where(key)
                found += [Item(key, where, examined, x) for x in examined.findings]
        return sorted(found, key=lambda item: item.rank)

    @property
    def measuring(self) -> bool:
        """Whether some of it is being measured."""
        return any(self._examiner.measuring(key) for key in self.keys)

    def _where(self, key: str) -> str:
        if key == WRINKLE:
            return ""
        piece = self._piece.state
        place = piece.index(key)
        return f"cut {place} · {piece.clips[place - 1].name} → {piece.clips[place].name}"
