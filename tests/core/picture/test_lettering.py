"""Words as pictures: where letters stand, how they are joined, and how they are revealed."""

import io
import unittest
from unittest import mock

import numpy as np
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.boundsPen import BoundsPen
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTFont

from wrinkle import library
from wrinkle.core.picture import shaping
from wrinkle.core.picture.faces import face_of
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.lettering import Align, Lettering, RevealBy, laid_out, lettered, revealed

SIZE = Size(200, 120)


class Words(unittest.TestCase):
    FONT = library.fonts()["plain", True]

    def test_letters_stand_where_the_font_says(self) -> None:
        # Reference: the font's own tables, read by fontTools.
        font = TTFont(io.BytesIO(self.FONT))
        widths, names = font["hmtx"], font.getBestCmap()
        unit = 50.0 / font["head"].unitsPerEm
        text = "Kites"
        glyphs, pieces = laid_out(Lettering(text, self.FONT, True, 50.0, tracking=3.0), SIZE)
        self.assertEqual(pieces, 5)
        advances = [widths[names[ord(letter)]][0] * unit + 3.0 for letter in text]
        for index, glyph in enumerate(glyphs):
            self.assertAlmostEqual(glyph.x - glyphs[0].x, sum(advances[:index]), delta=0.06)
        self.assertAlmostEqual(glyphs[0].x, (SIZE.width - sum(advances) + 3.0) / 2, delta=0.1)
        hhea = font["hhea"]
        middle = glyphs[0].y - (hhea.ascent + hhea.descent) * unit / 2
        self.assertAlmostEqual(middle, SIZE.height / 2, delta=0.6)

    def test_the_outline_of_a_letter_is_that_of_the_font(self) -> None:
        font = TTFont(io.BytesIO(self.FONT))
        shapes, name = font.getGlyphSet(), font.getBestCmap()[ord("H")]
        pen = BoundsPen(shapes)
        shapes[name].draw(pen)
        unit = 80.0 / font["head"].unitsPerEm
        picture = lettered(Lettering("H", self.FONT, True, 80.0), SIZE).pixels[..., 3]
        rows, columns = np.nonzero(picture > 0.5)
        left, bottom, right, top = (side * unit for side in pen.bounds)
        self.assertAlmostEqual(columns.max() + 1 - columns.min(), right - left, delta=1.0)
        self.assertAlmostEqual(rows.max() + 1 - rows.min(), top - bottom, delta=1.0)

    def test_lines_are_aligned_and_a_stroke_lies_behind_the_fill(self) -> None:
        for align, share in ((Align.LEFT, 0.0), (Align.CENTRE, 0.5), (Align.RIGHT, 1.0)):
            glyphs, _ = laid_out(Lettering("ii\niiii", self.FONT, True, 30.0, align=align), SIZE)
            slack = glyphs[4].x - glyphs[2].x
            self.assertAlmostEqual(glyphs[0].x - glyphs[2].x, slack * share, delta=0.05)
        plain = lettered(Lettering("O", self.FONT, True, 60.0), SIZE).pixels
        lined = lettered(
            Lettering("O", self.FONT, True, 60.0, stroke=(1.0, 0.0, 0.0), stroke_width=4.0), SIZE
        ).pixels
        inside = plain[..., 3] > 0.99
        np.testing.assert_allclose(lined[inside], plain[inside], atol=0.02)
        self.assertGreater(lined[..., 3].sum(), plain[..., 3].sum() * 1.3)

    def test_a_reveal_brings_the_pieces_one_after_the_other(self) -> None:
        words = Lettering("one two", self.FONT, True, 40.0, end=0.5, by=RevealBy.WORD)
        glyphs, pieces = laid_out(words, SIZE)
        self.assertEqual((pieces, {g.piece for g in glyphs}), (2, {0, 1}))
        self.assertEqual([revealed(n, 2, words) for n in (0, 1)], [1.0, 0.0])
        whole = Lettering("one two", self.FONT, True, 40.0)
        self.assertEqual([revealed(n, 2, whole) for n in (0, 1)], [1.0, 1.0])
        none = Lettering("one two", self.FONT, True, 40.0, end=0.0)
        self.assertEqual(float(lettered(none, SIZE).pixels.max()), 0.0)
        half = lettered(words, SIZE).pixels[..., 3]
        self.assertGreater(float(half[:, :95].max()), 0.9)
        self.assertEqual(float(half[:, 110:].max()), 0.0)


def drawn_font(features: str = "") -> bytes:
    """A font of ten units an em's tenth, whose letters are boxes, with a lookup of features."""
    letters = {"f": "f", "i": "i", "a": "a", "b": "b", "alef": "\u05d0", "bet": "\u05d1",
               "acute": "\u0301", "space": " "}  # fmt: skip
    names = [".notdef", *letters, "f_i"]
    builder = FontBuilder(1000, isTTF=True)
    builder.setupGlyphOrder(names)
    builder.setupCharacterMap({ord(sign): name for name, sign in letters.items()})
    pen = TTGlyphPen(None)
    for spot in ((50, 0), (50, 500), (450, 500), (450, 0)):
        (pen.moveTo if spot == (50, 0) else pen.lineTo)(spot)
    pen.closePath()
    box, nothing = pen.glyph(), TTGlyphPen(None).glyph()
    builder.setupGlyf({name: nothing if name == "space" else box for name in names})
    widths = {name: (0 if name == "acute" else 900 if name == "f_i" else 500, 50) for name in names}
    builder.setupHorizontalMetrics(widths)
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({"familyName": "Boxes", "styleName": "Regular"})
    builder.setupOS2(sTypoAscender=800, sTypoDescender=-200)
    builder.setupPost()
    if features:
        builder.addOpenTypeFeatures(features)
    file = io.BytesIO()
    builder.save(file)
    return file.getvalue()


JOINED = drawn_font(
    "feature liga { sub f i by f_i; } liga; feature kern { pos a b -200; } kern;"
    "markClass acute <anchor 0 500> @above;"
    "feature mark { pos base a <anchor 250 500> mark @above; } mark;"
)


class Shaping(unittest.TestCase):
    """Reference: the tables of fonts made here by fontTools, one em being 100 pixels."""

    def placed(self, text: str, tracking: float = 0.0, font: bytes = JOINED):  # type: ignore[no-untyped-def]
        words = Lettering(text, font, False, 100.0, tracking=tracking, align=Align.LEFT)
        glyphs, pieces = laid_out(words, Size(1000, 200))
        start = min(glyph.x for glyph in glyphs)
        return [(round(glyph.x - start, 2), glyph.piece) for glyph in glyphs], pieces

    def test_pairs_are_kerned_as_the_font_says(self) -> None:
        self.assertEqual(self.placed("ab"), ([(0.0, 0), (30.0, 1)], 2))
        self.assertEqual(self.placed("ba"), ([(0.0, 0), (50.0, 1)], 2))

    def test_the_kerning_of_the_shipped_font_is_that_of_its_table(self) -> None:
        font = TTFont(io.BytesIO(library.fonts()["plain", True]))
        names = font.getBestCmap()
        pair = names[ord("A")], names[ord("V")]
        kern = font["kern"].kernTables[0].kernTable[pair]
        self.assertLess(kern, 0)
        unit = 100.0 / font["head"].unitsPerEm
        found, _ = self.placed("AV", font=library.fonts()["plain", True])
        self.assertAlmostEqual(found[1][0], (font["hmtx"][pair[0]][0] + kern) * unit, delta=0.05)

    def test_a_ligature_is_one_piece_and_tracking_takes_it_apart(self) -> None:
        self.assertEqual(self.placed("fia"), ([(0.0, 0), (90.0, 1)], 2))
        self.assertEqual(self.placed("fia", 10.0), ([(0.0, 0), (60.0, 1), (120.0, 2)], 3))

    def test_a_mark_stands_on_its_letter_and_comes_with_it(self) -> None:
        found, pieces = self.placed("ba\u0301b")
        self.assertEqual((found[1:3], pieces), ([(50.0, 1), (75.0, 1)], 3))

    def test_what_runs_right_to_left_does_and_is_revealed_as_it_is_read(self) -> None:
        # UAX #9: Latin between Hebrew words keeps its own direction.
        self.assertEqual(self.placed("\u05d0\u05d1"), ([(50.0, 0), (0.0, 1)], 2))
        found, _ = self.placed("\u05d0 ab \u05d1")
        self.assertEqual([x for x, _ in found], [230.0, 100.0, 130.0, 0.0])
        found, _ = self.placed("ab \u05d0\u05d1")
        self.assertEqual([x for x, _ in found], [0.0, 30.0, 180.0, 130.0])

    def test_a_character_that_the_font_lacks_comes_from_another(self) -> None:
        other = face_of(library.fonts()["plain", True], True)
        with mock.patch.object(shaping, "other_face_with", return_value=other) as asked:
            glyphs, pieces = laid_out(Lettering("aKb", JOINED, False, 100.0), Size(1000, 200))
        self.assertEqual([glyph.face is other for glyph in glyphs], [False, True, False])
        self.assertEqual((pieces, asked.call_args.args), (3, ("K", False)))
        with mock.patch.object(shaping, "other_face_with", return_value=None):
            glyphs, _ = laid_out(Lettering("K", JOINED, False, 100.0), Size(1000, 200))
        self.assertEqual(glyphs[0].code, 0, "the font's own sign for what it lacks")

    def test_words_and_lines_are_pieces_too(self) -> None:
        for by, pieces in ((RevealBy.WORD, [0, 0, 1, 2]), (RevealBy.LINE, [0, 0, 0, 1])):
            glyphs, _ = laid_out(Lettering("ab a\nb", JOINED, False, 50.0, by=by), SIZE)
            self.assertEqual([glyph.piece for glyph in glyphs], pieces)
