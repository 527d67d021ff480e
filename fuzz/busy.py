"""A program that edits, saves, keeps and renders without a pause, until it is ended."""

from __future__ import annotations

import sys
from fractions import Fraction
from pathlib import Path
from threading import Event, Thread

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication

from wrinkle import library
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.edits import lane_edits
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture.image import Size
from wrinkle.core.render.material import Filling
from wrinkle.core.reuse.use import Use, showing
from wrinkle.core.time.rate import FrameRate
from wrinkle.media.clip import Clip
from wrinkle.media.exporting import video as exporting_video
from wrinkle.media.exporting.export import ExportChoices
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.ending import Ending
from wrinkle.ui.safekeeping.safekeeping import Safekeeping

TURN = SettingRef("outgoing", "rotation")
EACH = 50
"""Milliseconds between two edits."""
_SAVED_EACH = 9


def main() -> None:
    """Takes a folder and a clip; prints the number of each edit once it is done."""
    folder, clip = Path(sys.argv[1]), Path(sys.argv[2])
    app = QApplication(sys.argv)
    desk = Desk.made()
    keeper, ending = Safekeeping.of(desk, {}, folder / "kept"), Ending()
    ending.asked.connect(keeper.let_go)
    ending.asked.connect(app.quit)
    desk.tried.begin({"incoming": clip})
    ended = Event()
    rendering = Thread(target=_render, args=(desk, folder, clip, ended))
    rendering.start()
    done = 0

    def edit() -> None:
        nonlocal done
        done += 1
        desk.document.edit(
            "turn", lambda w: lane_edits.set_value(w, TURN, Fraction(0), float(done))
        )
        print(done, flush=True)
        if done % _SAVED_EACH == 0:
            desk.document.save(folder / "work.wrinkle")

    timer = QTimer()
    timer.timeout.connect(edit)
    timer.start(EACH)
    app.exec()
    ended.set()
    rendering.join()


def _render(desk: Desk, folder: Path, path: Path, ended: Event) -> None:
    clip = Clip(path)
    fillings = {slot: Filling(clip, Fraction(1)) for slot in ("outgoing", "incoming")}
    carried = desk.document.read.material(library.fonts())
    jobs = Jobs(1)
    while not ended.is_set():
        shown = showing(
            Use(desk.document.state, fillings), carried, Size(108, 192), FrameRate.of(30)
        )
        exporting_video.write(
            folder / "out.mp4", shown, ExportChoices(), jobs, Job(lambda *_: None)
        )
    jobs.stop()


if __name__ == "__main__":
    main()
