"""All checks by key. A new one is one more declaration in the list."""

from __future__ import annotations

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.measure.check import Check, Finding
from wrinkle.core.measure.checks import (
    bare,
    densest,
    flash,
    handles,
    heard,
    idle,
    light,
    rest,
    seam,
    sound,
    words,
)
from wrinkle.core.measure.subject import Subject
from wrinkle.core.registering import Registry

CHECKS: Registry[Check] = Registry(
    "check",
    (
        flash.CHECK,
        rest.CHECK,
        bare.CHECK,
        seam.LANES,
        seam.PICTURE,
        light.JUMPS,
        densest.CHECK,
        handles.SHORT,
        handles.SMALL,
        handles.UNEVEN,
        idle.LAYERS,
        words.CHECK,
        light.CLIPPED,
        sound.OVERLOAD,
        sound.HITS,
        heard.LOUDNESS,
        heard.SILENT,
        heard.STEP,
        heard.CLICKS,
        idle.EFFECTS,
        idle.SLOTS,
    ),
)


def findings(wrinkle: Wrinkle) -> list[Finding]:
    """What the checks find that need the document alone, in their order."""
    subject = Subject.of_document(wrinkle)
    return [x for check in CHECKS.values() if not check.pictures for x in check.find(subject)]


def examined(subject: Subject) -> list[Finding]:
    """What all checks find, the worst first; what is set aside is among it.

    Raises:
        MediaError: a source cannot be read.
    """
    found = [x for check in CHECKS.values() for x in check.find(subject)]
    return sorted(found, key=lambda x: (-CHECKS[x.check].gravity, -x.weight))
