"""What the window's frame knows of a place: its name, its actions, its words, and its end."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from enum import Enum
from pathlib import Path
from typing import Any, ClassVar

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QSplitter, QWidget

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.render.material import Filling
from wrinkle.core.reuse.use import AS_MADE, Choices
from wrinkle.ui.actions.action import Action, HeldKey
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.desk.desk import Desk


class WorksOn(Enum):
    """What new, open, save and undo are about in a place, by the word for it."""

    WRINKLE = "wrinkle"
    PIECE = "piece"


@dataclass(frozen=True)
class Wanted:
    """Something that one part of the window asks of whoever takes it.

    Attributes:
        replaces: the document that gives way, whose owner is asked before.
    """

    replaces: ClassVar[WorksOn | None] = None


@dataclass(frozen=True)
class WrinkleWanted(Wanted):
    """A wrinkle is to be opened.

    Attributes:
        path: its file, or the folder of a shipped one.
        as_copy: as a new document, which is not saved over that file.
        choices: what is tried with it there.
    """

    replaces = WorksOn.WRINKLE
    path: Path
    as_copy: bool = False
    choices: Choices = AS_MADE


@dataclass(frozen=True)
class PieceWanted(Wanted):
    """A timeline is to be opened.

    Attributes:
        path: its file.
        as_copy: as a new piece, which is not saved over that file.
    """

    replaces = WorksOn.PIECE
    path: Path
    as_copy: bool = False


@dataclass(frozen=True)
class CutWanted(Wanted):
    """The wrinkle on a cut of the piece is to be opened, on the two clips there.

    Attributes:
        clip: the id of the clip after the cut.
    """

    replaces = WorksOn.WRINKLE
    clip: str


@dataclass(frozen=True)
class PlaceWanted(Wanted):
    """Another place is to be shown.

    Attributes:
        key: of the place.
    """

    key: str


@dataclass(frozen=True)
class ChecksWanted(Wanted):
    """What is not right yet is to be seen.

    Attributes:
        about: of the wrinkle, or of the piece.
    """

    about: WorksOn


@dataclass(frozen=True)
class UseWanted(Wanted):
    """A wrinkle is to be used on clips, and rendered.

    Attributes:
        bundle: the wrinkle with what it carries.
        choices: what was chosen for it so far.
        here: on the clips of the Bench.
        clips: files for its slots, in their order.
    """

    bundle: Bundle
    choices: Choices = AS_MADE
    here: bool = False
    clips: tuple[Path, ...] = ()


Takes = Mapping[type[Wanted], Callable[[Any], object]]
"""What is done for each kind of request; ``False`` says that it could not be done."""


class Place(QWidget):
    """One of the places of the window. Its actions and keys are live only while it is shown.

    Signals:
        said: its words for the status line are others.
        wholeScreen: the window is to show nothing else, or all of it again.
        wanted: something that another part of the window takes (``Wanted``).
        worksOnChanged: New, open, save and undo are about another document from now on.
    """

    works_on: WorksOn = WorksOn.WRINKLE
    said = pyqtSignal()
    worksOnChanged = pyqtSignal()
    wholeScreen = pyqtSignal(bool)
    wanted = pyqtSignal(object)

    def takes(self) -> Takes:
        """What it does for others; it is shown then."""
        return {}

    def actions_here(self) -> Sequence[Action]:
        """What can be done here; asked for once."""
        return ()

    def bind(self, menus: Menus) -> None:
        """Its buttons stand for what is in the menus, from now on; called once."""

    def held_keys(self) -> Sequence[HeldKey]:
        """The keys that act while they are held, for the sheet of keys."""
        return ()

    def hold(self, key: int, held: bool) -> bool:
        """A key that nothing else wanted is pressed or let go; gives whether it means anything."""
        return False

    def seen_cut(self) -> str:
        """The id of the clip into which the dressed cut leads that is looked at; empty for none."""
        return ""

    def looked_at(self) -> Mapping[str, Filling]:
        """The two clips that are looked at, by their slots, to go along to another place."""
        return {}

    def try_on(self, clips: Mapping[str, Filling]) -> None:
        """Another place was left with these clips in sight; none where it has none of its own."""

    def words(self) -> str:
        """What the status line says of it, at the left."""
        return ""

    def facts(self) -> str:
        """What the status line says of it, at the right."""
        return ""

    def leave(self) -> None:
        """Another place is shown from now on."""

    def themed(self) -> None:
        """The theme is another one."""

    def splitters(self) -> Mapping[str, QSplitter]:
        """Its handles between parts, by name: where they stand is kept."""
        return {}

    def may_leave(self) -> bool:
        """The window is to end: whether it may; asks where something would be broken off."""
        return True

    def close_down(self) -> None:
        """The window ends."""


@dataclass(frozen=True)
class PlaceKind:
    """The declaration of a place.

    Attributes:
        key: its name in ids.
        name: what the bar calls it.
        make: makes it when it is first wanted; it shows what is on the desk by then.
        takes: what it does for others (``Place.takes``), known before it is made.
    """

    key: str
    name: str
    make: Callable[[Desk], Place]
    takes: tuple[type[Wanted], ...] = ()
