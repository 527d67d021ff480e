"""A program that is killed while it writes: nothing stands at the goal, and it is offered again."""

import os
import signal
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from tests.media.clips import write_numbered

_PROGRAM = """
import os, signal, sys
from fractions import Fraction
from pathlib import Path
from PyQt6.QtCore import QCoreApplication
from wrinkle.core.piece import edits
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.media import Media
from wrinkle.library.exports import ExportItem, new_name
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.export.queue import ExportQueue

clip, goal, form, kills = Path(sys.argv[1]), sys.argv[2], sys.argv[3], sys.argv[4] == "kills"
program = QCoreApplication([])
desk = Desk.made()
queue = ExportQueue(desk.workers, desk.messages)
print(queue.load(), flush=True)
if kills:
    piece = edits.add_clips(Piece(), 0, [Media(str(clip), clip.name, Fraction(2))])
    item = ExportItem(new_name(), "It", new_name(), 0, 60, (64, 64), "30", form, goal)
    assert queue.add(piece, item)
    queue.progressed.connect(lambda done, *far: done > 20 and os.kill(os.getpid(), signal.SIGKILL))
else:
    queue.ended.connect(lambda item: (print(item.state.value, flush=True), program.quit()))
queue.start()
program.exec()
queue.close_down()
desk.workers.stop()
"""


class Killed(unittest.TestCase):
    def run_program(
        self, words: list[str], home: dict[str, str]
    ) -> subprocess.CompletedProcess[str]:
        return subprocess.run(
            words, env={**os.environ, **home}, capture_output=True, text=True, check=False
        )

    def test_nothing_stands_at_the_goal_and_the_next_start_offers_and_writes_it(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            clip = write_numbered(folder / "clip.mp4", 60)
            for form, goal in (("h264", folder / "goal.mp4"), ("png", folder / "goal")):
                with self.subTest(form):
                    home = {f"XDG_{x}_HOME": name for x in ("STATE", "DATA", "CACHE", "CONFIG")}
                    words = [sys.executable, "-c", _PROGRAM, str(clip), str(goal), form]
                    killed = self.run_program([*words, "kills"], home)
                    self.assertEqual(killed.returncode, -signal.SIGKILL, killed.stderr)
                    self.assertFalse(goal.exists())
                    again = self.run_program([*words, "writes"], home)
                    self.assertEqual(again.stdout.split()[-2:], ["1", "done"], again.stderr)
                    self.assertTrue(goal.exists())
                    # Nothing hidden is left beside it either.
                    self.assertEqual(list(folder.glob(".goal*")), [])
