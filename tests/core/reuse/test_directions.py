"""Mirrored wrinkles over mirrored clips are mirrored pictures, and come back."""

import unittest
from fractions import Fraction
from pathlib import Path

import numpy as np
from msgspec.structs import replace

from tests.core.reuse.every_kind import SIZE, every_kind, material
from wrinkle.core.design.document import coding
from wrinkle.core.design.document.dials import Drive, How
from wrinkle.core.design.document.ranged_dials import AmountDial
from wrinkle.core.design.document.slots import Slot
from wrinkle.core.design.document.sources import WordsSource
from wrinkle.core.design.document.wrinkle import Offered, Wrinkle
from wrinkle.core.design.edits.layer_edits import with_layers
from wrinkle.core.design.edits.mirroring import mirrored_wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.motion import mirroring
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.picture.image import Light, mirrored
from wrinkle.core.render.material import Material
from wrinkle.core.reuse.use import Choices, Use, direction_of, directions_of, resolved, showing
from wrinkle.files import archive
from wrinkle.library import shipped

MIRRORS = (Direction.LEFT_RIGHT, Direction.UP_DOWN, Direction.BOTH)
KEPT = Path(__file__).parents[1] / "design" / "document" / "kept"


def apart(wrinkle: Wrinkle, mirror: Direction, frame: int, turned: Direction) -> float:
    """How far the mirrored use over mirrored clips is from the mirrored picture, in levels."""

    def picture(direction: Direction, clips: Material) -> np.ndarray:
        use = Use(wrinkle, clips.slots, Choices(direction=direction))
        image = showing(use, clips, SIZE, wrinkle.frame_rate).image(frame)
        back = mirror if direction is Direction.AS_MADE else Direction.AS_MADE
        return np.asarray(mirrored(image, back).in_light(Light.ENCODED).pixels)

    plain = picture(Direction.AS_MADE, material())
    return float(np.abs(plain - picture(turned, material(mirror))).max()) * 255.0


def without_unmirrored(wrinkle: Wrinkle) -> Wrinkle:
    """Without what has no mirror image: random patterns, and words, which stay readable."""
    words = {layer.id for layer in wrinkle.layers if isinstance(layer.source, WordsSource)}
    layers = tuple(
        replace(layer, effects=tuple(
            use for use in layer.effects
            if all(spec.key != "seed" for spec in use.effect.settings)
        ))
        for layer in wrinkle.layers
        if layer.id not in words and (layer.matte is None or layer.matte.layer not in words)
    )  # fmt: skip
    return with_layers(wrinkle, layers)


class Directions(unittest.TestCase):
    def test_a_layer_of_every_kind_over_mirrored_clips_is_the_mirrored_picture(self) -> None:
        wrinkle = every_kind()
        for mirror in MIRRORS:
            for frame in (-9, -1, 0, 7):
                with self.subTest(mirror.value, frame=frame):
                    self.assertLess(apart(wrinkle, mirror, frame, mirror), 1.0)
                    other = MIRRORS[MIRRORS.index(mirror) - 1]
                    self.assertGreater(apart(wrinkle, mirror, frame, other), 10.0)

    def test_every_shipped_wrinkle_over_mirrored_clips_is_the_mirrored_picture(self) -> None:
        for number, (name, path) in enumerate(shipped().items()):
            wrinkle = archive.read(path).wrinkle
            frames = (wrinkle.first_frame + 3, -1, 0)
            for place, mirror in enumerate(MIRRORS):
                frame = frames[(number + place) % len(frames)]
                with self.subTest(name, mirror=mirror.value, frame=frame):
                    plain = replace(without_unmirrored(wrinkle), directions=())
                    self.assertLess(apart(plain, mirror, frame, mirror), 1.0)

    def test_twice_mirrored_is_the_same_document(self) -> None:
        kept = archive.read(KEPT / "format_2.wrinkle").wrinkle
        dial = AmountDial("d", "Way", drives=(
            Drive("card", "position", How.PLUS, (-0.1, 0.2), (0.1, -0.2)),
        ))  # fmt: skip
        wrinkles = [every_kind(), kept, replace(every_kind(), dials=(dial,))]
        wrinkles += [archive.read(path).wrinkle for path in shipped().values()]
        for wrinkle in wrinkles:
            for mirror in MIRRORS:
                with self.subTest(wrinkle.name, mirror=mirror.value):
                    turned = mirrored_wrinkle(wrinkle, mirror)
                    self.assertEqual(mirrored_wrinkle(turned, mirror), wrinkle)
                    self.assertEqual(coding.decode(coding.encode(turned)), turned)

    def test_numbers_and_formulas_come_back_to_the_last_bit(self) -> None:
        for how, value in (
            (Mirroring.POINT, (0.1, -3.300000000001)),
            (Mirroring.WAY, 20.1),
            (Mirroring.WAY, -723.456789),
            (Mirroring.TILT, (0.1, -0.0)),
        ):
            for mirror in MIRRORS:
                changed = mirroring.change(how, mirror, value)
                there = mirroring.mirrored(value, how, mirror, changed)
                changed = mirroring.change(how, mirror, there)
                self.assertEqual(mirroring.mirrored(there, how, mirror, changed), value)
        part = mirroring.change(Mirroring.POINT, Direction.BOTH, (0.0, 0.0))
        for text in ("t, 1 - p", "-(t), max(t, 2)", "(t)-(p),1-(2)"):
            there = mirroring.mirrored_formulas(text, part)
            self.assertEqual(mirroring.mirrored_formulas(there, part), text)

    def test_dials_and_mirrors_do_not_depend_on_their_order(self) -> None:
        dial = AmountDial("d", "Far", drives=(
            Drive("card", "skew_axis", How.SET, 30.0, 60.0),
            Drive("third", "position", How.PLUS, (0.0, 0.0), (0.1, -0.2)),
        ), default=0.0)  # fmt: skip
        wrinkle = replace(every_kind(), dials=(dial,))
        rate = wrinkle.frame_rate
        for mirror in MIRRORS:
            before = resolved(Use(wrinkle, {}, Choices(dials={"d": 50.0}, direction=mirror)), rate)
            turned = mirrored_wrinkle(wrinkle, mirror)
            self.assertEqual(resolved(Use(turned, {}, Choices(dials={"d": 50.0})), rate), before)

    def test_a_readable_slot_is_not_mirrored(self) -> None:
        wrinkle = every_kind()
        third = replace(wrinkle.slot("third"), readable=True)
        plain = replace(wrinkle, slots=(*wrinkle.slots[:2], third))
        for wanted, one in ((Direction.BOTH, wrinkle), (Direction.AS_MADE, plain)):
            source = mirrored_wrinkle(one, Direction.BOTH).layer("third").source
            self.assertIs(getattr(source, "mirrored", None), wanted)

    def test_a_direction_is_named_as_the_designer_named_it(self) -> None:
        offered = (Offered(Direction.AS_MADE, "from the left"),
                   Offered(Direction.LEFT_RIGHT, "from the right"))  # fmt: skip
        wrinkle = replace(every_kind(), directions=offered)
        self.assertIs(direction_of(wrinkle, "From the right"), Direction.LEFT_RIGHT)
        self.assertIs(direction_of(wrinkle, "left-right"), Direction.LEFT_RIGHT)
        self.assertEqual(list(directions_of(wrinkle).values()), ["from the left", "from the right"])
        self.assertEqual(len(directions_of(every_kind())), 4)
        with self.assertRaisesRegex(InputError, "does not go up-down; it has as-made, left-right"):
            direction_of(wrinkle, "up-down")
        with self.assertRaisesRegex(InputError, "'over' is no direction of Turning; it has as-m"):
            direction_of(wrinkle, "over")

    def test_a_slot_that_stays_empty_shows_what_is_said(self) -> None:
        wrinkle, clips = every_kind(), material()
        use = Use(wrinkle, clips.slots)
        slots = showing(use, clips, SIZE, wrinkle.frame_rate).material.slots
        self.assertEqual((slots["third"].source.name, slots["third"].cut), ("ink", Fraction(0)))
        for word, name in (("nothing", None), ("outgoing clip", "a"), ("incoming clip", "b")):
            third = Slot("third", "Third clip", unfilled=type(wrinkle.slots[0].unfilled)(word))
            other = replace(wrinkle, slots=(*wrinkle.slots[:2], third))
            found = showing(Use(other, clips.slots), clips, SIZE, wrinkle.frame_rate).material.slots
            self.assertEqual(found["third"].source.name if "third" in found else None, name)
