"""What is done with saved wrinkles: marks, copies, names, shelves, deleting, files in and out."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from typing import Protocol

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QInputDialog, QMenu, QWidget

from wrinkle.core.errors import InputError
from wrinkle.files.archive import SUFFIX, write
from wrinkle.library.marks import mark_favourite
from wrinkle.library.shelf import MANY_SUFFIX, Shelved, Shelves, write_many
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.shared.asking_files import Asking, FileEnding

_ONE, _MANY = FileEnding(SUFFIX, "Wrinkles"), FileEnding(MANY_SUFFIX, "Several wrinkles")
_READ_FILTER = f"Wrinkles (*{SUFFIX} *{MANY_SUFFIX} *.zip)"


class Chosen(Protocol):
    """Which wrinkles are selected."""

    @property
    def current(self) -> Shelved | None:
        """The one that is pointed at."""

    @property
    def selected(self) -> list[Shelved]:
        """All that are selected."""


class ShelfCare(QObject):
    """Looks after the selected wrinkles; what cannot be done is told.

    Args:
        shelves: where they are kept.
        chosen: which are selected.
        messages: where faults are told.
        widget: over which it asks.

    Signals:
        changed: the shelves are others than before.
        made: the file of a wrinkle that has come about.
    """

    changed = pyqtSignal()
    made = pyqtSignal(Path)

    def __init__(
        self,
        shelves: Shelves,
        chosen: Chosen,
        messages: Messages,
        asking: Asking,
        widget: QWidget,
    ) -> None:
        super().__init__(widget)
        self._shelves, self._chosen, self._messages = shelves, chosen, messages
        self._asking, self._widget = asking, widget
        self._gone: list[tuple[Path, Path]] = []

    @property
    def deleted(self) -> bool:
        """Whether something can be brought back."""
        return bool(self._gone)

    def fill_moves(self, menu: QMenu) -> None:
        """The shelves that the selected wrinkle can be put on."""
        menu.clear()
        one = self._chosen.current
        if one is None or one.shipped:
            return
        names = ["", *(x.name for x in self._shelves.folders()[1:])]
        for name in names:
            if name != one.shelf:
                action = menu.addAction(name or "no shelf")
                if action is not None:
                    action.triggered.connect(partial(self.put_on, name))
        action = menu.addAction("A new shelf…")
        if action is not None:
            action.triggered.connect(self._ask_shelf)

    def favour(self, on: bool) -> None:
        """Marks the selected wrinkle as a favourite, or no longer."""
        one = self._chosen.current
        if one is not None:
            self._done(lambda: mark_favourite(one.key, on))

    def duplicate(self) -> None:
        """A copy of the selected wrinkle that can be changed."""
        one = self._chosen.current
        if one is not None and one.wrinkle is not None:
            self._keep_going(lambda: self._shelves.duplicate(one))

    def rename(self, name: str) -> None:
        """Gives the selected wrinkle another name."""
        one = self._chosen.current
        if one is not None and name.strip() != one.name:
            self._keep_going(lambda: self._shelves.rename(one, name))

    def put_on(self, shelf: str) -> None:
        """Puts the selected wrinkle on another shelf."""
        one = self._chosen.current
        if one is not None:
            self._keep_going(lambda: self._shelves.move(one, shelf))

    def _ask_shelf(self) -> None:
        name, taken = QInputDialog.getText(self._widget, "A new shelf", "Name of the shelf")
        if taken and name.strip():
            self.put_on(name.strip())

    def delete(self) -> None:
        """Takes the selected wrinkles out; they can be brought back while the window is open."""
        for one in self._chosen.selected or [one for one in [self._chosen.current] if one]:
            path = one.path
            if self._done(partial(self._delete, one, path)):
                self._messages.told.emit(f"{one.name} is deleted; Bring back puts it where it was.")

    def _delete(self, one: Shelved, path: Path) -> None:
        self._gone.append((self._shelves.delete(one), path))

    def bring_back(self) -> None:
        """Puts back the wrinkle that was deleted last."""
        if self._gone:
            deleted, path = self._gone[-1]

            def back() -> Path:
                made = self._shelves.bring_back(deleted, path)
                self._gone.pop()
                return made

            self._keep_going(back)

    def export_to(self, path: Path) -> None:
        """Writes a copy of the selected wrinkle."""
        one = self._chosen.current
        if one is not None:
            path = path if path.suffix == SUFFIX else path.with_name(path.name + SUFFIX)
            if self._done(lambda: write(path, one.bundle())):
                self._messages.told.emit(f"{one.name} is in {path.name}.")

    def export_many_to(self, path: Path) -> None:
        """Writes all selected wrinkles into one file."""
        chosen = [one for one in self._chosen.selected if one.wrinkle is not None]
        path = path if path.suffix == ".zip" else path.with_name(path.name + MANY_SUFFIX)
        if self._done(lambda: write_many(path, chosen)):
            self._messages.told.emit(f"{len(chosen)} wrinkles are in {path.name}.")

    def take_in(self, paths: Sequence[Path], shelf: str = "") -> None:
        """Keeps the wrinkles of some files on a shelf."""
        for path in paths:
            self._keep_going(partial(self._take_in, path, shelf))

    def _take_in(self, path: Path, shelf: str) -> Path:
        return self._shelves.take_in(path, shelf)[-1]

    def _done(self, act: Callable[[], object]) -> bool:
        """Whether something was carried out; if not, why is told. What is shown is read anew."""
        try:
            act()
        except InputError as fault:
            self._messages.faulted.emit(str(fault))
            return False
        self.changed.emit()
        return True

    def _keep_going(self, act: Callable[[], Path]) -> bool:
        """Carries something out and selects the wrinkle that came of it."""
        made: list[Path] = []
        if not self._done(lambda: made.append(act())):
            return False
        self.made.emit(made[0])
        return True

    # What is asked

    def ask_name(self) -> None:
        """Asks for another name."""
        one = self._chosen.current
        if one is not None:
            name, taken = QInputDialog.getText(
                self._widget, "Rename a wrinkle", "Name of the wrinkle", text=one.name
            )
            if taken:
                self.rename(name)

    def ask_goal(self) -> None:
        """Asks where a copy is written."""
        one = self._chosen.current
        if one is not None:
            stem = one.path.stem
            path = self._asking.goal(self._widget, "Export a copy", "wrinkle", stem, (_ONE,))
            if path is not None:
                self.export_to(path)

    def ask_many(self) -> None:
        """Asks where several are written in one file."""
        title = "Export several in one file"
        path = self._asking.goal(self._widget, title, "wrinkle", "My wrinkles", (_MANY,))
        if path is not None:
            self.export_many_to(path)

    def ask_source(self, shelf: str) -> None:
        """Asks for files of wrinkles, and keeps them on a shelf."""
        paths = self._asking.files(self._widget, "Import wrinkles", "wrinkle", _READ_FILTER)
        self.take_in(paths, shelf)
