"""The result from near by, in three sizes, and the pixels under the pointer."""

from unittest import mock

import numpy as np
from msgspec.structs import replace as replaced
from PyQt6.QtCore import QEvent, QPoint, QPointF, Qt
from PyQt6.QtGui import QColor, QImage, QMouseEvent, QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QInputDialog, QMenu, QWidget

from tests.ui.window_case import LEFT, WindowCase, drag, settle, wait_for
from wrinkle.core.design.document.mask_forms import MaskForm, form_outline
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.sources import FillSource
from wrinkle.core.design.edits import layer_edits, mask_edits
from wrinkle.ui.bench.picture.line_paint import bare_veil, cover_veil
from wrinkle.ui.bench.picture.scopes_view import Of, Scope, image_of, small_picture
from wrinkle.ui.bench.picture_sizes import PictureSize
from wrinkle.ui.bench.second_screen import other_screen
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.picture_lines import Guide, Lines
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.shared.colour_field import ColourField, linear_colour
from wrinkle.ui.shared.qimages import pixels_of

MIDDLE = Qt.MouseButton.MiddleButton
_NO_BUTTON, _NO_KEYS = Qt.MouseButton.NoButton, Qt.KeyboardModifier.NoModifier


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
        wait_for(lambda: self.bench.drawn.near.is_ready(3), "the frame with all pixels")
        picture = self.bench.drawn.picture(3)
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
        wait_for(lambda: self.bench.drawn.near.is_ready(4), "the next frame")
        self.assertTrue(self.bench.renderer.is_ready(3))
        self.act("bench.fit")
        self.assertEqual(self.bench.drawn.near_share, 0.0)
        self.assertNotIn("linear", self.bench.words())


def hand(
    view: QWidget, kind: QEvent.Type, spot: QPointF, button: Qt.MouseButton = _NO_BUTTON
) -> None:
    """What a hand on the mouse sends to a view that may lie behind another window."""
    event = QMouseEvent(kind, spot, view.mapToGlobal(spot), button, button, _NO_KEYS)
    QApplication.sendEvent(view, event)


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
        self.assertFalse(window.head.bar.isVisible() or bench.stack.isVisible())
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
        self.assertTrue(window.head.bar.isVisible() and bench.stack.isVisible())
        self.assertTrue(bench.timeline.isVisible() and bench.incoming.isVisible())
        # Another place has its window around it.
        self.act("bench.narrower")
        window.places.go_to("cutlist")
        self.assertFalse(window.isFullScreen())
        self.assertTrue(window.status.isVisible())

    def test_a_column_of_its_own_gives_it_all_of_the_height_and_stays(self) -> None:
        bench, window = self.bench, self.window
        window.resize(1500, 900)
        settle()
        usual = bench.result.area.height()
        self.act("bench.column")
        settle()
        self.assertTrue(bench.sizes.in_column)
        self.assertGreater(bench.result.area.height(), 1.6 * usual)
        spots = [
            x.mapTo(window, QPoint(0, 0)).x() for x in (bench.timeline, bench.result, bench.stack)
        ]
        self.assertEqual(spots, sorted(spots))
        self.assertTrue(bench.transport.isVisible() and bench.outgoing.isVisible())
        # Larger sizes take it out, and put it back.
        self.act("bench.wider")
        settle()
        self.assertFalse(bench.sizes.in_column)
        self.assertTrue(bench.result.isVisible())
        self.act("bench.narrower")
        settle()
        self.assertTrue(bench.sizes.in_column)
        # Its handle keeps its place from one window to the next.
        state = bench.splitters()["result"].saveState()
        self.act("bench.column")
        settle()
        self.assertFalse(bench.sizes.in_column)
        self.assertAlmostEqual(bench.result.area.height(), usual, delta=24)
        bench.splitters()["result"].restoreState(state)
        window.places.go_to("cutlist")
        window.places.go_to("bench")
        self.assertTrue(bench.sizes.in_column)
        # In a small window the lanes keep what they need.
        window.resize(1024, 700)
        wait_for(lambda: not bench.sizes.in_column, "the column gives way")
        self.assertTrue(bench.result.isVisible())
        self.assertGreater(bench.timeline.width(), 520)

    def test_it_is_seen_and_worked_on_elsewhere_too(self) -> None:
        bench, looking = self.bench, self.desk.looking
        looking.select_layer("outgoing")
        self.act("bench.elsewhere")
        screen = bench.elsewhere.screen
        assert screen is not None
        settle()
        # There is one screen here: it is a window to be put where one likes.
        self.assertTrue(screen.isVisible() and not screen.isFullScreen())
        wait_for(lambda: bench.renderer.is_ready(0), "the frame")
        self.assertFalse(screen.strip.isVisible())
        hand(screen.view, QEvent.Type.MouseMove, QPointF(30.0, 30.0))
        self.assertTrue(screen.strip.isVisible())
        looking.set_playhead(-3)
        self.assertEqual(screen.strip.playhead, -3)
        spot = screen.view.area.center()
        hand(screen.view, QEvent.Type.MouseButtonPress, spot, LEFT)
        hand(screen.view, QEvent.Type.MouseMove, spot + QPointF(40.0, 0.0), LEFT)
        hand(screen.view, QEvent.Type.MouseButtonRelease, spot + QPointF(40.0, 0.0), LEFT)
        x, _ = self.desk.document.state.layer("outgoing").placement.position.rest
        self.assertAlmostEqual(x, 40.0 / screen.view.area.width(), delta=0.02)
        QTest.keyClick(screen, Qt.Key.Key_M)
        self.assertFalse(looking.motion_blur_shown)
        QTest.keyClick(screen, Qt.Key.Key_Escape)
        self.assertFalse(bench.elsewhere.is_open)

    def test_another_screen_is_taken_where_there_is_one(self) -> None:
        own, other = self.window.screen(), object()
        self.assertIs(other_screen(own, [own, other]), other)  # type: ignore[list-item]
        self.assertIsNone(other_screen(own, [own]))


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

    def test_what_masks_cover_is_hatched(self) -> None:
        desk, result = self.desk, self.bench.result
        desk.looking.select_layer("outgoing")
        desk.looking.set_playhead(-6)
        self.act("bench.lines.masks")
        outline = form_outline(MaskForm.RECTANGLE, desk.document.frame_size)
        desk.document.edit(
            "mask", lambda w: mask_edits.add_mask(w, "outgoing", outline, "Half", False)[0]
        )
        wait_for(lambda: result.masks.picture("masks") is not None, "the cover")
        cover = result.masks.picture("masks")
        assert cover is not None
        veil = cover_veil(cover)
        points = np.array(outline).reshape(-1, 6)[:, :2]
        inside, middle = points.mean(axis=0), (0.02, 0.02)
        for (x, y), covered in ((inside, True), (middle, False)):
            pixel = veil.pixelColor(int(x * veil.width()), int(y * veil.height()))
            self.assertEqual(pixel.alpha() > 0, covered)
        desk.looking.select_layer("incoming")
        self.assertIsNone(result.masks.picture("masks"), "it has no masks")

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
                Scope.VECTORSCOPE, [small_picture(picture)], overlaid=False
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
            there = [small_picture(x) for x in sides if x is not None]
            return image_of(Scope.VECTORSCOPE, there, overlaid=True) if len(there) == 2 else None

        wait_for(lambda: both() is not None and graph._image == both(), "both clips")
        self.act("bench.scopes")
        self.assertFalse(view.isVisible())

    def test_the_selected_layer_has_scopes_of_its_own(self) -> None:
        desk, bench = self.desk, self.bench
        white = FillSource(colour=Setting((1.0, 1.0, 1.0)))
        desk.document.edit("white", lambda w: layer_edits.add_layer(w, "White", white))
        desk.looking.select_layer(desk.document.state.layers[-1].id)
        self.act("bench.scopes")
        scopes = bench.scopes
        place = scopes.of.findData(Of.LAYER)
        scopes.of.setCurrentIndex(place)
        scopes.of.activated.emit(place)
        histogram = scopes.panes[0].kind.findText("Histogram")
        scopes.panes[0].kind.setCurrentIndex(histogram)
        scopes.panes[0].kind.activated.emit(histogram)

        def layer() -> QImage | None:
            return bench.layer_picture.picture(desk.looking.layer)

        wait_for(lambda: layer() is not None, "the layer alone")
        found = layer()
        assert found is not None
        self.assertEqual(int(pixels_of(found).min()), 255)
        desk.looking.select_layer("outgoing")
        wait_for(lambda: (layer() or found) is not found and layer() is not None, "the other one")
        picture = layer()
        assert picture is not None
        self.assertLess(int(pixels_of(picture).min()), 200)

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


class ColoursTaken(WindowCase):
    colours_after = 0

    def setUp(self) -> None:
        super().setUp()
        self.field = ColourField(self.bench)
        self.taken: list[np.ndarray] = []
        self.field.committed.connect(lambda value: self.taken.append(np.array(value)))
        self.menu = QMenu()
        self.desk.looking.select_layer("")

    def begin(self) -> None:
        self.field.fill(self.menu)
        self.menu.actions()[0].trigger()

    def test_a_pixel_and_the_mean_of_a_square_are_taken_from_the_result(self) -> None:
        view = self.bench.result
        wait_for(lambda: self.bench.renderer.is_ready(0), "the frame")
        picture = self.bench.renderer.picture(0)
        assert picture is not None
        spot = view.area.center().toPoint() + QPoint(9, -14)
        self.begin()
        QTest.mouseClick(view, LEFT, pos=spot)
        pixel = view.pixel_at(QPointF(spot))
        assert pixel is not None
        shown = view.colour_at(*pixel)
        assert shown is not None
        wanted = np.array([shown.red(), shown.green(), shown.blue()]) / 255.0
        # IEC 61966-2-1; what is kept is linear, to six digits.
        light = np.where(wanted <= 0.04045, wanted / 12.92, ((wanted + 0.055) / 1.055) ** 2.4)
        np.testing.assert_allclose(self.taken[-1], light, atol=2e-4)
        # A square: its side is the longer way of the drag.
        self.begin()
        start = view.area.topLeft().toPoint() + QPoint(20, 30)
        QTest.mousePress(view, LEFT, pos=start)
        QTest.mouseMove(view, start + QPoint(24, 7))
        QTest.mouseRelease(view, LEFT, pos=start + QPoint(24, 7))
        scale = picture.width() / view.area.width()
        pixels = pixels_of(picture) / 255.0
        first = (20 * scale, 30 * scale)
        rows = slice(int(first[1]), int(first[1] + 24 * scale) + 1)
        columns = slice(int(first[0]), int(first[0] + 24 * scale) + 1)
        part = pixels[rows, columns].reshape(-1, 3)
        light = np.where(part <= 0.04045, part / 12.92, ((part + 0.055) / 1.055) ** 2.4)
        np.testing.assert_allclose(self.taken[-1], light.mean(0), atol=0.01)
        # Nothing is taken any more, and Escape gives up.
        QTest.mouseClick(view, LEFT, pos=spot)
        self.begin()
        self.key(Qt.Key.Key_Escape)
        QTest.mouseClick(view, LEFT, pos=spot)
        self.assertEqual(len(self.taken), 2)

    def test_a_clip_gives_one_and_the_clips_offer_their_main_ones(self) -> None:
        source = self.bench.outgoing.picture
        wait_for(lambda: source.now() is not None, "the clip")
        picture = source.now()
        assert picture is not None
        self.begin()
        spot = source.area.center().toPoint()
        QTest.mouseClick(source, LEFT, pos=spot)
        self.assertEqual(len(self.taken), 1)
        wait_for(lambda: len(self.window.picking.offers()) == 5, "the colours of the clips")
        offered = self.window.picking.offers()
        self.field.fill(self.menu)
        self.menu.actions()[-1].trigger()
        np.testing.assert_allclose(self.taken[-1], linear_colour(offered[-1]), atol=1e-6)


class VersionsKept(WindowCase):
    def test_up_to_four_are_kept_seen_taken_back_and_forgotten(self) -> None:
        desk, looking, bench = self.desk, self.desk.looking, self.bench
        first = desk.document.state
        menu = QMenu()

        def keep(word: str) -> None:
            with mock.patch.object(QInputDialog, "getText", return_value=(word, True)):
                self.act("bench.keep-version")

        keep("calm")
        self.assertEqual(looking.kept.chosen, ("calm", first))
        desk.document.edit("other", lambda wrinkle: replaced(wrinkle, name="Other"))
        desk.document.edit(
            "still", lambda wrinkle: layer_edits.with_layers(wrinkle, wrinkle.layers[:-1])
        )
        now = desk.document.state
        # Held, A shows what was kept, and the document stays as it is.
        bench.setFocus()
        QTest.keyPress(bench, Qt.Key.Key_A)
        self.assertEqual(looking.shown_wrinkle(), first)
        QTest.keyRelease(bench, Qt.Key.Key_A)
        self.assertEqual((looking.shown_wrinkle(), desk.document.state), (now, now))
        # The split line has it at its left.
        self.act("bench.before-after")
        self.assertEqual(looking.before_wrinkle(), first)
        self.act("bench.before-after")
        keep("calm")
        self.assertIn("A version is called 'calm' already", self.faults[-1])
        for word in ("two", "three", "four", "five"):
            keep(word)
        self.assertIn("4 versions are kept already", self.faults[-1])
        bench.versions.fill(menu)
        self.assertEqual([x.text() for x in menu.actions()], ["calm", "two", "three", "four"])
        looking.kept.choose(0)
        version = looking.kept.all[0]
        dialog = bench.versions.show_beside(version)
        assert dialog is not None
        self.draw_all()
        wait_for(lambda: dialog.all_ready, "both")
        plain = dialog.gain.currentData()
        far = pixels_of(dialog.difference(0) or QImage()).astype(int)
        dialog.gain.setCurrentIndex(0)
        near = pixels_of(dialog.difference(0) or QImage()).astype(int)
        np.testing.assert_array_equal(np.minimum(near * plain, 255), far)
        self.assertGreater(int(far.max()), 8)
        # One zoom for all three.
        self.assertIs(dialog.views[0].zoom, dialog.views[2].zoom)
        dialog.close()
        bench.versions.take_back(version)
        self.assertEqual(desk.document.state, first)
        self.act("edit.undo")
        self.assertEqual(desk.document.state, now)
        looking.kept.forget(0)
        self.assertEqual([one.word for one in looking.kept.all], ["two", "three", "four"])
        desk.document.start_new()
        self.assertEqual(looking.kept.all, ())
        QTest.keyClick(bench, Qt.Key.Key_A)
        self.assertIn("No version is kept yet", self.faults[-1])
