"""A document that is edited: its history, the preview of a gesture, and who is told of it.

Any immutable state can be edited; nothing here knows what a wrinkle is.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from typing import Generic, TypeVar

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design.document.history import History
from wrinkle.core.errors import InputError
from wrinkle.core.merging import merged
from wrinkle.ui.desk.messages import Messages

State = TypeVar("State")


class StepOrder:
    """The order of the steps in all documents of a window; undo takes the last one back."""

    def __init__(self) -> None:
        self._number = 0
        self._together = False
        self._documents: list[Editing[object]] = []

    def add(self, document: Editing[State]) -> None:
        """From now on the document's steps count."""
        self._documents.append(document)  # type: ignore[arg-type]

    @contextmanager
    def together(self) -> Iterator[None]:
        """What is done within is one step, in whatever documents."""
        self._number += 1
        self._together = True
        try:
            yield
        finally:
            self._together = False

    def next(self, document: Editing[State]) -> int:
        """The stamp of a step that is done now in a document."""
        if not self._together:
            self._number += 1
        for other in self._documents:
            if other is not document:
                other.drop_undone()
        return self._number

    def go_on_from(self, stamp: int) -> None:
        """Steps with stamps up to this one are there already."""
        self._number = max(self._number, stamp)

    @property
    def undo_label(self) -> str | None:
        """The step that undo takes back."""
        last = self._last()
        return last[0].undo_label if last else None

    @property
    def redo_label(self) -> str | None:
        """The step that redo does again."""
        following = self._following()
        return following[0].redo_label if following else None

    def undo(self) -> None:
        """Takes the last step back."""
        for document in self._last():
            document.undo()

    def redo(self) -> None:
        """Does the next step again."""
        for document in self._following():
            document.redo()

    def restart(self) -> None:
        """What was done so far belongs to a document that is not open any more."""
        for document in self._documents:
            document.forget_steps()

    def _last(self) -> Sequence[Editing[object]]:
        stamps = [x.history.undo_stamp for x in self._documents]
        last = max((x for x in stamps if x is not None), default=None)
        return [x for x, s in zip(self._documents, stamps, strict=True) if s == last is not None]

    def _following(self) -> Sequence[Editing[object]]:
        stamps = [x.history.redo_stamp for x in self._documents]
        first = min((x for x in stamps if x is not None), default=None)
        return [x for x, s in zip(self._documents, stamps, strict=True) if s == first is not None]


class Editing(QObject, Generic[State]):
    """One document. Each setter stores first and announces last.

    A gesture (a drag) shows previews and ends in one step, or in none if it is abandoned.

    Args:
        state: where it begins.
        steps: the order of the steps in all documents of the window.
        messages: where refusals are told.
        check: gets a state and the one before it; raises InputError for one that must not become
            a step.

    Signals:
        changed: the state that is seen is another one, previews included.
        historyChanged: a step was done, taken back or done again, or the document was saved.
    """

    changed = pyqtSignal()
    historyChanged = pyqtSignal()

    def __init__(
        self,
        state: State,
        steps: StepOrder,
        messages: Messages,
        check: Callable[[State, State], None] = lambda state, before: None,
    ) -> None:
        super().__init__()
        self._check = check
        self._history: History[State] = History.starting(state)
        self._preview: State | None = None
        self._saved = state
        self._steps = steps
        self._messages = messages
        steps.add(self)

    @property
    def state(self) -> State:
        """The state as it is seen now."""
        return self._preview if self._preview is not None else self._history.current

    @property
    def committed(self) -> State:
        """The state without a preview."""
        return self._history.current

    @property
    def history(self) -> History[State]:
        """All steps."""
        return self._history

    @property
    def unsaved(self) -> bool:
        """Whether it differs from what was saved last."""
        return self.committed != self._saved

    @property
    def saved_state(self) -> State:
        """What was saved last, or what it began with."""
        return self._saved

    @property
    def undo_label(self) -> str | None:
        """The step that undo takes back in this document."""
        return self._history.undo_label

    @property
    def redo_label(self) -> str | None:
        """The step that redo does again in this document."""
        return self._history.redo_label

    @property
    def previewing(self) -> bool:
        """Whether a gesture goes on."""
        return self._preview is not None

    def begin(self, state: State) -> None:
        """Another document takes the place; it counts as saved, and has no history."""
        self._preview = None
        self._history = History.starting(state)
        self._saved = state
        self._announce()

    def resume(self, history: History[State], saved: State) -> None:
        """Takes up work where it was left.

        Args:
            history: its steps.
            saved: what is in its file.
        """
        self._preview = None
        self._history, self._saved = history, saved
        self._steps.go_on_from(max(history.stamps))
        self._announce()

    def amend(self, change: Callable[[State], State]) -> None:
        """Something is known now that belongs to all states, and is no step. Nobody is told."""
        if change(self.committed) is not self.committed:
            self._history = self._history.mapped(change)
            self._saved = change(self._saved)

    def mark_saved(self) -> None:
        """What is committed is in a file now, or nobody wants it to be."""
        self._saved = self.committed
        self.historyChanged.emit()

    def edit(self, label: str, change: Callable[[State], State] | None = None) -> bool:
        """One step. A refused value is told; gives whether it was taken.

        Args:
            label: what undo calls it.
            change: what is done; without one, what is previewed is.
        """
        if change is None:
            return self._preview is not None and self._commit(self._preview, label)
        try:
            state = change(self.committed)
        except InputError as fault:
            self.abandon()
            self._messages.faulted.emit(str(fault))
            return False
        return self._commit(state, label)

    def edit_from(self, base: State, label: str, change: Callable[[State], State]) -> bool:
        """One step of what was worked out on an older state, put on the state that is there now.

        What was edited meanwhile stays; where both touch the same, it is refused and told: nothing
        is raised.
        """

        def rebased(now: State) -> State:
            late = change(base)
            try:
                return late if now is base else merged(base, late, now)
            except InputError as fault:
                reason = str(fault).rstrip(".")
                raise InputError(
                    f"“{label}” was worked out on an older state and cannot be put on this one: "
                    f"{reason}. Do it once more."
                ) from None

        return self.edit(label, rebased)

    def preview(self, change: Callable[[State], State]) -> bool:
        """Shows what a gesture would do, starting from the state before it."""
        try:
            self._preview = change(self.committed)
        except InputError as fault:
            self._messages.faulted.emit(str(fault))
            return False
        self.changed.emit()
        return True

    def pull(self, label: str, change: Callable[[State], State], done: bool) -> bool:
        """What a gesture does so far: shown while it goes on, and a step when it is done."""
        return self.edit(label, change) if done else self.preview(change)

    def abandon(self) -> None:
        """Goes back to the state before the gesture."""
        self._preview = None
        self.changed.emit()

    def undo(self) -> None:
        """Takes the last step of this document back."""
        self._preview = None
        self._history = self._history.undone()
        self._announce()

    def redo(self) -> None:
        """Does the next step of this document again."""
        self._preview = None
        self._history = self._history.redone()
        self._announce()

    def forget_steps(self) -> None:
        """Begins anew with the state that is there: nothing before it can be taken back."""
        self._history = History.starting(self.committed)
        self.historyChanged.emit()

    def drop_undone(self) -> None:
        """What was taken back cannot be done again: something else was done since."""
        self._history = self._history.forward_dropped()

    def _commit(self, state: State, label: str) -> bool:
        self._preview = None
        if state != self.committed:
            try:
                self._check(state, self.committed)
            except InputError as fault:
                self.changed.emit()
                self._messages.faulted.emit(str(fault))
                return False
            self._history = self._history.then(state, label, self._steps.next(self))
        self._announce()
        return True

    def _announce(self) -> None:
        self.changed.emit()
        self.historyChanged.emit()
