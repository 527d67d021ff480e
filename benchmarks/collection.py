"""How quick the Collection is with 500 wrinkles in the folder: opening, kept tiles, scrolling.

Run with a screen or with QT_QPA_PLATFORM=offscreen. Times are told beside one plain warp of a
half-size picture in the same run.
"""

from __future__ import annotations

import sys
import tempfile
import time
from pathlib import Path
from unittest import mock

from msgspec.structs import replace
from PyQt6.QtWidgets import QApplication

from benchmarks.motion import median_ms, plain_pass
from benchmarks.window import Latency, wait
from wrinkle import library
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.picture.image import Size, filled
from wrinkle.files import archive
from wrinkle.ui import theme
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.theme import ThemeChoice
from wrinkle.ui.window import Window

COUNT = 500
_MOST_OPEN, _MOST_SHOWN = 1.0, 0.3


def main() -> int:
    """Prints the figures; the status is 1 where one is past its limit."""
    app = QApplication(sys.argv)
    theme.apply(app, ThemeChoice.LINEN)
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        for kind in ("data", "state", "cache"):
            mock.patch(f"platformdirs.user_{kind}_path", return_value=folder / kind).start()
        shipped = archive.read(library.shipped()["smooth_turn"]).wrinkle
        library.own_folder().mkdir(parents=True)
        for number in range(COUNT):
            # Each is another one, so that each has a tile of its own.
            one = replace(shipped, name=f"Turn {number:03}", shutter_angle=180.0 + number / 10)
            archive.write(library.own_folder() / f"{one.name}.wrinkle", Bundle(one))
        return _measure(app, folder)


def _measure(app: QApplication, folder: Path) -> int:
    desk = Desk.made()
    window = Window(desk, Preferences(folder / "preferences"))
    window.resize(1280, 800)
    window.show()
    app.processEvents()
    page = window.places.place("collection").wrinkles  # type: ignore[attr-defined]
    start = time.perf_counter()
    window.places.go_to("collection")
    page.tiles.viewport().repaint()
    opened = time.perf_counter() - start
    made = _until_shown(page)
    window.places.go_to("bench")
    wait(50)
    page.strips.forget()
    start = time.perf_counter()
    window.places.go_to("collection")
    page.tiles.viewport().repaint()
    again = time.perf_counter() - start
    kept = _until_shown(page)
    latency = Latency()
    bar = page.tiles.verticalScrollBar()
    for step in range(60):
        bar.setValue(bar.maximum() * step // 60)
        wait(16)
    scrolling = latency.stop()
    picture = filled(Size(540, 960), (0.2, 0.4, 0.6))
    unit = median_ms(lambda: plain_pass(picture, 30.0))
    print(f"opened with {COUNT} wrinkles: {opened:.2f} s, again {again:.2f} s (1 asked)")
    print(f"visible tiles made: {made:.2f} s, kept on disk: {kept:.2f} s (0.3 asked)")
    print(f"answer while scrolling: {scrolling}; one plain pass {unit:.1f} ms")
    window.close()
    desk.workers.stop()
    return int(max(opened, again) > _MOST_OPEN or kept > _MOST_SHOWN)


def _until_shown(page) -> float:  # type: ignore[no-untyped-def]
    """Until every tile that is seen has its pictures."""
    start = time.perf_counter()
    wait(20)
    while page.strips.waiting or not page.strips.strip(page.tiles.found[0]):
        wait(5)
        if time.perf_counter() - start > 120:
            break
    return time.perf_counter() - start


if __name__ == "__main__":
    sys.exit(main())
