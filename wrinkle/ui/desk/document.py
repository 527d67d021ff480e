"""A document that is open: its edits, and the file it is saved in."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Generic, TypeVar

from PyQt6.QtCore import pyqtSignal

from wrinkle.core.errors import InputError
from wrinkle.core.jobs import sentence_for
from wrinkle.files.whole import state_of
from wrinkle.library.autosaves import Codec, Work
from wrinkle.ui.desk.editing import Editing, StepOrder
from wrinkle.ui.desk.messages import Messages

State = TypeVar("State")
Rest = TypeVar("Rest")


@dataclass(frozen=True)
class Suffix:
    """An ending of the files of a document.

    Attributes:
        suffix: with its dot.
        label: what a dialog calls such files.
        saved: whether it is saved with it; what is only read is saved as something else.
    """

    suffix: str
    label: str
    saved: bool = True


@dataclass(frozen=True)
class FileContent(Generic[State, Rest]):
    """What was read from a file.

    Attributes:
        state: of the document.
        rest: what all its states share.
        ours: whether it may be saved to that file again without a question.
        told: what is said of it besides; empty for nothing.
    """

    state: State
    rest: Rest
    ours: bool = True
    told: str = ""


@dataclass(frozen=True)
class DocumentKind(Generic[State, Rest]):
    """All that a kind of document brings to the shell that serves every one.

    Attributes:
        word: what it is called, such as ``wrinkle``.
        suffixes: the endings of its files; the first one is given to a name that has none.
        codec: how it is kept beside the program while it is not saved.
        empty: a new one.
        no_rest: the rest of a new one.
        renamed: the same under another name; raises InputError for one that is none.
        read: from a file; raises InputError.
        write: to a file, whole or not at all; raises InputError.
        lacks: what would be missing in a file, in a sentence; empty for nothing.
        check: gets a state and the one before it; raises InputError for one that must not become a
            step.
    """

    word: str
    suffixes: tuple[Suffix, ...]
    codec: Codec[State, Rest]
    empty: Callable[[], State]
    no_rest: Callable[[], Rest]
    renamed: Callable[[State, str], State]
    read: Callable[[Path], FileContent[State, Rest]]
    write: Callable[[Path, State, Rest], None]
    lacks: Callable[[Path, State, Rest], str] = lambda path, state, rest: ""
    check: Callable[[State, State], None] = lambda state, before: None

    def takes(self, path: Path) -> bool:
        """Whether a file is one of this kind, by its ending."""
        return any(path.name.lower().endswith(x.suffix) for x in self.suffixes)


class Document(Editing[State], Generic[State, Rest]):
    """One document of a kind.

    Signals:
        opened: another document has taken the place; told before its state is seen.
        saved: it was written to its file (Path).
    """

    opened = pyqtSignal()
    saved = pyqtSignal(object)

    def __init__(
        self, kind: DocumentKind[State, Rest], steps: StepOrder, messages: Messages
    ) -> None:
        super().__init__(kind.empty(), steps, messages, kind.check)
        self.kind = kind
        self._empty = kind.empty
        self._rest = kind.no_rest()
        self._path: Path | None = None
        self._written: tuple[int, ...] | None = None

    @property
    def name(self) -> str:
        """What it is called."""
        return self.kind.codec.title(self.state)

    @property
    def rest(self) -> Rest:
        """What all its states share."""
        return self._rest

    @property
    def path(self) -> Path | None:
        """Its file, if there is one yet."""
        return self._path

    @property
    def changed_outside(self) -> bool:
        """Whether another program has written the file since it was opened or saved."""
        return self._path is not None and state_of(self._path) not in (None, self._written)

    def start_new(self) -> None:
        """An empty one takes the place."""
        self.start(self._empty(), self.kind.no_rest())

    def begin_new_with(self, change: Callable[[State], State] | None) -> None:
        """New ones are the kind's own, changed so; as they are for None.

        One that is open and untouched becomes such a one at once.
        """
        untouched = self.committed == self._empty() and self.path is None
        empty = self.kind.empty
        self._empty = empty if change is None else lambda: change(empty())
        if untouched:
            self.start_new()

    @property
    def frame_follows(self) -> bool:
        """Whether the first clip of a new one says its frame."""
        return self._empty is self.kind.empty

    def start(self, state: State, rest: Rest, path: Path | None = None) -> None:
        """Another document takes the place; it counts as saved, and undo ends with it.

        Raises:
            InputError: the rest cannot be used; what is open stays untouched.
        """
        self._take(rest, path)
        self.begin(state)

    def open(self, path: Path) -> bool:
        """Opens a file; on a fault what is open stays untouched. Gives whether it is open."""
        try:
            found = self.kind.read(path)
            self.start(found.state, found.rest, path if found.ours else None)
        except InputError as fault:
            self._messages.faulted.emit(str(fault))
            return False
        self._messages.told.emit(f"{path.name} is open. {found.told}".strip())
        return True

    def take_up(self, work: Work[State, Rest]) -> None:
        """Takes up work where it was left, with all its steps.

        Raises:
            InputError: the rest of it cannot be used; what is open stays untouched.
        """
        self._take(work.rest, work.path)
        self.resume(work.history, work.saved)

    def save(self, path: Path) -> bool:
        """Saves to a file; gives whether it was written. What has no name yet gets the file's."""
        kind = self.kind
        untitled = kind.codec.title(kind.empty())

        def named(state: State) -> State:
            return kind.renamed(state, path.stem) if kind.codec.title(state) == untitled else state

        try:
            kind.write(path, named(self.committed), self._rest)
        except Exception as fault:  # noqa: BLE001 - whatever went wrong, nothing may be lost
            self._messages.faulted.emit(sentence_for(fault, f"{path.name} cannot be saved"))
            return False
        self.amend(named)
        self._path, self._written = path, state_of(path)
        self.mark_saved()
        self._messages.told.emit(f"{path.name} is saved.")
        self.saved.emit(path)
        return True

    def put_back(self, label: str, state: State, rest: Rest) -> bool:
        """Puts an earlier version in the place of the state, as a step; gives whether it did.

        Raises:
            InputError: the rest of it cannot be used with what is open.
        """
        self.use_rest(rest)
        return self.edit(label, lambda _: state)

    def use_rest(self, rest: Rest) -> None:
        """Another rest takes the place; raises InputError where it cannot be used."""
        self._rest = rest

    def _take(self, rest: Rest, path: Path | None) -> None:
        self.use_rest(rest)
        self._path, self._written = path, state_of(path)
        self._steps.restart()
        self.opened.emit()
