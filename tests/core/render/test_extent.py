"""Where a layer draws, against where its picture has any pixels."""

import unittest
from fractions import Fraction

import numpy as np
from msgspec.structs import replace

from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.sources import FillSource, ShapeSource, WordsSource
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import layer_edits
from wrinkle.core.picture.image import Size
from wrinkle.core.render.compose import render
from wrinkle.core.render.extent import layer_extent
from wrinkle.core.render.material import Material
from wrinkle.library import fonts

SIZE = Size(270, 480)
SQUARE = (0.3, 0.4, 0, 0, 0, 0, 0.6, 0.4, 0, 0, 0, 0, 0.6, 0.5, 0, 0, 0, 0, 0.3, 0.5, 0, 0, 0, 0)


class Extent(unittest.TestCase):
    def boxes(self, source) -> tuple[tuple[float, ...], tuple[float, ...]]:
        """What is said, and where its picture has pixels."""
        wrinkle: Wrinkle = layer_edits.with_layers(plain_cut(), ())
        wrinkle = layer_edits.add_layer(wrinkle, "One", source)
        material = Material(fonts=fonts())
        layer = wrinkle.layers[0].id
        said = layer_extent(wrinkle, material, layer, Fraction(0), SIZE)
        whole = (
            replace(source, reveal_to=Setting(100.0)) if isinstance(source, WordsSource) else source
        )
        shown = layer_edits.with_layers(wrinkle, (replace(wrinkle.layers[0], source=whole),))
        rows, columns = np.nonzero(render(shown, material, 0, SIZE).pixels[..., 3] > 0.01)
        seen = columns.min(), rows.min(), columns.max() + 1, rows.max() + 1
        return said, tuple(map(float, seen))

    def test_words_have_the_box_of_their_letters_revealed_or_not(self) -> None:
        outlined = {"stroke": Setting((0.0, 0.0, 0.0)), "stroke_width": Setting(1.0)}
        for source in (
            WordsSource(text="Kite day"),
            WordsSource(text="Two\nlines of it", align=Setting("left"), **outlined),
            WordsSource(text="Not yet seen", reveal_to=Setting(0.0)),
        ):
            with self.subTest(source.text):
                said, seen = self.boxes(source)
                np.testing.assert_allclose(said, seen, atol=1.1)

    def test_a_shape_has_that_of_its_outline_and_a_fill_has_the_frame(self) -> None:
        said, seen = self.boxes(ShapeSource(path=Setting(SQUARE)))
        np.testing.assert_allclose(said, seen, atol=1.1)
        np.testing.assert_allclose(said, (81.0, 192.0, 162.0, 240.0), atol=1e-6)
        said, _ = self.boxes(FillSource())
        self.assertEqual(said, (0.0, 0.0, 270.0, 480.0))
        said, _ = self.boxes(WordsSource(text="x"))
        self.assertLess(said[2] - said[0], 60.0)
