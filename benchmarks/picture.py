"""What the picture costs, and how soon something is seen: ``python -m benchmarks.picture``.

A program of its own for each place, with empty caches and with those of the time before.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import threading
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

_LONGEST = 20.0
_PLACES = ("collection", "cutlist")


def first_pictures(place: str) -> None:
    """Opens a place, and prints when all that is seen of it has a picture."""
    from PyQt6.QtTest import QTest

    from wrinkle.ui.choosing.wrinkle_tiles import WrinkleTiles
    from wrinkle.ui.theme import SURROUND

    window = _window()
    began = time.perf_counter()
    window.menus.do(f"place.{place}")
    shown = window.place(place)

    def lacking() -> int:
        if place == "collection":
            tiles = shown.findChildren(WrinkleTiles)[0]
            model, view = tiles.model(), tiles.viewport()
            assert model is not None
            assert view is not None
            rows = [
                row for row in range(model.rowCount())
                if tiles.visualRect(model.index(row, 0)).intersects(view.rect())
            ]  # fmt: skip
            return sum(not tiles.strips.strip(tiles.found[row]) for row in rows)
        picture = shown.order.grab().toImage()
        grey = SURROUND.rgb()
        across, down = range(0, picture.width(), 6), range(0, picture.height(), 6)
        return sum(picture.pixel(x, y) == grey for y in down for x in across) // 100

    while lacking() and time.perf_counter() - began < _LONGEST:
        QTest.qWait(40)
    if os.environ.get("WRINKLE_SHOT"):
        window.grab().save(os.environ["WRINKLE_SHOT"])
    print(f"{place:10} {time.perf_counter() - began:5.2f} s", end="", flush=True)
    _end(window)


def costs() -> None:
    """Repainting from near by with all lines, and the scopes as a share of a core."""
    from PyQt6.QtGui import QPixmap
    from PyQt6.QtTest import QTest

    from wrinkle.core.picture import compiled
    from wrinkle.library import compiled_folder
    from wrinkle.ui.desk.picture_lines import Lines

    # What is compiled for the first time takes its share of the machine.
    compiled.load(compiled_folder())
    window = _window()
    bench = window.place("bench")
    window.menus.do("place.bench")
    end = time.perf_counter() + _LONGEST
    while not bench.renderer.all_ready and time.perf_counter() < end:
        QTest.qWait(40)
    view = bench.result
    window.desk.lines.choose(set(Lines) - {Lines.ONION}, ())
    view.zoom.zoom_about(view.room.center(), 3.0, view.room, view.shape)
    QTest.qWait(4000)
    target, rounds = QPixmap(view.size()), 60
    start = time.perf_counter()
    for _ in range(rounds):
        view.render(target)
    print(
        f"a repaint from near by, with lines: {(time.perf_counter() - start) / rounds * 1e3:.2f} ms"
    )
    window.desk.looking.show_scopes(True)
    QTest.qWait(500)
    start = time.thread_time()
    for _ in range(rounds):
        bench.scopes._show_now()
    spent = (time.thread_time() - start) / rounds
    print(f"scopes: {spent * 1e3:.2f} ms, {spent * 18:.1%} of a core at 18 a second")
    _end(window)


def _window():  # type: ignore[no-untyped-def]
    from PyQt6.QtWidgets import QApplication

    from wrinkle.core.picture import compiled
    from wrinkle.library import compiled_folder
    from wrinkle.library.samples import DEMO_PIECE
    from wrinkle.ui import theme
    from wrinkle.ui.desk.desk import Desk
    from wrinkle.ui.preferences import Preferences
    from wrinkle.ui.start import open_demo
    from wrinkle.ui.theme import ThemeChoice
    from wrinkle.ui.window import Window

    app = QApplication.instance() or QApplication([])
    assert isinstance(app, QApplication)
    theme.apply(app, ThemeChoice.LINEN)
    desk = Desk.made()
    open_demo(desk)
    window = Window(desk, Preferences(Path(os.environ["XDG_CONFIG_HOME"])))
    window.app = app
    desk.piece.show_copy(DEMO_PIECE)
    threading.Thread(target=compiled.load, args=(compiled_folder(),)).start()
    window.resize(1280, 800)
    window.show()
    return window


def _end(window) -> None:  # type: ignore[no-untyped-def]
    window.desk.document.mark_saved()
    window.desk.piece.mark_saved()
    window.close()


def main() -> int:
    """Prints what it measures."""
    if len(sys.argv) > 1:
        (costs if sys.argv[1] == "costs" else lambda: first_pictures(sys.argv[1]))()
        return 0
    for place in (*_PLACES, "costs"):
        with tempfile.TemporaryDirectory() as name:
            homes = {f"XDG_{x}_HOME": name for x in ("STATE", "DATA", "CACHE", "CONFIG")}
            for told in ("with empty caches", "and again") if place != "costs" else ("",):
                command = [sys.executable, "-m", "benchmarks.picture", place]
                subprocess.run(command, env={**os.environ, **homes}, check=True)
                print(f" {told}" if told else "")
    return 0


if __name__ == "__main__":
    sys.exit(main())
