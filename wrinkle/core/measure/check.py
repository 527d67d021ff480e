"""The declaration of a check, and what it finds."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from wrinkle.core.design.document import Wrinkle


@dataclass(frozen=True)
class Finding:
    """Something that is not right.

    Attributes:
        check: the key of the check that found it.
        sentence: says what, in plain words.
        layer: the id of the layer that it concerns.
        address: of the setting within that layer; empty where no single one is the cause.
    """

    check: str
    sentence: str
    layer: str
    address: str = ""


@dataclass(frozen=True)
class Check:
    """A rule that a wrinkle is tested against.

    Attributes:
        key: its name in files.
        label: what the window calls it.
        about: what is tested, in one sentence.
        find: gives what breaks the rule.
    """

    key: str
    label: str
    about: str
    find: Callable[[Wrinkle], Iterable[Finding]]
