"""The settings of a wrinkle's sounds: lanes, dials, mirrors, strength, and what air follows."""

import unittest
from fractions import Fraction

import numpy as np
from msgspec.structs import replace
from scipy import signal, stats

from wrinkle.core.design.dials import dial_edits
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sounds import MovedBy
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import (
    lane_edits,
    layer_edits,
    retiming,
    sound_edits,
    wrinkle_edits,
)
from wrinkle.core.design.edits.mirroring import mirrored_wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.feels import FEELS
from wrinkle.core.motion.track import CUT, IncomingHalf, Keyframe, Track
from wrinkle.core.reuse.strength import with_strength
from wrinkle.core.reuse.use import Choices, Use, resolved
from wrinkle.core.sound.mixing import PlacedSound, WrinkleSounds
from wrinkle.core.sound.motion import movement
from wrinkle.core.sound.seen_motion import drawn_movement, seen_movement
from wrinkle.core.sound.tone import cut
from wrinkle.core.synthesis.made_sounds import AIR, HIT, TICK
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.core.time.rate import FrameRate


def sounding(kind: str, **values: object) -> Wrinkle:
    wrinkle, new = sound_edits.add_sound(plain_cut(), kind)
    return sound_edits.rest_at(wrinkle, new, **values)


def whole(wrinkle: Wrinkle) -> np.ndarray:
    sounds = WrinkleSounds(wrinkle)
    return sounds.samples(sounds.span.start, len(sounds.span)).astype(float)


def decibels(samples: np.ndarray) -> float:
    return 10.0 * np.log10((samples**2).mean() + 1e-12)


def whipped(way: float, feel: str = "rush", key: str = "position") -> Wrinkle:
    """Both clips go on through the cut, a whole frame to a side."""
    length = Fraction(1, 2)
    wrinkle = wrinkle_edits.set_length(plain_cut(), length, length)
    goal = (way, 0.0) if key == "position" else way
    for layer in wrinkle.layers:
        setting = layer.setting(key)
        first = Keyframe(-length, setting.rest, FEELS[feel])
        track = Track((first, Keyframe(CUT, goal)), IncomingHalf.CARRY_ON)
        wrinkle = lane_edits.with_track(wrinkle, SettingRef(layer.id, key), track)
    return wrinkle


class Settings(unittest.TestCase):
    def test_a_lane_of_the_level_is_heard_where_its_pins_stand(self) -> None:
        wrinkle = sounding(HIT, length=0.4)
        ref = SettingRef("hit", "level")
        plain = whole(wrinkle)
        track = Track((Keyframe(CUT, -9.0), Keyframe(Fraction(1, 5), -29.0)))
        moved = whole(lane_edits.with_track(wrinkle, ref, track))
        ratio = 20.0 * np.log10(
            np.maximum(np.abs(moved[:, 0]), 1e-9) / np.maximum(np.abs(plain[:, 0]), 1e-9)
        )
        loud = np.abs(plain[:, 0]) > 0.01
        for seconds, wanted in ((0.05, -5.0), (0.1, -10.0), (0.15, -15.0)):
            at = round(seconds * SAMPLE_RATE)
            near = ratio[at - 200 : at + 200][loud[at - 200 : at + 200]]
            self.assertAlmostEqual(float(np.median(near)), wanted, delta=0.3)
        formula = lane_edits.set_formula(wrinkle, ref, "-9 - 50 * (t + fabs(t))")
        np.testing.assert_allclose(whole(formula)[:9000], moved[:9000], atol=2e-3)
        self.assertEqual(formula.owner("hit").lanes(), ())

    def test_a_dial_turns_a_sound_off_and_a_sound_that_goes_takes_its_drive(self) -> None:
        wrinkle, dial = dial_edits.offer(sounding(TICK), "tick", "heard")
        self.assertTrue(whole(wrinkle).any())
        use = Use(wrinkle, {}, Choices(dials={dial: False}))
        self.assertFalse(whole(resolved(use, wrinkle.frame_rate)).any())
        self.assertEqual(sound_edits.remove_sound(wrinkle, "tick").dials, ())
        with self.assertRaisesRegex(InputError, "set by the dial"):
            lane_edits.set_value(wrinkle, SettingRef("tick", "heard"), CUT, False)

    def test_pan_has_the_same_power_and_a_mirror_changes_the_speakers(self) -> None:
        middle = whole(sounding(HIT))
        np.testing.assert_array_equal(middle[:, 0], middle[:, 1])
        for pan in (-100.0, -35.0, 60.0):
            wrinkle = sounding(HIT, pan=pan)
            found = whole(wrinkle)
            self.assertAlmostEqual(decibels(found), decibels(middle), delta=0.01)
            self.assertEqual(decibels(found[:, 1]) > decibels(found[:, 0]), pan > 0)
            turned = whole(mirrored_wrinkle(wrinkle, Direction.LEFT_RIGHT))
            np.testing.assert_allclose(turned[:, ::-1], found, atol=1e-6)
            same = whole(mirrored_wrinkle(wrinkle, Direction.UP_DOWN))
            np.testing.assert_array_equal(same, found)

    def test_cuts_are_those_of_scipy_and_follow_a_lane(self) -> None:
        noise = np.random.default_rng(3).standard_normal((SAMPLE_RATE, 2)).astype(np.float32)
        for low, high, kind, hertz in ((300.0, 20_000.0, "high", 300.0),
                                       (20.0, 1_500.0, "low", 1_500.0)):  # fmt: skip
            # SciPy's Butterworth of the second order, run sample by sample.
            wanted = signal.sosfilt(signal.butter(2, hertz, kind, fs=SAMPLE_RATE, output="sos"),
                                    noise, axis=0)  # fmt: skip
            found = cut(noise, low, high, 20.0, 20_000.0)
            np.testing.assert_allclose(found, wanted, atol=2e-4)
        self.assertIs(cut(noise, 20.0, 20_000.0, 20.0, 20_000.0), noise)
        falling = np.geomspace(8_000.0, 400.0, SAMPLE_RATE)
        moving = cut(noise, 20.0, falling, 20.0, 20_000.0)
        for place in (6_000, 24_000, 42_000):
            part = moving[place - 2_000 : place + 2_000, 0]
            hertz, power = signal.welch(part, SAMPLE_RATE, nperseg=1024)
            edge = falling[place]
            passed = power[(hertz > 60) & (hertz < 0.5 * edge)].mean()
            above = power[(hertz > 2.5 * edge) & (hertz < 5.0 * edge)].mean()
            self.assertGreater(10 * np.log10(passed / above), 14.0)

    def test_strength_is_heard(self) -> None:
        wrinkle = sounding(TICK)
        for percent, wanted in ((50.0, -6.02), (200.0, 6.02)):
            louder = whole(with_strength(wrinkle, percent))
            self.assertAlmostEqual(decibels(louder) - decibels(whole(wrinkle)), wanted, delta=0.01)
        self.assertFalse(whole(with_strength(wrinkle, 0.0)).any())

    def test_pins_of_a_sound_stay_where_they_are_in_it(self) -> None:
        wrinkle = sound_edits.change_sound(sounding(HIT), "hit", hit=Fraction(1, 5))
        track = Track((Keyframe(Fraction(1, 5), -9.0), Keyframe(Fraction(3, 10), -20.0)))
        wrinkle = lane_edits.with_track(wrinkle, SettingRef("hit", "level"), track)
        wanted = retiming.Retiming(FrameRate.of(60), wrinkle.lead * 2, wrinkle.tail * 2, True)
        (sound,) = retiming.retime(wrinkle, wanted).sounds
        self.assertEqual(sound.hit, Fraction(2, 5))
        self.assertEqual(sound.length, wrinkle.sounds[0].length)
        keys = sound.level.track.keys if sound.level.track is not None else ()
        self.assertEqual([key.time for key in keys], [Fraction(2, 5), Fraction(1, 2)])

    def test_ids_are_one_among_layers_and_sounds(self) -> None:
        wrinkle = layer_edits.add_layer(sounding(AIR), "Air", plain_cut().layers[0].source)
        self.assertEqual(len({x.id for x in wrinkle.owners}), 4)
        with self.assertRaisesRegex(InputError, "layer or sound 'outgoing' occurs twice"):
            replace(wrinkle, sounds=(replace(wrinkle.sounds[0], id="outgoing"),))


class Air(unittest.TestCase):
    """By motions whose speed is worked out here, apart from the code."""

    def air(self, wrinkle: Wrinkle, seed: float = 1.0, **fields: object) -> Wrinkle:
        wrinkle, new = sound_edits.add_sound(wrinkle, AIR)
        return sound_edits.rest_at(wrinkle, new, seed=seed, **fields)

    def test_its_level_and_its_pitch_follow_the_speed_of_five_motions(self) -> None:
        for feel, way in (("rush", 1.0), ("brake", 1.0), ("surge", -0.6), ("overshoot", 2.0),
                          ("wind up", 0.3)):  # fmt: skip
            wrinkle = whipped(way, feel)
            layer = wrinkle.layer("outgoing")
            times = [Fraction(n, 100) - Fraction(1, 2) for n in range(101)]
            places = []
            for time in times:
                one = layer if time < 0 else wrinkle.layer("incoming")
                places.append(one.placement.position.at(time)[0])  # type: ignore[index]
            steps = np.abs(np.diff(places))
            steps[49:51] = steps[[48, 51]]
            moves = movement(wrinkle, wrinkle.layers, Fraction(-1, 2), Fraction(1), 101)
            middles = (moves.speeds[:-1] + moves.speeds[1:]) / 2
            # Spearman's rank correlation, by SciPy.
            self.assertGreater(stats.spearmanr(middles, steps).statistic, 0.95, feel)
            loud, high = np.zeros(10), np.zeros(10)
            for seed in range(8):
                found = whole(self.air(wrinkle, float(seed), fall=0.0))
                parts = found[: len(found) // 20 * 20].sum(1).reshape(20, -1)[:10]
                power = np.abs(np.fft.rfft(parts * np.hanning(parts.shape[1]), axis=1)) ** 2
                hertz = np.fft.rfftfreq(parts.shape[1], 1 / SAMPLE_RATE)
                loud += power.sum(1)
                high += (power * hertz).sum(1) / np.maximum(power.sum(1), 1e-12)
            # Up to the cut: what follows is as fast again.
            speeds = steps.reshape(20, 5).mean(1)[:10]
            moving = speeds > 0.04 * speeds.max()
            for heard in (loud, high):
                found = stats.spearmanr(heard[moving], speeds[moving]).statistic
                self.assertGreater(found, 0.95, feel)

    def test_it_is_on_the_side_that_the_motion_goes_to(self) -> None:
        for way in (1.0, -1.0):
            wrinkle = self.air(whipped(way))
            found = whole(wrinkle)
            middle = found[len(found) // 3 : -len(found) // 3]
            right = decibels(middle[:, 1]) - decibels(middle[:, 0])
            self.assertGreater(right * way, 3.0)
            turned = whole(mirrored_wrinkle(wrinkle, Direction.LEFT_RIGHT))
            np.testing.assert_allclose(turned[:, ::-1], found, atol=1e-5)
        still = whole(self.air(whipped(1.0), side=0.0))
        np.testing.assert_array_equal(still[:, 0], still[:, 1])

    def test_its_loudest_moment_is_the_cut_and_its_pitch_falls_there(self) -> None:
        power, before, after = np.zeros(0), 0.0, 0.0
        for seed in range(16):
            found = whole(self.air(whipped(1.0), float(seed), side=0.0, fall=12.0))[:, 0]
            power = found**2 if not len(power) else power + found**2
            for part, away in ((0, -4_000), (1, 4_000)):
                around = found[len(found) // 2 + away - 2_000 : len(found) // 2 + away + 2_000]
                hertz, lines = signal.welch(around, SAMPLE_RATE, nperseg=2048)
                middle = float((hertz * lines).sum() / lines.sum())
                before, after = (before + middle, after) if part == 0 else (before, after + middle)
        sounds = WrinkleSounds(self.air(whipped(1.0)))
        self.assertEqual(sounds.span.start + len(sounds.span) // 2, 0)
        self.assertGreater(before / after, 1.3)
        moves = movement(whipped(1.0), whipped(1.0).layers, Fraction(-1, 2), Fraction(1), 1001)
        self.assertLessEqual(abs(int(moves.speeds.argmax()) - 500), 1)
        smooth = np.convolve(power, np.hanning(1200), "same")
        self.assertAlmostEqual(float(smooth.argmax()) - len(power) / 2, 0, delta=0.02 * SAMPLE_RATE)

    def test_it_follows_one_layer_or_all_that_is_seen(self) -> None:
        wrinkle = whipped(1.0)
        turning = layer_edits.add_layer(wrinkle, "Third", wrinkle.layers[0].source)
        ref = SettingRef("third", "position")
        track = Track(
            (Keyframe(Fraction(-2, 5), (-4.0, 0.0)), Keyframe(Fraction(-3, 10), (0.0, 0.0)))
        )
        turning = lane_edits.with_track(turning, ref, track)
        turning = self.air(turning)
        one = sound_edits.follow(turning, "air", MovedBy.LAYER, "third")
        energy = (whole(one) ** 2).sum(1)
        centre = float((np.arange(len(energy)) * energy).sum() / energy.sum()) / SAMPLE_RATE - 0.5
        self.assertAlmostEqual(centre, -0.35, delta=0.02)
        gone = layer_edits.remove_layer(one, "third")
        self.assertEqual((gone.sounds[0].moved_by, gone.sounds[0].layer), (MovedBy.ALL, None))
        with self.assertRaisesRegex(InputError, "follows does not exist"):
            sound_edits.follow(turning, "air", MovedBy.LAYER, "x")
        # Dense flow of the rendered pictures against the lanes' own slopes.
        for way in (0.5, -0.5):
            plain = whipped(way)
            seen = seen_movement(plain, -plain.lead, plain.lead + plain.tail)
            assert seen is not None
            lanes = movement(plain, plain.layers, -plain.lead, plain.lead + plain.tail,
                             len(seen.speeds))  # fmt: skip
            found = stats.spearmanr(seen.speeds, lanes.speeds).statistic
            self.assertGreater(found, 0.95)
            self.assertGreater(float(np.mean(seen.sides)) * way, 0.0)
        self.assertIsNone(seen_movement(plain_cut(), Fraction(-1, 4), Fraction(1, 2)))
        picture = sound_edits.follow(self.air(whipped(0.5)), "air", MovedBy.PICTURE)
        self.assertTrue(np.isfinite(whole(picture)).all())
        self.assertGreater(decibels(whole(picture)), -60.0)
        looked_at = drawn_movement.cache_info().misses
        softer = sound_edits.rest_at(picture, "air", level=-12.0)
        self.assertLess(decibels(whole(softer)), decibels(whole(picture)) - 3.0)
        self.assertEqual(drawn_movement.cache_info().misses, looked_at, "it moves as before")


class Placed(unittest.TestCase):
    def test_a_pitch_that_moves_is_heard(self) -> None:
        wrinkle = sounding(TICK, length=0.5)
        keys = (Keyframe(CUT, 100.0), Keyframe(Fraction(2, 5), 200.0))
        ref = SettingRef("tick", "pitch")
        moved = lane_edits.with_track(wrinkle, ref, Track(keys))
        samples = PlacedSound(moved, moved.sounds[0]).samples[:, 0]
        for seconds, wanted in ((0.01, 2600 * 1.025), (0.03, 2600 * 1.075)):
            at = round(seconds * SAMPLE_RATE)
            part = samples[at - 240 : at + 240]
            crossings = np.flatnonzero(np.diff(np.sign(part)) > 0)
            hertz = SAMPLE_RATE / np.diff(crossings).mean()
            self.assertAlmostEqual(hertz, wanted, delta=60.0)

    def test_what_cannot_be_set_is_one_sentence(self) -> None:
        for values, words in (({"pan": 200.0}, "Hit: Pan must be within -100 and 100 %"),
                              ({"low_cut": 1.0}, "Hit: Low cut"),
                              ({"heard": 1.0}, "Hit: Heard takes yes or no")):  # fmt: skip
            with self.assertRaisesRegex(InputError, words):
                sounding(HIT, **values)
        with self.assertRaisesRegex(InputError, "must be made, or fill a slot"):
            replace(sounding(HIT).sounds[0], made="")
        with self.assertRaisesRegex(InputError, "fills the slot 'x', which does not exist"):
            one = replace(sounding(HIT).sounds[0], made="", slot="x")
            replace(plain_cut(), sounds=(one,))
        self.assertEqual(sounding(HIT).sounds[0].level, Setting(-9.0))
