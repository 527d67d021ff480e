"""The moving pictures that ship are those that would be drawn now; small pictures are kept."""

import tempfile
import unittest
from pathlib import Path
from unittest import mock

import numpy as np
from msgspec.structs import replace

from guides.tiles import look_pictures, sample_ground
from wrinkle.core.jobs import Job
from wrinkle.core.picture.image import Size
from wrinkle.core.store import Store
from wrinkle.library.looks import shipped_looks
from wrinkle.library.picture_strips import clip_picture_path, keep_strip, read_strip
from wrinkle.library.shelf import Shelved, Shelves
from wrinkle.library.shipped_tiles import LOOK_STEPS, SIZE, shipped_look, shipped_tile
from wrinkle.library.tiles import drawn_tile, first_of_tile, steps_of, tile_strip


def psnr(one: np.ndarray, other: np.ndarray) -> float:
    """Decibels of 8-bit pictures."""
    error = np.mean((one.astype(float) - other.astype(float)) ** 2)
    return float(10.0 * np.log10(255.0**2 / max(error, 1e-9)))


class ShippedTiles(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.ground = sample_ground()
        cls.shipped = [one for one in Shelves().all() if one.shipped]

    def test_each_wrinkle_has_its_own_as_it_is_drawn_now(self) -> None:
        self.assertGreaterEqual(len(self.shipped), 32)
        self.assertEqual(self.ground.size, SIZE)
        store = Store()
        for one in self.shipped:
            with self.subTest(one.name):
                assert one.wrinkle is not None
                found = shipped_tile(one)
                steps = steps_of(one.wrinkle)
                self.assertEqual(len(found), len(steps), "make them anew: python -m guides.tiles")
                # Three moments of each tell whether it is the same wrinkle still.
                places = (len(steps) // 4, len(steps) // 2, 3 * len(steps) // 4)
                frames = [steps[x] for x in places]
                drawn = drawn_tile(one, self.ground, store, Job(), frames=frames)
                for place, picture in zip(places, drawn, strict=True):
                    self.assertGreater(psnr(found[place], picture), 24.0, place)
        other = mock.Mock(spec=Shelved, shipped=False, path=self.shipped[0].path)
        self.assertEqual(shipped_tile(other), [])

    def test_each_look_has_its_own_as_it_is_drawn_now(self) -> None:
        for look in shipped_looks():
            with self.subTest(look.name):
                found = shipped_look(look)
                self.assertEqual(len(found), LOOK_STEPS, "make them anew: python -m guides.tiles")
                for shown, drawn in zip(found, look_pictures(look), strict=True):
                    self.assertGreater(psnr(shown, drawn), 24.0)
        self.assertEqual(shipped_look(replace(shipped_looks()[0], name="Other")), [])

    def test_one_picture_comes_first_and_all_once_they_are_kept(self) -> None:
        one = self.shipped[0]
        with (
            tempfile.TemporaryDirectory() as name,
            mock.patch("wrinkle.library.cache_folder", return_value=Path(name)),
        ):
            self.assertEqual(len(first_of_tile(one, self.ground, Store(), Job())), 1)
            whole = tile_strip(one, self.ground, Store(), Job())
            kept = first_of_tile(one, self.ground, Store(), Job())
            self.assertEqual(len(kept), len(whole))

    def test_a_kept_picture_is_read_again_and_a_damaged_one_counts_as_none(self) -> None:
        size = Size(40, 60)
        y, x = np.mgrid[0:60, 0:40]
        smooth = np.stack([4 * x, 3 * y, 255 - 2 * x - y], -1).astype(np.uint8)
        pictures = [smooth, np.ascontiguousarray(smooth[:, ::-1])]
        with (
            tempfile.TemporaryDirectory() as name,
            mock.patch("wrinkle.library.cache_folder", return_value=Path(name)),
        ):
            path = clip_picture_path("a clip\udcff in its state", 7, size)
            self.assertIsNone(read_strip(path, size))
            keep_strip(path, pictures, 90)
            found = read_strip(path, size)
            assert found is not None
            for picture, wanted in zip(found, pictures, strict=True):
                self.assertGreater(psnr(picture, wanted), 35.0)
            self.assertIsNone(read_strip(path, Size(39, 60)))
            for content in (b"", b"no picture", path.read_bytes()[:200]):
                path.write_bytes(content)
                found = read_strip(path, size)
                self.assertTrue(found is None or len(found) == 2)
            # A folder that cannot be made is no fault.
            Path(name, "file").write_bytes(b"")
            keep_strip(Path(name, "file", "x.jpg"), pictures, 90)
