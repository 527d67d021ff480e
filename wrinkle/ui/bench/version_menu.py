"""The menu of kept versions: chosen, seen side by side, taken back, forgotten."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import QInputDialog, QMenu, QWidget

from wrinkle.core.design.document.slots import OUTGOING
from wrinkle.core.errors import InputError
from wrinkle.core.reuse.use import Use
from wrinkle.ui.choosing.compare import Compared, CompareDialog
from wrinkle.ui.desk.kept_versions import KeptVersion
from wrinkle.ui.desk.parts import Trying
from wrinkle.ui.pictures.sound_player import SoundPlayer


class VersionMenu:
    """Acts on the versions that are kept.

    Args:
        desk: whose wrinkle it is.
        over: where it asks.
    """

    def __init__(self, desk: Trying, over: QWidget) -> None:
        self._desk, self._over = desk, over

    def ask_keep(self) -> None:
        """Asks for a word, and keeps the wrinkle as it is now."""
        kept = self._desk.looking.kept
        word, taken = QInputDialog.getText(
            self._over, "Keep this version", "A word for it", text=f"version {len(kept.all) + 1}"
        )
        if not taken:
            return
        try:
            kept.keep(word, self._desk.document.state)
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
        else:
            self._desk.messages.told.emit(f"'{kept.all[-1].word}' is kept; hold A to see it.")

    def fill(self, menu: QMenu) -> None:
        """Makes the menu."""
        menu.clear()
        kept = self._desk.looking.kept
        if not kept.all:
            none = menu.addAction("None is kept yet")
            if none is not None:
                none.setEnabled(False)
        for number, version in enumerate(kept.all):
            own = menu.addMenu(version.word)
            if own is None:
                continue
            action = own.addAction("Compare with it (hold A)", partial(kept.choose, number))
            if action is not None:
                action.setCheckable(True)
                action.setChecked(version is kept.chosen)
            own.addAction("Side by side…", partial(self.show_beside, version))
            own.addAction("Take it back", partial(self.take_back, version))
            own.addAction("Forget it", partial(kept.forget, number))

    def show_beside(self, version: KeptVersion) -> CompareDialog | None:
        """The wrinkle as it is and a version, in step, with their difference."""
        desk = self._desk
        if OUTGOING.key not in desk.tried.clips:
            desk.messages.faulted.emit("Choose the two clips on the Bench first.")
            return None
        now, then = (
            Compared(word, Use(wrinkle, desk.tried.fillings()), desk.carried())
            for word, wrinkle in (("now", desk.document.state), version)
        )
        sound = SoundPlayer(desk.output(), desk.sound)
        dialog = CompareDialog(now, then, desk.workers, sound, self._over.window())
        dialog.show()
        return dialog

    def take_back(self, version: KeptVersion) -> None:
        """The wrinkle becomes as it was, as a step."""
        self._desk.document.edit(f"back to {version.word}", lambda wrinkle: version.wrinkle)
