"""An earlier version of the wrinkle beside the one that is open."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from wrinkle import library
from wrinkle.core.design.document.slots import OUTGOING
from wrinkle.core.errors import InputError
from wrinkle.core.reuse.use import Use
from wrinkle.files.archive import read
from wrinkle.library.versions import Version
from wrinkle.media.assets import read_assets
from wrinkle.ui.choosing.compare import Compared, CompareDialog
from wrinkle.ui.desk.parts import Trying
from wrinkle.ui.pictures.sound_player import SoundPlayer
from wrinkle.ui.safekeeping.kept_row import day_and_time


def compare_version(desk: Trying, version: Version, over: QWidget) -> CompareDialog | None:
    """Shows an earlier version beside the wrinkle as it is now, in step, on its clips.

    None where one of them cannot be shown, which is told.
    """
    try:
        bundle = read(version.path)
        carried = read_assets(bundle.assets, desk.workers.store)
        before = Compared(
            day_and_time(version.when),
            Use(bundle.wrinkle, desk.tried.fillings()),
            carried.material(library.fonts()),
        )
        now = Compared("now", Use(desk.document.state, desk.tried.fillings()), desk.carried())
    except InputError as fault:
        desk.messages.faulted.emit(str(fault))
        return None
    if OUTGOING.key not in now.use.fillings:
        desk.messages.faulted.emit("Choose the two clips on the Bench first.")
        return None
    dialog = CompareDialog(now, before, desk.workers, SoundPlayer(desk.output(), desk.sound), over)
    dialog.show()
    return dialog
