import unittest
from fractions import Fraction

from wrinkle.core.errors import InputError
from wrinkle.core.motion.feels import FEELS
from wrinkle.core.motion.seam import met_at_cut, seam_fault
from wrinkle.core.motion.track import CUT, IncomingHalf, Keyframe, Side, Track

FRAME = Fraction(1, 30)


def zoom(ease: str, end: float = 300.0) -> Track:
    return Track((
        Keyframe(-10 * FRAME, 100.0, FEELS["rush"]),
        Keyframe(CUT, 200.0, FEELS[ease]),
        Keyframe(8 * FRAME, end),
    ))  # fmt: skip


class Seams(unittest.TestCase):
    def test_a_kink_and_a_jump_are_told(self) -> None:
        fault = seam_fault(zoom("gentle"), 100.0)
        self.assertIsNone(fault.jump)
        self.assertGreater(fault.speeds[0], 2 * fault.speeds[1])
        jump = Track((Keyframe(-FRAME, 0.0), Keyframe(CUT, 5.0), Keyframe(CUT, 9.0)))
        self.assertEqual(seam_fault(jump, 0.0).jump, 4.0)

    def test_carry_on_is_whole_and_return_turns_back(self) -> None:
        keys = (Keyframe(-FRAME, 0.0), Keyframe(CUT, 5.0))
        self.assertIsNone(seam_fault(Track(keys, IncomingHalf.CARRY_ON), 0.0))
        turned = seam_fault(Track(keys, IncomingHalf.RETURN), 0.0)
        self.assertEqual((turned.jump, turned.speeds), (None, (150.0, -150.0)))

    def test_both_sides_meet_with_the_same_speed(self) -> None:
        for ease in ("gentle", "brake", "spring", "steady", "hold"):
            met = met_at_cut(zoom(ease), 100.0)
            before = met.speed_at(CUT, 100.0, Side.OUTGOING)
            self.assertAlmostEqual(met.speed_at(CUT, 100.0, Side.INCOMING), before, delta=1e-9)
            self.assertIsNone(seam_fault(met, 100.0))
        pairs = Track((
            Keyframe(-FRAME, (0.0, 0.0)), Keyframe(CUT, (0.0, 6.0), FEELS["gentle"]),
            Keyframe(FRAME, (0.0, 9.0)),
        ))  # fmt: skip
        speed = met_at_cut(pairs, (0.0, 0.0)).speed_at(CUT, (0.0, 0.0), Side.INCOMING)
        self.assertAlmostEqual(speed[1], 180.0, delta=1e-9)

    def test_what_cannot_meet_says_why(self) -> None:
        keys = (Keyframe(-FRAME, 0.0), Keyframe(CUT, 5.0))
        for track, told in (
            (Track(keys, IncomingHalf.RETURN), "make it its own"),
            (Track(keys), "needs a pin at the cut and one after it"),
            (zoom("gentle", 200.0), "stands still"),
        ):
            with self.subTest(told), self.assertRaisesRegex(InputError, told):
                met_at_cut(track, 0.0)
