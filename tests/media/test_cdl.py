"""Colour decision lists: the three kinds of file, and broken ones."""

import tempfile
import unittest
from pathlib import Path

from wrinkle.core.errors import InputError
from wrinkle.media.cdl import read_decisions

# Written after the examples of ASC CDL 1.2, with numbers of our own.
NODE = """<ColorCorrection id="{name}">
  <SOPNode><Description>made up</Description>
    <Slope>1.25 0.9 1.0</Slope> <Offset>-0.02 0.0 0.05</Offset> <Power>1.1 1 0.8</Power></SOPNode>
  <SatNode><Saturation>0.7</Saturation></SatNode>
</ColorCorrection>"""
LIST = (
    '<ColorDecisionList xmlns="urn:ASC:CDL:v1.2"><ColorDecision>'
    + NODE.format(name="dawn")
    + "</ColorDecision></ColorDecisionList>"
)
SEVERAL = (
    "<ColorCorrectionCollection>"
    + NODE.format(name="noon")
    + "<ColorCorrection><SatNode><Saturation>1.4</Saturation></SatNode></ColorCorrection>"
    + "</ColorCorrectionCollection>"
)


class Decisions(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def file(self, name: str, text: str) -> Path:
        path = self.folder / name
        path.write_text(text)
        return path

    def test_one_and_several_are_read_with_what_is_missing_at_rest(self) -> None:
        for name, text in (("a.cdl", LIST), ("b.cc", NODE.format(name="dawn"))):
            (found,) = read_decisions(self.file(name, text))
            self.assertEqual((found.name, found.slope), ("dawn", (1.25, 0.9, 1.0)))
            self.assertEqual((found.offset, found.power), ((-0.02, 0.0, 0.05), (1.1, 1.0, 0.8)))
            self.assertEqual(found.saturation, 0.7)
        first, second = read_decisions(self.file("c.ccc", SEVERAL))
        self.assertEqual((first.name, second.name), ("noon", "decision 2"))
        self.assertEqual((second.slope, second.saturation), ((1.0, 1.0, 1.0), 1.4))

    def test_broken_files_are_refused_by_name(self) -> None:
        bomb = '<!DOCTYPE x [<!ENTITY a "b">]><ColorCorrection>&a;</ColorCorrection>'
        for text, said in (
            ("no xml", "x.cdl is no list"),
            (bomb, "x.cdl is no list"),
            ("<ColorDecisionList/>", "x.cdl holds no colour decision"),
            (NODE.format(name="dusk").replace("1.25 0.9 1.0", "1.25 0.9"), "'dusk' in x.cdl"),
            (NODE.format(name="dusk").replace("0.7", "nan"), "'dusk' in x.cdl"),
        ):
            with self.assertRaisesRegex(InputError, said):
                read_decisions(self.file("x.cdl", text))
        with self.assertRaisesRegex(InputError, "gone.cdl cannot be opened"):
            read_decisions(self.folder / "gone.cdl")
