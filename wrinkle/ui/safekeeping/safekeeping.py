"""Everything that keeps open documents while they are not saved, and brings back what was left."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from typing import Any, Protocol

from PyQt6.QtCore import QObject, Qt
from PyQt6.QtWidgets import QWidget

from wrinkle.core.errors import InputError
from wrinkle.library.autosaves import LeftWork
from wrinkle.library.versions import MOST
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.place import WorksOn
from wrinkle.ui.safekeeping.beside import PieceBeside, WrinkleBeside
from wrinkle.ui.safekeeping.keeper import Keeper
from wrinkle.ui.safekeeping.left_work_dialog import LeftWorkDialog


class Leaving(Protocol):
    """Who is asked whether a document may go."""

    def may_leave(self) -> bool:
        """Whether it may: saved, or given up by its owner."""


class Safekeeping(QObject):
    """The keepers of all documents of a window.

    Attributes:
        keepers: by the word for what they keep.
    """

    def __init__(
        self,
        keepers: Mapping[str, Keeper[Any, Any]],
        may_leave: Callable[[str], bool],
        messages: Messages,
    ) -> None:
        super().__init__()
        self.keepers = keepers
        self._may_leave = may_leave
        self._messages = messages

    @classmethod
    def of(
        cls,
        desk: Desk,
        files: Mapping[WorksOn, Leaving],
        folder: Path | None = None,
        versions: Callable[[], int] = lambda: MOST,
    ) -> Safekeeping:
        """That of a desk: its wrinkle with the clips it is tried on, and its piece.

        Args:
            desk: what is kept.
            files: who is asked whether what is open may go.
            folder: where it is kept; by default where the next start looks.
            versions: how many saved versions of a file are kept.
        """
        document, piece, messages = desk.document, desk.piece, desk.messages
        bench = WrinkleBeside(document, desk.tried, desk.looking, desk.shown)
        keepers: dict[str, Keeper[Any, Any]] = {
            document.kind.word: Keeper(document, bench, messages, folder, versions),
            piece.kind.word: Keeper(piece, PieceBeside(piece), messages, folder, versions),
        }
        return cls(keepers, lambda word: files[WorksOn(word)].may_leave(), messages)

    def now(self) -> None:
        """Keeps everything at once: something went wrong."""
        for keeper in self.keepers.values():
            keeper.now()

    def end(self) -> None:
        """The window is closed, and nothing is to be kept."""
        for keeper in self.keepers.values():
            keeper.end()

    def let_go(self) -> None:
        """The program is ended from outside: what is not saved is left to the next start."""
        for keeper in self.keepers.values():
            keeper.let_go()

    def offer(self, left: Sequence[LeftWork], over: QWidget) -> LeftWorkDialog:
        """Offers work that a program left which ended without asking."""
        dialog = LeftWorkDialog([x for x in left if x.kind in self.keepers], over)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.wanted.connect(self.bring_back)
        dialog.open()
        return dialog

    def bring_back(self, left: LeftWork) -> bool:
        """Goes on with what was left; gives whether it is open now."""
        if not self._may_leave(left.kind):
            return False
        try:
            self.keepers[left.kind].take_up(left)
        except (OSError, InputError) as fault:
            self._messages.faulted.emit(str(fault))
            return False
        return True
