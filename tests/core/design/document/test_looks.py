"""Looks: what of a chain is kept under a name, and how it is shown before it is chosen."""

import unittest
from fractions import Fraction

import numpy as np

from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.looks import copied, decode_looks, encode_looks, look_of, renamed
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.errors import DocumentError, InputError
from wrinkle.core.motion.track import Keyframe, Track
from wrinkle.core.picture.image import Image, Light
from wrinkle.core.render.look_on import look_on
from wrinkle.library.looks import shipped_looks

SWAP = b"LUT_3D_SIZE 2\n0 0 0\n0 1 0\n1 0 0\n1 1 0\n0 0 1\n0 1 1\n1 0 1\n1 1 1\n"
FULL = {"amount": Setting(100.0)}
CHAIN = (
    EffectUse("e1", "lut", asset="swap.cube", values=FULL),
    EffectUse("e2", "displace", layer="fog"),
)


def reddish() -> Image:
    return Image(np.full((8, 6, 4), (0.8, 0.2, 0.1, 1.0), np.float32), Light.ENCODED, True)


class Looks(unittest.TestCase):
    def test_tables_are_kept_and_links_to_layers_only_in_a_copy(self) -> None:
        assets = {"swap.cube": SWAP, "paper.png": b"not asked for"}
        look = look_of(" Swapped ", CHAIN, assets)
        self.assertEqual((look.name, look.tables), ("Swapped", {"swap.cube": SWAP}))
        self.assertIsNone(look.effects[1].layer)
        self.assertEqual(copied(CHAIN, assets).effects, CHAIN)
        self.assertEqual(decode_looks("looks", encode_looks([look])), [look])
        self.assertTrue(look.matches("swap displ"))
        self.assertFalse(look.matches("swap glow"))

    def test_without_a_name_or_an_effect_there_is_no_look(self) -> None:
        with self.assertRaisesRegex(InputError, "needs a name"):
            look_of(" ", CHAIN, {})
        with self.assertRaisesRegex(InputError, "no effects yet"):
            look_of("Empty", (), {})
        with self.assertRaisesRegex(InputError, "needs a name"):
            renamed(look_of("Named", CHAIN, {}), "")
        for broken in (b"{", b'[{"name": "x"}]', b'[{"name": "x", "effects": [{"id": "a.b"}]}]'):
            with self.assertRaisesRegex(DocumentError, "The looks in mine cannot be read"):
                decode_looks("mine", broken)

    def test_a_still_look_comes_and_goes_again(self) -> None:
        look = look_of("Swapped", CHAIN[:1], {"swap.cube": SWAP})
        for share, red in ((0.0, 0.8), (0.25, 0.5), (0.5, 0.2), (1.0, 0.8)):
            shown = look_on(look, reddish(), share).pixels[4, 3]
            np.testing.assert_allclose(shown, (red, 1.0 - red, 0.1, 1.0), atol=2e-4)

    def test_a_look_that_moves_runs_from_its_first_pin_to_its_last(self) -> None:
        pins = (Keyframe(Fraction(0), 0.0), Keyframe(Fraction(2), -2.0))
        stops = Setting(0.0, Track(pins))
        look = look_of("Falling", (EffectUse("e1", "exposure", values={"stops": stops}),), {})
        self.assertEqual(look.times, (0, 2))
        first, last = (look_on(look, reddish(), share).pixels[4, 3, 0] for share in (0.0, 1.0))
        self.assertAlmostEqual(first, 0.8, delta=2e-3)
        # IEC 61966-2-1: two stops less light is a quarter of it.
        light = ((0.8 + 0.055) / 1.055) ** 2.4 / 4.0
        self.assertAlmostEqual(last, 1.055 * light ** (1 / 2.4) - 0.055, delta=2e-3)

    def test_every_shipped_look_can_be_seen(self) -> None:
        for look in shipped_looks():
            shown = [look_on(look, reddish(), share).pixels for share in (0.0, 0.5)]
            apart = max(float(np.abs(one - reddish().pixels).max()) for one in shown)
            self.assertGreater(apart, 0.02, look.name)
