"""The result from near by, in three sizes, and the pixels under the pointer."""

import numpy as np
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QColor, QImage, QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from tests.ui.window_case import LEFT, WindowCase, drag, settle, wait_for
from wrinkle.ui.bench.picture.line_paint import bare_veil
from wrinkle.ui.bench.picture.scopes_view import Of, Scope, _small, image_of
from wrinkle.ui.bench.picture_sizes import PictureSize
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.picture_lines import Guide, Lines
from wrinkle.ui.preferences import Preferences

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


class OverThePicture(WindowCase):
    def test_guides_come_from_the_rulers_are_snapped_to_and_go_again(self) -> None:
        view, lines = self.bench.result, self.desk.lines
        self.act("bench.lines.guides")
        settle()
        area = view.area
        x, y = round(area.left() + 0.3 * area.width()), round(area.top() + 0.25 * area.height())
        drag(view, QPointF(5.0, 90.0), QPointF(x, 90.0))
        drag(view, QPointF(90.0, 5.0), QPointF(90.0, y))
        self.assertEqual([guide.upright for guide in lines.guides], [True, False])
        for guide, wanted in zip(lines.guides, (0.3, 0.25), strict=True):
            self.assertAlmostEqual(guide.share, wanted, delta=1.0 / area.width())
        # They stand on whole pixels of the frame.
        across = lines.guides[0].share * view.shape.width
        self.assertAlmostEqual(across, round(across))
        # A layer that is dragged near them jumps to both.
        self.desk.looking.select_layer(self.desk.document.state.layers[-1].id)
        self.desk.looking.set_playhead(-5)
        handles = view.handles()
        assert handles is not None
        anchor = handles.anchor()
        drag(view, anchor, QPointF(x + 4.0, y - 3.0))
        after = view.handles()
        assert after is not None
        self.assertLess((after.anchor() - QPointF(x, y)).manhattanLength(), 2.5)
        # One is moved where it stands, and taken away beyond the frame.
        self.desk.looking.select_layer("")
        drag(view, QPointF(x, 150.0), QPointF(x + 20.0, 150.0))
        self.assertEqual(len(lines.guides), 2)
        self.assertGreater(lines.guides[-1].share, 0.3)
        drag(view, QPointF(x + 20.0, 150.0), QPointF(-60.0, 150.0))
        self.assertEqual([guide.upright for guide in lines.guides], [False])

    def test_each_is_seen_and_remembered(self) -> None:
        view, lines = self.bench.result, self.desk.lines
        self.desk.looking.select_layer("")
        wait_for(lambda: self.bench.renderer.all_ready, "all frames")
        bare = view.grab().toImage()
        for one in (Lines.AREAS, Lines.BUTTONS, Lines.THIRDS, Lines.CENTRE, Lines.ONION):
            self.act(f"bench.lines.{one.value}")
            self.assertNotEqual(view.grab().toImage(), bare, one)
            self.act(f"bench.lines.{one.value}")
            self.assertEqual(view.grab().toImage(), bare, one)
        # The centre stands in the centre.
        self.act("bench.lines.centre")
        middle = view.area.center().toPoint()
        seen = view.grab().toImage()
        for spot, across in ((QPoint(0, 30), QPoint(1, 0)), (QPoint(30, 0), QPoint(0, 1))):
            near = [middle + spot + across * step for step in (-2, -1, 0, 1, 2)]
            away = [
                abs(seen.pixelColor(x).lightness() - bare.pixelColor(x).lightness()) for x in near
            ]
            self.assertGreater(max(away), 15)
        lines.put_guide(Guide(True, 0.4))
        again = Preferences(self.folder / "preferences")
        desk = Desk.made()
        self.addCleanup(desk.workers.stop)
        again.serve(desk)
        self.assertEqual(desk.lines.shown, {Lines.CENTRE, Lines.GUIDES})
        self.assertEqual(desk.lines.guides, (Guide(True, 0.4),))

    def test_what_is_bare_is_marked(self) -> None:
        picture = QImage(4, 2, QImage.Format.Format_ARGB32)
        picture.fill(QColor(10, 20, 30, 255))
        picture.setPixelColor(1, 0, QColor(0, 0, 0, 0))
        picture.setPixelColor(2, 1, QColor(0, 0, 0, 128))
        veil = bare_veil(picture)
        assert veil is not None
        alphas = [[veil.pixelColor(x, y).alpha() for x in range(4)] for y in range(2)]
        self.assertEqual([alphas[0][0], alphas[1][3]], [0, 0])
        self.assertGreater(alphas[0][1], alphas[1][2])
        self.assertGreater(alphas[1][2], 40)
        self.assertIsNone(bare_veil(picture.convertToFormat(QImage.Format.Format_RGB32)))


class ScopesBeside(WindowCase):
    def test_they_count_what_is_shown_and_mark_the_colour_under_the_pointer(self) -> None:
        bench, view = self.bench, self.bench.scopes
        self.assertFalse(view.isVisible())
        self.act("bench.scopes")
        self.desk.looking.set_playhead(-8)
        wait_for(lambda: bench.renderer.is_ready(-8), "the frame")
        graph = view.panes[1].graph

        def counted() -> QImage | None:
            picture = bench.renderer.picture(self.desk.looking.playhead)
            return None if picture is None else image_of(
                Scope.VECTORSCOPE, [_small(picture)], overlaid=False
            )  # fmt: skip

        wait_for(lambda: graph._image is not None and graph._image == counted(), "it is counted")
        # A step counts the next picture.
        self.desk.looking.set_playhead(12)
        wait_for(lambda: graph._image == counted(), "the other side")
        spot = bench.result.area.center().toPoint()
        QTest.mouseMove(bench.result, spot)
        pixel = bench.result.pixel_at(QPointF(spot))
        assert pixel is not None
        self.assertEqual(graph._colour, bench.result.colour_at(*pixel))
        # Both clips over each other, in the colours of the sides.
        view.of.setCurrentIndex(view.of.findData(Of.BOTH))
        view.of.activated.emit(view.of.currentIndex())

        def both() -> QImage | None:
            sides = [bench.outgoing.picture.now(), bench.incoming.picture.now()]
            there = [_small(x) for x in sides if x is not None]
            return image_of(Scope.VECTORSCOPE, there, overlaid=True) if len(there) == 2 else None

        wait_for(lambda: both() is not None and graph._image == both(), "both clips")
        self.act("bench.scopes")
        self.assertFalse(view.isVisible())

    def test_each_kind_is_drawn_where_its_values_are(self) -> None:
        grey = np.full((20, 30, 3), 128, np.uint8)
        wave = image_of(Scope.WAVEFORM, [grey], overlaid=False)
        assert wave is not None
        rows = {y for y in range(256) if wave.pixelColor(40, y).lightness() > 0}
        self.assertEqual(rows, {255 - 128})
        red = np.zeros((20, 30, 3), np.uint8)
        red[..., 0] = 255
        parade = image_of(Scope.PARADE, [red], overlaid=False)
        assert parade is not None
        third = parade.width() // 6
        self.assertGreater(parade.pixelColor(third, 0).red(), 200)
        self.assertEqual(parade.pixelColor(3 * third, 0).lightness(), 0)
        self.assertGreater(parade.pixelColor(3 * third, 255).green(), 150)
        bars = image_of(Scope.HISTOGRAM, [grey], overlaid=False)
        assert bars is not None
        self.assertGreater(bars.pixelColor(128, 99).lightness(), 60)
        self.assertEqual(bars.pixelColor(90, 99).lightness(), 0)
        self.assertIsNone(image_of(Scope.WAVEFORM, [], overlaid=False))
