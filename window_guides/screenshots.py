"""Takes the pictures of the README: each main view of the real window, with the demo.

.venv/bin/python -m window_guides.screenshots [NAME …]
"""

from __future__ import annotations

import subprocess
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QDialog, QWidget

from tests.core.sound.test_beats import drums
from tests.media.sounds import write_sound
from tests.ui.window_case import wait_for
from window_guides.manual import demo_window
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.edits import lane_edits
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.library.autosaves import left_work
from wrinkle.library.samples import DEMO
from wrinkle.ui import theme
from wrinkle.ui.desk.picture_lines import Guide, Lines
from wrinkle.ui.help.manual_window import ManualWindow
from wrinkle.ui.place import UseWanted
from wrinkle.ui.safekeeping.left_work_dialog import LeftWorkDialog
from wrinkle.ui.safekeeping.safekeeping import Safekeeping
from wrinkle.ui.theme import ThemeChoice
from wrinkle.ui.window import Window

FOLDER = Path(__file__).parents[1] / "docs" / "screenshots"
_LONG, _SHORT = 9_000, 700
_TEMPO = 112.0


def _wait(milliseconds: int = _LONG) -> None:
    QTest.qWait(milliseconds)


def _over(window: Window, dialog: QWidget) -> QImage:
    """A dialog over the window, as it stands on a screen."""
    picture = window.grab().toImage()
    painter = QPainter(picture)
    painter.fillRect(picture.rect(), Qt.GlobalColor.transparent)
    own = dialog.grab()
    middle = QPoint((picture.width() - own.width()) // 2, (picture.height() - own.height()) // 2)
    painter.drawPixmap(middle, own)
    painter.setPen(theme.active().colour("edge"))
    painter.drawRect(own.rect().translated(middle).adjusted(-1, -1, 0, 0))
    painter.end()
    return picture


def _plain(window: Window) -> QImage:
    return window.grab().toImage()


def _dialog(window: Window, action: str, wait: int = _LONG) -> QImage:
    window.menus.do(action)
    _wait(wait)
    return _over(window, next(x for x in window.findChildren(QDialog) if x.isVisible()))


def _place(key: str) -> Callable[[Window], QImage]:
    def show(window: Window) -> QImage:
        window.places.go_to(key)
        _wait()
        return _plain(window)

    return show


def _large(window: Window) -> QImage:
    window.menus.do("bench.wider")
    window.menus.do("bench.scopes")
    window.desk.lines.choose([Lines.AREAS, Lines.GUIDES], [Guide(True, 0.33), Guide(False, 0.62)])
    window.desk.looking.set_playhead(-4)
    _wait()
    return _plain(window)


def _dials(window: Window) -> QImage:
    window.places.place("bench").stack.dials.section.heading.click()
    _wait(_SHORT)
    return _plain(window)


def _sound(window: Window) -> QImage:
    window.menus.do("bench.sound")
    _wait()
    return _plain(window)


def _checks(window: Window) -> QImage:
    desk = window.desk
    layer = desk.document.state.layers[-1].id
    time = desk.looking.time
    desk.document.edit("bare", lambda w: lane_edits.set_value(
        w, SettingRef(layer, "edge_cover"), time, "bare"))  # fmt: skip
    window.places.go_to("checks")
    wait_for(lambda: desk.examiner.found() is not None, "measured")
    # A mend is looked for as well, and shown beside it.
    _wait(3 * _LONG)
    return _plain(window)


def _sheet(window: Window) -> QImage:
    window.menus.do("bench.sheet")
    _wait()
    return _plain(window)


def _looks(window: Window) -> QImage:
    window.places.go_to("collection")
    window.menus.do("collection.looks")
    _wait()
    return _plain(window)


def _music(window: Window) -> QImage:
    window.places.go_to("cutlist")
    place = window.places.place("cutlist")
    with tempfile.TemporaryDirectory() as name:
        samples, _ = drums(_TEMPO, swung=False)
        tune = write_sound(
            Path(name) / "kite_tune.wav", "pcm_s16le", SAMPLE_RATE, samples=samples[:, 0]
        )
        place.music.take(tune)
        wait_for(lambda: place.music.beats is not None, "it is listened to")
        window.menus.do("piece.music")
        _wait()
        dialog = place.show_music()
        dialog.move(window.mapToGlobal(QPoint(700, 240)))
        return _over(window, dialog)


def _unsaved(window: Window) -> QImage:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        keeping = Safekeeping.of(window.desk, window.files, folder)
        window.menus.do("bench.add-treatment")
        _wait(2_000)
        keeping.now()
        keeping.let_go()
        dialog = LeftWorkDialog(left_work(folder), window)
        dialog.open()
        _wait(_SHORT)
        picture = _over(window, dialog)
        dialog.close()
    return picture


def _first_steps(window: Window) -> QImage:
    window.desk.document.mark_saved()
    window.menus.do("help.first-steps")
    wait_for(lambda: window.head.first_steps.ready, "the clips")
    window.menus.do("bench.add-treatment")
    window.head.first_steps.show_step(1)
    wait_for(lambda: window.head.first_steps.target() is not None, "the mark")
    _wait(2_500)
    return _plain(window)


def _manual(window: Window) -> QImage:
    window.places.place("bench").timeline.rows[0].canvas.setFocus()
    window.menus.do("help.manual")
    _wait(_SHORT)
    return _over(window, window.findChildren(ManualWindow)[-1])


def _finder(window: Window) -> QImage:
    window.menus.do("help.find")
    dialog = next(x for x in window.findChildren(QDialog) if x.isVisible())
    QTest.keyClicks(dialog.field, "pin")
    _wait(_SHORT)
    return _over(window, dialog)


def _use(window: Window) -> QImage:
    clips = (DEMO / "dunes_60.mp4", DEMO / "pier_24.mp4")
    dialog = window.use(UseWanted(window.desk.document.bundle(), clips=clips))
    _wait()
    return _over(window, dialog)


SHOTS: dict[str, tuple[ThemeChoice, Callable[[Window], QImage]]] = {
    "bench": (ThemeChoice.LINEN, _plain),
    "bench-lampblack": (ThemeChoice.LAMPBLACK, _plain),
    "bench-chalk": (ThemeChoice.CHALK, _plain),
    "large": (ThemeChoice.LINEN, _large),
    "dials": (ThemeChoice.LINEN, _dials),
    "sound": (ThemeChoice.LINEN, _sound),
    "first-steps": (ThemeChoice.LINEN, _first_steps),
    "manual": (ThemeChoice.LINEN, _manual),
    "cutlist": (ThemeChoice.LINEN, _place("cutlist")),
    "collection": (ThemeChoice.LINEN, _place("collection")),
    "looks": (ThemeChoice.LINEN, _looks),
    "checks": (ThemeChoice.LINEN, _checks),
    "export": (ThemeChoice.LINEN, _place("export")),
    "contact-sheet": (ThemeChoice.LINEN, _sheet),
    "music": (ThemeChoice.LINEN, _music),
    "table": (ThemeChoice.LINEN, lambda window: _dialog(window, "bench.numbers", _SHORT)),
    "finder": (ThemeChoice.LINEN, _finder),
    "unsaved-work": (ThemeChoice.LINEN, _unsaved),
    "use-on-other-clips": (ThemeChoice.LINEN, _use),
}
"""Each picture: in which theme, and what is shown."""


def take(name: str) -> None:
    """One of them."""
    chosen, show = SHOTS[name]
    with demo_window() as window:
        window.set_theme(chosen)
        _wait()
        show(window).save(str(FOLDER / f"{name}.png"))
        window.set_theme(ThemeChoice.LINEN)
    print(name)  # noqa: T201 - the result


def main() -> None:
    """Takes all of them, or those that are named: each in a process of its own, as a person has it.

    What many windows in one process keep would leave each of them too little memory.
    """
    names = sys.argv[1:] or list(SHOTS)
    if len(names) == 1:
        take(names[0])
        return
    for name in names:
        subprocess.run([sys.executable, "-m", "window_guides.screenshots", name], check=True)


if __name__ == "__main__":
    main()
