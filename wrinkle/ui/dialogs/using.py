"""The dialog that uses a wrinkle on other clips."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QWidget

from wrinkle.ui.desk.parts import Trying
from wrinkle.ui.pictures.sound_player import SoundPlayer
from wrinkle.ui.place import UseWanted
from wrinkle.ui.use.use_dialog import UseDialog


def use_dialog(desk: Trying, wanted: UseWanted | None, over: QWidget) -> UseDialog:
    """A dialog for the wrinkle as it is now, or for another one."""
    if wanted is None:
        wanted = UseWanted(desk.document.bundle(), desk.trial.choices)
    sound = SoundPlayer(desk.output(), desk.sound)
    sound.told.connect(desk.messages.told)
    dialog = UseDialog(wanted.bundle, desk.workers, desk.asking, over, wanted.choices, sound)
    sound.setParent(dialog)
    dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    if wanted.here:
        dialog.setWindowTitle(f"Use {wanted.bundle.wrinkle.name} on the Bench's clips")
        dialog.take_clips(desk.tried.clips)
    dialog.take_files(wanted.clips)
    return dialog
