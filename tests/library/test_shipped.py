"""Every shipped wrinkle in every shape, rate, length and strength: at rest at both ends, whole."""

import unittest
from fractions import Fraction

import numpy as np
from msgspec.structs import replace

from recipes import light
from recipes.__main__ import RECIPES
from recipes.sounds import SOUNDS, sounded
from tests.core.reuse.every_kind import Slanted
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.kinds import KINDS
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Filling, Material
from wrinkle.core.reuse.use import Choices, Use, resolved, showing
from wrinkle.core.sound.heard import Mix
from wrinkle.core.sound.loudness import MOMENT, measured
from wrinkle.core.sound.mixing import WrinkleSounds
from wrinkle.core.store import Store
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.core.time.rate import FrameRate
from wrinkle.files import archive
from wrinkle.library import fonts, shipped
from wrinkle.library.looks import shipped_looks
from wrinkle.media.assets import read_assets

SHAPES = (Size(54, 96), Size(72, 72), Size(64, 80), Size(96, 54))
LARGER = Size(240, 426)
"""The largest one is looked at by ``python -m fuzz.sizes``."""
RATES = (24, 25, 30, 50, 60)
PLAIN = {"plain_push"}
"""So simple that one dial is enough."""
MOST_DIALS, MOST_TITLE_DIALS = 6, 9
"""Of a title three are its size, its face and its place."""


class Sized(Slanted):
    """A clip of another size and rate than any wrinkle's."""

    def __init__(self, name: str, size: Size, hue: float) -> None:
        super().__init__(name, hue=hue)
        self.size = size
        self.identity = f"{name} {size.label}"


def clips(size: Size) -> dict[str, Filling]:
    other = Size(size.width * 2, size.height * 2 + 14)
    return {
        "outgoing": Filling(Sized("a", size, 0.0), Fraction(3, 2)),
        "incoming": Filling(Sized("b", other, 0.3), Fraction(3, 2)),
    }


class Shipped(unittest.TestCase):
    def every_use(self, bundle: Bundle):  # type: ignore[no-untyped-def]
        """All choices with which each wrinkle is looked at: ``python -m fuzz.sizes``."""
        for number, size in enumerate(SHAPES):
            for rate in RATES[number % 2 :: 2]:
                yield size, rate, Choices()
        for choices in self.choices(bundle):
            yield SHAPES[0], 30, choices
            yield SHAPES[3], 24, choices
        yield LARGER, 30, Choices()

    def choices(self, bundle: Bundle) -> tuple[Choices, ...]:
        """Other lengths and strengths."""
        lead, tail = bundle.wrinkle.lead, bundle.wrinkle.tail
        return (
            Choices(lead=lead / 2, tail=tail / 2),
            Choices(lead=lead * 2, tail=tail * 2),
            Choices(strength=50.0),
            Choices(strength=150.0),
        )

    def some_uses(self, bundle: Bundle, number: int):  # type: ignore[no-untyped-def]
        """Two shapes and a length, all of them and the rates in turn.

        Strengths are looked at in ``test_ends``, in all shapes.
        """
        for place in (number, number + 2 - number // len(SHAPES) % 2):
            yield SHAPES[place % len(SHAPES)], RATES[(number + place) % len(RATES)], Choices()
        length = self.choices(bundle)[number // 2 % 2]
        yield (SHAPES[0], 30, length) if number % 2 else (SHAPES[3], 24, length)
        if number % 8 == 0:
            yield LARGER, 30, Choices()

    def test_both_ends_are_the_plain_clips_and_nothing_is_bare(self) -> None:
        for number, (name, path) in enumerate(shipped().items()):
            bundle, store = archive.read(path), Store(64 << 20)
            carried = read_assets(bundle.assets, store).material(fonts())
            for size, rate, choices in self.some_uses(bundle, number):
                with self.subTest(name, size=size.label, rate=rate, choices=choices):
                    self.look(bundle, carried, size, rate, choices)

    def look(
        self, bundle: Bundle, carried: Material, size: Size, rate: int, choices: Choices
    ) -> None:
        fillings, at = clips(size), FrameRate.of(rate)
        shown = showing(Use(bundle.wrinkle, fillings, choices), carried, size, at, Quality.PREVIEW)
        wrinkle = shown.wrinkle
        cut = replace(plain_cut(), lead=wrinkle.lead, tail=wrinkle.tail)
        plain = showing(Use(cut, fillings), carried, size, at, Quality.PREVIEW)
        first, last = wrinkle.first_frame, wrinkle.end_frame - 1
        for frame in (first, first // 2, 0, last):
            image = shown.image(frame)
            self.assertTrue(np.isfinite(image.pixels).all(), frame)
            self.assertGreater(float(image.pixels[..., 3].min()), 0.999, f"bare on frame {frame}")
            if frame in (first, last):
                wanted = plain.image(frame).to_bytes8()
                self.assertEqual(image.to_bytes8().tobytes(), wanted.tobytes(), f"frame {frame}")

    def test_each_says_what_it_is_for_and_has_dials_and_kinds(self) -> None:
        for name, path in shipped().items():
            wrinkle = archive.read(path).wrinkle
            with self.subTest(name):
                self.assertTrue(wrinkle.about.endswith("."))
                self.assertTrue(set(wrinkle.tags) <= set(KINDS) and wrinkle.tags)
                self.assertTrue(wrinkle.directions)
                least = 1 if name in PLAIN else 2
                (heard,) = [dial for dial in wrinkle.dials if dial.name == "Sound"]
                most = MOST_TITLE_DIALS if "title" in wrinkle.tags else MOST_DIALS
                self.assertTrue(least <= len(wrinkle.dials) - 1 <= most, len(wrinkle.dials))
                driven = {drive.layer for drive in heard.drives}
                self.assertEqual(driven, {sound.id for sound in wrinkle.sounds})

    def test_each_is_heard_and_about_as_loud_as_the_others(self) -> None:
        for name, path in shipped().items():
            bundle = archive.read(path)
            with self.subTest(name):
                wrinkle = bundle.wrinkle
                sounds = WrinkleSounds(wrinkle)
                span = range(sounds.span.start - MOMENT, sounds.span.stop + MOMENT)
                loud = measured(Mix((sounds.part(0),), span))
                # What the recipes say of themselves.
                self.assertTrue(-24.5 <= loud.momentary <= -13.0, loud.momentary)
                self.assertLess(loud.peak, -1.0)
                off = resolved(Use(wrinkle, {}, Choices(dials={"sound": False})), FrameRate.of(30))
                self.assertFalse(WrinkleSounds(off).samples(-SAMPLE_RATE, 2 * SAMPLE_RATE).any())
                self.assertEqual(WrinkleSounds(off).dips(0), ())

    def test_each_with_a_recipe_is_what_its_recipe_makes(self) -> None:
        for name, recipe in RECIPES.items():
            with self.subTest(name):
                made = sounded(recipe(), SOUNDS[name])
                self.assertEqual(archive.read(shipped()[name]).wrinkle, made)

    def test_what_a_look_back_is_made_of_ships_as_looks(self) -> None:
        self.assertEqual(len(light.looks()), 2)
        for look in light.looks():
            self.assertIn(look, shipped_looks())
