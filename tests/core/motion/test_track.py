import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Exponential, Hold, Linear
from wrinkle.core.motion.feels import FEELS
from wrinkle.core.motion.track import IncomingHalf, Keyframe, Side, Track

FRAME = Fraction(1, 30)


def half_turn(half: IncomingHalf) -> Track:
    return Track(
        (
            Keyframe(-7 * FRAME, 0.0, Hold()),
            Keyframe(-5 * FRAME, 1.0, Exponential()),
            Keyframe(Fraction(0), 180.0),
        ),
        half,
    )


@st.composite
def outgoing_tracks(draw: st.DrawFn) -> Track:
    frames = draw(st.lists(st.integers(-30, 0), min_size=1, max_size=5, unique=True))
    eases = st.sampled_from([*FEELS.values(), Hold(early=True)])
    keys = tuple(
        Keyframe(n * FRAME, draw(st.floats(-500, 500)), draw(eases)) for n in sorted(frames)
    )
    return Track(keys, draw(st.sampled_from(list(IncomingHalf))))


class Tracks(unittest.TestCase):
    def test_the_practice_values_of_half_a_turn_and_their_negated_return(self) -> None:
        # Common practice: 0 before it, then 1, 3, 8, 23, 64, 180, and negated half out of it.
        track = half_turn(IncomingHalf.CARRY_ON)
        values = [round(track.value_at(n * FRAME, 0.0)) for n in range(-6, 7)]
        self.assertEqual(values, [0, 1, 3, 8, 23, 64, -180, -64, -23, -8, -3, -1, 0])
        returned = half_turn(IncomingHalf.RETURN)
        back = [round(returned.value_at(n * FRAME, 0.0)) for n in range(7)]
        self.assertEqual(back, [180, 64, 23, 8, 3, 1, 0])

    @given(outgoing_tracks(), st.integers(-400, 400), st.floats(-50, 50))
    def test_a_released_half_has_the_same_values(
        self, track: Track, tick: int, rest: float
    ) -> None:
        # Between the ticks of a hold both are right; keyframes stand on multiples of ten ticks.
        time = (tick + Fraction(1, 7)) * FRAME / 10
        self.assertAlmostEqual(
            track.released(rest).value_at(time, rest), track.value_at(time, rest), delta=1e-6
        )

    @given(st.integers(1, 60))
    def test_an_open_shutter_sees_the_motion_go_on_across_the_cut(self, ticks: int) -> None:
        track = half_turn(IncomingHalf.CARRY_ON)
        step = Fraction(ticks, 6000)
        before = track.value_at(-step, 0.0)
        after = track.value_at(step, 0.0, Side.OUTGOING)
        # Carry on: as far beyond the turn's end as it was before it.
        self.assertAlmostEqual(after - 180.0, 180.0 - before, delta=1e-9)
        seen = track.value_at(-step, 0.0, Side.INCOMING)
        self.assertAlmostEqual(seen - -180.0, before - 180.0, delta=1e-9)

    @given(outgoing_tracks(), st.floats(-50, 50))
    def test_carry_on_has_the_same_speed_on_both_sides_of_the_cut(
        self, track: Track, rest: float
    ) -> None:
        zero = Fraction(0)
        for half, factor in ((IncomingHalf.CARRY_ON, 1.0), (IncomingHalf.RETURN, -1.0)):
            made = Track(track.keys, half)
            before = made.speed_at(zero, rest, Side.OUTGOING)
            after = made.speed_at(zero, rest, Side.INCOMING)
            self.assertLess(abs(after - factor * before), 1e-9)

    def test_speed_is_the_slope_of_the_value(self) -> None:
        for half in IncomingHalf:
            keys = (Keyframe(-10 * FRAME, 5.0, FEELS["rush"]), Keyframe(-2 * FRAME, 80.0,
                    FEELS["spring"]), Keyframe(Fraction(0), 20.0))  # fmt: skip
            track = Track(keys, half)
            for time in (-9 * FRAME, -FRAME / 3, FRAME / 3, 7 * FRAME):
                side, step = Side.of(time), Fraction(1, 10**6)
                ends = [track.value_at(time + s * step, 3.0, side) for s in (-1, 1)]
                slope = (ends[1] - ends[0]) / float(2 * step)
                self.assertAlmostEqual(track.speed_at(time, 3.0, side), slope, delta=1e-3)

    def test_two_keyframes_at_the_cut_are_a_jump_elsewhere_an_error(self) -> None:
        ends = (Keyframe(-FRAME, 0.0), Keyframe(Fraction(0), 5.0), Keyframe(Fraction(0), 9.0))
        track = Track(ends)
        self.assertEqual(track.at_seam(0.0), (5.0, 9.0))
        self.assertEqual(track.value_at(-FRAME / 2, 0.0), 2.5)
        for keys, half in (
            ((), IncomingHalf.OWN),
            ((Keyframe(FRAME, 1.0), Keyframe(FRAME, 2.0)), IncomingHalf.OWN),
            ((Keyframe(FRAME, 1.0), Keyframe(-FRAME, 2.0)), IncomingHalf.OWN),
            ((Keyframe(-FRAME, 1.0), Keyframe(FRAME, (2.0, 1.0))), IncomingHalf.OWN),
            ((*ends, Keyframe(Fraction(0), 1.0)), IncomingHalf.OWN),
            ((Keyframe(FRAME, 1.0),), IncomingHalf.RETURN),
            (ends, IncomingHalf.CARRY_ON),
        ):
            with self.subTest(keys), self.assertRaises(InputError):
                Track(keys, half)
        with self.assertRaises(InputError):
            Keyframe(FRAME, float("nan"))

    def test_pairs_move_together(self) -> None:
        keys = (Keyframe(-FRAME, (0.0, 10.0), Linear()), Keyframe(Fraction(0), (4.0, 30.0)))
        track = Track(keys, IncomingHalf.CARRY_ON)
        self.assertEqual(track.value_at(-FRAME / 2, (0.0, 0.0)), (2.0, 20.0))
        self.assertEqual(track.value_at(FRAME / 2, (0.0, 10.0)), (-2.0, 0.0))
        self.assertEqual(track.value_at(Fraction(9), (0.0, 10.0)), (0.0, 10.0))

    @given(outgoing_tracks(), st.floats(-50, 50), st.sampled_from(list(Side)))
    def test_what_is_drawn_is_what_is_exact(self, track: Track, rest: float, side: Side) -> None:
        ends = (-64, 0) if side is Side.OUTGOING else (0, 64)
        times = [n * FRAME / 2 for n in range(ends[0], ends[1] + 1)]
        exact = [track.value_at(time, rest, side) for time in times]
        drawn = track.drawn([float(time) for time in times], rest, side)
        for a, b in zip(exact, drawn, strict=True):
            self.assertAlmostEqual(a, b, places=6)
