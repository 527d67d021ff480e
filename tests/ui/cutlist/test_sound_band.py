"""What is heard of a clip, unfolded under its row: level and fades pulled, muted by a press."""

from fractions import Fraction

import numpy as np
from PyQt6.QtCore import QPointF

from tests.media.test_sound import write_sounding
from tests.ui.cutlist.test_cutlist import PieceCase
from tests.ui.window_case import drag, settle, wait_for
from wrinkle.core.piece import edits
from wrinkle.core.piece.heard import piece_heard
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.ui.cutlist.clip_waves import A_SECOND
from wrinkle.ui.cutlist.sound_band import SoundBand


class Bands(PieceCase):
    def setUp(self) -> None:
        super().setUp()
        path = write_sounding(self.folder / "sounding.mp4", "aac", 48_000)
        count = len(self.piece.clips)
        self.cutlist.intake.take_files([path], 0)
        wait_for(lambda: len(self.piece.clips) == count + 1, "it is taken")

    def band(self, number: int = 0) -> SoundBand:
        band = self.cutlist.order.rows.band(number)
        assert band is not None
        return band

    def pull(self, start: QPointF, by: QPointF) -> None:
        view = self.cutlist.order.viewport()
        assert view is not None
        drag(view, start, start + by)

    def test_it_is_unfolded_and_what_is_pulled_is_heard(self) -> None:
        order = self.cutlist.order
        self.assertIsNone(order.rows.band(0))
        low = order.rows.geometry.height
        self.act("piece.sound")
        self.assertGreater(order.rows.geometry.height, low)
        area, seconds = self.band().wave, self.band().seconds
        # Up by twelve points: so many decibels that it is heard so much louder.
        self.pull(QPointF(area.center().x(), self.band().level_y), QPointF(0, 12))
        self.assertEqual(self.piece.clips[0].level, -16.0)
        self.pull(QPointF(area.left(), area.top() + 4), QPointF(area.width() / 4, 0))
        rise = self.piece.clips[0].rise
        self.assertAlmostEqual(float(rise), seconds / 4, delta=0.02)
        self.pull(QPointF(area.right(), area.top() + 4), QPointF(-area.width() / 5, 0))
        self.assertAlmostEqual(float(self.piece.clips[0].fall), seconds / 5, delta=0.02)
        self.act("edit.undo")
        self.assertEqual(self.piece.clips[0].fall, 0)
        # A fade goes as far as the other one, and no further.
        self.pull(QPointF(area.right(), area.top() + 4), QPointF(-area.width(), 0))
        clip = self.piece.clips[0]
        self.assertAlmostEqual(float(clip.rise + clip.fall), seconds, delta=0.02)
        sources = dict(self.desk.piece.media.sources)
        whole = round(seconds * SAMPLE_RATE)
        plain = edits.change(self.piece, clip.id, level=0.0, rise=Fraction(0), fall=Fraction(0))
        heard, before = (
            piece_heard(x, sources).samples(whole // 2, whole // 4) for x in (self.piece, plain)
        )
        self.assertLess(np.abs(heard).max(), 10 ** (-16 / 20) * np.abs(before).max() + 1e-6)

    def test_it_is_muted_by_its_button_and_only_what_sounds_has_handles(self) -> None:
        self.act("piece.sound")
        band = self.band()
        button = QPointF(band.area.left() + 8, band.area.center().y())
        self.pull(button, QPointF(0, 0))
        self.assertTrue(self.piece.clips[0].muted)
        self.pull(button, QPointF(0, 0))
        self.assertFalse(self.piece.clips[0].muted)
        self.desk.piece.edit("still", lambda p: edits.change(p, p.clips[0].id, frozen=True))
        at = self.band().wave.center()
        self.assertEqual(self.band().part_at(at.x(), self.band().level_y), "")

    def test_the_wave_is_that_of_the_file(self) -> None:
        self.act("piece.sound")
        settle()
        path = self.piece.clips[0].media.path
        waves = self.cutlist.waves
        wait_for(lambda: waves.wave(path, 0) is not None, "it is drawn")
        wave = waves.wave(path, 0)
        assert wave is not None
        # A tone fills the second half of its second.
        loud = np.abs(wave).max(axis=1)
        half = A_SECOND // 2
        self.assertLess(float(loud[: half - 4].max()), 0.01)
        self.assertGreater(float(loud[half + 4 : 2 * half - 4].min()), 0.4)
        silent = self.piece.clips[1].media.path
        wait_for(lambda: waves.wave(silent, 0) is not None, "that it is silent is known")
        self.assertEqual(len(waves.wave(silent, 0)), 0)
