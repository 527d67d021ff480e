"""SVG files and their path data, against fontTools and what the standards say."""

import math
import tempfile
import unittest
from pathlib import Path

import numpy as np
from fontTools.pens.boundsPen import BoundsPen
from fontTools.pens.recordingPen import DecomposingRecordingPen
from fontTools.svgLib.path import parse_path

from tests.core.picture.outlines import bounds
from wrinkle.core.errors import InputError, MediaError
from wrinkle.core.picture import paths
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.placement import scaling
from wrinkle.media.svg import read_svg
from wrinkle.media.svg_paths import contours_of

SIZE = Size(100, 200)


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


class Files(unittest.TestCase):
    def read(self, inside: str, attributes: str = 'viewBox="0 0 100 200"') -> dict[str, object]:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "drawing.svg"
            path.write_text(
                f'<svg xmlns="http://www.w3.org/2000/svg" '
                f'xmlns:xlink="http://www.w3.org/1999/xlink" {attributes}>{inside}</svg>'
            )
            return dict(read_svg(path, SIZE))

    def test_colours_come_from_style_sheets_names_and_functions(self) -> None:
        # CSS Color Module Level 3: tomato is #FF6347, teal #008080; hsl(120, 100%, 25%) is #008000
        # to a rounding. Linear values by IEC 61966-2-1.
        found = self.read(
            "<style>.a { fill: tomato; stroke: rgb(100%, 0%, 0%); } #b { fill: hsl(120,100%,25%) }"
            "</style>"
            '<path id="a" class="a" d="M0 0h9v9z"/><path id="b" d="M0 0h9v9z"/>'
            '<g color="teal"><path id="c" fill="currentColor" d="M0 0h9v9z"/></g>'
            '<path id="d" fill="none" d="M0 0h9v9z"/><path id="e" d="M0 0h9v9z"/>'
        )
        np.testing.assert_allclose(found["a"].fill.rest, (1.0, 0.1248, 0.0630), atol=2e-3)
        self.assertEqual(found["a"].stroke.rest, (1.0, 0.0, 0.0))
        np.testing.assert_allclose(found["b"].fill.rest, (0.0, 0.2140, 0.0), atol=3e-3)
        np.testing.assert_allclose(found["c"].fill.rest, (0.0, 0.2159, 0.2159), atol=2e-3)
        self.assertFalse(found["d"].filled.rest)
        self.assertEqual(found["e"].fill.rest, (0.0, 0.0, 0.0))

    def test_what_is_not_displayed_is_left_out(self) -> None:
        found = self.read(
            "<style>.gone { display: none }</style>"
            '<circle id="a" r="5"/><circle id="b" r="5" class="gone"/>'
            '<g style="display:none"><circle id="c" r="5"/></g>'
            '<circle id="d" r="5" visibility="hidden"/>'
            '<defs><circle id="e" r="5"/></defs><text id="f">no shape</text>'
        )
        self.assertEqual(list(found), ["a"])

    def test_shapes_have_the_area_of_their_formula(self) -> None:
        # A rounded rectangle lacks (4 - pi) r^2 at its corners.
        for text, area in (
            ('<rect id="x" x="10" y="20" width="60" height="40" rx="10"/>',
             60 * 40 - (4 - math.pi) * 100),
            ('<rect id="x" width="60" height="40"/>', 2400.0),
            ('<ellipse id="x" cx="50" cy="60" rx="30" ry="20"/>', math.pi * 600),
            ('<polygon id="x" points="0,0 40,0 40,30"/>', 600.0),
            ('<use id="y" href="#x" x="3"/><defs><circle id="x" r="10"/></defs>', math.pi * 100),
        ):  # fmt: skip
            with self.subTest(text):
                (shape,) = self.read(text).values()
                large = paths.transformed(shape.path.rest, scaling(1e5, 2e5))
                flat = paths.flattened(large, True)
                x, y = (np.array([spot[side] for spot in flat]) for side in (0, 1))
                found = abs(float(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1)))) / 2.0
                # The straight pieces of a flattened curve lie within it.
                self.assertAlmostEqual(found / 1e6 / area, 1.0, delta=3e-3)

    def test_units_transforms_and_view_box(self) -> None:
        # CSS Values and Units Level 3: 1 in is 96 px, 25.4 mm.
        inside = (
            '<g transform="scale(2)"><path id="l" stroke="red" stroke-width="1mm" d="M0 0h9"/></g>'
        )
        line = self.read(inside)["l"]
        self.assertAlmostEqual(line.stroke_width.rest, 2 * 96 / 25.4, delta=0.01)
        self.assertFalse(line.closed)
        wide = self.read('<path id="w" d="M0 0h50v50h-50z"/>', 'viewBox="0 0 50 50"')["w"]
        np.testing.assert_allclose(bounds(wide.path.rest), (0.0, 0.25, 1.0, 0.75), atol=1e-6)
        bare = self.read('<path id="w" d="M0 0h10v20h-10z"/>', 'width="10" height="20"')["w"]
        np.testing.assert_allclose(bounds(bare.path.rest), (0.0, 0.0, 1.0, 1.0), atol=1e-6)

    def test_what_cannot_be_used_is_one_sentence(self) -> None:
        for inside, said in (
            ("", "holds no path"),
            ('<path d="M0 0 K5"/>', "cannot be read at 'K5'"),
            ('<path d="M0 0h5"/>' * 201, "201 paths; 200 at most"),
        ):
            with self.assertRaisesRegex(MediaError, rf"^drawing\.svg .*{said}"):
                self.read(inside)
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "x.svg"
            path.write_text('<!DOCTYPE svg [<!ENTITY a "b">]><svg>&a;</svg>')
            with self.assertRaisesRegex(MediaError, "cannot be read as an SVG file"):
                read_svg(path, SIZE)
