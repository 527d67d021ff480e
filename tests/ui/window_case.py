"""A real window on small demo clips, driven as a person would."""

from __future__ import annotations

import os
import tempfile
import threading
import time
import unittest
from collections.abc import Callable, Iterator
from fractions import Fraction
from pathlib import Path
from unittest import mock

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np
from msgspec.structs import replace
from PyQt6.QtCore import QCoreApplication, QEvent, QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QWidget

from tests.turning import QUARTER_TURN
from tests.ui.null_device import NullDevice
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_edits, sound_edits
from wrinkle.core.picture.fit import Fit, fitted_size
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.core.store import Store
from wrinkle.core.time.rate import FrameRate
from wrinkle.files.archive import read
from wrinkle.library.samples import DEMO_CLIPS
from wrinkle.media.clip import Clip
from wrinkle.media.video_file import write_video
from wrinkle.ui import theme
from wrinkle.ui.bench.picture.transport import BEGINS_WITH, RESOLUTIONS
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.theme import ThemeChoice
from wrinkle.ui.window import Window

_FOLDER = tempfile.TemporaryDirectory()
_SMALL = Size(108, 192)
_FEW_FRAMES = 3 * 4 * 108 * 192
"""Bytes that are three frames of a window of tests."""
# Kept here, because an application that nobody holds is gone at once.
_APPLICATION: list[QApplication] = []
LEFT = Qt.MouseButton.LeftButton
_LONGEST = 900.0
"""Seconds; only what never happens takes them."""


def application() -> QApplication:
    """The one application of the test run, in the linen theme."""
    if not _APPLICATION:
        _APPLICATION.append(QApplication([]))
        theme.apply(_APPLICATION[0], ThemeChoice.LINEN)
    if theme.active() is not theme.LINEN:
        theme.apply(_APPLICATION[0], ThemeChoice.LINEN)
    return _APPLICATION[0]


def demo_clip(name: str, size: Size = _SMALL, rate: int = 30) -> Path:
    """Two seconds of a demo clip, small, its middle in another shape; made once in a process."""
    path = Path(_FOLDER.name) / f"{name}-{size.width}-{rate}" / f"{name}.mp4"
    if not path.exists():
        path.parent.mkdir(parents=True, exist_ok=True)
        write_video(path, _small_frames(name, size, rate), size, FrameRate.of(rate))
    return path


def _small_frames(name: str, size: Size, rate: int) -> Iterator[Bytes8]:
    clip = Clip(DEMO_CLIPS[name])
    cover = fitted_size(clip.size, size, Fit.FILL)
    left, top = (cover.width - size.width) // 2, (cover.height - size.height) // 2
    for number in range(2 * rate):
        index = clip.index_at(Fraction(number, rate))
        near = clip.bytes8(index, cover)[top : top + size.height, left : left + size.width, :3]
        yield np.ascontiguousarray(near)
    clip.close()


def wait_for(holds: Callable[[], bool], what: str) -> None:
    """Lets the window work until something holds, on a machine that is much too busy as well.

    Raises:
        AssertionError: it does not come to hold.
    """
    end = time.monotonic() + _LONGEST
    while not holds():
        if time.monotonic() > end:
            raise AssertionError(f"did not happen: {what}")
        QTest.qWait(5)


def settle() -> None:
    """Lets the window do what is due: layouts, paint events, what signals have queued."""
    application().processEvents()


def close_for_good(window: Window) -> None:
    """Closes a window for good."""
    window.close()
    window.deleteLater()
    # What workers have sent arrives before it is gone.
    settle()
    # No loop runs here that would delete it; windows left over make the next ones slow.
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)


def drag(widget: QWidget, start: QPointF, end: QPointF) -> None:
    """Presses, moves in steps and lets go."""
    QTest.mousePress(widget, LEFT, pos=start.toPoint())
    for step in range(1, 6):
        spot = start + (end - start) * step / 5
        QTest.mouseMove(widget, spot.toPoint())
    QTest.mouseRelease(widget, LEFT, pos=end.toPoint())


def type_into(field: QWidget, text: str) -> None:
    """Clicks a field, types over what it holds and presses Return."""
    settle()
    if not field.hasFocus():
        QTest.mouseClick(field, LEFT)
    QTest.keyClick(field, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    QTest.keyClicks(field, text)
    QTest.keyClick(field, Qt.Key.Key_Return)


def designed_now(wrinkle: Wrinkle) -> Wrinkle:
    """The smooth turn over its whole window, and nothing offered yet to whoever reuses it."""
    ref = SettingRef("turn", "rotation")
    track = lane_edits.track_of(wrinkle, ref)
    first = replace(track.keys[0], time=-wrinkle.lead)
    bare = replace(wrinkle, dials=(), directions=())
    return lane_edits.with_track(bare, ref, replace(track, keys=(first, *track.keys[1:])))


class WindowCase(unittest.TestCase):
    """Opens the window with the demo before each test and closes it after.

    Attributes:
        measured_after: how long nothing may change before it is measured, in milliseconds.
        read_after: the same before what would be heard is worked out ahead.
        colours_after: the same before the main colours of the clips are looked for.
    """

    measured_after = 600_000
    read_after = 600_000
    colours_after = 600_000

    def setUp(self) -> None:
        self.app = application()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        # Measuring what no test looks at would take its time, reading what none hears as well, and
        # so would pictures of half the demo's size.
        for patch in (
            mock.patch("wrinkle.ui.desk.examiner._REST_MS", self.measured_after),
            mock.patch("wrinkle.ui.pictures.heard_ahead._REST_MS", self.read_after),
            mock.patch("wrinkle.ui.desk.clip_colours._REST_MS", self.colours_after),
            mock.patch.dict(RESOLUTIONS, {BEGINS_WITH: 0.1}),
        ):
            patch.start()
            self.addCleanup(patch.stop)
        # So that few frames are drawn around the one that is looked at, unless a test asks for all.
        self._room = mock.patch.object(Store, "room_for_frames", _FEW_FRAMES)
        self._room.start()
        self.addCleanup(self._room.stop)
        self.devices: list[NullDevice] = []
        self.desk = Desk.made(output=self._device)
        self.addCleanup(self.desk.workers.stop)
        self.faults: list[str] = []
        self.desk.messages.faulted.connect(self.faults.append)
        turn = read(QUARTER_TURN).wrinkle
        self.desk.document.open_copy(Bundle(designed_now(turn)))
        self.desk.tried.begin({"outgoing": demo_clip("box_kite"), "incoming": demo_clip("pier")})
        self.window = Window(self.desk, Preferences(self.folder / "preferences"))
        self.bench = self.window.places.place("bench")
        self.window.resize(1280, 800)
        self.window.show()
        QTest.qWaitForWindowExposed(self.window)
        wait_for(lambda: len(self.desk.tried.clips) == 2, "the clips")
        self.addCleanup(self.close)

    def _device(self) -> NullDevice:
        self.devices.append(NullDevice())
        return self.devices[-1]

    def close(self) -> None:
        """Closes without asking; no thread may be left."""
        self.desk.document.mark_saved()
        self.desk.piece.mark_saved()
        close_for_good(self.window)
        left = [x.name for x in threading.enumerate() if x.name.startswith(("jobs", "frames"))]
        self.assertEqual(left, [])

    def act(self, name: str) -> None:
        """Does what a menu entry does."""
        self.window.menus.do(name)

    def try_clip(self, slot: str, path: Path) -> None:
        """Tries another clip, and waits until it is read."""
        before = self.desk.tried.clips.get(slot)
        self.desk.tried.try_clip(slot, path)
        wait_for(lambda: self.desk.tried.clips.get(slot) is not before, f"the {slot} clip")

    def with_own_data(self) -> None:
        """A person's own data, in a folder of the test."""
        data = mock.patch("platformdirs.user_data_path", return_value=self.folder / "data")
        data.start()
        self.addCleanup(data.stop)

    def without_sounds(self) -> None:
        """The wrinkle on the desk has no sounds from now on."""

        def change(wrinkle: Wrinkle) -> Wrinkle:
            for sound in wrinkle.sounds:
                wrinkle = sound_edits.remove_sound(wrinkle, sound.id)
            return wrinkle

        self.desk.document.edit("silent", change)

    def draw_all(self) -> None:
        """From now on every frame is rendered, and not the nearest ones alone."""
        self._room.stop()
        self.bench.renderer.focus_on(self.desk.looking.playhead)

    def all_ready(self) -> None:
        """Waits until every frame is rendered."""
        self.draw_all()
        frames = self.desk.document.state.frames
        wait_for(lambda: all(self.bench.renderer.is_ready(n) for n in frames), "all frames ready")

    def key(self, key: Qt.Key, keys: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        """Types a key into the Bench."""
        self.bench.setFocus()
        QTest.keyClick(self.bench, key, keys)

    def shown_picture(self) -> bytes:
        """The pixels of the result picture as they are on the screen."""
        grabbed = self.bench.result.grab().toImage()
        bits = grabbed.constBits()
        assert bits is not None
        return bytes(bits.asarray(grabbed.sizeInBytes()))
