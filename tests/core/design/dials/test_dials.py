"""Dials: what they drive, what they give, what is refused, and what becomes of them in edits."""

import unittest
from fractions import Fraction
from pathlib import Path

import numpy as np
from msgspec.structs import replace
from scipy.optimize import brentq

from tests.core.design.wrinkles import FRAME, turning
from wrinkle.core.design.dials import dial_edits
from wrinkle.core.design.dials.driving import dial_of, driven
from wrinkle.core.design.document import coding
from wrinkle.core.design.document.dials import WRINKLE, Dial, Drive, How
from wrinkle.core.design.document.driven import driven_label, drivers_of
from wrinkle.core.design.document.named_dials import ChoiceDial, ColourDial, SwitchDial, WordsDial
from wrinkle.core.design.document.ranged_dials import AmountDial, SeedDial, TimeDial
from wrinkle.core.design.document.resting import rest_of
from wrinkle.core.design.document.setting import Jitter, Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import WordsSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import effect_edits, grouping, lane_edits, layer_edits
from wrinkle.core.design.edits.layer_copies import duplicate
from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Bezier
from wrinkle.files import archive

KEPT = Path(__file__).parents[1] / "document" / "kept" / "format_2.wrinkle"
ROTATION = SettingRef("turn", "rotation")


def dialled(*dials: Dial) -> Wrinkle:
    """A turn with a glow and a trembling place, and words, under some dials."""
    wrinkle = layer_edits.add_layer(turning(), "Words", WordsSource("Now"))
    wrinkle, _ = effect_edits.add_effect(wrinkle, "turn", "glow")
    jitter = Jitter(Setting(0.02), seed=5)
    wrinkle = lane_edits.set_jitter(wrinkle, SettingRef("turn", "position"), jitter)
    return replace(wrinkle, dials=dials)


GLOW = str(dialled().layer("turn").effects[0].address("amount"))
TINT = str(dialled().layer("turn").effects[0].address("tint"))


class Turned(unittest.TestCase):
    def value(self, wrinkle: Wrinkle, key: str, dial: str, value: object, layer="turn") -> object:  # type: ignore[no-untyped-def]
        plain = driven(wrinkle, {dial: value}).wrinkle  # type: ignore[dict-item]
        self.assertEqual(plain.dials, ())
        return plain.layer(layer).setting(key).rest

    def test_at_their_defaults_nothing_changes(self) -> None:
        kept = archive.read(KEPT).wrinkle
        plain = driven(kept, {}).wrinkle
        self.assertEqual(plain, replace(kept, dials=()))
        at_default = {dial.id: dial.default for dial in kept.dials}
        self.assertEqual(driven(kept, at_default), driven(kept, {}))

    def test_set_gives_what_lies_between_its_ends_by_its_ease(self) -> None:
        drive = Drive("turn", GLOW, How.SET, 100.0, 300.0)
        wrinkle = dialled(AmountDial("d", "Glow", drives=(drive,), default=25.0))
        self.assertEqual(self.value(wrinkle, GLOW, "d", 50.0), 200.0)
        eased = replace(drive, ease=Bezier(0.5, 0.0, 1.0, 0.5))
        bent = replace(wrinkle, dials=(replace(wrinkle.dials[0], drives=(eased,)),))
        found = self.value(bent, GLOW, "Glow", "50")
        # CSS Easing Functions Level 1: cubic-bezier(0.5, 0, 1, 0.5) at 0.5, by SciPy's brentq.
        u = brentq(lambda u: 1.5 * u * (1 - u) ** 2 + 3 * u * u * (1 - u) + u**3 - 0.5, 0.0, 1.0)
        share = 1.5 * u * u * (1 - u) + u**3
        self.assertAlmostEqual(found, 100.0 + 200.0 * share, delta=1e-6)  # type: ignore[arg-type]

    def test_times_and_plus_change_every_keyframe_in_the_order_of_the_dials(self) -> None:
        times = AmountDial("t", "Times", drives=(Drive("turn", "rotation", How.TIMES, 0.0, 2.0),),
                           low=0.0, high=200.0)  # fmt: skip
        plus = AmountDial("p", "Plus", drives=(Drive("turn", "rotation", How.PLUS, 0.0, 40.0),),
                          default=0.0)  # fmt: skip
        for dials, wanted in (((times, plus), [20.0, 65.0]), ((plus, times), [10.0, 55.0])):
            found = driven(dialled(*dials), {"t": 50.0, "p": 50.0}).wrinkle
            track = ROTATION.of(found).track
            self.assertEqual([key.value for key in track.keys] if track else [], wanted)

    def test_times_acts_on_how_far_a_setting_is_from_rest(self) -> None:
        # 130 % is 30 from rest: half of it is 115, twice 160; what is smaller shrinks by a power.
        for how, own, wanted in (
            (How.TIMES, 130.0, {50.0: 115.0, 0.0: 100.0, 200.0: 160.0}),
            (How.TIMES, 50.0, {50.0: 100.0 * 0.5**0.5, 0.0: 100.0, 200.0: 25.0}),
            (How.TIMES_ALL, 130.0, {50.0: 65.0, 200.0: 260.0}),
        ):
            drive = Drive("turn", "scale", how, 0.0, 2.0)
            wrinkle = dialled(AmountDial("z", "Zoom", drives=(drive,), high=200.0))
            wrinkle = lane_edits.set_value(
                wrinkle, SettingRef("turn", "scale"), Fraction(0), (own, own)
            )
            for value, expected in wanted.items():
                found = driven(wrinkle, {"z": value}).wrinkle.layer("turn").placement.scale.rest
                with self.subTest(how=how, own=own, value=value):
                    np.testing.assert_allclose(found, (expected, expected), atol=1e-9)

    def test_what_lets_parts_of_a_picture_go_has_no_rest(self) -> None:
        self.assertEqual(rest_of(dialled().layer("turn"), "scale"), (100.0, 100.0))
        self.assertIsNone(rest_of(dialled().layer("words"), "scale"))
        self.assertIsNone(rest_of(dialled().layer("turn"), "opacity"))

    def test_what_is_driven_stays_within_its_range(self) -> None:
        drive = Drive("turn", GLOW, How.TIMES, 0.0, 100.0)
        wrinkle = dialled(AmountDial("d", "Glow", drives=(drive,), high=100.0, default=1.0))
        self.assertEqual(self.value(wrinkle, GLOW, "d", 100.0), 1000.0)

    def test_each_kind_gives_what_it_is(self) -> None:
        wrinkle = dialled(
            ChoiceDial("c", "Feel", drives=(Drive("turn", GLOW, values=(150.0, 20.0)),
                                            Drive("turn", "blend", values=("normal", "screen"))),
                       options=("calm", "loud"), default="calm"),
            ColourDial("k", "Tint", drives=(Drive("turn", TINT),)),
            WordsDial("w", "Line", drives=(Drive("words", "source.text"),), default="Now"),
            SwitchDial("s", "Words", drives=(Drive("words", "visible", values=(False, True)),),
                       default=True),
            SeedDial("r", "Chance", drives=(Drive("turn", "position", How.PLUS),)),
        )  # fmt: skip
        self.assertEqual(self.value(wrinkle, GLOW, "c", "Loud"), 20.0)
        self.assertEqual(self.value(wrinkle, "blend", "c", "loud"), "screen")
        # IEC 61966-2-1: 128 of 255 is 0.2158605 in linear light.
        tint = self.value(wrinkle, TINT, "k", "#ff8000")
        for part, wanted in zip(tint, (1.0, 0.2158605, 0.0), strict=True):  # type: ignore[call-overload]
            self.assertAlmostEqual(part, wanted, delta=1e-6)
        self.assertIs(self.value(wrinkle, "visible", "s", "off", "words"), False)
        text = driven(wrinkle, {"w": "Then"}).wrinkle.layer("words").source
        self.assertEqual(getattr(text, "text", ""), "Then")
        seeds = [
            driven(wrinkle, {"r": n}).wrinkle.layer("turn").setting("position").jitter
            for n in (0, 1, 2)
        ]
        self.assertEqual(len({jitter.seed for jitter in seeds if jitter}), 3)
        self.assertEqual(seeds[0], wrinkle.layer("turn").setting("position").jitter)

    def test_lengths_and_shutter_belong_to_the_whole(self) -> None:
        wrinkle = dialled(
            TimeDial(id="l", name="Pace", low=Fraction(1, 5), high=Fraction(3, 5),
                     default=Fraction(2, 5), drives=(Drive(WRINKLE, "lead", How.SET, 0.2, 0.6),)),
            AmountDial("s", "Blur", drives=(Drive(WRINKLE, "shutter_angle", How.SET, 0.0, 360.0),),
                       default=50.0),
        )  # fmt: skip
        found = driven(wrinkle, {"l": Fraction(7, 15), "s": 100.0})
        self.assertEqual((found.lead, found.tail), (Fraction(7, 15), wrinkle.tail))
        self.assertEqual(found.wrinkle.shutter_angle, 360.0)
        self.assertEqual(driven(wrinkle, {"Pace": "0.5"}).lead, Fraction(1, 2))

    def test_a_wrong_name_or_value_lists_the_right_ones(self) -> None:
        wrinkle = archive.read(KEPT).wrinkle
        for word, value, told in (
            ("loudness", 1.0, "no dial 'loudness'; it has 'Violent', 'Pace', 'Feel'"),
            ("violent", 300.0, "Violent takes a number from 0 to 200 %, not '300.0'"),
            ("violent", "nan", "Violent takes a number"),
            ("pace", "soon", "Pace takes seconds from 0.2 to 0.6, not 'soon'"),
            ("feel", "wild", "Feel is one of calm, loud, not 'wild'"),
            ("word", "maybe", "With words is on or off, not 'maybe'"),
            ("tint", "red", "Tint takes a colour, such as #e0a030, not 'red'"),
            ("chance", 1.5, "Chance takes a whole number from 0 to 9999"),
        ):
            with self.subTest(word, value=value), self.assertRaises(InputError) as caught:
                driven(wrinkle, {word: value})
            self.assertIn(told, str(caught.exception))
        self.assertEqual(dial_of(wrinkle, "With Words").id, "word")


class Refused(unittest.TestCase):
    def test_what_no_dial_can_drive_is_refused_by_name(self) -> None:
        def amount(*drives: Drive, **fields: object) -> AmountDial:
            return AmountDial("d", "Much", drives=drives, **fields)  # type: ignore[arg-type]

        glow = Drive("turn", GLOW, How.SET, 0.0, 100.0)
        for told, dials in (
            ("drives 'opacity' of 'nobody', which does not", [amount(Drive("nobody", "opacity"))]),
            ("is animated and cannot be set", [amount(Drive("turn", "rotation"))]),
            ("needs a number to drive", [amount(Drive("turn", "blend"))]),
            ("Opacity must be within 0 and 100", [amount(Drive("turn", "opacity", end=101.0))]),
            ("adds to Position what is of its kind",
             [amount(Drive("turn", "position", How.PLUS))]),
            ("gives 0 times Rotation at its default",
             [amount(Drive("turn", "rotation", How.TIMES), default=0.0)]),
            ("is set by a dial already", [amount(glow), replace(amount(glow), id="e")]),
            ("is a colour; Opacity is none",
             [ColourDial("d", "Tint", drives=(Drive("turn", "opacity"),))]),
            ("is no text", [WordsDial("d", "Line", drives=(Drive("turn", "opacity"),))]),
            ("is a seed; Opacity has none",
             [SeedDial("d", "Chance", drives=(Drive("turn", "opacity", How.PLUS),))]),
            ("can drive lead and tail",
             [TimeDial(id="d", name="Long", low=Fraction(0), high=Fraction(1), default=Fraction(0),
                       drives=(Drive("turn", GLOW),))]),
            ("The dial 'd' occurs twice", [amount(), amount()]),
        ):  # fmt: skip
            with self.subTest(told), self.assertRaises(InputError) as caught:
                dialled(*dials)
            self.assertIn(told, str(caught.exception))

    def test_impossible_dials_are_refused(self) -> None:
        for told, make in (
            ("needs a lower end", lambda: AmountDial("d", "Much", low=5.0, high=5.0)),
            ("must be a finite number", lambda: AmountDial("d", "Much", step=float("nan"))),
            ("two options or more", lambda: ChoiceDial("d", "Feel", options=("a", "a"))),
            ("must be one of its options", lambda: ChoiceDial("d", "Feel", default="C")),
            ("a value for each of its 2",
             lambda: SwitchDial("d", "On", drives=(Drive("turn", "visible"),))),
            ("cannot act by times",
             lambda: ColourDial("d", "Tint", drives=(Drive("turn", TINT, How.TIMES),))),
            ("needs an id and a name", lambda: WordsDial("d", " ")),
        ):  # fmt: skip
            with self.subTest(told), self.assertRaises(InputError) as caught:
                make()
            self.assertIn(told, str(caught.exception))


class Edited(unittest.TestCase):
    def wrinkle(self) -> Wrinkle:
        drives = (Drive("turn", GLOW, How.SET, 0.0, 300.0), Drive("words", "opacity", end=100.0))
        return dialled(AmountDial("d", "Much", drives=drives, default=50.0))

    def test_removing_takes_the_drives_along_and_empty_dials(self) -> None:
        wrinkle = self.wrinkle()
        fewer = layer_edits.remove_layer(wrinkle, "words")
        self.assertEqual([drive.layer for drive in fewer.dials[0].drives], ["turn"])
        use = fewer.layer("turn").effects[0].id
        self.assertEqual(effect_edits.remove_effect(fewer, "turn", use).dials, ())
        seed = dialled(SeedDial("r", "Chance", drives=(Drive("turn", "position", How.PLUS),)))
        still = lane_edits.set_jitter(seed, SettingRef("turn", "position"), None)
        self.assertEqual(still.dials, ())

    def test_a_copy_is_driven_as_the_original(self) -> None:
        copied = duplicate(self.wrinkle(), "turn")
        self.assertEqual(
            [drive.layer for drive in copied.dials[0].drives], ["turn", "words", "turn-copy"]
        )
        found = driven(copied, {"d": 100.0}).wrinkle
        self.assertEqual(found.layer("turn-copy").setting(GLOW).rest, 300.0)

    def test_grouping_and_saving_keep_dials(self) -> None:
        wrinkle = self.wrinkle()
        grouped = grouping.group_layers(wrinkle, ["turn", "words"])
        self.assertEqual(grouped.dials, wrinkle.dials)
        self.assertEqual(coding.decode(coding.encode(grouped)), grouped)

    def test_a_setting_that_is_set_is_told_by_its_dial(self) -> None:
        wrinkle = self.wrinkle()
        (driving,) = drivers_of(wrinkle.dials, "turn", GLOW)
        self.assertEqual(driving.dial.name, "Much")
        self.assertEqual(driven_label(wrinkle.layers, driving.drive), "Turn · Glow · Amount")
        with self.assertRaisesRegex(InputError, "Amount is set by the dial 'Much'"):
            lane_edits.set_value(wrinkle, SettingRef("turn", GLOW), FRAME, 20.0)
        with self.assertRaisesRegex(InputError, "cannot be animated"):
            lane_edits.make_lane(wrinkle, SettingRef("turn", GLOW), FRAME)


class Offered(unittest.TestCase):
    def offered(self, key: str, layer: str = "turn") -> Dial:
        wrinkle, dial = dial_edits.offer(dialled(), layer, key)
        found = dial_edits.dial_with(wrinkle, dial)
        self.assertEqual(driven(wrinkle, {}).wrinkle, replace(wrinkle, dials=()))
        return found

    def test_each_setting_gets_a_dial_of_the_kind_that_fits_it(self) -> None:
        for layer, key, kind in (
            ("turn", GLOW, AmountDial), ("turn", "rotation", AmountDial),
            ("turn", "scale", AmountDial), ("turn", "position.jitter", AmountDial),
            ("turn", TINT, ColourDial), ("turn", "blend", ChoiceDial),
            ("turn", "visible", SwitchDial), ("words", "source.text", WordsDial),
            (WRINKLE, "shutter_angle", AmountDial), (WRINKLE, "lead", TimeDial),
        ):  # fmt: skip
            self.assertIsInstance(self.offered(key, layer), kind, key)
        glow = self.offered(GLOW)
        assert isinstance(glow, AmountDial)
        self.assertEqual((glow.low, glow.high, glow.default), (0.0, 300.0, 150.0))
        turn = self.offered("rotation")
        self.assertEqual(turn.drives[0].how, How.TIMES)
        with self.assertRaisesRegex(InputError, "is set by a dial already"):
            dial_edits.offer(dial_edits.offer(dialled(), "turn", GLOW)[0], "turn", GLOW)

    def test_two_settings_on_one_dial_move_together(self) -> None:
        wrinkle, dial = dial_edits.offer(dialled(), "turn", GLOW)
        wrinkle = dial_edits.add_drive(wrinkle, dial, "turn", "rotation")
        found = driven(wrinkle, {dial: 75.0}).wrinkle
        self.assertEqual(found.layer("turn").setting(GLOW).rest, 75.0)
        track = ROTATION.of(found).track
        self.assertEqual([key.value for key in track.keys] if track else [], [0.0, 45.0])
        with self.assertRaisesRegex(InputError, "needs a number to drive; Blend is none"):
            dial_edits.add_drive(wrinkle, dial, "turn", "blend")

    def test_another_default_or_range_gives_the_setting_its_value(self) -> None:
        wrinkle, dial = dial_edits.offer(dialled(), "turn", GLOW)
        wrinkle = dial_edits.change_dial(wrinkle, dial, default=90.0)
        self.assertEqual(wrinkle.layer("turn").setting(GLOW).rest, 90.0)
        wrinkle = dial_edits.change_drive(wrinkle, dial, 0, end=600.0)
        self.assertEqual(wrinkle.layer("turn").setting(GLOW).rest, 180.0)
        self.assertEqual(driven(wrinkle, {}).wrinkle, replace(wrinkle, dials=()))
        self.assertEqual(dial_edits.remove_drive(wrinkle, dial, 0).dials, ())

    def test_order_seeds_and_names(self) -> None:
        wrinkle, first = dial_edits.offer(dialled(), "turn", "rotation")
        wrinkle, second = dial_edits.offer(wrinkle, "words", "rotation")
        self.assertEqual([x.name for x in wrinkle.dials], ["Rotation", "Rotation 2"])
        moved = dial_edits.move_dial(wrinkle, second, -5)
        self.assertEqual([x.id for x in moved.dials], [second, first])
        seeded, seed = dial_edits.offer_seed(wrinkle)
        self.assertEqual([x.key for x in dial_edits.dial_with(seeded, seed).drives], ["position"])
        with self.assertRaisesRegex(InputError, "Nothing in this wrinkle is random"):
            dial_edits.offer_seed(turning())
