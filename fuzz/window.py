"""Drives the real window at random, with ordinary and with changed files: ``-m fuzz.window``.

Dialogs that wait for a person are left out. Told are exceptions, and the memory at the end.
"""

from __future__ import annotations

import argparse
import os
import random
import sys
import tempfile
import threading
import time
import traceback
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtCore import QEventLoop, QPoint, Qt, QTimer
from PyQt6.QtGui import QDrag
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QDialog, QMenu, QWidget

from fuzz.__main__ import content_of
from fuzz.readers import readers
from tests.media.clips import write_numbered
from wrinkle.ui import theme
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.safekeeping.safekeeping import Safekeeping
from wrinkle.ui.start import load_soon, open_demo
from wrinkle.ui.theme import ThemeChoice
from wrinkle.ui.window import Window

_WAITS = (
    "file.open", "file.save", "file.save-as", "file.rename", "file.use", "edit.preferences",
    "file.quit", "file.new", "help.about", "help.keys", "file.versions", "piece.add",
    "piece.missing", "piece.frame", "piece.render", "piece.flatten", "piece.cuts", "checks.aside",
)  # fmt: skip
_TOLD = 10
"""Steps that took longest."""
_KEYS = (
    Qt.Key.Key_Space, Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_K, Qt.Key.Key_Delete,
    Qt.Key.Key_Return, Qt.Key.Key_Escape, Qt.Key.Key_Tab, Qt.Key.Key_0, Qt.Key.Key_9, Qt.Key.Key_E,
    Qt.Key.Key_Comma, Qt.Key.Key_Period, Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_PageUp,
    Qt.Key.Key_PageDown,
)  # fmt: skip
BUDGET_MIB = 256
MOST_MIB = BUDGET_MIB + 500


def drive(seconds: float, seed: int) -> int:
    """Drives for a while; gives how many exceptions there were."""
    faults: list[str] = []

    def note(*caught: object) -> None:
        text = "".join(traceback.format_exception(*caught))  # type: ignore[arg-type]
        faults.append(text)
        print(text, flush=True)

    sys.excepthook = note
    threading.excepthook = lambda x: note(x.exc_type, x.exc_value, x.exc_traceback)
    app, dice = QApplication.instance() or QApplication([]), random.Random(seed)
    theme.apply(app, ThemeChoice.LINEN)  # type: ignore[arg-type]
    steps, looked = 0, time.monotonic()
    end = looked + seconds
    longest: list[tuple[float, int, str]] = []
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        clips = [write_numbered(folder / f"{x}.mp4", 60) for x in ("box_kite", "pier")]
        desk = Desk.made(BUDGET_MIB << 20)
        open_demo(desk)
        desk.tried.begin(dict(zip(("outgoing", "incoming"), clips, strict=True)))
        window = Window(desk, Preferences(folder))
        keeping = Safekeeping.of(desk, window.files, folder / "kept")
        window.closed.connect(keeping.end)
        desk.piece.add_files(0, clips * 3)
        load_soon(desk)
        window.show()
        # Whatever waits for an answer or a pointer is closed, from wherever it was opened.
        closing = QTimer()
        closing.timeout.connect(_close_popups)
        closing.start(80)
        names = ("wrinkle", "clip", "picture", "svg", "timeline")
        given = [x for x in readers() if x.name in names]
        while time.monotonic() < end:
            steps += 1
            start = time.perf_counter()
            did = _step(window, dice, folder, given, steps)
            _let_work(0)
            longest = sorted((*longest, (time.perf_counter() - start, steps, did)))[-_TOLD:]
            _let_work(dice.choice((0, 1, 5, 30)))
            if time.monotonic() > looked + 60.0:
                looked = time.monotonic()
                print(f"{steps} steps, {_resident()} MiB", flush=True)
        desk.document.mark_saved()
        desk.piece.mark_saved()
        window.close()
    for taken, number, did in reversed(longest):
        print(f"{taken:6.2f} s  step {number}: {did}", flush=True)
    print(f"{steps} steps, {len(faults)} exceptions, {_resident()} MiB at the end", flush=True)
    return len(faults) + (_resident() > MOST_MIB)


def _step(window: Window, dice: random.Random, folder: Path, given: list, number: int) -> str:  # type: ignore[type-arg]
    """Does something; gives what it was."""
    what, did = dice.random(), ""
    if what < 0.15:
        actions = [a for key, a in window.menus.actions.items() if key not in _WAITS]
        action = dice.choice(actions)
        if not action.text().endswith("…") and action.isEnabled():
            did = action.objectName()
            action.trigger()
    elif what < 0.2:
        reader = dice.choice(given)
        ending, content = content_of(reader, number, dice.randrange(1000))
        path = folder / f"strange{number % 20}{ending}"
        path.write_bytes(content)
        did = f"a changed {reader.name}"
        stack = window.places.place("bench").stack
        if dice.random() < 0.3 and reader.name in ("clip", "picture"):
            window.desk.piece.add_files(dice.randrange(9), [path])
        elif reader.name == "timeline":
            window.desk.piece.open(path)
        elif reader.name == "wrinkle":
            window.desk.document.open(path)
        elif reader.name == "clip":
            window.desk.tried.try_clip(dice.choice(("outgoing", "incoming")), path)
        elif reader.name == "picture":
            stack.new.add_picture(path)
        else:
            stack.new.add_drawing(path)
    elif what < 0.3:
        key = dice.choice(_KEYS)
        did = f"the key {key.name}"
        QTest.keyClick(window.focusWidget() or window, key)
    else:
        did = _press(window, dice)
    for widget in QApplication.topLevelWidgets():
        if isinstance(widget, QDialog | QMenu) and widget.isVisible():
            widget.close()
    return did


def _press(window: Window, dice: random.Random) -> str:
    """Presses, drags or double-clicks somewhere on something that is seen; gives on what."""
    seen = [
        x for x in window.findChildren(QWidget)
        if x.isVisible() and x.isEnabled() and not x.visibleRegion().isEmpty()
        # These would open a dialog that waits for a file or a word.
        and "…" not in str(getattr(x, "text", lambda: "")())
    ]  # fmt: skip
    widget = dice.choice(seen)
    box = widget.visibleRegion().boundingRect()
    start = QPoint(dice.randint(box.left(), box.right()), dice.randint(box.top(), box.bottom()))
    left = Qt.MouseButton.LeftButton
    said = str(getattr(widget, "text", str)()) or widget.accessibleName() or widget.toolTip()
    did = f"{type(widget).__name__} {' '.join(said.split())[:40]}"
    if dice.random() < 0.1:
        QTest.mouseDClick(widget, left, pos=start)
        return f"twice on {did}"
    QTest.mousePress(widget, left, pos=start)
    for _ in range(dice.choice((0, 0, 1, 4))):
        QTest.mouseMove(widget, start + QPoint(dice.randint(-60, 60), dice.randint(-30, 30)))
    QTest.mouseRelease(widget, left, pos=start)
    return f"on {did}"


def _close_popups() -> None:
    # What is dragged from one widget to another waits for a pointer that never comes.
    QDrag.cancel()
    popup = QApplication.activePopupWidget()
    if popup is not None:
        popup.close()
    modal = QApplication.activeModalWidget()
    if isinstance(modal, QDialog):
        modal.reject()


def _let_work(milliseconds: int) -> None:
    loop = QEventLoop()
    QTimer.singleShot(milliseconds, loop.quit)
    loop.exec()


def _resident() -> int:
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    return pages * 4096 >> 20


def main() -> int:
    """Gives 0 when nothing went wrong."""
    given = argparse.ArgumentParser(prog="python -m fuzz.window", description=__doc__)
    given.add_argument("--seconds", type=float, default=1800.0)
    given.add_argument("--seed", type=int, default=1)
    asked = given.parse_args()
    return 1 if drive(asked.seconds, asked.seed) else 0


if __name__ == "__main__":
    sys.exit(main())
