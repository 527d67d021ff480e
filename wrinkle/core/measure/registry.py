"""All checks by key. A new one is one more module in the list."""

from __future__ import annotations

from wrinkle.core.design.document import Wrinkle
from wrinkle.core.measure import effect_check, seam_check
from wrinkle.core.measure.check import Check, Finding
from wrinkle.core.registering import by_key

CHECKS: dict[str, Check] = by_key("check", (x.CHECK for x in (seam_check, effect_check)))


def findings(wrinkle: Wrinkle) -> list[Finding]:
    """What all checks find, in their order."""
    return [found for check in CHECKS.values() for found in check.find(wrinkle)]
