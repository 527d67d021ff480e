"""What is open of a wrinkle, with the mending of all of a kind."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.set_aside_edits import reason_for
from wrinkle.core.errors import InputError
from wrinkle.core.measure.check import Finding
from wrinkle.core.measure.registry import CHECKS, examined
from wrinkle.core.measure.subject import Subject
from wrinkle.core.measure.trace import TraceLine
from wrinkle.core.measure.traces import TRACES

_MOST = 40
"""Mends one after the other: each may show what another one hid."""


@dataclass(frozen=True)
class Examined:
    """What was found of a subject.

    Attributes:
        subject: what was examined.
        findings: all of them, the worst first.
        lines: what was measured, by the key of the trace.
    """

    subject: Subject
    findings: tuple[Finding, ...]
    lines: Mapping[str, tuple[TraceLine, ...]]

    @classmethod
    def of(cls, subject: Subject) -> Examined:
        """Examines a subject.

        Raises:
            MediaError: a source cannot be read.
        """
        lines = {key: tuple(trace.measure(subject)) for key, trace in TRACES.items()}
        found = tuple(examined(subject))
        subject.survey.let_go()
        return cls(subject, found, lines)

    @property
    def open(self) -> tuple[Finding, ...]:
        """Those that are not set aside."""
        return tuple(x for x in self.findings if not self.reason(x))

    def reason(self, finding: Finding) -> str:
        """Why a finding is set aside; empty where it counts."""
        return reason_for(self.subject.design, finding.about)


def mended_all(subject: Subject, check: str) -> tuple[Wrinkle, int]:
    """The design with all open findings of a check mended, each by its usual mend.

    Returns:
        The design, and how many were mended.

    Raises:
        InputError: none of them can be mended; says why.
    """
    tried: set[tuple[str, str, str]] = set()
    count, why = 0, "None of these can be mended here."
    for _ in range(_MOST):
        left = [
            x
            for x in CHECKS[check].find(subject)
            if x.mends and x.about not in tried and not reason_for(subject.design, x.about)
        ]
        if not left:
            break
        tried.add(left[0].about)
        try:
            subject = subject.changed(left[0].mends[0].apply())
            count += 1
        except InputError as fault:
            why = str(fault)
    if not count:
        raise InputError(why)
    return subject.design, count
