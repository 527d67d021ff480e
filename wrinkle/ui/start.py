"""Starts the application: display, font, theme, window, and what is to be opened."""

from __future__ import annotations

import os
import sys
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import TYPE_CHECKING

from wrinkle.core.errors import InputError

if TYPE_CHECKING:
    from wrinkle.ui.desk.desk import Desk
    from wrinkle.ui.safekeeping.safekeeping import Safekeeping
    from wrinkle.ui.window import Window


def has_display() -> bool:
    """Whether there is a screen that Qt could show a window on."""
    return bool(
        os.environ.get("DISPLAY")
        or os.environ.get("WAYLAND_DISPLAY")
        or os.environ.get("QT_QPA_PLATFORM")
    )


def start(file: Path | None, clips: Mapping[str, Path]) -> int:
    """Opens the window on a wrinkle or a timeline, and on clips, and runs until it is closed.

    Raises:
        InputError: there is no screen.
    """

    def fill(window: Window) -> None:
        if file is not None:
            window.router.open(file)
        for slot, path in clips.items():
            window.desk.tried.try_clip(slot, path)

    return _run(lambda desk: None, fill)


def start_demo() -> int:
    """Opens the window on the demo and runs until it is closed.

    Raises:
        InputError: there is no screen.
    """
    from wrinkle.library.samples import DEMO_PIECE

    # The clips are read while the window is made.
    return _run(open_demo, lambda window: window.desk.piece.show_copy(DEMO_PIECE))


def open_demo(desk: Desk, name: str = "half_turn") -> None:
    """Opens a shipped wrinkle as one in work, on two clips of the demo."""
    from wrinkle.files.archive import read
    from wrinkle.library import shipped
    from wrinkle.library.samples import DEMO_CLIPS

    desk.document.open_copy(read(shipped()[name]))
    desk.tried.begin({"outgoing": DEMO_CLIPS["box_kite"], "incoming": DEMO_CLIPS["pier"]})


def _run(before: Callable[[Desk], None], after: Callable[[Window], object]) -> int:
    """Runs the window; what is filled in before it is made cannot tell faults at once."""
    _need_display()

    from PyQt6.QtWidgets import QApplication

    from wrinkle.library.log import begin_log
    from wrinkle.ui.desk.desk import Desk
    from wrinkle.ui.ending import Ending
    from wrinkle.ui.preferences import Preferences
    from wrinkle.ui.safekeeping.safekeeping import Safekeeping
    from wrinkle.ui.safekeeping.unforeseen import Unforeseen
    from wrinkle.ui.window import Window

    app = QApplication(sys.argv[:1])
    app.setApplicationName("Wrinkle")
    app.setDesktopFileName("wrinkle")
    begin_log()
    preferences = Preferences()
    preferences.apply_look(app)
    desk = Desk.made(preferences.memory)
    before(desk)
    window = Window(desk, preferences)
    keeping, unforeseen, ending = (
        Safekeeping.of(desk, window.files, versions=lambda: preferences.versions),
        Unforeseen(),
        Ending(),
    )
    window.closed.connect(keeping.end)
    unforeseen.told.connect(desk.messages.faulted)
    unforeseen.details.connect(window.status.offer_details)
    unforeseen.details.connect(keeping.now)
    unforeseen.begin()
    ending.asked.connect(keeping.let_go)
    ending.asked.connect(window.end)
    after(window)
    window.show()
    if preferences.fault:
        desk.messages.faulted.emit(preferences.fault)
    elif preferences.is_new:
        window.head.first_steps.offer()
    _offer_left_work(keeping, window)
    load_soon(desk)
    status = app.exec()
    unforeseen.end()
    return status


def _offer_left_work(keeping: Safekeeping, window: Window) -> None:
    """Offers what an earlier run left that ended without asking."""
    from wrinkle.library.autosaves import left_work
    from wrinkle.timeline.older_pieces import take_over_older

    take_over_older()
    left = left_work()
    if left:
        keeping.offer(left, window)


def load_soon(desk: Desk) -> None:
    """Loads the compiled passes after the frames of the window; until then all goes on without.

    So does whatever else takes its time when it is wanted for the first time.
    """
    from wrinkle.core.jobs import Job, Urgency, WorkLine
    from wrinkle.core.picture import compiled
    from wrinkle.library import caches, compiled_folder
    from wrinkle.library.shelf import Shelves
    from wrinkle.ui.desk.memory import keep_all_there_is

    line = WorkLine(desk.workers.jobs, Urgency.AROUND, "Fast passes", desk.messages.faulted.emit)

    def work(job: Job) -> None:
        caches.keep_within()
        compiled.load(compiled_folder())
        # The first look at the Collection need not wait for its files.
        Shelves().all()
        # The library of timelines takes its time to load.
        from wrinkle.timeline.bundles import forget_old

        forget_old()

    def loaded(done: None) -> None:
        line.close()
        keep_all_there_is()

    line.put(work, loaded)


def _need_display() -> None:
    if not has_display():
        raise InputError(
            "There is no screen to show the window on. With Xvfb installed, type: "
            "xvfb-run ./run demo"
        )
