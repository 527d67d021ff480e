"""Every effect mirrored over a mirrored picture is the mirrored picture, as the geometry says."""

import unittest
from collections.abc import Iterator, Mapping

import numpy as np

from tests.core.effects.test_every_effect import LUT, smooth
from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.edits.mirroring import mirrored_effect
from wrinkle.core.effects.chain import ChainLink, after
from wrinkle.core.effects.effect import Effect, Scene, Values
from wrinkle.core.effects.registry import EFFECTS
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.setting_spec import ChoiceSpec, OutlineSpec, SettingSpec, Unit
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.image import Image, Light, Size, mirrored

SIZE = Size(54, 96)
MIRRORS = (Direction.LEFT_RIGHT, Direction.UP_DOWN, Direction.BOTH)
SEEDED = {
    "block_drag", "block_shuffle", "film_gate", "grain", "ground", "light_leak", "noise_fill",
    "noise_warp", "rust", "slices", "tape", "torn_paper", "wet_ink",
}  # fmt: skip
"""Their random patterns have no left and right: they stay what they are."""
WITHOUT_NOISE: dict[str, dict[str, Value]] = {
    "vignette": {"noise": 0.0},
    "luma_reveal": {"roughness": 0.0},
    "noise_reveal": {"bias": 100.0},
}


def drawn(spec: SettingSpec, start: Value, dice: np.random.Generator) -> Value:
    """A value near the one that a new effect has; typed, with three decimals."""
    if isinstance(spec, OutlineSpec) or spec.key == "seed":
        return start
    if isinstance(spec, ChoiceSpec):
        return str(dice.choice(spec.choices))
    if isinstance(start, bool | str):
        return bool(dice.integers(2))
    if isinstance(start, tuple) and len(start) == 3:
        return tuple(np.round(dice.random(3), 3).tolist())
    far = 40.0 if spec.unit is Unit.DEGREES else 0.02 * min(spec.high - spec.low, 100.0)
    near = np.array(start) + dice.normal(size=np.shape(start)) * far
    found = np.round(np.clip(near, spec.low, spec.high), 3).tolist()
    return tuple(found) if isinstance(start, tuple) else float(found)


def uses(effect: Effect, dice: np.random.Generator) -> list[EffectUse]:
    found = []
    for draw in range(4):
        values = {x.key: effect.starts_with.get(x.key, x.neutral) for x in effect.settings}
        if draw:
            values = {x.key: drawn(x, values[x.key], dice) for x in effect.settings}
        values |= WITHOUT_NOISE.get(effect.key, {})
        found.append(EffectUse("e", effect.key, values={k: Setting(v) for k, v in values.items()}))
    return found


def shown(use: EffectUse, picture: Image, other: Image, motion: tuple[float, float]) -> Image:
    values = Values({x.key: use.setting(x.key).rest for x in use.effect.settings})
    scene = Scene.whole(SIZE, time=0.13, frame=4, lut=LUT, other=other, motion=motion)
    return after(picture, [ChainLink(use.effect, values, scene)])


def slanted() -> Image:
    x, y = np.linspace(0, 9, SIZE.width), np.linspace(0, 5, SIZE.height)[:, None]
    pixels = np.ones((SIZE.height, SIZE.width, 4), np.float32)
    pixels[..., :3] = 0.5 + 0.4 * np.sin(x + y)[..., None]
    return Image(pixels, Light.ENCODED, True)


class Mirrored(unittest.TestCase):
    def test_each_effect_in_each_mirror(self) -> None:
        for effect in EFFECTS.values():
            dice = np.random.default_rng(7)
            for use in uses(effect, dice):
                seen = {mirror: mirrored_effect(use, mirror) for mirror in MIRRORS}
                for mirror, turned in seen.items():
                    self.assertEqual(mirrored_effect(turned, mirror), use)
                if effect.key not in SEEDED:
                    for mirror, apart in self.apart(use, seen):
                        with self.subTest(effect.key, mirror=mirror.value, use=use):
                            self.assertLess(apart, 1.0)

    def apart(
        self, use: EffectUse, seen: Mapping[Direction, EffectUse]
    ) -> Iterator[tuple[Direction, float]]:
        """The largest difference in each mirror, in levels of 255."""
        picture, other = smooth(SIZE, use.effect), slanted()
        plain = shown(use, picture, other, (5.0, 3.0))
        for mirror, turned in seen.items():
            motion = (-5.0 if mirror.across else 5.0, -3.0 if mirror.down else 3.0)
            found = shown(turned, mirrored(picture, mirror), mirrored(other, mirror), motion)
            wanted = mirrored(plain, mirror).in_light(Light.ENCODED).pixels
            yield mirror, float(np.abs(wanted - found.in_light(Light.ENCODED).pixels).max()) * 255.0

    def test_every_mirror_shows(self) -> None:
        """A test of the test: without a mirror, what has a side is another picture."""
        for key in ("ripple", "tile", "displace", "channel_split"):
            use = uses(EFFECTS[key], np.random.default_rng(7))[2]
            ((_, apart),) = self.apart(use, {Direction.LEFT_RIGHT: use})
            self.assertGreater(apart, 5.0, key)
