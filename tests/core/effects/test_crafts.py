"""Paint, ink, rust and blades: how they grow, and what they leave."""

import math
import unittest

import numpy as np

from wrinkle.core.effects.effect import Scene, Values
from wrinkle.core.effects.registry import EFFECTS
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.image import Image, Light, Size

SIZE = Size(108, 192)
GROWS = {"paint_strokes": "painted", "wet_ink": "soaked"}
SHRINKS = {"rust": "eaten"}


def plain(level: float) -> Image:
    pixels = np.full((SIZE.height, SIZE.width, 4), level, np.float32)
    pixels[..., 3] = 1.0
    return Image(pixels, Light.LINEAR, True)


def shown(key: str, level: float = 0.5, **values: Value) -> np.ndarray:
    one = EFFECTS[key]
    scene = Scene.whole(SIZE, other=plain(0.2))
    return one.applied(plain(level), Values({**one.neutral(), **values}), scene).pixels


class Crafts(unittest.TestCase):
    def test_what_is_painted_or_soaked_stays_and_what_is_eaten_does_not_come_back(self) -> None:
        for key, lane in (GROWS | SHRINKS).items():
            before = None
            for share in range(0, 101, 10):
                there = shown(key, **{lane: float(share)})[..., 3]
                if before is not None:
                    step = there - before if key in GROWS else before - there
                    # Water runs ahead, and a shadow moves: a little is given back.
                    self.assertGreater(float(np.quantile(step, 0.002)), -0.35, (key, share))
                    self.assertGreater(float(step.mean()), -0.01, (key, share))
                before = there

    def test_they_come_at_an_even_pace(self) -> None:
        for key, lane in (GROWS | SHRINKS).items():
            halfway = float(shown(key, **{lane: 50.0})[..., 3].mean())
            self.assertTrue(0.25 < halfway < 0.8, (key, halfway))

    def test_paint_has_colours_of_both_clips_or_its_own(self) -> None:
        red, green = plain(0.0), plain(0.0)
        red.pixels[..., 0], green.pixels[..., 1] = 0.6, 0.6
        one = EFFECTS["paint_strokes"]
        scene = Scene.whole(SIZE, other=green)
        wet = {"painted": 20.0, "settle": 60.0, "gloss": 0.0}
        found = one.applied(red, Values({**one.neutral(), **wet}), scene).pixels
        seen = found[found[..., 3] > 0.9]
        self.assertGreater(float(seen[:, 1].max()), 0.2)
        self.assertLess(float(seen[:, 2].max()), 0.02)
        blue = {f"colour{x}": (0.0, 0.0, 0.8) for x in ("", "_2", "_3")}
        own = one.applied(red, Values({**one.neutral(), **wet, **blue, "own": 100.0}), scene).pixels
        self.assertGreater(float(own[found[..., 3] > 0.9][:, 2].mean()), 0.3)

    def test_the_opening_between_blades_has_the_area_of_a_regular_polygon(self) -> None:
        # Geometry: n r² tan(π / n); bending the edges turns each circle by itself, which keeps it.
        corner = math.hypot(0.5, 192 / 108 / 2) * 1.02
        for count, shut in ((5, 60.0), (7, 75.0), (12, 85.0)):
            values = {"shut": shut, "blades": float(count), "shadow": 0.0, "colour": (0.0,) * 3}
            open_ = float(shown("blades", 1.0, **values)[..., 0].sum())
            reach = corner * (1 - shut / 100) * SIZE.width - shut / 100
            wanted = count * reach**2 * math.tan(math.pi / count)
            self.assertAlmostEqual(open_ / wanted, 1.0, delta=0.03)

    def test_shut_blades_leave_nothing_and_are_lit(self) -> None:
        dark = shown("blades", 0.0, shut=100.0)
        light = shown("blades", 1.0, shut=100.0)
        np.testing.assert_array_equal(dark, light)
        self.assertGreater(float(np.ptp(dark[..., 0])), 0.05)


if __name__ == "__main__":
    unittest.main()
