"""What is heard, under the lanes: waves on the frame axis, hits and ends pulled by hand."""

from fractions import Fraction
from threading import Event
from unittest import mock

import numpy as np
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest

from tests.ui.window_case import LEFT, WindowCase, drag, wait_for
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import sound_edits
from wrinkle.core.sound.wave_picture import peaks
from wrinkle.core.synthesis.made_sounds import HIT, TICK


class SoundRows(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.rows = self.bench.timeline.sounds
        self.without_sounds()
        for made in (HIT, TICK):
            self.bench.stack.sounds.add(made)

    def shown(self) -> None:
        self.act("bench.sound")
        wait_for(lambda: self.heights("hit").any(), "the waves are drawn")

    def heights(self, row: str) -> np.ndarray:
        """How far the wave of a row goes, as its table says it, frame by frame."""
        model = self.rows.rows[row].canvas.model
        assert model is not None
        model.watch()
        words = [model.data(model.index(n, 1)) for n in range(model.rowCount())]
        return np.array([10.0 ** (float(x) / 20.0) if x else 0.0 for x in words])

    def test_they_are_shown_on_the_frames_on_which_they_are_heard(self) -> None:
        self.assertFalse(self.rows.isVisible())
        self.shown()
        self.assertTrue(self.rows.isVisible())
        self.assertEqual(list(self.rows.rows), ["hit", "tick"])
        first = self.desk.document.state.first_frame
        heights = self.heights("hit")
        self.assertEqual(int(np.flatnonzero(heights > 0.01)[0]) + first, 0)
        # The level is -9 dB at the loudest.
        self.assertAlmostEqual(float(heights.max()), 10 ** (-9 / 20), delta=0.02)
        names = [model.name for model in self.bench.timeline.models()]
        self.assertIn("Mix", names)
        self.act("bench.sound")
        self.assertFalse(self.rows.isVisible())

    def test_a_hit_and_an_end_are_pulled_on_whole_frames(self) -> None:
        self.shown()
        canvas, rate = self.rows.rows["hit"].canvas, self.desk.document.state.frame_rate
        start = QPointF(canvas.hit_x or 0.0, 20.0)
        drag(canvas, start, start + QPointF(3.2 * canvas.axis.cell, 0.0))
        (hit, _) = self.desk.document.state.sounds
        self.assertEqual(hit.hit, rate.seconds(3))
        self.act("edit.undo")
        self.assertEqual(self.desk.document.state.sounds[0].hit, 0)
        # The end is pulled, and it stays where it begins.
        goal = QPointF(canvas.x_of(rate.seconds(8)), 20.0)
        self.desk.document.edit("short", lambda w: self.shortened(w, rate.seconds(5)))
        drag(canvas, QPointF(canvas.end_x or 0.0, 20.0), goal)
        (hit, _) = self.desk.document.state.sounds
        self.assertEqual(hit.hit, 0)
        self.assertAlmostEqual(hit.length.rest, float(rate.seconds(8)))
        # With Alt it stands between frames.
        spot = QPointF(canvas.hit_x or 0.0, 20.0).toPoint()
        QTest.mousePress(canvas, LEFT, Qt.KeyboardModifier.AltModifier, spot)
        away = (QPointF(spot) + QPointF(canvas.axis.cell * 0.4, 0.0)).toPoint()
        QTest.mouseRelease(canvas, LEFT, Qt.KeyboardModifier.AltModifier, away)
        moved = self.desk.document.state.sounds[0].hit * rate.per_second
        self.assertTrue(0 < moved < 1, moved)

    def shortened(self, wrinkle: Wrinkle, length: Fraction) -> Wrinkle:
        return sound_edits.rest_at(wrinkle, wrinkle.sounds[0].id, length=float(length))

    def test_the_fades_of_a_file_are_pulled(self) -> None:
        menu = self.bench.stack.sounds.add_button.menu()
        assert menu is not None
        next(x for x in menu.actions() if x.text().startswith("Thump")).trigger()
        self.act("bench.sound")
        canvas, rate = self.rows.rows["file"].canvas, self.desk.document.state.frame_rate
        wait_for(lambda: bool(canvas.fades), "where it is heard")
        # Its hit is a tenth of a second after its beginning, and it stands on the cut.
        first = canvas.fades["rise"]
        self.assertAlmostEqual(float(first), -0.1, delta=0.002)
        foot = canvas.height() - 4.0
        drag(canvas, QPointF(canvas.x_of(first), foot), QPointF(canvas.axis.x(-1), foot))
        file = self.desk.document.state.sounds[-1].file
        assert file.rise is not None
        self.assertAlmostEqual(float(file.rise), 0.1 - 1 / 30, delta=0.003)
        last = canvas.fades["fall"]
        goal = float(last * rate.per_second) - 2.0
        drag(canvas, QPointF(canvas.x_of(last), foot), QPointF(canvas.axis.x(goal), foot))
        file = self.desk.document.state.sounds[-1].file
        assert file.fall is not None
        self.assertAlmostEqual(float(canvas.fades["fall"]), round(goal) / 30, delta=0.001)
        heard = self.bench.heard.heard_of("file")
        assert heard is not None
        span = heard.parts[0].span
        samples = np.abs(heard.samples(span.start, len(span))).max(axis=1)
        self.assertLess(float(samples[-48:].max()), 0.05 * float(samples.max()))
        # Pulled back to its beginning there is none.
        drag(canvas, QPointF(canvas.x_of(canvas.fades["rise"]), foot),
             QPointF(canvas.axis.x(-9), foot))  # fmt: skip
        self.assertIsNone(self.desk.document.state.sounds[-1].file.rise)

    def test_one_is_heard_alone_and_elsewhere_a_press_moves_the_playhead(self) -> None:
        self.shown()
        row = self.rows.rows["tick"]
        heard = self.bench.sound.heard
        assert heard is not None
        both = len(heard.parts)
        row.alone.click()
        alone = self.bench.sound.heard
        assert alone is not None
        self.assertEqual((both, len(alone.parts)), (1, 1))
        self.assertLess(len(alone.parts[0].span), len(heard.parts[0].span))
        row.alone.click()
        again = self.bench.sound.heard
        assert again is not None
        self.assertEqual(len(again.parts[0].span), len(heard.parts[0].span))
        canvas = row.canvas
        QTest.mouseClick(canvas, LEFT, pos=QPointF(canvas.axis.x(-4.5), 30.0).toPoint())
        self.assertEqual(self.desk.looking.playhead, -5)

    def test_rows_that_are_gone_are_not_drawn_any_more(self) -> None:
        self.shown()
        begun, may = Event(), Event()
        self.addCleanup(may.set)

        def late(*given: object) -> object:
            begun.set()
            may.wait()
            return peaks(*given)  # type: ignore[arg-type]

        with mock.patch("wrinkle.ui.bench.lanes.sound_rows.peaks", late):
            self.bench.stack.sounds.add(TICK)
            wait_for(begun.is_set, "it is being drawn")
            # While it is, its row goes.
            self.act("edit.undo")
            may.set()
            self.desk.document.edit("again", lambda w: sound_edits.add_sound(w, HIT)[0])
            wait_for(lambda: self.heights("hit-2").any(), "the waves are drawn again")
        self.assertEqual(list(self.rows.rows), ["hit", "tick", "hit-2"])
        self.assertEqual(self.faults, [])

    def test_the_meter_shows_what_plays_and_holds_the_loudest(self) -> None:
        self.shown()
        meter = self.rows.meter
        self.bench.transport.toggle()

        def loud() -> bool:
            # The device takes as somebody looks.
            self.bench.sound.seconds()
            return meter.held > -20.0

        wait_for(loud, "the hit is metered")
        self.bench.transport.toggle()
        self.assertEqual(meter.held, -48.0)
