"""Colour tables against colour-science's reader and its interpolations."""

import tempfile
import unittest
from pathlib import Path

import colour
import numpy as np

from wrinkle.core.errors import InputError
from wrinkle.core.picture.lut import Lut, looked_up, parse_cube
from wrinkle.demo import extras

SOLID = b"""TITLE "Made up"
# a comment
LUT_3D_SIZE 3
DOMAIN_MIN -0.1 0 0
DOMAIN_MAX 1.1 1 2
"""


class Tables(unittest.TestCase):
    def picture(self) -> np.ndarray:
        return np.random.default_rng(1).random((40, 30, 3)).astype(np.float32) * 1.2 - 0.1

    def reference(self, content: bytes) -> object:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "table.cube"
            path.write_bytes(content)
            return colour.io.read_LUT_IridasCube(str(path))

    def solid(self) -> bytes:
        dice = np.random.default_rng(2).random((27, 3))
        return SOLID + "\n".join(" ".join(f"{x:.5f}" for x in row) for row in dice).encode()

    def test_three_dimensions_are_read_as_colour_science_reads_them(self) -> None:
        content, picture = self.solid(), self.picture()
        table, wanted = parse_cube("a.cube", content), self.reference(content)
        np.testing.assert_allclose(table.table, wanted.table, atol=1e-5)
        held = np.clip(picture, (-0.1, 0, 0), (1.1, 1, 2)).astype(np.float64)
        exact = wanted.apply(held, interpolator=colour.algebra.table_interpolation_tetrahedral)
        self.assertLess(float(np.abs(looked_up(table, picture) - exact).max()), 3e-4)

    def test_the_largest_table_is_read_like_a_small_one(self) -> None:
        steps = np.linspace(0.0, 1.0, 200, dtype=np.float32)
        solid = np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1)
        swapped = Lut("swap", "swap", solid[..., [1, 2, 0]] * np.float32(0.5))
        picture = np.clip(self.picture(), 0, 1)
        found = looked_up(swapped, picture)
        np.testing.assert_allclose(found, picture[..., [1, 2, 0]] / 2, atol=1e-5)

    def test_one_dimension_is_read_for_each_channel(self) -> None:
        content = b"LUT_1D_SIZE 4\n0 0 1\n0.1 0.5 0.6\n0.7 0.6 0.3\n1 1 0\n"
        picture = np.clip(self.picture(), 0, 1)
        found = looked_up(parse_cube("b.cube", content), picture)
        wanted = self.reference(content).apply(picture.astype(np.float64))
        np.testing.assert_allclose(found, wanted, atol=1e-5)

    def test_broken_files_are_refused_with_the_line(self) -> None:
        for content, said in (
            (b"", "no size"),
            (b"LUT_3D_SIZE 2\n0 0 0\n", "holds 1 colours, not the 8"),
            (b"LUT_1D_SIZE 2\n0 0\n1 1 1\n", "line 2"),
            (b"LUT_1D_SIZE 2\nDOMAIN_MIN 1 1 1\n0 0 0\n1 1 1\n", "domain"),
            # Wide enough for double precision, and nothing in single.
            (
                b"LUT_1D_SIZE 2\nDOMAIN_MIN 1 1 0.99999999\nDOMAIN_MAX 2 2 1\n0 0 0\n1 1 1\n",
                "domain",
            ),
            (b"\xff\xfe\x00", "not text"),
        ):
            with self.assertRaisesRegex(InputError, said):
                parse_cube("bad.cube", content)

    def test_the_demos_tables_can_be_read(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            for make in (extras.cold_morning, extras.late_gold):
                path = Path(folder) / "look.cube"
                make(path)
                table = parse_cube(path.name, path.read_bytes())
                grey = looked_up(table, np.full((1, 1, 3), 0.5, np.float32))[0, 0]
                self.assertTrue(0.02 < float(np.ptp(grey)) < 0.2)
