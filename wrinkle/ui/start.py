"""Starts the application: display, font, theme, window, and what is to be opened."""

from __future__ import annotations

import argparse
import os
import sys
import traceback
from collections.abc import Callable
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING

from wrinkle.core.errors import InputError

if TYPE_CHECKING:
    from wrinkle.ui.session import Session


def has_display() -> bool:
    """Whether there is a screen that Qt could show a window on."""
    return bool(
        os.environ.get("DISPLAY")
        or os.environ.get("WAYLAND_DISPLAY")
        or os.environ.get("QT_QPA_PLATFORM")
    )


def start(arguments: argparse.Namespace) -> int:
    """Opens the window and runs until it is closed.

    Raises:
        InputError: there is no screen, or a file that was asked for cannot be read.
    """
    if not has_display():
        raise InputError(
            "There is no screen to show the window on. With Xvfb installed, type: "
            "xvfb-run ./run demo"
        )
    demo = arguments.command == "demo"
    clips = demo_clips() if demo else []

    from PyQt6.QtWidgets import QApplication

    from wrinkle.ui import theme
    from wrinkle.ui.preferences import Preferences
    from wrinkle.ui.session import Session
    from wrinkle.ui.window import Window

    app = QApplication(sys.argv[:1])
    app.setApplicationName("Wrinkle")
    app.setDesktopFileName("wrinkle")
    preferences = Preferences()
    theme.apply(app, preferences.theme)
    session = Session()
    if demo:
        open_demo(session, clips)
    window = Window(session, preferences)
    sys.excepthook = _teller(session)
    if not demo:
        for slot in ("outgoing", "incoming"):
            path: Path | None = getattr(arguments, slot, None)
            if path is not None:
                session.set_clip(slot, path)
        if getattr(arguments, "wrinkle", None) is not None:
            window.open_file(arguments.wrinkle)
    window.show()
    return app.exec()


def _teller(session: Session) -> Callable[..., None]:
    """Tells of a fault of the program itself instead of ending it: the work is not lost."""

    def tell(kind: type[BaseException], fault: BaseException, trace: TracebackType | None) -> None:
        traceback.print_exception(kind, fault, trace)
        session.faulted.emit(
            f"Something went wrong inside Wrinkle ({kind.__name__}); save under another name."
        )

    return tell


def demo_clips() -> list[Path]:
    """The demo's clips, drawn now if they are not there yet."""
    from wrinkle.demo.clips import EDITION, make_clips
    from wrinkle.library import cache_folder

    def told(done: int, total: int) -> None:
        words = f"wrinkle: drawing the demo's clips (once): {done} of {total}"
        print(words, file=sys.stderr, flush=True)  # noqa: T201 - there is no window yet

    return make_clips(cache_folder() / f"demo-{EDITION}", told)


def open_demo(session: Session, clips: list[Path]) -> None:
    """Opens the demo's wrinkle in work on two of its clips."""
    from wrinkle.core.design.archive import read
    from wrinkle.library import shipped

    by_name = {path.stem: path for path in clips}
    tried = {"outgoing": by_name["box_kite"], "incoming": by_name["pier"]}
    session.open_copy(read(shipped()["smooth_turn"]), tried)
