"""What is seen first of each place, what it costs to look on, and what is held afterwards.

Run with QT_QPA_PLATFORM=offscreen. ``--busy 10`` lets so many other processes compete; ``--warm``
begins with what an earlier window has kept on disk, else each run begins with nothing kept;
``--looking`` measures what it costs to look on at the Bench, and nothing else.
"""

from __future__ import annotations

import argparse
import os
import resource
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtWidgets import QApplication

from benchmarks.motion import median_ms
from benchmarks.window import wait
from wrinkle.library.samples import DEMO_PIECE
from wrinkle.ui import theme
from wrinkle.ui.bench.picture_sizes import PictureSize
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.memory import taken
from wrinkle.ui.desk.picture_lines import Guide
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.start import open_demo
from wrinkle.ui.theme import ThemeChoice
from wrinkle.ui.window import Window

BUDGET, BUDGET_BUSY = 1.0, 5.0
"""Seconds until all that is visible of a place has a picture."""
REPAINT_MS, SCOPES_SHARE, MEMORY_GIB = 6.0, 0.15, 1.2
LONGEST = 60.0
_BUSY = "while True: sum(x * x for x in range(10_000))"


def until(holds: Callable[[], bool]) -> float:
    """Seconds until something holds."""
    start = time.perf_counter()
    while not holds() and time.perf_counter() - start < LONGEST:
        wait(20)
    return time.perf_counter() - start


def all_of(there: int, wanted: int) -> bool:
    """Whether nothing is missing, and there is something."""
    return there == wanted > 0


def tell_first(window: Window, budget: float) -> None:
    """Says how long after the opening of each place nothing visible of it is grey."""
    tiles = window.places.place("collection").wrinkles.tiles
    cutlist, bench = window.places.place("cutlist"), window.places.place("bench")
    collection, checks = window.places.place("collection"), window.places.place("checks")
    for key, holds in (
        ("cutlist", lambda: all_of(*cutlist.order.pictured())),
        ("collection", lambda: bool(tiles.found) and all(map(tiles.strips.strip, tiles.found))),
        ("bench", lambda: bench.renderer.picture(0) is not None
            and bench.outgoing.picture.now() is not None
            and bench.incoming.picture.now() is not None),
        ("looks", lambda: all(
            not collection.looks.tiles.list.item(x).icon().isNull()
            for x in range(collection.looks.tiles.list.count())
        )),
        ("checks", lambda: checks.pictures.before.picture(checks.pictures.frame) is not None
            or bool(checks.found.bar.isVisible())),
    ):  # fmt: skip
        start = time.perf_counter()
        window.places.go_to("collection" if key == "looks" else key)
        if key == "looks":
            collection.show_shelf(1)
        until(holds)
        told(f"first pictures: {key}", time.perf_counter() - start, budget, "s")
        wait(2000)
        told(f"memory after: {key}", taken() / (1 << 30), MEMORY_GIB, "GiB")


def repaint_ms(window: Window) -> float:
    """Of the large result, from near by, with guides and all lines over it."""
    bench = window.places.place("bench")
    window.places.go_to("bench")
    bench.sizes.show_size(PictureSize.LARGE)
    for one in ("areas", "thirds", "centre", "guides", "bare", "buttons"):
        window.menus.do(f"bench.lines.{one}")
    for share in (0.2, 0.5, 0.8):
        window.desk.lines.put_guide(Guide(True, share))
    window.menus.do("bench.actual")
    until(lambda: bench.renderer.is_ready(window.desk.looking.playhead))
    wait(500)
    found = median_ms(bench.result.repaint)
    window.menus.do("bench.fit")
    bench.sizes.show_size(PictureSize.BENCH)
    return found


def scopes_share(window: Window, seconds: float = 6.0) -> tuple[float, float]:
    """What scopes take of a core while it plays, against playing without; and pictures a second."""
    bench, counted = window.places.place("bench"), [0]
    until(lambda: bench.renderer.all_ready)
    graph = bench.scopes.panes[0].graph
    shown = graph.show_image

    def count(*what: object) -> None:
        counted[0] += 1
        shown(*what)

    graph.show_image = count
    spent = []
    for with_scopes in (False, True):
        if with_scopes:
            window.menus.do("bench.scopes")
        window.menus.do("bench.loop")
        wait(500)
        counted[0] = 0
        begun, before = time.perf_counter(), time.process_time()
        wait(round(seconds * 1000))
        spent.append((time.process_time() - before) / (time.perf_counter() - begun))
        window.menus.do("bench.loop")
    window.menus.do("bench.scopes")
    return spent[1] - spent[0], counted[0] / seconds


def told(what: str, value: float, limit: float, unit: str) -> None:
    """A line with the value beside what it may be."""
    print(f"{what:34} {value:7.2f} {unit:4} of {limit:g}{'' if value <= limit else '   TOO MUCH'}")


def look(folder: Path) -> None:
    """Opens the wrinkle alone, so that nothing is measured beside, and measures looking on."""
    window = opened(folder)
    window.places.go_to("bench")
    until(lambda: window.places.place("bench").renderer.all_ready)
    until(lambda: not window.desk.examiner.measuring())
    told("repaint, near by, with lines", repaint_ms(window), REPAINT_MS, "ms")
    share, pictures = scopes_share(window)
    told("scopes while it plays, of a core", share, SCOPES_SHARE, "")
    print(f"{'scopes, pictures a second':34} {pictures:7.2f}      at least 15")
    closed(window)


def opened(folder: Path) -> Window:
    """A window on the demo's wrinkle."""
    desk = Desk.made()
    open_demo(desk)
    window = Window(desk, Preferences(folder / "preferences"))
    window.resize(1280, 800)
    window.show()
    return window


def closed(window: Window) -> None:
    """Closes it without asking."""
    window.desk.document.mark_saved()
    window.desk.piece.mark_saved()
    window.close()


def main() -> None:
    """Prints a line for each place, then what looking on costs, then memory."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--busy", type=int, default=0)
    parser.add_argument("--warm", action="store_true")
    parser.add_argument("--looking", action="store_true")
    wanted = parser.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        if not wanted.warm:
            for name in ("CACHE", "STATE", "CONFIG", "DATA"):
                os.environ[f"XDG_{name}_HOME"] = str(Path(folder) / name)
        busy = [subprocess.Popen([sys.executable, "-c", _BUSY]) for _ in range(wanted.busy)]
        application = QApplication([])
        theme.apply(application, ThemeChoice.LINEN)
        try:
            if wanted.looking:
                look(Path(folder))
            else:
                run(BUDGET_BUSY if busy else BUDGET, Path(folder))
        finally:
            for one in busy:
                one.kill()


def run(budget: float, folder: Path) -> None:
    """Opens the window on the demo's piece, and visits each place."""
    window = opened(folder)
    window.desk.piece.show_copy(DEMO_PIECE)
    tell_first(window, budget)
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / (1 << 20)
    told("memory, the most there was", peak, MEMORY_GIB, "GiB")
    closed(window)


if __name__ == "__main__":
    main()
