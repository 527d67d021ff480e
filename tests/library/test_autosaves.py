"""Unsaved work: kept whole, found after a crash, and not touched by others."""

import tempfile
import unittest
from pathlib import Path
from unittest import mock

from wrinkle.core.design.document.coding import encode
from wrinkle.core.design.document.history import History
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.design.edits import wrinkle_edits
from wrinkle.core.errors import DocumentError
from wrinkle.library import autosaves
from wrinkle.library.autosaves import Autosave, Work, left_work
from wrinkle.library.kept_wrinkle import WrinkleCodec

CODEC = WrinkleCodec()


def work(steps: int = 3, place: int | None = None, **fields: object) -> Work:
    history = History.starting(plain_cut())
    for number in range(steps):
        step = wrinkle_edits.rename(history.current, f"step {number}")
        history = history.then(step, f"name {number}", number + 5)
    for _ in range(steps - (steps if place is None else place)):
        history = history.undone()
    return Work(history, plain_cut(), **{"rest": {}, **fields})


class Autosaves(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name) / "kept"

    def test_all_of_the_work_comes_back(self) -> None:
        beside = {"clips": {"outgoing": {"path": "/a/kite.mp4", "cut": "7/3"}}, "playhead": -4}
        given = work(5, 3, path=Path("/a/b.wrinkle"), rest={"ink.png": b"png"}, beside=beside)
        autosave = Autosave(CODEC, self.folder)
        autosave.keep(given)
        autosave.keep_picture(b"picture")
        self.assertEqual(left_work(self.folder), [], "its program still runs")
        autosave.let_go()
        (left,) = left_work(self.folder)
        self.assertEqual((left.name, left.steps, left.picture), ("step 2", 5, b"picture"))
        self.assertEqual(left.read(CODEC), given)
        left.remove()
        self.assertEqual(list(self.folder.iterdir()), [])

    def test_a_step_costs_one_file_and_what_is_left_behind_goes(self) -> None:
        autosave = Autosave(CODEC, self.folder)
        self.addCleanup(autosave.let_go)
        given = work(3)
        autosave.keep(given)
        states = next(self.folder.iterdir()) / "states"
        first = {path.name: path.stat().st_mtime_ns for path in states.iterdir()}
        self.assertEqual(len(first), 4)
        autosave.keep(Work(given.history.then(wrinkle_edits.rename(plain_cut(), "y"), "y", 9),
                           plain_cut(), {}))  # fmt: skip
        second = {path.name: path.stat().st_mtime_ns for path in states.iterdir()}
        self.assertEqual(len(second), 5)
        self.assertLessEqual(first.items(), second.items())
        autosave.keep(work(1))
        self.assertEqual(len(list(states.iterdir())), 2)

    def test_of_large_work_the_nearest_steps_are_kept(self) -> None:
        given = work(40, 30)
        autosave = Autosave(CODEC, self.folder)
        size = len(encode(given.history.current))
        with mock.patch.object(autosaves, "MOST_BYTES", size * 12):
            autosave.keep(given)
        autosave.let_go()
        found = left_work(self.folder)[0].read(CODEC).history
        self.assertEqual(found.current, given.history.current)
        self.assertTrue(9 <= found.place <= 12, found.place)
        self.assertEqual(found.undone().current, given.history.undone().current)
        self.assertEqual(found.labels[found.place], "name 29")

    def test_what_is_saved_or_broken_is_not_offered(self) -> None:
        saved, broken, other = (Autosave(CODEC, self.folder) for _ in range(3))
        for one in (saved, broken):
            one.keep(work())
        saved.remove()
        broken.let_go()
        (left,) = left_work(self.folder)
        for path in (left.folder / "states").iterdir():
            path.write_bytes(b"{")
        with self.assertRaisesRegex(DocumentError, "The kept work on step 2 is damaged"):
            left.read(CODEC)
        (left.folder / "index.json").write_bytes(b"\xff\xfe")
        self.assertEqual(left_work(self.folder), [])
        other.remove()

    def test_a_broken_step_is_left_out(self) -> None:
        autosave = Autosave(CODEC, self.folder)
        autosave.keep(work(3))
        autosave.let_go()
        (left,) = left_work(self.folder)
        kept = (left.folder / "states").iterdir()
        newest = next(path for path in kept if b'"step 2"' in path.read_bytes())
        newest.write_bytes(newest.read_bytes()[:40])
        found = left.read(CODEC).history
        self.assertEqual(found.current.name, "step 1")
        self.assertEqual(found.labels, ("", "name 0", "name 1"))
