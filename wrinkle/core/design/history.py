"""Undo: a list of states with a label each, and a place in it."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Generic, TypeVar

State = TypeVar("State")
_LONGEST = 500


@dataclass(frozen=True)
class History(Generic[State]):
    """States from the oldest to the newest; ``place`` is the current one.

    ``labels[i]`` names the step that led to ``states[i]``.
    """

    states: tuple[State, ...]
    labels: tuple[str, ...] = field(default=("",))
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

    def then(self, state: State, label: str) -> History[State]:
        """After one more step; what was undone is gone. The same state is no step."""
        if state == self.current:
            return self
        keep = slice(max(0, self.place + 2 - _LONGEST), self.place + 1)
        states = (*self.states[keep], state)
        return History(states, (*self.labels[keep], label), len(states) - 1)

    def undone(self) -> History[State]:
        """One step back, or itself at the start."""
        return History(self.states, self.labels, max(0, self.place - 1))

    def redone(self) -> History[State]:
        """One step on, or itself at the end."""
        return History(self.states, self.labels, min(len(self.states) - 1, self.place + 1))
