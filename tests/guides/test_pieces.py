"""The recipes are what a hand does at the window, in the words that stand on it."""

import re
import unittest

from benchmarks.actions.pieces import PIECES
from tests.demo.test_scenes import ROOT
from tests.ui.window_case import application
from window_guides.pieces import index, page, page_name, told_of

_FOLDER = ROOT / "docs" / "recipes"
_PICTURE = re.compile(r"\]\(([a-z0-9-]+\.jpg)\)")


class Recipes(unittest.TestCase):
    def test_there_is_a_page_of_each_piece_with_its_pictures(self) -> None:
        self.assertEqual((ROOT / "docs" / "recipes.md").read_text(), index())
        shown = set()
        for piece in PIECES:
            text = (_FOLDER / page_name(piece)).read_text()
            pictures = _PICTURE.findall(text)
            self.assertTrue(pictures, piece.name)
            shown |= set(pictures)
        self.assertEqual(shown, {x.name for x in _FOLDER.glob("*.jpg")})
        self.assertEqual(len(list(_FOLDER.glob("*.md"))), len(PIECES))

    def test_one_of_them_done_again_is_told_the_same(self) -> None:
        application()
        piece = next(x for x in PIECES if x.name == "corner_split")
        told = told_of(piece)
        self.assertEqual((_FOLDER / page_name(piece)).read_text(), page(piece, told))
        self.assertEqual(len(told.pictures), len(told.steps))
