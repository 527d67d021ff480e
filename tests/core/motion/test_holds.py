"""What an open shutter sees of lanes that hold, against walking there in small steps."""

import random
import unittest
from fractions import Fraction

from wrinkle.core.motion.ease_curves import Hold, Jump, Linear, Steps
from wrinkle.core.motion.holds import unbroken
from wrinkle.core.motion.track import IncomingHalf, Keyframe, Side, Track
from wrinkle.core.motion.values import Value

STEP = Fraction(1, 20_000)
JUMP = 2.0
"""More than any value moves in a step, and less than any hold jumps by."""
REST = 0.0


def walked(track: Track, frame: Fraction, time: Fraction) -> float:
    """The value that is reached from a frame without going over a jump."""
    side = Side.of(frame)

    def value(at: Fraction) -> float:
        found: Value = track.value_at(at, REST, side)
        assert isinstance(found, float)
        return found

    way, at, last = STEP if time > frame else -STEP, frame, value(frame)
    while at != time:
        following = min(at + way, time) if way > 0 else max(at + way, time)
        now = value(following)
        if abs(now - last) > JUMP:
            return last
        at, last = following, now
    return last


def random_track(dice: random.Random) -> Track:
    times = sorted(dice.sample(range(-12, 1), dice.randint(2, 5)))
    half = dice.choice(list(IncomingHalf))
    if half is IncomingHalf.OWN:
        times += sorted(dice.sample(range(1, 13), dice.randint(1, 3)))
    eases = (Hold(), Hold(early=True), Linear(), *(Steps(3, jump) for jump in Jump))
    values = [dice.choice((-40.0, 0.0, 30.0, 90.0)) for _ in times]
    for place in range(1, len(values)):
        if values[place] == values[place - 1]:
            values[place] += 25.0
    keys = (
        Keyframe(Fraction(n, 60), value, dice.choice(eases))
        for n, value in zip(times, values, strict=True)
    )
    return Track(tuple(keys), half)


class Holds(unittest.TestCase):
    def test_a_shutter_sees_what_is_reached_without_a_jump(self) -> None:
        dice = random.Random(7)
        checked = 0
        for _ in range(60):
            track = random_track(dice)
            for _ in range(4):
                frame = Fraction(dice.randint(-9, 9), 60) + dice.choice((0, Fraction(1, 240)))
                time = frame + Fraction(dice.randint(-100, 100), 6000)
                if Side.of(time) is not Side.of(frame) or frame == 0:
                    # Across the cut a motion goes on as that of its own side; tracks say how.
                    continue
                seen = track.value_at(unbroken(track, time, frame), REST, Side.of(frame))
                with self.subTest(track=track, frame=str(frame), time=str(time)):
                    self.assertAlmostEqual(seen, walked(track, frame, time), delta=1.0)
                checked += 1
        self.assertGreater(checked, 100)

    def test_a_hold_at_the_cut_is_seen_from_its_own_side(self) -> None:
        keys = (Keyframe(Fraction(-1, 5), 10.0, Hold()), Keyframe(Fraction(0), 50.0))
        for half in (IncomingHalf.RETURN, IncomingHalf.OWN):
            track = Track(keys, half)
            for away in (-1, 1):
                time = unbroken(track, Fraction(away, 240), Fraction(0))
                self.assertEqual(track.value_at(time, REST, Side.INCOMING), 50.0)

    def test_what_only_moves_is_seen_where_it_is(self) -> None:
        keys = (Keyframe(Fraction(-1, 5), 10.0), Keyframe(Fraction(0), 50.0))
        time = Fraction(-1, 7)
        self.assertEqual(unbroken(Track(keys), time, Fraction(-1, 6)), time)
