"""The same frame through every road: the Bench, the dialog, the command line, a sheet, a video."""

import tempfile
import unittest
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np

from tests.core.reuse.test_use import held_on
from tests.media.clips import write_numbered
from tests.ui.window_case import application, wait_for
from wrinkle.__main__ import main
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.frames import screen_frame
from wrinkle.files import archive
from wrinkle.media.exporting import export
from wrinkle.media.exporting import video as exporting_video
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.use.use_dialog import UseDialog

RATE, SIZE = 25, Size(112, 96)


class Roads(unittest.TestCase):
    """A wrinkle of 30 frames a second with a pin that holds, on clips of 25."""

    def setUp(self) -> None:
        application()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        rate = Fraction(RATE)
        self.clips = {
            slot: write_numbered(self.folder / f"{slot}.mp4", 60, rate=rate)
            for slot in ("outgoing", "incoming")
        }
        self.path = self.folder / "held.wrinkle"
        archive.write(self.path, Bundle(held_on(-5)))
        self.desk = Desk.made()
        self.addCleanup(self.desk.workers.stop)
        self.dialog = UseDialog(archive.read(self.path), self.desk.workers, self.desk.asking)
        self.addCleanup(self.dialog.done, 0)
        for slot, path in self.clips.items():
            self.dialog.set_clip(slot, path)
        wait_for(self.dialog.render_button.isEnabled, "both clips")
        shown = self.dialog.shown
        assert shown is not None
        self.shown = shown

    def typed(self, command: str, *words: str) -> Path:
        """What a command writes."""
        output = self.folder / f"{command}.png"
        clips = [word for slot, path in self.clips.items() for word in (f"--{slot}", str(path))]
        job = [command, str(self.path), *clips, *words, "--output", str(output), "--overwrite"]
        status = main(job)
        self.assertEqual(status, 0)
        return output

    def test_a_frame_has_the_same_bytes_by_each(self) -> None:
        self.assertEqual((self.shown.size, self.shown.wrinkle.frame_rate.label), (SIZE, "25"))
        for frame in (-5, -4, 3):
            with self.subTest(frame):
                wanted = self.shown.image(frame).to_bytes8()
                written = cv2.imread(str(self.typed("frame", "--at", str(frame))))
                np.testing.assert_array_equal(written[..., ::-1], wanted[..., :3])
                jobs = Jobs(2)
                self.addCleanup(jobs.stop)
                frames = range(frame, frame + 1)
                (one,) = export.rendered(self.shown, frames, jobs, lambda x: x.to_bytes8())
                np.testing.assert_array_equal(one, wanted)

    def test_the_bench_shows_what_the_dialog_shows(self) -> None:
        self.desk.document.open_copy(archive.read(self.path))
        self.desk.tried.begin(self.clips)
        wait_for(lambda: len(self.desk.tried.clips) == 2, "the clips of the Bench")
        rate = self.shown.wrinkle.frame_rate
        self.desk.document.edit("rate", lambda w: self.shown.wrinkle)
        self.assertEqual(self.desk.document.state.frame_rate, rate)
        bench = self.desk.shown(SIZE)
        self.assertIs(bench.quality, Quality.PREVIEW)
        preview = replace(self.shown, quality=Quality.PREVIEW)
        for frame in (-12, -5, -4, 0, 5):
            self.assertEqual(bench.plan(frame), preview.plan(frame))
            here, there = (screen_frame(x.image(frame)).pixels for x in (bench, preview))
            np.testing.assert_array_equal(here, there)

    def test_a_sheet_and_a_video_hold_the_frames_of_the_window(self) -> None:
        self.assertEqual(self.shown.wrinkle.frames, range(-10, 10))
        jobs = Jobs(2)
        self.addCleanup(jobs.stop)
        told: list[int] = []
        sheet = cv2.imread(str(self.typed("sheet")))
        self.assertGreater(sheet.shape[0] * sheet.shape[1], 20 * 112 * 96)
        video = self.folder / "all.mp4"
        job = Job(lambda done, total, left: told.append(total))
        count = exporting_video.write(video, self.shown, export.ExportChoices(), jobs, job)
        self.assertEqual((count, told[-1], len(told)), (20, 20, 20))
