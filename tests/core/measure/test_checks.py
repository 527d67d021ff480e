"""What the checks find on wrinkles that are right, and on those that are not."""

import unittest
from fractions import Fraction

import numpy as np
from msgspec.structs import replace

from tests.core.design.wrinkles import FRAME, turning
from tests.core.measure.broken import BREAKAGES, SIZE, bent, mended, strobe, subject_of, turned
from tests.turning import QUARTER_TURN
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.masking import Mask
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.slots import Unfilled
from wrinkle.core.design.document.sources import FillSource
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.design.edits import (
    effect_edits,
    lane_edits,
    slot_edits,
    sound_edits,
    wrinkle_edits,
)
from wrinkle.core.design.edits.layer_edits import remove_layer, with_layer, with_layers
from wrinkle.core.design.edits.set_aside_edits import count_again, reason_for, set_aside
from wrinkle.core.errors import InputError
from wrinkle.core.examine.examined import Examined, mended_all
from wrinkle.core.measure.covering import covered
from wrinkle.core.measure.limits import BARE
from wrinkle.core.measure.registry import CHECKS, examined, findings
from wrinkle.core.measure.traces import TRACES
from wrinkle.core.motion.feels import FEELS
from wrinkle.core.motion.track import CUT, IncomingHalf, Keyframe, Track
from wrinkle.core.motion.values import parts
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.paths import ellipse
from wrinkle.core.registering import Registry
from wrinkle.core.synthesis.made_sounds import TICK
from wrinkle.core.time.rate import FrameRate
from wrinkle.files import archive
from wrinkle.library import shipped
from wrinkle.library.stand_in_sounds import STAND_IN_SOUNDS

TURN = SettingRef("turn", "rotation")
FOR_ALL = ("dip_to_colour", "smooth_turn")
"""Of these a broken copy of each kind is mended here; ``python -m fuzz.mends`` does all."""


class InDocuments(unittest.TestCase):
    def test_nothing_is_found_where_all_is_right(self) -> None:
        self.assertEqual(findings(turning()), [])
        for path in shipped().values():
            wrinkle = archive.read(path).wrinkle
            counted = [x for x in findings(wrinkle) if not reason_for(wrinkle, x.about)]
            self.assertEqual(counted, [], path.name)

    def test_a_lane_that_breaks_at_the_cut_is_named(self) -> None:
        own = lane_edits.set_incoming(turning(), TURN, IncomingHalf.OWN)
        (found,) = findings(lane_edits.set_value(own, TURN, CUT, 45.0))
        self.assertEqual((found.check, found.layer, found.address), ("seam", "turn", "rotation"))
        self.assertRegex(found.sentence, "^Rotation of Turn jumps.* at the cut.$")
        kinked = lane_edits.set_value(own, TURN, FRAME, 400.0)
        self.assertIn("changes its speed", findings(kinked)[0].sentence)

    def test_an_effect_that_lacks_something_is_named_while_it_is_on(self) -> None:
        wrinkle, use = effect_edits.add_effect(turning(), "turn", "lut")
        (found,) = findings(wrinkle)
        self.assertEqual(found.sentence, "LUT on Turn does nothing without a LUT.")
        off = effect_edits.change_effect(wrinkle, "turn", use, shown=False)
        self.assertEqual(findings(off), [])

    def test_what_is_declared_twice_is_an_error(self) -> None:
        with self.assertRaisesRegex(ValueError, "the check seam is declared twice"):
            Registry("check", [CHECKS["seam"], CHECKS["seam"]])


class Rates(unittest.TestCase):
    def uneven(self, rate: int) -> list[str]:
        """What is said of clips of 30 pictures a second in a wrinkle of another rate."""
        bundle = archive.read(QUARTER_TURN)
        retimed = wrinkle_edits.set_frame(bundle.wrinkle, SIZE, FrameRate.of(rate))
        subject = subject_of(Bundle(retimed, bundle.assets))
        return [x.sentence for x in CHECKS["rate"].find(subject)]

    def test_pictures_that_are_repeated_or_dropped_unevenly_are_counted(self) -> None:
        for rate in (15, 30, 60):
            self.assertEqual(self.uneven(rate), [], rate)
        # Of 30 pictures 25 frames show 25; 40 frames show each of them, and ten twice.
        self.assertRegex(
            self.uneven(25)[0], "'a' runs at another rate: in each second 5 are dropped"
        )
        self.assertRegex(self.uneven(40)[0], "in each second 10 of its pictures are repeated")
        self.assertEqual(len(self.uneven(25)), 2)


class SetAside(unittest.TestCase):
    def test_it_needs_a_reason_and_goes_with_its_layer(self) -> None:
        about = ("seam", "turn", "rotation")
        wrinkle = set_aside(turning(), about, " It is to jerk. ")
        self.assertEqual(reason_for(wrinkle, about), "It is to jerk.")
        again = set_aside(wrinkle, about, "On purpose.")
        self.assertEqual([x.reason for x in again.set_aside], ["On purpose."])
        self.assertEqual(count_again(again, about), turning())
        self.assertEqual(remove_layer(again, "turn").set_aside, ())
        with self.assertRaisesRegex(InputError, "Say why"):
            set_aside(wrinkle, about, "  ")

    def test_what_is_set_aside_is_not_open(self) -> None:
        bundle = archive.read(shipped()["skew_kick"])
        found = Examined.of(subject_of(bundle))
        own = Examined.of(subject_of(Bundle(replace(bundle.wrinkle, set_aside=()), bundle.assets)))
        self.assertEqual([x.about for x in found.findings], [x.about for x in own.findings])
        self.assertEqual(len(found.open), 0)


class Shipped(unittest.TestCase):
    def test_nothing_is_open_in_what_ships(self) -> None:
        # All of them: ``python -m fuzz.mends``.
        for name, path in list(shipped().items())[::9]:
            with self.subTest(name):
                found = Examined.of(subject_of(archive.read(path))).open
                self.assertEqual([x.sentence for x in found], [])

    def test_the_traces_say_what_is_seen(self) -> None:
        bundle = archive.read(shipped()["half_turn"])
        subject = subject_of(Bundle(turned(strobe(bundle.wrinkle)), bundle.assets))
        lines = {key: trace.measure(subject) for key, trace in TRACES.items()}
        for key, found in lines.items():
            for line in found:
                self.assertEqual(len(line.values), len(subject.frames), key)
        first = subject.frames.start
        bare, flash = TRACES["bare"], TRACES["flash"]
        beyond = bare.beyond(lines["bare"], first)
        self.assertIn(-5, beyond)
        self.assertTrue(all(-9 <= frame <= -2 for frame in beyond))
        self.assertTrue(flash.beyond(lines["flash"], first))
        # By what the frames themselves show: alpha, and the share of pixels that differ.
        worst = subject.showing.image(-5).pixels[..., 3]
        at = -5 - first
        self.assertAlmostEqual(lines["bare"][0].values[at], 100 * (1 - worst.mean()), delta=0.01)
        pair = [subject.showing.image(x).to_bytes8()[..., :3].astype(float) for x in (-6, -5)]
        weights = np.array([0.299, 0.587, 0.114])
        apart = np.abs(pair[1] @ weights - pair[0] @ weights) > 8
        self.assertAlmostEqual(lines["change"][0].values[at], 100 * apart.mean(), delta=1.0)
        self.assertEqual(lines["loudness"], ())
        (strobes,) = (x for x in lines["cover"] if x.label == "Strobe")
        self.assertEqual(set(np.round(strobes.values)), {0.0, 100.0})

    def test_what_a_mask_covers_is_the_area_of_its_ellipse(self) -> None:
        bundle = archive.read(shipped()["plain_push"])
        mask = Mask("m", "Oval", path=Setting(ellipse(0.5, 0.5, 0.3, 0.2)))
        layer = Layer(id="oval", name="Oval", source=FillSource(), masks=(mask,))
        wrinkle = with_layers(bundle.wrinkle, (*bundle.wrinkle.layers, layer))
        subject = subject_of(Bundle(wrinkle, {}), size=Size(180, 320))
        # The area of an ellipse is pi times the product of its half axes (geometry).
        found = covered(subject, wrinkle.layers[-1])
        np.testing.assert_allclose(found, np.pi * 0.3 * 0.2, atol=0.002)


class Mends(unittest.TestCase):
    def test_every_mend_makes_its_check_pass_and_no_other_fail(self) -> None:
        kinds = list(BREAKAGES)
        for number, name in enumerate(FOR_ALL):
            bundle = archive.read(shipped()[name])
            for kind in kinds[number :: len(FOR_ALL)]:
                applied = 0
                for mend, wrong in mended(bundle, kind):
                    with self.subTest(name, kind=kind, mend=mend):
                        if wrong.startswith("refused: "):
                            self.assertRegex(wrong, r"^refused: .+[.]$")
                            continue
                        self.assertEqual(wrong, "")
                        applied += 1
                with self.subTest(name, kind=kind):
                    self.assertGreater(applied, 0)

    def test_a_strike_beside_the_fastest_moment_and_a_file_that_is_cut_off_are_mended(self) -> None:
        wrinkle = plain_cut()
        frame = wrinkle.frame_rate.seconds(1)
        ease = FEELS["snap"]
        keys = ((-10, (0.0, 0.0)), (-2, (0.3, 0.0)))
        track = Track(tuple(Keyframe(frame * at, value, ease) for at, value in keys))
        wrinkle = lane_edits.with_track(wrinkle, SettingRef("outgoing", "position"), track)
        wrinkle, tick = sound_edits.add_sound(wrinkle, TICK)
        # The ease is fastest in its middle, six frames before the cut.
        wrinkle = sound_edits.change_sound(wrinkle, tick, hit=-3 * frame)
        subject = subject_of(Bundle(wrinkle))
        (found,) = [x for x in examined(subject) if x.check == "step"]
        self.assertIn("3.0 frames after", found.sentence)
        self.assertEqual(found.mends[0].apply().sounds[0].hit, -6 * frame)
        content = STAND_IN_SOUNDS["surge"].read_bytes()
        wrinkle, file = sound_edits.add_file(plain_cut(), "surge.flac")
        wrinkle = sound_edits.change_file(wrinkle, file, start=Fraction(4, 5), end=Fraction(1))
        subject = subject_of(Bundle(wrinkle, {"surge.flac": content}))
        (found,) = [x for x in examined(subject) if x.check == "clicks"]
        self.assertIn("begins and ends", found.sentence)
        after = examined(subject.changed(found.mends[0].apply()))
        self.assertEqual([x for x in after if x.check == "clicks"], [])
        empty = slot_edits.change_slot(wrinkle, "sound", unfilled=Unfilled.NOTHING)
        subject = subject_of(Bundle(empty, {"surge.flac": content}))
        (found,) = [x for x in examined(subject) if x.check == "silent"]
        self.assertIn("nothing fills its slot", found.sentence)

    def test_all_of_a_kind_are_mended_in_one_go(self) -> None:
        bundle = archive.read(shipped()["half_turn"])
        broken = BREAKAGES["idle effect"][0](BREAKAGES["idle effect"][0](bundle.wrinkle))
        subject = subject_of(Bundle(broken, bundle.assets))
        self.assertEqual(len(list(CHECKS["effects"].find(subject))), 2)
        wrinkle, count = mended_all(subject, "effects")
        self.assertEqual(count, 2)
        self.assertEqual(list(CHECKS["effects"].find(subject.changed(wrinkle))), [])
        with self.assertRaisesRegex(InputError, "None of these"):
            mended_all(subject, "flash")

    def test_the_enlargement_is_hardly_more_than_geometry_asks_for(self) -> None:
        bundle = archive.read(shipped()["plain_push"])
        subject = subject_of(Bundle(turned(bundle.wrinkle), bundle.assets))
        (found,) = (x for x in CHECKS["bare"].find(subject) if x.check == "bare")
        self.assertRegex(found.sentence, r"^Frame −\d: the picture is bare in \d+\.\d %")
        design = found.mends[0].apply()
        scale = SettingRef(design.layers[-1].id, "scale").of(design).at(Fraction(-5, 30))
        angle = np.radians(12.0)
        wanted = np.cos(angle) + SIZE.height / SIZE.width * np.sin(angle)
        # A pixel on each side: the outermost ones are half bare.
        self.assertTrue(wanted <= scale[0] / 100.0 <= wanted * 1.03, (scale, wanted))

    def test_bent_edges_are_covered_by_hardly_more_than_a_search_finds(self) -> None:
        bundle = archive.read(shipped()["plain_push"])
        subject = subject_of(Bundle(bent(bundle.wrinkle), bundle.assets))
        (found,) = CHECKS["bare"].find(subject)
        design = found.mends[0].apply()
        ref = SettingRef(design.layers[-1].id, "scale")
        scale = parts(ref.of(design).at(Fraction(-5, 30)))[0] / 100.0

        def bare(factor: float) -> bool:
            layer = subject.design.layers[-1].with_setting("scale", Setting((factor, factor)))
            tried = subject.changed(with_layer(subject.design, layer))
            return max(tried.survey.look(x).bare for x in range(-9, -1)) > BARE

        low, high = 100.0, 200.0
        for _ in range(7):
            middle = (low + high) / 2.0
            low, high = (middle, high) if bare(middle) else (low, middle)
        self.assertTrue(-0.01 <= scale - high / 100.0 <= 0.05, (scale, high))

    def test_another_shape_is_measured_too(self) -> None:
        bundle = archive.read(shipped()["half_turn"])
        subject = subject_of(Bundle(turned(bundle.wrinkle), bundle.assets), size=Size(160, 90))
        (found,) = CHECKS["bare"].find(subject)
        self.assertEqual(list(CHECKS["bare"].find(subject.changed(found.mends[0].apply()))), [])
