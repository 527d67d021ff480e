"""The result from near by, in three sizes, and the pixels under the pointer."""

import numpy as np
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from tests.ui.window_case import LEFT, WindowCase, settle, wait_for
from wrinkle.ui.bench.picture_sizes import PictureSize

MIDDLE = Qt.MouseButton.MiddleButton


class NearBy(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.view = self.bench.result
        self.desk.looking.select_layer("")

    def wheel(self, spot: QPointF, notches: int) -> None:
        event = QWheelEvent(
            spot, QPointF(self.view.mapToGlobal(spot.toPoint())), QPoint(),
            QPoint(0, 120 * notches),
            Qt.MouseButton.NoButton, Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase,
            False,
        )  # fmt: skip
        QApplication.sendEvent(self.view, event)

    def under(self, spot: QPointF) -> tuple[float, float]:
        """The point of the frame under a spot, in its pixels."""
        area, shape = self.view.area, self.view.shape
        return (
            (spot.x() - area.left()) / area.width() * shape.width,
            (spot.y() - area.top()) / area.height() * shape.height,
        )

    def test_the_wheel_zooms_about_the_pointer_and_the_middle_button_moves(self) -> None:
        view = self.view
        fitting = view.area
        spot = fitting.topLeft() + QPointF(31.0, 44.0)
        before = self.under(spot)
        for notches in (3, 5, -2, 4):
            self.wheel(spot, notches)
            scale = view.area.width() / view.shape.width
            away = np.abs(np.subtract(self.under(spot), before)).max()
            # Exact to a point of the screen: pictures stand on whole ones.
            self.assertLess(away * scale, 1.0)
        self.assertAlmostEqual(view.area.width() / fitting.width(), 1.2**10, delta=0.02)
        corner = view.area.topLeft()
        QTest.mousePress(view, MIDDLE, pos=QPoint(60, 60))
        QTest.mouseMove(view, QPoint(85, 49))
        QTest.mouseRelease(view, MIDDLE, pos=QPoint(85, 49))
        self.assertEqual(view.area.topLeft() - corner, QPointF(25.0, -11.0))
        # However far it is moved, a part of it stays in sight.
        QTest.mousePress(view, MIDDLE, pos=QPoint(10, 10))
        QTest.mouseMove(view, QPoint(90_000, 90_000))
        QTest.mouseRelease(view, MIDDLE, pos=QPoint(90_000, 90_000))
        self.assertTrue(view.area.intersects(view.room))
        self.act("bench.actual")
        self.assertEqual(round(view.area.width()), view.shape.width)
        self.act("bench.double")
        self.assertEqual(round(view.area.width()), 2 * view.shape.width)
        self.act("bench.fit")
        self.assertEqual(view.area, fitting)

    def test_space_held_moves_it_and_does_not_play(self) -> None:
        view, looking = self.view, self.desk.looking
        self.wheel(view.room.center(), 6)
        view.setFocus()
        corner = view.area.topLeft()
        QTest.keyPress(view, Qt.Key.Key_Space)
        QTest.mousePress(view, LEFT, pos=QPoint(50, 50))
        QTest.mouseMove(view, QPoint(60, 66))
        QTest.mouseRelease(view, LEFT, pos=QPoint(60, 66))
        QTest.keyRelease(view, Qt.Key.Key_Space)
        self.assertEqual(view.area.topLeft() - corner, QPointF(10.0, 16.0))
        self.assertFalse(looking.playing)
        # Let go, it is the key that plays again.
        QTest.keyClick(view, Qt.Key.Key_Space)
        self.assertTrue(looking.playing)
        QTest.keyClick(view, Qt.Key.Key_Space)

    def test_from_near_by_all_pixels_are_made_and_the_line_says_what_they_are(self) -> None:
        view, frame = self.view, self.bench.frame_size
        self.desk.looking.set_playhead(3)
        wait_for(lambda: self.bench.renderer.is_ready(3), "the frame")
        coarse = self.bench.renderer.picture(3)
        assert coarse is not None
        self.assertLess(coarse.width(), frame.width)
        self.wheel(view.room.center(), 16)
        wait_for(lambda: self.bench.near.is_ready(3), "the frame with all pixels")
        picture = self.bench._picture(3)
        assert picture is not None
        self.assertEqual((picture.width(), picture.height()), tuple(frame))
        spot = view.room.center()
        QTest.mouseMove(view, spot.toPoint())
        x, y = (int(part) for part in self.under(QPointF(spot.toPoint())))
        shown = self.desk.shown(frame).image(3).to_bytes8()[y, x]
        red, green, blue = (int(part) for part in shown[:3])
        # IEC 61966-2-1: from the level to linear light.
        levels = np.array((red, green, blue)) / 255.0
        light = np.where(levels <= 0.04045, levels / 12.92, ((levels + 0.055) / 1.055) ** 2.4)
        said = self.window.status.said
        self.assertIn(f"x {x}, y {y} · R {red} G {green} B {blue}", said)
        self.assertIn("linear " + " ".join(f"{part:.3f}" for part in light), said)
        self.assertIn("Frame +3", said)
        # A step goes on from near by, and the strip keeps its pictures.
        self.desk.looking.set_playhead(4)
        wait_for(lambda: self.bench.near.is_ready(4), "the next frame")
        self.assertTrue(self.bench.renderer.is_ready(3))
        self.act("bench.fit")
        self.assertEqual(self.bench._near_share, 0.0)
        self.assertNotIn("linear", self.bench.words())


class ThreeSizes(WindowCase):
    def test_one_key_gives_the_picture_more_and_gives_it_back(self) -> None:
        bench, window = self.bench, self.window
        window.resize(1280, 800)
        settle()
        usual = bench.result.area.height()
        upright = bench.result.shape.height > bench.result.shape.width
        self.act("bench.wider")
        settle()
        self.assertIs(bench.sizes.size, PictureSize.LARGE)
        if upright:
            self.assertGreaterEqual(bench.result.area.height(), 520)
        self.assertGreater(bench.result.area.height(), 1.4 * usual)
        self.assertTrue(bench.outgoing.isVisible() and bench.timeline.strip.isVisible())
        # It is worked in as before: what is dragged follows.
        self.desk.looking.select_layer(self.desk.document.state.layers[-1].id)
        self.assertIsNotNone(bench.result.handles())
        self.act("bench.wider")
        settle()
        self.assertTrue(window.isFullScreen())
        self.assertFalse(window.bar.isVisible() or bench.stack.isVisible())
        # The strip comes with the pointer, over the picture, and goes.
        bench.sizes._hide_foot()
        foot = bench.sizes.foot
        foot.hide()
        QTest.mouseMove(bench.result, QPoint(40, 40))
        self.assertTrue(foot.isVisible() and bench.transport.isVisible())
        self.assertEqual(foot.geometry().bottom(), bench.rect().bottom())
        # All keys are live.
        self.key(Qt.Key.Key_Space)
        self.assertTrue(self.desk.looking.playing)
        self.key(Qt.Key.Key_Space)
        self.act("bench.wider")
        settle()
        self.assertIs(bench.sizes.size, PictureSize.BENCH)
        self.assertFalse(window.isFullScreen())
        self.assertTrue(window.bar.isVisible() and bench.stack.isVisible())
        self.assertTrue(bench.timeline.isVisible() and bench.incoming.isVisible())
        # Another place has its window around it.
        self.act("bench.narrower")
        window.go_to("cutlist")
        self.assertFalse(window.isFullScreen())
        self.assertTrue(window.status.isVisible())
