"""The area under a lane, against SciPy's quadrature."""

import unittest
from fractions import Fraction
from itertools import pairwise

import numpy as np
from scipy.integrate import quad

from wrinkle.core.motion.easing import Bezier
from wrinkle.core.motion.feels import FEELS
from wrinkle.core.motion.integral import ease_integral, track_integral
from wrinkle.core.motion.track import IncomingHalf, Keyframe, Track


class Integral(unittest.TestCase):
    def test_the_area_under_every_feel(self) -> None:
        for name, ease in {**FEELS, "wild": Bezier(0.9, -1.0, 0.1, 2.0)}.items():
            for share in (0.21, 0.5, 1.0):
                edges = np.linspace(0.0, share, 121)
                wanted = sum(quad(ease.at, a, b)[0] for a, b in pairwise(edges))
                self.assertAlmostEqual(ease_integral(ease, share), wanted, delta=2e-7, msg=name)

    def test_a_speed_lane_on_both_sides_of_the_cut(self) -> None:
        keys = (
            Keyframe(Fraction(-2, 5), 100.0, FEELS["rush"]),
            Keyframe(Fraction(-1, 10), 400.0, FEELS["brake"]),
            Keyframe(Fraction(0), 50.0),
        )
        for half in IncomingHalf:
            track = Track(keys, half)
            for time in (-0.55, -0.33, -0.05, 0.07, 0.25, 0.6):
                at = Fraction(time).limit_denominator(1000)
                points = [-0.4, -0.1, 0.0, 0.1, 0.4]
                low, high = sorted((0.0, float(at)))
                wanted = quad(
                    lambda t, track=track: track.value_at(Fraction(t), 100.0),
                    low,
                    high,
                    points=[p for p in points if low < p < high],
                    limit=200,
                )[0]
                wanted = wanted if at > 0 else -wanted
                self.assertAlmostEqual(track_integral(track, 100.0, at), wanted, delta=1e-6)
