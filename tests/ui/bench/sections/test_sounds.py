"""Sounds of a wrinkle: added, changed, mixed for the loop, and written with the pictures."""

from contextlib import redirect_stdout
from fractions import Fraction
from io import StringIO

import numpy as np

from tests.ui.window_case import WindowCase, demo_clip, type_into
from wrinkle.__main__ import main
from wrinkle.core.piece import dressing, edits
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.heard import piece_heard
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.sound.mixing import WrinkleSounds
from wrinkle.core.synthesis.made_sounds import HIT, TICK
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.media.clip import Clip


class Sounds(WindowCase):
    def test_a_sound_is_added_changed_heard_and_taken_away(self) -> None:
        section = self.bench.stack.sounds
        section.section.heading.click()
        menu = section.add_button.menu()
        (action,) = [x for x in menu.actions() if x.text().startswith("Hit")]
        action.trigger()
        (row,) = section.rows.values()
        type_into(row.hit, "-3")
        type_into(row.level, "-6")
        type_into(row.length, "12")
        type_into(row.pitch, "150")
        (sound,) = self.desk.document.state.sounds
        self.assertEqual(sound.made, HIT)
        rate = self.desk.document.state.frame_rate
        self.assertEqual((sound.hit, sound.length), (rate.seconds(-3), rate.seconds(12)))
        self.assertEqual((sound.level, sound.pitch), (-6.0, 1.5))
        heard = self.bench.sound.heard
        assert heard is not None
        # The loop begins six plain frames before the window.
        wrinkle = self.desk.document.state
        before = round(rate.seconds(wrinkle.first_frame - 6) * SAMPLE_RATE)
        self.assertEqual(heard.span.start, before)
        hit = round(sound.hit * SAMPLE_RATE)
        loud = np.abs(heard.samples(before, len(heard.span))[:, 0]) > 0.003
        self.assertAlmostEqual(int(np.argmax(loud)) + before, hit, delta=60)
        self.bench.transport.toggle()
        self.assertTrue(self.bench.player.playing)
        self.bench.transport.toggle()
        type_into(row.length, "0")
        self.assertEqual(self.desk.document.state.sounds[0].length, rate.seconds(1))
        row.remove.click()
        self.assertEqual(self.desk.document.state.sounds, ())
        self.act("edit.undo")
        self.assertEqual(len(self.desk.document.state.sounds), 1)
        self.assertIsNotNone(self.bench.sound.heard)

    def test_it_is_in_the_video_and_in_the_piece_on_the_cut(self) -> None:
        document = self.desk.document
        self.bench.stack.sounds.add(TICK)
        path = self.folder / "sounding.wrinkle"
        document.save(path)
        out = self.folder / "out.mp4"
        words = ["render", str(path), "--seconds-around", "0.5", "--output", str(out)]
        for slot, name in (("outgoing", "box_kite"), ("incoming", "pier")):
            words += [f"--{slot}", str(demo_clip(name))]
        with redirect_stdout(StringIO()):
            self.assertEqual(main(words), 0)
        clip = Clip(out)
        self.addCleanup(clip.close)
        left = clip.sound().samples(0, 2 * SAMPLE_RATE)[:, 0]
        cut = 0.5 + float(document.state.lead)
        heard = int(np.argmax(np.abs(left) > 0.1)) / SAMPLE_RATE
        self.assertAlmostEqual(heard, cut, delta=0.004)
        # In a piece it is heard at the cut, beside the clips.
        media = [Media(name, name, Fraction(3)) for name in "ab"]
        use = PieceUse(document.bundle())
        piece = dressing.on_every(edits.add_clips(Piece(), 0, media), use)
        found = piece_heard(piece, {}).samples(0, 6 * SAMPLE_RATE)
        np.testing.assert_array_equal(
            found[3 * SAMPLE_RATE : 3 * SAMPLE_RATE + 3_000],
            WrinkleSounds(document.state).samples(0, 3_000),
        )
        self.assertFalse(found[: 3 * SAMPLE_RATE].any())
