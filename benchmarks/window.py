"""How quick the window is: start, first full strip, answer while rendering, frames, memory.

Run with a screen or with QT_QPA_PLATFORM=offscreen, after ``./run demo`` has drawn the clips.
"""

from __future__ import annotations

import itertools
import os
import resource
import sys
import tempfile
import time
from pathlib import Path

STARTED = time.perf_counter()

import av  # noqa: E402
import cv2  # noqa: E402
import numpy as np  # noqa: E402
from PyQt6.QtCore import QEventLoop, Qt, QTimer  # noqa: E402 - the start includes the imports
from PyQt6.QtTest import QTest  # noqa: E402
from PyQt6.QtWidgets import QApplication  # noqa: E402

from benchmarks.motion import median_ms  # noqa: E402
from wrinkle.core.design.document.setting_ref import SettingRef  # noqa: E402
from wrinkle.core.design.edits import lane_edits  # noqa: E402
from wrinkle.core.picture.edge_cover import EdgeCover  # noqa: E402
from wrinkle.core.picture.image import Image, Size  # noqa: E402
from wrinkle.core.picture.motion_blur import Quality  # noqa: E402
from wrinkle.core.picture.placement import Pose, pose_matrix  # noqa: E402
from wrinkle.core.picture.resample import resample  # noqa: E402
from wrinkle.core.render.compose import draw  # noqa: E402
from wrinkle.core.render.plan import plan_frame  # noqa: E402
from wrinkle.library.samples import DEMO_CLIPS  # noqa: E402
from wrinkle.ui import theme  # noqa: E402
from wrinkle.ui.desk.desk import Desk  # noqa: E402
from wrinkle.ui.preferences import Preferences  # noqa: E402
from wrinkle.ui.start import open_demo  # noqa: E402
from wrinkle.ui.theme import ThemeChoice  # noqa: E402
from wrinkle.ui.window import Window  # noqa: E402


def wait(milliseconds: int) -> None:
    """Lets the window work; QTest's own wait sleeps for 10 ms at a time."""
    loop = QEventLoop()
    QTimer.singleShot(milliseconds, Qt.TimerType.PreciseTimer, loop.quit)
    loop.exec()


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


def wait_ready(window: Window) -> tuple[float, float, float]:
    """Seconds until every frame of the window is seen, is fine, and all with the pre-roll."""
    start, seen, fine = time.perf_counter(), 0.0, 0.0
    while len(window.desk.tried.clips) < 2:
        wait(2)
    pictures, frames = window.places.place("bench").renderer, window.desk.document.state.frames
    while not pictures.all_ready:
        wait(2)
        now = time.perf_counter() - start
        if not seen and all(pictures.picture(n) is not None for n in frames):
            seen = now
        if not fine and all(pictures.is_ready(n) for n in frames):
            fine = now
    return seen, fine or now, time.perf_counter() - start


def limit(window: Window) -> float:
    """Seconds that the window's samples take on all processors, and the decoding; no more."""
    desk = window.desk
    showing = desk.shown(desk.document.frame_size.scaled(0.5))
    dice = np.random.default_rng(1)
    image = Image(dice.random((*reversed(showing.size), 4), dtype=np.float32), opaque=True)
    cv2.setNumThreads(1)
    moved = [pose_matrix(Pose(rotation=30.0 + n), showing.size) for n in range(16)]
    sample = median_ms(lambda: resample(image, moved, showing.size, EdgeCover.MIRROR), 5) / 16e3
    samples = sum(showing.plan(frame).samples for frame in showing.wrinkle.frames)
    start = time.perf_counter()
    for name in ("box_kite", "pier"):
        with av.open(str(DEMO_CLIPS[name])) as container:
            for _ in itertools.islice(container.decode(video=0), 42):
                pass
    decoding = time.perf_counter() - start
    return (samples * sample + decoding) / (os.cpu_count() or 1)


def lateness(window: Window, seconds: float = 10.0) -> str:
    """How late frames are shown while the window loops from memory."""
    player, late = window.places.place("bench").player, []
    a_frame = float(window.desk.document.state.frame_rate.seconds(1)) * 1e3
    player.frameDue.connect(lambda frame: late.append(player.position % 1.0 * a_frame))
    player.play(window.desk.document.state.frames.start)
    wait(round(seconds * 1e3))
    player.stop()
    wanted = seconds * 1e3 / a_frame
    over = sum(x > 5.0 for x in late[1:])
    return (
        f"{len(late)} of {wanted:.0f} frames, {max(late[1:]):.1f} ms late at most, "
        f"{over} by more than 5 ms"
    )


def dragged(window: Window, seconds: float = 2.0) -> float:
    """Pictures a second at the playhead while a pin is moved every 16 ms."""
    desk, bench = window.desk, window.places.place("bench")
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
        wait(16)
    bench.renderer.frameReady.disconnect(note)
    desk.document.abandon()
    return len(came) / seconds


def main() -> None:
    """Prints the figures."""
    app = QApplication(sys.argv[:1])
    with tempfile.TemporaryDirectory() as folder:
        theme.apply(app, ThemeChoice.LINEN)
        desk = Desk.made()
        open_demo(desk, "smooth_turn")
        window = Window(desk, Preferences(Path(folder)))
        window.show()
        QTest.qWaitForWindowExposed(window)
        print(f"start to window {time.perf_counter() - STARTED:.2f} s")
        latency = Latency()
        seen, fine, everything = wait_ready(window)
        frames = len(desk.document.state.frames)
        print(f"{frames} frames seen after {seen:.2f} s, fine after {fine:.2f} s")
        print(f"with pre-roll after {everything:.2f} s")
        print(f"event loop while it renders: {latency.stop()}")
        latency = Latency()
        turn = SettingRef("turn", "rotation")
        for step in range(60):
            desk.document.preview(
                lambda w, step=step: lane_edits.set_value(w, turn, desk.looking.time, 90.0 + step)
            )
            wait(10)
        desk.document.edit("turn")
        print(f"event loop while a pin is dragged: {latency.stop()}")
        print(f"pictures while a pin is dragged: {dragged(window):.0f} a second at the playhead")
        wait_ready(window)
        least = limit(window)
        print(f"limit of {frames} frames {least:.2f} s: fine took {fine / least:.2f} times that")
        print(f"loop: {lateness(window)}")
        bench = window.places.place("bench")
        print(f"one repaint of the Bench: {median_ms(bench.repaint, 31):.1f} ms")
        material = desk.material()
        for size in (Size(540, 960), Size(1080, 1920)):
            for frame in (-12, -3, -1):
                for quality in Quality:
                    plan = plan_frame(desk.document.state, material, frame, size, quality)
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
        desk.document.mark_saved()
        window.close()


if __name__ == "__main__":
    main()
