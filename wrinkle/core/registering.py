"""Declarations by their key: what all registries have in common."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Protocol, TypeVar


class _Declared(Protocol):
    @property
    def key(self) -> str: ...


Declared = TypeVar("Declared", bound=_Declared)


def by_key(what: str, declared: Iterable[Declared]) -> dict[str, Declared]:
    """Declarations by their key, in their order.

    Raises:
        ValueError: one is declared twice; says what it is.
    """
    found: dict[str, Declared] = {}
    for one in declared:
        if one.key in found:
            raise ValueError(f"the {what} {one.key} is declared twice")
        found[one.key] = one
    return found
