"""Writes what the manual shows: names of all that can be done, and pictures of the real window.

.venv/bin/python -m window_guides.manual [names | PICTURE]
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from unittest import mock

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import msgspec
from PyQt6.QtCore import QBuffer, QCoreApplication, QEvent, QIODevice, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QDialog, QWidget

from tests.ui.window_case import application, wait_for
from wrinkle.core.design.edits.mask_edits import path_ref
from wrinkle.files.whole import write_whole
from wrinkle.library.manual_pages import MANUAL, NAMES, Named
from wrinkle.library.samples import DEMO_PIECE
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.start import open_demo
from wrinkle.ui.window import Window

LARGEST = 90_000
"""Bytes of a picture."""
_WIDTH, _QUALITY = 720, 82
_FOLDER = MANUAL / "pictures"
_LONG_MS, _SHORT_MS = 9_000, 600


@contextmanager
def demo_window(wrinkle: str = "half_turn") -> Iterator[Window]:
    """The window on the demo, with preferences and own data of its own."""
    application()
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        with mock.patch("platformdirs.user_data_path", return_value=folder / "data"):
            desk = Desk.made()
            open_demo(desk, wrinkle)
            window = Window(desk, Preferences(folder / "preferences"))
            desk.piece.show_copy(DEMO_PIECE)
            window.resize(1280, 800)
            window.show()
            QTest.qWaitForWindowExposed(window)
            wait_for(lambda: len(desk.tried.clips) == 2, "the clips")
            try:
                yield window
            finally:
                desk.document.mark_saved()
                desk.piece.mark_saved()
                window.close()
                desk.workers.stop()
                window.deleteLater()
                QCoreApplication.processEvents()
                QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)


def names() -> bytes:
    """What all that can be done is called, with its usual keys, as JSON."""
    with demo_window() as window:
        found = {
            entry.action.id: Named(entry.action.label.removesuffix("…"), entry.action.keys)
            for entry in window.menus.entries
        }
    return msgspec.json.format(msgspec.json.encode(found), indent=1) + b"\n"


def _bench(window: Window) -> QWidget:
    return window


def _at(place: str) -> Callable[[Window], QWidget]:
    def show(window: Window) -> QWidget:
        window.places.go_to(place)
        QTest.qWait(_LONG_MS)
        return window

    return show


def _lanes(window: Window) -> QWidget:
    timeline = window.places.place("bench").timeline  # type: ignore[attr-defined]
    canvas = timeline.rows[0].canvas
    canvas.setFocus(Qt.FocusReason.TabFocusReason)
    QTest.keyClick(canvas, Qt.Key.Key_PageUp)
    QTest.qWait(_SHORT_MS)
    return timeline  # type: ignore[no-any-return]


def _stack(window: Window) -> QWidget:
    return window.places.place("bench").stack  # type: ignore[attr-defined, no-any-return]


def _masks(window: Window) -> QWidget:
    desk = window.desk
    layer = [x for x in desk.document.state.layers if x.masks][-1]
    desk.looking.select_layer(layer.id)
    desk.looking.set_playhead(0)
    desk.looking.mode.select_outline(path_ref(layer.id, layer.masks[0].id))
    QTest.qWait(_SHORT_MS * 4)
    return window


def _effects(window: Window) -> QWidget:
    window.menus.do("bench.add-effect")
    QTest.qWait(_LONG_MS)
    return next(x for x in window.findChildren(QDialog) if x.isVisible())


def _dials(window: Window) -> QWidget:
    stack = window.places.place("bench").stack  # type: ignore[attr-defined]
    stack.dials.section.heading.click()
    QTest.qWait(_SHORT_MS)
    return stack  # type: ignore[no-any-return]


def _checks(window: Window) -> QWidget:
    window.places.go_to("checks")
    examiner = window.desk.examiner
    wait_for(lambda: examiner.found() is not None, "measured")
    QTest.qWait(_LONG_MS)
    return window


PICTURES: dict[str, tuple[str, Callable[[Window], QWidget]]] = {
    "bench": ("half_turn", _bench),
    "lanes": ("half_turn", _lanes),
    "stack": ("half_turn", _stack),
    "dials": ("half_turn", _dials),
    "masks": ("iris", _masks),
    "effects": ("half_turn", _effects),
    "cutlist": ("half_turn", _at("cutlist")),
    "collection": ("half_turn", _at("collection")),
    "checks": ("half_turn", _checks),
    "export": ("half_turn", _at("export")),
}
"""Each picture: on which wrinkle, and what is shown."""


def picture(name: str) -> bytes:
    """One of them, as JPEG."""
    wrinkle, show = PICTURES[name]
    with demo_window(wrinkle) as window:
        QTest.qWait(_LONG_MS)
        shown = show(window).grab()
    if shown.width() > _WIDTH:
        shown = shown.scaledToWidth(_WIDTH, Qt.TransformationMode.SmoothTransformation)
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    shown.save(buffer, "JPG", _QUALITY)
    return bytes(buffer.data().data())


def main() -> None:
    """Writes all, the names alone, or one picture: each in a process of its own."""
    if sys.argv[1:] in ([name] for name in PICTURES):
        write_whole(_FOLDER / f"{sys.argv[1]}.jpg", picture(sys.argv[1]))
        return
    write_whole(NAMES, names())
    _FOLDER.mkdir(exist_ok=True)
    for name in PICTURES if sys.argv[1:] != ["names"] else ():
        subprocess.run([sys.executable, "-m", "window_guides.manual", name], check=True)


if __name__ == "__main__":
    main()
