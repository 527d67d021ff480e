"""Undo: a list of states with a label each, and a place in it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Generic, TypeVar

State = TypeVar("State")
_LONGEST = 500


@dataclass(frozen=True)
class History(Generic[State]):
    """States from the oldest to the newest; ``place`` is the current one.

    ``labels[i]`` names the step that led to ``states[i]``; ``stamps[i]`` says when it was done, by
    a number that grows over all histories of a window.
    """

    states: tuple[State, ...]
    labels: tuple[str, ...] = ("",)
    stamps: tuple[int, ...] = (0,)
    place: int = 0

    @classmethod
    def starting(cls, state: State) -> History[State]:
        """A history that has only its start."""
        return cls((state,))

    @property
    def current(self) -> State:
        """The state now."""
        return self.states[self.place]

    @property
    def undo_label(self) -> str | None:
        """The step that undo takes back."""
        return self.labels[self.place] if self.place else None

    @property
    def redo_label(self) -> str | None:
        """The step that redo does again."""
        following = self.place + 1
        return self.labels[following] if following < len(self.states) else None

    @property
    def undo_stamp(self) -> int | None:
        """When the step was done that undo takes back."""
        return self.stamps[self.place] if self.place else None

    @property
    def redo_stamp(self) -> int | None:
        """When the step was done that redo does again."""
        following = self.place + 1
        return self.stamps[following] if following < len(self.states) else None

    def mapped(self, change: Callable[[State], State]) -> History[State]:
        """The same steps between other states."""
        return replace(self, states=tuple(map(change, self.states)))

    def then(self, state: State, label: str, stamp: int = 0) -> History[State]:
        """After one more step; what was undone is gone. The same state is no step."""
        if state == self.current:
            return self
        keep = slice(max(0, self.place + 2 - _LONGEST), self.place + 1)
        states = (*self.states[keep], state)
        labels, stamps = (*self.labels[keep], label), (*self.stamps[keep], stamp)
        return History(states, labels, stamps, len(states) - 1)

    def forward_dropped(self) -> History[State]:
        """Without what was undone: something else was done since."""
        end = self.place + 1
        return History(self.states[:end], self.labels[:end], self.stamps[:end], self.place)

    def undone(self) -> History[State]:
        """One step back, or itself at the start."""
        return History(self.states, self.labels, self.stamps, max(0, self.place - 1))

    def redone(self) -> History[State]:
        """One step on, or itself at the end."""
        place = min(len(self.states) - 1, self.place + 1)
        return History(self.states, self.labels, self.stamps, place)
