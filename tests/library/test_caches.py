"""Caches have a limit and can be emptied."""

import os
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from wrinkle.library import caches


class Caches(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name) / "cache"
        place = mock.patch("wrinkle.library.caches.cache_folder", return_value=self.folder)
        place.start()
        self.addCleanup(place.stop)

    def fill(self) -> None:
        for age, name in enumerate(("tiles", "compiled", "old")):
            (self.folder / name / "deep").mkdir(parents=True)
            (self.folder / name / "deep" / "a").write_bytes(bytes(1000))
            os.utime(self.folder / name, (1e9 - age, 1e9 - age))

    def test_the_oldest_go_until_the_others_fit(self) -> None:
        caches.keep_within()
        self.assertEqual(caches.used(), 0)
        self.fill()
        caches.keep_within(2500)
        self.assertEqual({x.name for x in self.folder.iterdir()}, {"tiles", "compiled"})
        caches.keep_within(2500)
        self.assertEqual(caches.used(), 2000)

    def test_they_can_be_emptied_and_links_are_not_followed(self) -> None:
        self.fill()
        outside = self.folder.parent / "outside"
        outside.mkdir()
        (outside / "mine").write_bytes(b"mine")
        (self.folder / "link").symlink_to(outside)
        self.assertEqual(caches.empty([self.folder / "tiles" / "deep" / "a"]) // 1000, 2)
        self.assertEqual([x.name for x in self.folder.iterdir()], ["tiles"])
        self.assertEqual(caches.empty(), 1000)
        self.assertEqual(list(self.folder.iterdir()), [])
        self.assertEqual((outside / "mine").read_bytes(), b"mine")
