"""What a wrinkle adds, laid over the plain cut, is the dressed picture; and its matte."""

import unittest
from fractions import Fraction

import numpy as np

from tests.core.measure.broken import subject_of
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.masking import Mask
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.sources import SlotSource
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.design.edits.layer_edits import with_layers
from wrinkle.core.picture.image import Light, Size
from wrinkle.core.picture.paths import rectangle
from wrinkle.core.picture.solid import Solid
from wrinkle.core.render.material import Filling, Material
from wrinkle.core.render.showing import Showing
from wrinkle.files import archive
from wrinkle.library import shipped
from wrinkle.media.exporting.parts import What, held_clips, part_of_showing
from wrinkle.media.output.formats import FORMATS
from wrinkle.media.output.pixels import frame_of

SIZE = Size(54, 96)


def laid_over(over: np.ndarray, under: np.ndarray) -> np.ndarray:
    """Straight 8-bit RGBA over 8-bit RGB, as a program that knows nothing of us does it."""
    alpha = over[..., 3:].astype(float) / 255.0
    return np.rint(over[..., :3] * alpha + under * (1.0 - alpha))


class Overlays(unittest.TestCase):
    def test_over_the_plain_cut_it_is_the_dressed_picture_for_all_that_ship(self) -> None:
        form = FORMATS["png"]
        for name, path in shipped().items():
            with self.subTest(name):
                showing = subject_of(archive.read(path)).showing.resized(SIZE)
                part = part_of_showing(showing, What.OVERLAY)
                frames = showing.wrinkle.frames
                seen = 0
                for frame in frames[:: max(1, len(frames) // 3)]:
                    over = frame_of(part.image(frame), form, "rgba", 8, True).to_ndarray()
                    under = part.plain.image(frame).to_bytes8()[..., :3]  # type: ignore[attr-defined]
                    wanted = showing.image(frame).to_bytes8()[..., :3].astype(float)
                    away = np.abs(laid_over(over, under) - wanted).max()
                    self.assertLessEqual(away, 1.0, frame)
                    seen += int(over[..., 3].any())
                self.assertGreater(seen, 0)
                # At rest nothing is added.
                first = part.image(frames[0]).pixels
                self.assertEqual(float(first[..., 3].max()), 0.0)

    def test_the_plain_cut_adds_nothing_and_what_is_moved_is_named(self) -> None:
        self.assertEqual(held_clips(plain_cut()), ())
        turn = archive.read(shipped()["smooth_turn"]).wrinkle
        self.assertEqual(held_clips(turn), ("Turn",))


class Mattes(unittest.TestCase):
    def test_it_is_white_where_the_incoming_clip_is_and_grey_where_it_is_half(self) -> None:
        wrinkle = plain_cut()
        mask = Mask(id="m1", name="Mask", path=Setting(rectangle(0.0, 0.0, 0.5, 1.0)))
        early = Layer(id="early", name="Early", source=SlotSource("incoming"), masks=(mask,),
                      opacity=Setting(60.0))  # fmt: skip
        wrinkle = with_layers(wrinkle, (*wrinkle.layers, early))
        slots = {
            key: Filling(Solid(key, grey, SIZE), Fraction(10))
            for key, grey in (("outgoing", 0.3), ("incoming", 0.7))
        }
        showing = Showing(wrinkle, Material(slots), SIZE)
        matte = part_of_showing(showing, What.MATTE)
        before, after = (matte.image(frame).pixels[48, :, 0] for frame in (-5, 5))
        # Half of the frame, at its opacity; an edge pixel lies between.
        np.testing.assert_allclose(before[:26], 0.6, atol=1e-3)
        np.testing.assert_allclose(before[28:], 0.0, atol=1e-3)
        np.testing.assert_allclose(after, 1.0, atol=1e-3)

    def test_a_solid_is_one_grey_of_any_size(self) -> None:
        found = Solid("s", 0.25, SIZE).image(3, Size(7, 5))
        self.assertEqual((found.size, found.light), (Size(7, 5), Light.LINEAR))
        self.assertTrue((found.pixels[..., :3] == 0.25).all())
