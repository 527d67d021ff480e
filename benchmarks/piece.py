"""How quick a whole piece is: files in, edits of 500 cuts, playing, dressing to a file.

Run with a screen or with QT_QPA_PLATFORM=offscreen.
"""

from __future__ import annotations

import sys
import tempfile
import time
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import numpy as np
from PyQt6.QtWidgets import QApplication

from benchmarks.motion import median_ms
from benchmarks.window import wait
from tests.media.clips import write_numbered
from wrinkle.core.piece import dressing, edits
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.use import PieceUse
from wrinkle.library.samples import DEMO_CLIPS, DEMO_PIECE
from wrinkle.timeline.uses import shipped_bundle
from wrinkle.ui import theme
from wrinkle.ui.cutlist.cutlist import CutList
from wrinkle.ui.cutlist.piece_looking import Row
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.theme import ThemeChoice
from wrinkle.ui.window import Window

KINDS = [((108, 192), 30), ((320, 180), 24), ((240, 240), 60), ((144, 180), 25), ((640, 360), 50)]


def until(holds: Callable[[], bool], seconds: float = 120.0) -> float:
    """Seconds until something holds."""
    start = time.perf_counter()
    while not holds() and time.perf_counter() - start < seconds:
        wait(2)
    return time.perf_counter() - start


def taken(app: QApplication, act: Callable[[], object]) -> str:
    """How long the window is held up by something, with all that is painted because of it."""
    start = time.perf_counter()
    act()
    app.processEvents()
    return f"{(time.perf_counter() - start) * 1e3:.0f} ms"


def many_kinds(desk: Desk, place: CutList, folder: Path) -> None:
    """Forty clips of five sizes and rates."""
    paths = []
    for number in range(40):
        size, rate = KINDS[number % len(KINDS)]
        path = folder / f"{number}.mp4"
        write_numbered(path, 100, size, Fraction(rate))
        paths.append(path)
    start = time.perf_counter()
    place.intake.take_files(paths, 0)
    until(lambda: len(desk.piece.state.clips) == 40)
    print(f"40 clips of five sizes and rates are in after {time.perf_counter() - start:.2f} s")
    saved = folder / "forty.otio"
    desk.piece.save(saved)
    start = time.perf_counter()
    desk.piece.open(saved)
    until(lambda: len(desk.piece.media.sources) >= 40)
    print(f"saved and opened again: {time.perf_counter() - start:.2f} s")


def five_hundred(app: QApplication, desk: Desk, place: CutList) -> None:
    """Five hundred cuts."""
    desk.piece.start_new()
    place.intake.take_files((list(DEMO_CLIPS.values()) * 63)[:501], 0)
    until(lambda: len(desk.piece.state.clips) == 501)

    def trimmed(piece: Piece) -> Piece:
        for clip in piece.clips:
            piece = edits.trim(piece, clip.id, 20, -20)
        return piece

    desk.piece.edit("trim", trimmed)
    use, other = (PieceUse(shipped_bundle(name)) for name in ("half_turn", "smooth_turn"))
    print("500 cuts, dressed at once:", taken(app, lambda: desk.piece.edit(
        "all", lambda piece: dressing.on_every(piece, use))))  # fmt: skip
    ids = [clip.id for clip in desk.piece.state.clips]
    for number in (3, 4):
        print("  another wrinkle on one cut:", taken(app, lambda n=number: desk.piece.edit(
            "one", lambda piece: dressing.put_on(piece, [ids[n]], other))))  # fmt: skip
    print("  another cut chosen:", taken(app, lambda: place.looking.go_to(Row.CUT, ids[250])))
    bar = place.order.verticalScrollBar()
    start, count = time.perf_counter(), 0
    while time.perf_counter() - start < 2.0:
        bar.setValue(count * 40 % bar.maximum())
        app.processEvents()
        count += 1
    print(f"  scrolled {count / 2.0:.0f} times a second while frames are rendered")


def played(desk: Desk, place: CutList) -> None:
    """The demo's piece, played from its beginning: cold, and once all is rendered."""
    desk.piece.mark_saved()
    desk.piece.show_copy(DEMO_PIECE)
    until(lambda: len(desk.piece.media.sources) >= len(DEMO_CLIPS))
    desk.workers.store.clear()
    for word in ("cold", "rendered"):
        print(f"played {word}: {_played_once(desk, place)}")
        rendered = until(lambda: place.watch.frames.all_ready)
        if word == "cold":
            print(f"all {desk.piece.state.frame_count} frames after {rendered + 6.0:.1f} s")


def _played_once(desk: Desk, place: CutList) -> str:
    watch = place.watch
    seen: list[tuple[bool, bool]] = []

    def look(frame: int) -> None:
        frames = watch.frames
        seen.append((frames.frame(frame) is not None, frames.is_ready(frame)))

    place.looking.set_playhead(0)
    watch.player.frameDue.connect(look)
    watch.toggle(whole=True)
    wait(6000)
    watch.stop()
    watch.player.frameDue.disconnect(look)
    due = 6.0 * float(desk.piece.state.rate.per_second)
    there, fine = np.mean(seen, axis=0)
    return (
        f"{len(seen) / due:.0%} of the frames that were due; {there:.0%} of them were there, "
        f"{fine:.0%} fine"
    )


def main() -> None:
    """Prints the figures, with a plain pass over a picture in the same run."""
    app = QApplication(sys.argv[:1])
    theme.apply(app, ThemeChoice.LINEN)
    picture = np.ones((960, 540, 4), np.float32)
    print(f"a plain pass over 540×960: {median_ms(lambda: picture * picture):.1f} ms")
    with tempfile.TemporaryDirectory() as name:
        desk = Desk.made()
        window = Window(desk, Preferences(Path(name) / "preferences"))
        window.resize(1280, 800)
        window.show()
        window.places.go_to("cutlist")
        place = window.places.place("cutlist")
        if isinstance(place, CutList):
            many_kinds(desk, place, Path(name))
            five_hundred(app, desk, place)
            played(desk, place)
        window.end()


if __name__ == "__main__":
    main()
