"""Many commands in one file: done in their order, and a fault ends only the one that it is in."""

import contextlib
import io
import json
import tempfile
import unittest
from pathlib import Path

import msgspec

from tests.media.clips import write_numbered
from wrinkle.__main__ import main
from wrinkle.cli.job_list import JobList
from wrinkle.media.clip import Clip

SCHEMA = Path(__file__).parents[2] / "docs" / "jobs.schema.json"


class JobLists(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        for name in ("a.mp4", "b.mp4"):
            write_numbered(self.folder / name, 60)

    def batch(self, *jobs: object) -> tuple[int, str, str]:
        path = self.folder / "jobs.json"
        path.write_text(json.dumps({"jobs": jobs}))
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            status = main(["batch", str(path)])
        return status, out.getvalue(), err.getvalue()

    def test_they_are_done_in_their_order_with_paths_from_their_folder(self) -> None:
        options = {"with": ["half_turn", "plain_push"], "shuffle": 3, "strength": 50,
                   "size": "64x64", "flatten": False}  # fmt: skip
        here = Path.cwd()
        status, out, err = self.batch(
            {"command": "piece", "of": ["a.mp4", "b.mp4"], "options": {"output": "p.otio"}},
            {"command": "dress", "of": ["gone.otio"], "options": {"output": "gone.mp4"}},
            {"command": "dress", "of": ["p.otio"], "options": {**options, "output": "p.mp4"}},
        )
        self.assertEqual(status, 1)
        self.assertIn("gone.otio", err)
        self.assertEqual(err.count("\n"), 1)
        self.assertTrue(out.rstrip().endswith("2 of 3 done; failed: 2"))
        self.assertEqual(Clip(self.folder / "p.mp4").facts.frame_count, 120)
        self.assertFalse((self.folder / "gone.mp4").exists())
        self.assertEqual(Path.cwd(), here)
        # What is there is not written over here either.
        again = {"command": "piece", "of": ["a.mp4"], "options": {"output": "p.otio"}}
        status, _, err = self.batch(again)
        self.assertEqual((status, "is there already" in err), (1, True))
        again["options"]["overwrite"] = True  # type: ignore[index]
        self.assertEqual(self.batch(again)[::2], (0, ""))

    def test_nothing_is_done_where_one_of_them_is_not_possible(self) -> None:
        good = {"command": "piece", "of": ["a.mp4"], "options": {"output": "p.otio"}}
        for bad, told in (
            ({"command": "dress"}, "Job 2 of jobs.json: the following arguments are required"),
            ({"command": "knit"}, "Job 2 of jobs.json: argument COMMAND: invalid choice: 'knit'"),
            ({**good, "options": {"output": "q.otio", "qality": 3}}, "unrecognized arguments"),
            ({"command": "batch", "of": ["jobs.json"]}, "'batch' cannot be in a list"),
            ({"command": "dress", "of": ["x.otio"], "options": {"output": "p.otio"}},
             "Jobs 1 and 2 of jobs.json would both write p.otio"),
            ({"command": "dress", "speed": 2}, "is no list of jobs"),
            ({"command": ["dress"]}, "is no list of jobs"),
        ):  # fmt: skip
            status, _, err = self.batch(good, bad)
            self.assertEqual((status, err.count("\n")), (1, 1), err)
            self.assertIn(told, err)
            self.assertFalse((self.folder / "p.otio").exists())
        self.assertIn("There is no job in", self.batch()[2])

    def test_the_published_schema_is_that_of_the_lists(self) -> None:
        schema = json.loads(json.dumps(msgspec.json.schema(JobList)))
        self.assertEqual(json.loads(SCHEMA.read_text()), schema)
