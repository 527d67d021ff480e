"""Versions of the open wrinkle that are kept to be compared with: a few, with a word each."""

from __future__ import annotations

from typing import NamedTuple

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError

MOST = 4


class KeptVersion(NamedTuple):
    """A version.

    Attributes:
        word: what it is called.
        wrinkle: as it was.
    """

    word: str
    wrinkle: Wrinkle


class KeptVersions(QObject):
    """Kept as long as their wrinkle is open.

    Signals:
        changed: others are kept, or another one is compared with.
    """

    changed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._all: tuple[KeptVersion, ...] = ()
        self._chosen = -1

    @property
    def all(self) -> tuple[KeptVersion, ...]:
        """In the order in which they were kept."""
        return self._all

    @property
    def chosen(self) -> KeptVersion | None:
        """The one that is compared with; None where none is."""
        return self._all[self._chosen] if 0 <= self._chosen < len(self._all) else None

    @property
    def place(self) -> int:
        """Which of them is compared with; below 0 none."""
        return self._chosen if self.chosen is not None else -1

    def keep(self, word: str, wrinkle: Wrinkle) -> None:
        """Keeps one more, to be compared with from now on.

        Raises:
            InputError: there are as many as can be, or one of that word.
        """
        word = word.strip() or f"version {len(self._all) + 1}"
        if len(self._all) >= MOST:
            raise InputError(f"{MOST} versions are kept already; forget one of them first.")
        if any(one.word == word for one in self._all):
            raise InputError(f"A version is called '{word}' already; give it another word.")
        self._all = (*self._all, KeptVersion(word, wrinkle))
        self.choose(len(self._all) - 1)

    def choose(self, number: int) -> None:
        """Compares with another one; below 0 with none."""
        self._chosen = number
        self.changed.emit()

    def forget(self, number: int) -> None:
        """Keeps one no longer."""
        chosen = self.chosen
        self._all = tuple(one for n, one in enumerate(self._all) if n != number)
        self._chosen = self._all.index(chosen) if chosen in self._all else len(self._all) - 1
        self.changed.emit()

    def forget_all(self) -> None:
        """Another document is open."""
        if self._all:
            self._all, self._chosen = (), -1
            self.changed.emit()
