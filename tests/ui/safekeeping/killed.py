"""A program of its own that edits, keeps, and waits to be killed; takes a folder and a clip."""

import sys
from fractions import Fraction
from pathlib import Path

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication

from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.edits import lane_edits, wrinkle_edits
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.safekeeping.safekeeping import Safekeeping


def main() -> None:
    """Edits ten times a second for ever, and prints how often."""
    app = QApplication(sys.argv)
    desk = Desk.made()
    keeper = Safekeeping.of(desk, {}, Path(sys.argv[1]))
    desk.tried.begin({"incoming": Path(sys.argv[2])}, {"incoming": Fraction(1, 3)})
    desk.document.edit("name", lambda w: wrinkle_edits.rename(w, "Half done"))
    desk.looking.select_layer("outgoing")
    desk.looking.set_playhead(-1)
    done = 0

    def edit() -> None:
        nonlocal done
        done += 1
        ref = SettingRef("outgoing", "rotation")
        desk.document.edit(
            f"turn {done}", lambda w: lane_edits.set_value(w, ref, Fraction(0), float(done))
        )
        sys.stdout.write(f"{done}\n")
        sys.stdout.flush()

    timer = QTimer()
    timer.timeout.connect(edit)
    timer.start(100)
    app.exec()
    keeper.end()


if __name__ == "__main__":
    main()
