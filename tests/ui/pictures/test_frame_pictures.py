"""Frames in the background: order, the latest request, faults, and what is kept."""

import threading
import unittest
from fractions import Fraction

import numpy as np
from PyQt6.QtGui import QImage

from tests.core.design.wrinkles import turning
from tests.core.render.test_render import Numbered
from tests.ui.window_case import application, wait_for
from wrinkle.core.design.edits import wrinkle_edits
from wrinkle.core.errors import MediaError
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Filling, Material
from wrinkle.core.render.showing import Showing
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.workers import Workers
from wrinkle.ui.pictures.frame_pictures import FramePictures
from wrinkle.ui.shared.qimages import to_qimage

SIZE = Size(27, 48)


class Watched(Numbered):
    """Counts its reads, can be held up, and can fail."""

    def __init__(self) -> None:
        super().__init__("watched", SIZE, 30, 90)
        self.read: list[int] = []
        self.gate = threading.Event()
        self.gate.set()
        self.broken = False

    def image(self, index: int, size: Size) -> Image:
        self.gate.wait(10)
        self.read.append(index)
        if self.broken:
            raise MediaError("watched.mp4 cannot be read; use a whole copy.")
        return super().image(index, size)


class Rendering(unittest.TestCase):
    def setUp(self) -> None:
        application()
        self.source = Watched()
        filling = Filling(self.source, Fraction(1))
        self.material = Material({"outgoing": filling, "incoming": filling})
        self.workers = Workers(Messages())
        self.addCleanup(self.workers.stop)
        self.store = self.workers.store
        self.renderer = FramePictures(self.workers.jobs, self.store)
        self.ready: list[int] = []
        self.renderer.frameReady.connect(self.ready.append)

    def request(self, wrinkle=None, frames=range(-6, 6), focus=0) -> None:
        showing = Showing(wrinkle or turning(), self.material, SIZE, Quality.PREVIEW)
        self.renderer.ask(showing, tuple(frames), focus)

    def test_the_frames_nearest_to_the_playhead_come_first(self) -> None:
        self.source.gate.clear()
        self.request(focus=-4)
        self.source.gate.set()
        wait_for(lambda: self.renderer.all_ready, "all frames")
        # Two threads may change places with a neighbour.
        self.assertLessEqual(set(self.source.read[:3]), {24, 25, 26, 27, 28})
        self.assertLessEqual(set(self.source.read[-2:]), {32, 33, 34, 35})

    def test_a_later_request_replaces_an_earlier_one(self) -> None:
        self.source.gate.clear()
        self.request(frames=range(-12, 0))
        self.request(frames=(5,), focus=5)
        self.source.gate.set()
        wait_for(lambda: self.renderer.all_ready, "the later request")
        self.assertEqual(self.ready, [5])
        self.assertLess(len(self.source.read), 5)

    def test_what_was_rendered_once_is_not_rendered_again(self) -> None:
        self.request()
        wait_for(lambda: self.renderer.all_ready, "all frames")
        count = len(self.source.read)
        self.request(wrinkle_edits.rename(turning(), "Other"))
        wait_for(lambda: self.renderer.all_ready, "all frames from memory")
        self.assertEqual(len(self.source.read), count)
        self.assertEqual(self.store.used_by_frames, 12 * 27 * 48 * 4)

    def test_a_fault_is_told_once_and_stands_on_each_frame_that_has_it(self) -> None:
        faults: list[str] = []
        self.renderer.failed.connect(faults.append)
        self.source.broken = True
        self.request()
        wait_for(lambda: self.renderer.all_ready, "all frames are tried")
        self.assertEqual(len(faults), 1)
        self.assertIn("watched.mp4 cannot be read", faults[0])
        told = [self.renderer.fault(frame) for frame in turning().frames]
        self.assertTrue(any(x is not None and "watched.mp4" in x for x in told))
        self.assertFalse(any(self.renderer.is_ready(n) for n, x in enumerate(told) if x))
        self.source.broken = False
        self.request()
        wait_for(lambda: self.renderer.all_ready, "the next request works")

    def test_a_fault_of_the_program_does_not_end_the_thread(self) -> None:
        faults: list[str] = []
        self.renderer.failed.connect(faults.append)
        self.source.size = None  # type: ignore[assignment]
        with self.assertLogs("wrinkle") as logged:
            self.request()
            wait_for(lambda: bool(faults), "the fault")
        self.assertIn("Traceback", logged.output[0])
        self.assertRegex(faults[0], r"Frame -?\d cannot be rendered: .*Undo the last step")
        self.source.size = SIZE
        self.request()
        wait_for(lambda: self.renderer.all_ready, "the next request works")

    def test_an_old_picture_stays_until_the_new_one_is_there(self) -> None:
        self.request(frames=(0,))
        wait_for(lambda: self.renderer.all_ready, "the frame")
        self.source.gate.clear()
        self.request(turning(10.0), frames=(0,))
        self.assertIsNotNone(self.renderer.picture(0))
        self.assertFalse(self.renderer.is_ready(0))
        self.source.gate.set()
        wait_for(lambda: self.renderer.all_ready, "the new frame")
        self.renderer.forget()
        self.assertIsNone(self.renderer.picture(0))

    def test_pictures_keep_their_colours_and_their_bare_parts(self) -> None:
        pixels = np.zeros((2, 3, 4), np.float32)
        pixels[0, 0] = (1.0, 0.0, 0.0, 1.0)
        pixels[1, 2] = (0.0, 0.0, 0.5, 0.5)
        bare = to_qimage(Image(pixels, Light.ENCODED))
        self.assertTrue(bare.hasAlphaChannel())
        self.assertEqual(bare.pixelColor(0, 0).getRgb(), (255, 0, 0, 255))
        self.assertEqual(bare.pixelColor(1, 0).alpha(), 0)
        self.assertEqual(bare.pixelColor(2, 1).alpha(), 128)
        pixels[..., 3] = 1.0
        whole = to_qimage(Image(pixels, Light.LINEAR, True))
        self.assertEqual(whole.format(), QImage.Format.Format_RGB32)
        self.assertEqual(whole.pixelColor(0, 0).getRgb(), (255, 0, 0, 255))
