"""Outlines, their raster, SVG path data and words, against formulas and fontTools."""

import io
import math
import unittest

import numpy as np
from fontTools.pens.boundsPen import BoundsPen
from fontTools.pens.recordingPen import DecomposingRecordingPen
from fontTools.svgLib.path import parse_path
from fontTools.ttLib import TTFont
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.picture.outlines import bounds
from wrinkle import library
from wrinkle.core.errors import InputError
from wrinkle.core.picture import paths
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.lettering import Align, Lettering, RevealBy, laid_out, lettered, revealed
from wrinkle.core.picture.path_data import contours_of
from wrinkle.core.picture.placement import rotation, scaling, translation
from wrinkle.core.picture.vector import Cap, Contour, Drawing, Stroke, coverage, painted

SIZE = Size(200, 120)
CIRCLE = paths.ellipse(100.3, 59.7, 40.0, 40.0)


def area(outline: paths.Outline, grow: float = 0.0) -> float:
    return float(coverage([paths.flattened(outline, True)], SIZE, grow).sum())


class Outlines(unittest.TestCase):
    def test_areas_are_those_of_the_formulas(self) -> None:
        self.assertAlmostEqual(area(CIRCLE) / (math.pi * 1600), 1.0, delta=2e-3)
        self.assertAlmostEqual(area(paths.rectangle(10.25, 10, 60.75, 50)), 50.5 * 40, delta=2.0)
        six = paths.regular_polygon(100, 60, 40, 40, 6)
        self.assertAlmostEqual(area(six) / (1.5 * math.sqrt(3) * 1600), 1.0, delta=2e-3)

    def test_expansion_moves_the_edge_by_exactly_its_length(self) -> None:
        for grow in (-15.0, -0.5, 0.5, 7.25, 15.0):
            wanted = math.pi * (40.0 + grow) ** 2
            self.assertAlmostEqual(area(CIRCLE, grow) / wanted, 1.0, delta=6e-3, msg=str(grow))

    def test_a_transform_moves_the_centroid_as_the_matrix_does(self) -> None:
        matrix = translation(110, 50) @ rotation(33) @ scaling(1.2, 0.5) @ translation(-100, -60)
        shape = paths.rectangle(80, 45, 120, 75)
        seen = coverage([paths.flattened(paths.transformed(shape, matrix), True)], SIZE)
        rows, columns = np.mgrid[0:120, 0:200] + 0.5
        middle = np.array([(seen * columns).sum(), (seen * rows).sum()]) / seen.sum()
        np.testing.assert_allclose(middle, (matrix @ (100, 60, 1))[:2], atol=0.02)

    @settings(deadline=None, max_examples=25)
    @given(st.integers(0, 3), st.floats(0.05, 0.95))
    def test_a_point_put_into_a_curve_changes_no_form(self, segment: int, share: float) -> None:
        more = paths.inserted(CIRCLE, segment, share)
        self.assertEqual(len(paths.knots(more)), 5)
        away = [paths.nearest(CIRCLE, True, x, y).distance for x, y in paths.flattened(more, True)]
        self.assertLess(max(away), 0.02)

    def test_points_are_removed_and_turned_from_corner_to_smooth(self) -> None:
        square = paths.rectangle(0, 0, 6, 6)
        self.assertTrue(all(knot.corner for knot in paths.knots(square)))
        smooth = paths.knots(paths.smoothed(square, 1))[1]
        self.assertEqual(smooth, paths.Knot(6, 0, -1, -1, 1, 1))
        again = paths.cornered(paths.smoothed(square, 1), 1)
        self.assertEqual(again, square)
        two = paths.removed(paths.removed(square, 0), 0)
        with self.assertRaisesRegex(InputError, "at least two points"):
            paths.removed(two, 0)
        with self.assertRaisesRegex(InputError, "six numbers"):
            paths.knots((1.0, 2.0))

    def test_the_nearest_place_on_a_circle(self) -> None:
        found = paths.nearest(CIRCLE, True, 100.3 + 50, 59.7)
        self.assertAlmostEqual(found.distance, 10.0, delta=0.02)
        left, top, right, bottom = bounds(CIRCLE)
        np.testing.assert_allclose((left, top, right, bottom), (60.3, 19.7, 140.3, 99.7), atol=0.05)


class Drawings(unittest.TestCase):
    def test_a_stroke_is_as_wide_as_it_says_and_shows_the_asked_part(self) -> None:
        line = (Contour(paths.polygon(((20, 60), (180, 60))), closed=False),)
        for start, end, seen in ((0.0, 1.0, 160.0), (0.25, 0.75, 80.0), (0.5, 0.5, 0.0)):
            stroke = Stroke(10.0, (1.0, 1.0, 1.0), Cap.BUTT, start=start, end=end)
            alpha = painted(Drawing(line, None, stroke), SIZE).pixels[..., 3]
            self.assertAlmostEqual(float(alpha.sum()), seen * 10.0, delta=4.0)
        dashed = Stroke(10.0, (1.0, 1.0, 1.0), Cap.BUTT, dash=(10.0, 30.0))
        alpha = painted(Drawing(line, None, dashed), SIZE).pixels[..., 3]
        self.assertAlmostEqual(float(alpha.sum()), 160.0 * 10.0 / 4, delta=2.0)

    def test_overlapping_contours_leave_a_hole(self) -> None:
        ring = Drawing(
            (Contour(CIRCLE), Contour(paths.ellipse(100.3, 59.7, 20, 20))), (2.0, 0.5, 0.0), None
        )
        picture = painted(ring, SIZE).pixels
        self.assertAlmostEqual(float(picture[..., 3].sum()), math.pi * 1200, delta=10.0)
        # Colours are linear light and may exceed one; alpha is premultiplied.
        self.assertAlmostEqual(float(picture[60, 130, 0]), 2.0, delta=0.02)
        self.assertEqual(float(picture[60, 100, 3]), 0.0)


class PathData(unittest.TestCase):
    # SVG 1.1, section 8.3; reference parser: fontTools.svgLib.path.
    CASES = (
        "M10 10H90V90H10Z",
        "m10,10 l80,0 0,80-80 0z m20 20 h10v10h-10z",
        "M10 80C40 10 65 10 95 80S150 150 180 80",
        "M10 80c30-70 55-70 85 0s55 70 85 0",
        "M10 80Q52.5 10 95 80T180 80",
        "m10 80q42.5-70 85 0t85 0",
        "M10 50A30 20 25 0 1 70 60",
        "M10 50a30 20 25 1 0 60 10 30,20,25,01-20-5z",
        "M80 80A45 45 0 1 1 80.001 80Z",
        "M1e1 1.5e1L.5.5-.25-.75",
    )

    def test_every_command_reaches_where_the_reference_parser_does(self) -> None:
        for data in self.CASES:
            with self.subTest(data):
                pen = DecomposingRecordingPen({})
                parse_path(data, pen)
                spots = [arguments[-1] for _, arguments in pen.value if arguments]
                contours = contours_of(data)
                corners = [(k.x, k.y) for c in contours for k in paths.knots(c.outline)]
                for spot in spots:
                    away = min(math.dist(spot, corner) for corner in corners)
                    on = min(paths.nearest(c.outline, c.closed, *spot).distance for c in contours)
                    self.assertLess(min(away, on), 0.02, spot)
                box = BoundsPen(None)
                parse_path(data, box)
                found = bounds(*(c.outline for c in contours))
                np.testing.assert_allclose(found, box.bounds, atol=0.6)
                closed = sum(name == "closePath" for name, _ in pen.value)
                self.assertEqual(sum(c.closed for c in contours), closed)

    def test_text_that_is_no_path_is_refused_with_the_place(self) -> None:
        for text, said in (
            ("L10 10", "begin with a move"),
            ("M10 10 L20", "lacks a number"),
            ("M0 0 K5", "cannot be read at 'K5'"),
            ("M0 0 z 5", "without a command"),
        ):
            with self.assertRaisesRegex(InputError, said):
                contours_of(text)


class Words(unittest.TestCase):
    FONT = library.fonts()[True]

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
