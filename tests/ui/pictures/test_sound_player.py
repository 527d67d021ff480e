"""The device is the clock: pictures follow what it has played, and go on where it is gone."""

import unittest
from fractions import Fraction

import numpy as np

from tests.ui.null_device import NullDevice
from tests.ui.window_case import application, settle, wait_for
from wrinkle.core.sound.heard import Mix, MixPart
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples
from wrinkle.core.time.rate import FrameRate
from wrinkle.ui.desk.sound_settings import SoundSettings
from wrinkle.ui.pictures.player import Player
from wrinkle.ui.pictures.sound_player import LOST, NO_DEVICE, SoundPlayer

RATE = FrameRate.of(30)
WRAP = 1 << 22
LOUD = range(0, 1 << 40)


class Numbered:
    """Each sample says its number, as far as a float can."""

    def samples(self, start: int, count: int) -> Samples:
        numbers = (start + np.arange(count)) % WRAP / WRAP
        return np.stack([numbers, numbers], 1).astype(np.float32)


def mix() -> Mix:
    return Mix((MixPart(Numbered(), 0, LOUD),), LOUD)


class Following(unittest.TestCase):
    def setUp(self) -> None:
        application()
        self.now = 50.0
        self.device = NullDevice(lambda: self.now)
        self.settings = SoundSettings()
        self.sound = SoundPlayer(self.device, self.settings, clock=lambda: self.now)
        self.player = Player(sound=self.sound)
        self.addCleanup(self.sound.close)
        self.addCleanup(self.player.stop)
        self.told: list[str] = []
        self.sound.told.connect(self.told.append)

    def begin(self, frames: range, start: int = 0, heard: bool = True) -> None:
        if heard:
            self.sound.set_heard(mix)
        self.player.set_frames(frames, RATE)
        self.player.play(start)

    def hear(self) -> float:
        """Lets time pass until something is heard; the frame that it belongs to."""

        def later() -> bool:
            self.now += 0.001
            return self.played() is not None

        wait_for(later, "something is heard")
        found = self.played()
        assert found is not None
        return found

    def played(self) -> float | None:
        """The frame whose sound was heard last, from the sample itself."""
        waiting = self.device.waiting
        heard = self.device.heard[: len(self.device.heard) - waiting, 0]
        loud = np.flatnonzero(heard)
        return float(heard[loud[-1]]) * WRAP / 1600.0 if len(loud) else None

    def test_pictures_are_where_the_sound_is_over_ten_minutes(self) -> None:
        self.begin(range(0, 30_000))
        self.device.waiting  # noqa: B018 - the device takes its first samples
        farthest = 0.0
        for step in range(6_000):
            # Once in a while the machine is busy for a second.
            self.now += 1.1 if step % 500 == 499 else 0.1
            heard = self.played()
            if heard is not None and step > 20:
                away = abs((self.player.position - heard + 1310.72) % 2621.44 - 1310.72)
                farthest = max(farthest, away)
            self.device.taken[:-1] = []
            if step % 50 == 0:
                settle()
        self.assertLess(farthest, 1.0)

    def test_the_device_goes_and_comes_back(self) -> None:
        self.begin(range(0, 900))
        self.hear()
        before = self.player.position
        self.device.lost()
        wait_for(lambda: not self.sound.sounds, "the machine's own clock")
        self.assertEqual(self.told, [LOST])
        self.now += 1.0
        self.assertAlmostEqual(self.player.position, before + 30.0, delta=2.0)
        self.device.changed()
        self.assertTrue(self.sound.sounds)
        # It goes on where the pictures are.
        self.assertAlmostEqual(self.hear(), self.player.position, delta=2.0)
        self.assertEqual(len(self.told), 1)

    def test_without_a_device_it_is_said_once_and_pictures_play(self) -> None:
        self.device.there = False
        for _ in range(3):
            self.begin(range(0, 900), 30)
            self.now += 1.0
            self.assertAlmostEqual(self.player.position, 60.0, delta=1e-6)
            self.player.stop()
        self.assertEqual(self.told, [NO_DEVICE])

    def test_what_nobody_plays_is_not_made(self) -> None:
        asked: list[int] = []

        def made() -> Mix:
            asked.append(1)
            return mix()

        for _ in range(3):
            self.sound.set_heard(made)
        self.assertEqual(asked, [])
        self.begin(range(0, 900), heard=False)
        self.assertTrue(self.sound.sounds)
        self.sound.set_heard(made)
        self.assertEqual(len(asked), 2)

    def test_slow_is_silent_or_heard_as_one_likes(self) -> None:
        self.begin(range(0, 900))
        self.player.set_speed(0.5)
        self.assertFalse(self.sound.sounds)
        self.settings.choose(slow=True)
        self.assertTrue(self.sound.sounds)
        self.settings.choose(slow=False)
        self.assertFalse(self.sound.sounds)
        before = self.player.position
        self.now += 1.0
        self.assertAlmostEqual(self.player.position - before, 15.0, delta=1e-6)

    def test_level_and_mute_reach_the_device(self) -> None:
        self.begin(range(0, 900))
        self.settings.choose(level=50.0)
        self.assertAlmostEqual(self.device.level, 0.25)
        self.settings.choose(muted=True)
        self.assertEqual(self.device.level, 0.0)
        self.settings.choose(muted=False, level=300.0)
        self.assertEqual((self.device.level, self.settings.level), (1.0, 100.0))

    def test_what_becomes_silent_and_loud_again_goes_on_without_a_jump(self) -> None:
        self.begin(range(0, 900), heard=False)
        self.assertFalse(self.sound.sounds)
        self.now += 1.0
        self.sound.set_heard(mix)
        self.assertTrue(self.sound.sounds)
        self.assertAlmostEqual(self.player.position, 30.0, delta=0.5)
        self.sound.set_heard(lambda: Mix((), LOUD))
        self.assertFalse(self.sound.sounds)
        self.assertAlmostEqual(self.player.position, 30.0, delta=0.5)
        self.now += float(Fraction(1, 3))
        self.assertAlmostEqual(self.player.position, 40.0, delta=0.5)


assert SAMPLE_RATE // 30 == 1600
