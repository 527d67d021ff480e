"""The guide to the effects is that of the code."""

import unittest

from guides.effects import guide
from tests.demo.test_scenes import ROOT
from wrinkle.core.effects.registry import EFFECTS


class Guide(unittest.TestCase):
    def test_the_published_guide_is_written_from_the_declarations(self) -> None:
        self.assertEqual((ROOT / "docs" / "effects.md").read_text(), guide())
        for key in EFFECTS:
            self.assertTrue((ROOT / "docs" / "effects" / f"{key}.jpg").exists(), key)
