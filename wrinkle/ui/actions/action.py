"""One thing that can be done: everything that offers it reads this."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Protocol


class Signal(Protocol):
    """Something that tells of a change, as Qt's signals do."""

    def connect(self, slot: Callable[..., Any]) -> object:
        """Calls ``slot`` from now on."""


def _always() -> str:
    return ""


@dataclass(frozen=True)
class Action:
    """Something that can be done from a menu, with a key, by a button, or found by its words.

    Attributes:
        id: unique in the window, such as ``bench.split``.
        label: what the menu calls it.
        act: does it.
        menu: the menu that it stands in.
        section: menus show lower sections first, with a line between two.
        keys: as Qt names them; the first one is shown.
        under: the menu within the menu that it stands in, if it does.
        says: what it does, in a sentence.
        why_not: why it cannot be done now, in a sentence; empty where it can.
        checked: whether it is switched on; None where it is no switch.
        named: what it is called now, where that changes, as *Undo turn* does.
        icon: the name of its drawing; empty for none.
        short: what a button calls it, where there is little room; or what gives that now.
        follows: tell that its words, or whether it is on, may be others.
    """

    id: str
    label: str
    act: Callable[[], object]
    menu: str
    section: int = 50
    keys: tuple[str, ...] = ()
    under: str = ""
    says: str = ""
    why_not: Callable[[], str] = _always
    checked: Callable[[], bool] | None = None
    named: Callable[[], str] | None = None
    icon: str = ""
    short: str | Callable[[], str] = ""
    follows: tuple[Signal, ...] = ()

    @property
    def brief(self) -> str:
        """What a button calls it now."""
        short = self.short if isinstance(self.short, str) else self.short()
        return short or self.words.removesuffix("…")

    @property
    def words(self) -> str:
        """What it is called now."""
        return self.named() if self.named is not None else self.label


@dataclass(frozen=True)
class HeldKey:
    """A key that shows something for as long as it is held.

    Attributes:
        label: what it shows.
        key: as Qt names it.
        says: what it does, in a sentence.
    """

    label: str
    key: str
    says: str = ""
