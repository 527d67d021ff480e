"""One finding as the place shows it: of which cut it is, and whether it counts."""

from __future__ import annotations

from dataclasses import dataclass

from wrinkle.core.examine.examined import Examined
from wrinkle.core.measure.check import Check, Finding
from wrinkle.core.measure.registry import CHECKS


@dataclass(frozen=True)
class Item:
    """A finding with where it was found.

    Attributes:
        key: the id under which its subject is examined.
        where: which cut it is, in words; empty for the open wrinkle.
        examined: all that was found there.
        finding: what was found.
    """

    key: str
    where: str
    examined: Examined
    finding: Finding

    @property
    def check(self) -> Check:
        """The rule that is broken."""
        return CHECKS[self.finding.check]

    @property
    def reason(self) -> str:
        """Why it is set aside; empty where it counts."""
        return self.examined.reason(self.finding)

    @property
    def rank(self) -> tuple[bool, int, float]:
        """Its place in the list: open ones first, the worst of them first."""
        return bool(self.reason), -self.check.gravity, -self.finding.weight

    def same(self, other: Item | None) -> bool:
        """Whether another one is about the same."""
        return (
            other is not None
            and self.key == other.key
            and self.finding.about == other.finding.about
        )
