"""What can be done anywhere: files, undo, places, themes, help."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import partial
from typing import Protocol

from PyQt6.QtWidgets import QWidget

from wrinkle.ui.actions.action import Action
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.dialogs.finder import Owners
from wrinkle.ui.files.collection_copies import keep
from wrinkle.ui.files.document_file import DocumentFile
from wrinkle.ui.frame.shown_places import ShownPlaces
from wrinkle.ui.help_actions import help_actions
from wrinkle.ui.place import WorksOn
from wrinkle.ui.places import PLACES
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.program_actions import program_actions
from wrinkle.ui.router import Router
from wrinkle.ui.theme import ThemeChoice

Owned = Iterator[tuple[object, Action]]


class Frame(Protocol):
    """What these actions need of the window."""

    @property
    def files(self) -> Mapping[WorksOn, DocumentFile]:
        """The file of each document."""

    @property
    def menus(self) -> Menus:
        """All that can be done."""

    @property
    def router(self) -> Router:
        """Passes on what is asked for."""

    @property
    def places(self) -> ShownPlaces:
        """One of them is shown."""

    @property
    def file(self) -> DocumentFile:
        """That of the document that the shown place works on."""

    def set_theme(self, choice: ThemeChoice) -> None:
        """Shows everything in another theme and keeps the choice."""

    def use(self) -> object:
        """Opens the dialog that uses the open wrinkle on other clips."""

    def take_cut_back(self) -> None:
        """Takes what was changed of the open cut back to the piece."""

    @property
    def owners(self) -> Owners:
        """How what belongs elsewhere is reached."""

    def apply_look(self) -> None:
        """Shows everything as it is chosen now."""

    def take_first_steps(self) -> None:
        """The guide begins, or goes on."""

    def close(self) -> bool:
        """Closes it, if what is not saved may go."""


def window_actions(window: Frame, over: QWidget, desk: Desk, preferences: Preferences) -> Owned:
    """All of them, each with what it belongs to."""
    for action in (
        *_file_actions(window, over, desk),
        *_undo_actions(window),
        *_place_actions(window),
        *_theme_actions(window, preferences),
        *program_actions(window, over, desk, preferences),
        *help_actions(window, over),
    ):
        yield None, action
    wrinkle = window.files[WorksOn.WRINKLE]
    yield (
        wrinkle,
        Action("file.keep", "Keep in the Collection", lambda: keep(desk.document, desk.messages),
               "File", 20, says="Saves it among your own wrinkles, to be put on any cut."),
    )  # fmt: skip

    def no_cut() -> str:
        return "" if desk.open_cut.words else "No cut of the piece is open on the Bench."

    yield (
        wrinkle,
        Action("file.take-back", "Take the cut back to the Cut list", window.take_cut_back,
               "File", 22, says="Puts what was changed on its cut of the piece.", why_not=no_cut),
    )  # fmt: skip
    yield (
        wrinkle,
        Action("file.leave-cut", "Leave the cut as it was", desk.open_cut.close, "File", 22,
               says="The wrinkle stays open by itself; its cut is not changed.", why_not=no_cut),
    )  # fmt: skip
    yield (
        wrinkle,
        Action("file.use", "Use on other clips…", window.use, "File", 40, ("Ctrl+U",),
               says="Tries it on two other clips, in their size and rate, and renders it."),
    )  # fmt: skip


def _file_actions(window: Frame, over: QWidget, desk: Desk) -> list[Action]:
    def ask_file() -> None:
        kinds = [file.document.kind for file in window.files.values()]
        each = [(kind.word, " ".join(f"*{x.suffix}" for x in kind.suffixes)) for kind in kinds]
        every = " ".join(endings for _, endings in each)
        filters = ";;".join(
            (f"Wrinkles and pieces ({every})", *(f"{word.title()}s ({x})" for word, x in each))
        )
        word = window.file.document.kind.word
        path = desk.asking.file(over, "Open", word, filters)
        if path is not None:
            window.router.open(path)

    def no_versions() -> str:
        there = window.file.document.path is not None
        return "" if there else "It is in no file yet; save it, and versions of it are kept."

    return [
        Action("file.new", "New", lambda: window.file.new(), "File", 10, ("Ctrl+N",),
               says="Begins an empty wrinkle or an empty piece, whichever is worked on here."),
        Action("file.open", "Open…", ask_file, "File", 10, ("Ctrl+O",),
               says="Opens a wrinkle or a timeline, and goes to the place for it."),
        Action("file.save", "Save", lambda: window.file.save(), "File", 20, ("Ctrl+S",),
               says="Writes it to its file."),
        Action("file.save-as", "Save as…", lambda: window.file.save_as(), "File", 20,
               ("Ctrl+Shift+S",), says="Writes it to another file, which it is from then on."),
        Action("file.rename", "Rename…", lambda: window.file.rename(), "File", 20, ("F2",),
               says="Gives it another name."),
        Action("file.versions", "Earlier versions…", lambda: window.file.versions(), "File", 20,
               says="Lists how it was when it was saved before, to be taken back.",
               why_not=no_versions),
    ]  # fmt: skip


def _undo_actions(window: Frame) -> list[Action]:
    def named(word: str, label: str | None) -> str:
        return f"{word} {label}" if label else word

    def steps() -> tuple[str | None, str | None]:
        found = window.file.steps
        return found.undo_label, found.redo_label

    return [
        Action("edit.undo", "Undo", lambda: window.file.steps.undo(), "Edit", 0, ("Ctrl+Z",),
               icon="undo", says="Takes the last step back.",
               named=lambda: named("Undo", steps()[0]),
               why_not=lambda: "" if steps()[0] else "There is no step to take back."),
        Action("edit.redo", "Redo", lambda: window.file.steps.redo(), "Edit", 0,
               ("Ctrl+Shift+Z", "Ctrl+Y"), icon="redo", says="Does again what was taken back.",
               named=lambda: named("Redo", steps()[1]),
               why_not=lambda: "" if steps()[1] else "Nothing was taken back."),
    ]  # fmt: skip


def _place_actions(window: Frame) -> list[Action]:
    return [
        Action(f"place.{kind.key}", kind.name, partial(window.places.go_along, kind.key), "View", 0,
               (f"Ctrl+{number}",), says=f"Goes to the place “{kind.name}”.",
               checked=lambda key=kind.key: window.places.shown_key == key)  # type: ignore[misc]
        for number, kind in enumerate(PLACES.values(), 1)
    ]  # fmt: skip


def _theme_actions(window: Frame, preferences: Preferences) -> list[Action]:
    return [
        Action(f"theme.{choice.name.lower()}", f"Theme: {choice.value}",
               partial(window.set_theme, choice), "View", 90,
               says="Shows everything in these colours.",
               checked=lambda choice=choice: preferences.theme is choice)  # type: ignore[misc]
        for choice in ThemeChoice
    ]  # fmt: skip
