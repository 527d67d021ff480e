"""Declarations by their key: what all registries have in common."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from typing import Protocol, TypeVar


class _Declared(Protocol):
    @property
    def key(self) -> str: ...


Declared = TypeVar("Declared", bound=_Declared)


class Registry(dict[str, Declared]):
    """Declarations by their key, in their order. What ships comes in by the same door as the rest.

    Args:
        what: what is declared, in a word.
        declared: what there is.

    Raises:
        ValueError: one is declared twice; says what it is.
    """

    def __init__(self, what: str, declared: Iterable[Declared] = ()) -> None:
        super().__init__()
        self._what = what
        for one in declared:
            self.declare(one)

    def declare(self, one: Declared) -> Declared:
        """Adds a declaration.

        Raises:
            ValueError: there is one of that key.
        """
        if one.key in self:
            raise ValueError(f"the {self._what} {one.key} is declared twice")
        self[one.key] = one
        return one

    @contextmanager
    def having(self, one: Declared) -> Iterator[Declared]:
        """A declaration that is there for a while, as that of something that is tried out."""
        self.declare(one)
        try:
            yield one
        finally:
            del self[one.key]
