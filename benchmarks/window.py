"""How quick the window is: start, first full strip, answer while rendering, frames, memory.

Run with a screen or with QT_QPA_PLATFORM=offscreen, after ``./run demo`` has drawn the clips.
"""

from __future__ import annotations

import resource
import sys
import tempfile
import time
from pathlib import Path

STARTED = time.perf_counter()

from PyQt6.QtCore import QTimer  # noqa: E402 - the start includes the imports
from PyQt6.QtTest import QTest  # noqa: E402
from PyQt6.QtWidgets import QApplication  # noqa: E402

from wrinkle.core.design import lane_edits  # noqa: E402
from wrinkle.core.design.setting_ref import SettingRef  # noqa: E402
from wrinkle.core.picture.image import Size  # noqa: E402
from wrinkle.core.picture.motion_blur import Quality  # noqa: E402
from wrinkle.core.render.compose import draw  # noqa: E402
from wrinkle.core.render.plan import plan_frame  # noqa: E402
from wrinkle.ui import theme  # noqa: E402
from wrinkle.ui.desk.desk import Desk  # noqa: E402
from wrinkle.ui.preferences import Preferences  # noqa: E402
from wrinkle.ui.start import demo_clips, open_demo  # noqa: E402
from wrinkle.ui.theme import ThemeChoice  # noqa: E402
from wrinkle.ui.window import Window  # noqa: E402


class Latency:
    """The longest time for which the event loop did not come round."""

    def __init__(self) -> None:
        self.gaps: list[float] = []
        self._last = time.perf_counter()
        self._timer = QTimer()
        self._timer.setInterval(2)
        self._timer.timeout.connect(self._tick)
        self._timer.start()

    def _tick(self) -> None:
        now = time.perf_counter()
        self.gaps.append((now - self._last) * 1e3)
        self._last = now

    def stop(self) -> str:
        """The summary of the gaps."""
        self._timer.stop()
        gaps = sorted(self.gaps)
        median, most = gaps[len(gaps) // 2], gaps[len(gaps) * 99 // 100]
        return f"median {median:.1f}, 99 % {most:.0f}, longest {gaps[-1]:.0f} ms"


def wait_ready(window: Window) -> float:
    """Seconds until every frame of the window and the pre-roll is rendered."""
    start = time.perf_counter()
    while len(window.desk.tried.clips) < 2:
        QTest.qWait(2)
    while not window.place("bench").renderer.all_ready:
        QTest.qWait(2)
    return time.perf_counter() - start


def dragged(window: Window, seconds: float = 2.0) -> float:
    """Pictures a second at the playhead while a pin is moved every 16 ms."""
    desk, bench = window.desk, window.place("bench")
    turn, came = SettingRef("turn", "rotation"), []

    def note(frame: int) -> None:
        if frame == desk.looking.playhead:
            came.append(frame)

    bench.renderer.frameReady.connect(note)
    start, step = time.perf_counter(), 0
    while time.perf_counter() - start < seconds:
        step += 1
        desk.document.preview(
            lambda w, step=step: lane_edits.set_value(w, turn, desk.looking.time, 45.0 + step % 90)
        )
        QTest.qWait(16)
    bench.renderer.frameReady.disconnect(note)
    desk.document.abandon()
    return len(came) / seconds


def main() -> None:
    """Prints the figures."""
    app = QApplication(sys.argv[:1])
    with tempfile.TemporaryDirectory() as folder:
        theme.apply(app, ThemeChoice.LINEN)
        desk = Desk.made()
        open_demo(desk, demo_clips())
        window = Window(desk, Preferences(Path(folder)))
        window.show()
        QTest.qWaitForWindowExposed(window)
        print(f"start to window {time.perf_counter() - STARTED:.2f} s")
        latency = Latency()
        seconds = wait_ready(window)
        frames = len(desk.document.wrinkle.frames)
        print(f"first full strip at half size, {frames} frames and pre-roll: {seconds:.2f} s")
        print(f"event loop while it renders: {latency.stop()}")
        latency = Latency()
        turn = SettingRef("turn", "rotation")
        for step in range(60):
            desk.document.preview(
                lambda w, step=step: lane_edits.set_value(w, turn, desk.looking.time, 90.0 + step)
            )
            QTest.qWait(10)
        desk.document.commit("turn")
        print(f"event loop while a pin is dragged: {latency.stop()}")
        print(f"pictures while a pin is dragged: {dragged(window):.0f} a second at the playhead")
        wait_ready(window)
        material = desk.material()
        for size in (Size(540, 960), Size(1080, 1920)):
            for frame in (-12, -3, -1):
                for quality in Quality:
                    plan = plan_frame(desk.document.wrinkle, material, frame, size, quality)
                    draw(plan, material)
                    start = time.perf_counter()
                    draw(plan, material)
                    spent = (time.perf_counter() - start) * 1e3
                    print(
                        f"{size.label} frame {frame} {quality.value}: {plan.samples - 1} samples, "
                        f"{spent:.0f} ms on one thread"
                    )
        kept = desk.workers.store.used / (1 << 20)
        peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
        print(f"memory: {kept:.0f} MiB of kept frames, {peak:.0f} MiB at most")
        desk.document.discard_changes()
        window.close()


if __name__ == "__main__":
    main()
