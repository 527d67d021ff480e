"""The guide to the wrinkles is that of the shipped ones."""

import unittest

from guides.wrinkles import LARGEST, guide
from tests.demo.test_scenes import ROOT
from wrinkle.library import shipped


class Guide(unittest.TestCase):
    def test_the_published_guide_is_written_from_the_wrinkles_and_has_a_strip_of_each(self) -> None:
        docs = ROOT / "docs"
        self.assertEqual((docs / "wrinkles.md").read_text(), guide())
        strips = {path.stem: path.stat().st_size for path in (docs / "wrinkles").glob("*.jpg")}
        self.assertEqual(set(strips), set(shipped()))
        self.assertLess(max(strips.values()), LARGEST)
