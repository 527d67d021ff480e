"""Sounds of a wrinkle: added, changed, mixed for the loop, and written with the pictures."""

from contextlib import redirect_stdout
from fractions import Fraction
from io import StringIO

import numpy as np

from tests.ui.window_case import WindowCase, demo_clip, type_into
from wrinkle.__main__ import main
from wrinkle.core.design.dials import dial_edits
from wrinkle.core.design.document.driven import driven_label
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.slot_kinds import Fills
from wrinkle.core.design.document.slots import Unfilled
from wrinkle.core.design.document.sounds import FileFit
from wrinkle.core.design.edits import lane_edits
from wrinkle.core.motion.track import CUT
from wrinkle.core.piece import dressing, edits
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.heard import piece_heard
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.sound.mixing import WrinkleSounds
from wrinkle.core.synthesis.made_sounds import AIR, HIT, TICK
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.media.clip import Clip


class Sounds(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.without_sounds()

    def test_a_sound_is_added_changed_heard_and_taken_away(self) -> None:
        section = self.bench.stack.sounds
        section.section.heading.click()
        menu = section.add_button.menu()
        (action,) = [x for x in menu.actions() if x.text().startswith("Hit")]
        action.trigger()
        (card,) = section.cards.values()
        type_into(card.hit, "-3")
        for key, text in (("level", "-6"), ("length", "0.4"), ("pitch", "150")):
            type_into(card.rows[key].field, text)
        (sound,) = self.desk.document.state.sounds
        self.assertEqual(sound.made, HIT)
        rate = self.desk.document.state.frame_rate
        self.assertEqual((sound.hit, sound.length.rest), (rate.seconds(-3), 0.4))
        self.assertEqual((sound.level.rest, sound.pitch.rest), (-6.0, 150.0))
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
        card.remove.click()
        self.assertEqual(self.desk.document.state.sounds, ())
        self.act("edit.undo")
        self.assertEqual(len(self.desk.document.state.sounds), 1)
        self.assertIsNotNone(self.bench.sound.heard)

    def test_a_file_fills_a_slot_and_its_rows_say_how_it_runs(self) -> None:
        sounds, document = self.bench.stack.sounds, self.desk.document
        menu = sounds.add_button.menu()
        assert menu is not None
        (action,) = [x for x in menu.actions() if x.text().startswith("Thump")]
        action.trigger()
        (slot,) = [x for x in document.state.slots if x.fills is Fills.SOUND]
        self.assertEqual((slot.stand_in, slot.unfilled), ("thump.flac", Unfilled.STAND_IN))
        card = sounds.cards["file"]
        rows = card.file_rows
        assert rows is not None
        # Where it was put when it was made.
        self.assertAlmostEqual(float(rows.times["hit"].text().split()[0]), 0.1, delta=0.002)
        self.assertNotIn("length", card.rows)
        rows.fit.setCurrentIndex(rows.fit.findData(FileFit.STRETCHED))
        rows.fit.activated.emit(rows.fit.currentIndex())
        card = sounds.cards["file"]
        type_into(card.rows["length"].field, "0.4")
        rows = card.file_rows
        assert rows is not None
        type_into(rows.times["fall"], "0.1")
        rows.backwards.click()
        type_into(rows.times["hit"], "0.2")
        file = document.state.sounds[0].file
        self.assertEqual(
            (file.fit, file.backwards, file.hit), (FileFit.STRETCHED, True, Fraction(1, 5))
        )
        heard = self.bench.heard.heard_of("file")
        assert heard is not None
        self.assertTrue(heard.samples(-SAMPLE_RATE, 2 * SAMPLE_RATE).any())
        rows.found.click()
        self.assertIsNone(document.state.sounds[0].file.hit)
        # It goes with the wrinkle, and comes back with it.
        path = self.folder / "thumping.wrinkle"
        document.save(path)
        document.open(path)
        self.assertIsNotNone(self.bench.heard.heard_of("file"))
        other = self.folder / "silent.wav"
        other.write_bytes(b"no sound")
        told: list[str] = []
        self.desk.messages.faulted.connect(told.append)
        sounds.add_file(other)
        self.assertRegex(told[-1], "silent.wav cannot be read as a sound")
        self.assertEqual(len(document.state.sounds), 1)

    def test_a_lane_of_a_sound_stands_with_the_lanes_and_a_dial_drives_it(self) -> None:
        sounds, document = self.bench.stack.sounds, self.desk.document
        sounds.add(TICK)
        self.act("bench.sound")
        card = sounds.cards["tick"]
        card.rows["level"].lane_button.click()
        ref = SettingRef("tick", "level")
        self.assertEqual([row.ref for row in self.bench.timeline.rows][-1], ref)
        self.assertEqual(self.bench.timeline.rows[-1].full_name.partition(" · ")[0], "Tick")
        row = self.bench.timeline.sounds.rows["tick"]
        row.heard.click()
        self.assertIsNone(self.bench.heard.heard_of(""))
        self.assertTrue(document.state.sounds[0].heard.rest, "the wrinkle keeps it")
        row.heard.click()
        self.assertIsNotNone(self.bench.heard.heard_of(""))
        ref_heard = SettingRef("tick", "heard")
        document.edit("off", lambda w: lane_edits.set_value(w, ref_heard, CUT, False))
        self.assertEqual(card.section.heading.text().split()[-2:], ["not", "heard"])
        self.act("edit.undo")
        document.edit("dial", lambda w: dial_edits.offer(w, "tick", "pan")[0])
        self.assertIn(
            "Tick · Pan", driven_label(document.state.owners, document.state.dials[0].drives[0])
        )
        row.name.click()
        self.assertTrue(card.section.heading.isChecked())
        sounds.add(AIR)
        follows = sounds.cards["air"].follows
        follows.setCurrentIndex(follows.findText("Incoming"))
        follows.activated.emit(follows.currentIndex())
        self.assertEqual(document.state.sounds[1].layer, "incoming")

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
