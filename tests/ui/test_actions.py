"""Pieces of the job are built at the window by as many actions as the page says."""

import tempfile
import unittest
from pathlib import Path

from benchmarks.actions.__main__ import PAGE, line
from benchmarks.actions.building import built
from benchmarks.actions.everyday import EVERYDAY
from benchmarks.actions.pieces import PIECES
from tests.ui.window_case import application

LOOKED_AT = ("P05", "E10")
"""The others take longer; ``python -m benchmarks.actions`` builds all."""


class Actions(unittest.TestCase):
    def test_the_page_says_how_many_each_piece_takes(self) -> None:
        application()
        page = PAGE.read_text(encoding="utf-8")
        for piece in (*PIECES, *EVERYDAY):
            self.assertIn(f"| {piece.number} ", page)
            if piece.number not in LOOKED_AT:
                continue
            with self.subTest(piece.number), tempfile.TemporaryDirectory() as folder:
                done = built(piece, Path(folder))
                self.assertEqual(done.faults, [])
                self.assertIn(line(piece, done), page)
                self.assertLessEqual(done.count, piece.goal)
                self.assertEqual(done.moves_at, [], "at rest at both ends")
