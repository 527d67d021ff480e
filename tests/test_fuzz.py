"""A short search through every reader; ``./run fuzz`` searches for as long as it is told to."""

import math
import random
import tempfile
import unittest
from pathlib import Path

from fuzz.__main__ import read_case
from fuzz.kills import kill_once
from fuzz.readers import readers
from tests.media.clips import write_numbered

CASES = {"wrinkle": 30, "picture": 80, "clip": 30, "sound": 30, "timeline": 20}
OTHERS = 60


class Search(unittest.TestCase):
    def test_no_changed_file_does_harm(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            for reader in readers():
                became = {"read": 0, "refused": 0}
                for case in range(CASES.get(reader.name, OTHERS)):
                    found = read_case(reader, 2, case, Path(name))
                    self.assertIn(found, became, f"{reader.name}, case {case}")
                    became[found] += 1
                self.assertGreater(became["read"], 5, reader.name)
                self.assertGreater(became["refused"], 5, reader.name)

    def test_who_is_ended_in_the_midst_of_work_leaves_whole_files(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            clip = write_numbered(Path(name) / "clip.mp4", 60)
            self.assertEqual(kill_once(random.Random(1), clip, math.inf), [])
