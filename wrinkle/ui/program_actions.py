"""What can be done about the program itself: preferences, caches, its end."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from PyQt6.QtWidgets import QWidget

from wrinkle.core.jobs import Urgency, WorkLine
from wrinkle.files.whole import size_label
from wrinkle.library import caches
from wrinkle.ui.actions.action import Action
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.dialogs.finder import Owners
from wrinkle.ui.dialogs.preferring.files_page import FilesPage
from wrinkle.ui.dialogs.preferring.keys_page import KeysPage
from wrinkle.ui.dialogs.preferring.look_page import LookPage
from wrinkle.ui.dialogs.preferring.memory_page import MemoryPage
from wrinkle.ui.dialogs.preferring.new_page import NewPage
from wrinkle.ui.dialogs.preferring.preferences_dialog import PreferencesDialog
from wrinkle.ui.dialogs.preferring.sound_page import SoundPage
from wrinkle.ui.preferences import Preferences

SOUND = "Sound"


class Program(Protocol):
    """What these actions need of the window."""

    @property
    def menus(self) -> Menus:
        """All that can be done."""

    @property
    def owners(self) -> Owners:
        """How what belongs elsewhere is reached."""

    def apply_look(self) -> None:
        """Shows everything as it is chosen now."""

    def close(self) -> bool:
        """Closes it, if what is not saved may go."""


def program_actions(
    window: Program, over: QWidget, desk: Desk, preferences: Preferences
) -> list[Action]:
    """All of them."""

    sound, messages = desk.sound, desk.messages
    # Thousands of small files take seconds.
    emptying = WorkLine(
        desk.workers.jobs, Urgency.ASKED, "The caches cannot be emptied", messages.faulted.emit
    )

    def empty_caches() -> None:
        open_now = [x.path for x in desk.tried.clips.values() if x.path is not None]
        desk.workers.store.clear()
        messages.told.emit("The caches are being emptied…")
        emptying.put(lambda job: caches.empty(open_now), told)

    def told(freed: int) -> None:
        messages.told.emit(f"The caches are empty; that freed {size_label(freed)}.")

    def prefer(page: str = "") -> Callable[[], None]:
        return lambda: preferences_dialog(window, over, desk, preferences, page).open()

    return [
        Action("sound.mute", "Mute", lambda: sound.choose(muted=not sound.muted), "View", 80,
               ("Ctrl+Shift+M",), says="Nothing is heard; pictures play all the same.",
               checked=lambda: sound.muted, follows=(sound.changed,)),
        Action("sound.settings", "Sound…", prefer(SOUND), "View", 80,
               says="Device and level of what is heard, and whether slow is heard too."),
        Action("view.menus", "Open the menus", window.menus.take_keys, "View", 95, ("F10",),
               says="Arrows go through them, Return does an entry, Escape leaves them."),
        Action("edit.preferences", "Preferences…", prefer(), "Edit", 95, ("Ctrl+,",),
               says="Theme, size of text, new documents, folders, sound, memory, keys."),
        Action("file.caches", "Empty the caches", empty_caches, "File", 80,
               says="Removes what can be made again, on disk and in memory."),
        Action("file.quit", "Quit", window.close, "File", 90, ("Ctrl+Q",),
               says="Closes the window; what is not saved is asked about."),
    ]  # fmt: skip


def preferences_dialog(
    window: Program, over: QWidget, desk: Desk, preferences: Preferences, page: str = ""
) -> PreferencesDialog:
    """The dialog with all of its pages."""
    owners = window.owners
    pages = {
        "Look": LookPage(preferences, window.apply_look),
        "New documents": NewPage(preferences, desk),
        "Files": FilesPage(preferences, desk),
        SOUND: SoundPage(desk.sound),
        "Memory": MemoryPage(preferences, desk),
        "Keys": KeysPage(preferences, window.menus, owners.together, owners.place, owners.held()),
    }
    return PreferencesDialog(pages, page, over)
