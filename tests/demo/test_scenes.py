import os
import signal
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path
from unittest import mock

import numpy as np

from tests.media.clips import write_numbered
from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size
from wrinkle.demo import clips
from wrinkle.demo.scenes import SCENES
from wrinkle.demo.scenes.town import shutter_opening
from wrinkle.media.clip import Clip
from wrinkle.media.svg import read_svg

ROOT = Path(__file__).parents[2]
SIZE = Size(108, 192)


class Scenes(unittest.TestCase):
    def test_each_is_the_same_each_time_and_moves_and_has_texture(self) -> None:
        for name in SCENES:
            with self.subTest(name):
                first = clips.draw_scene(name, 1.0, SIZE)
                np.testing.assert_array_equal(first, clips.draw_scene(name, 1.0, SIZE))
                later = clips.draw_scene(name, 1.3, SIZE)
                self.assertGreater(float(np.abs(first.astype(int) - later).mean()), 0.3)
                fine = np.abs(np.diff(first.astype(int), axis=1)).mean()
                self.assertGreater(float(fine), 0.8)

    def test_the_shutter_opens_and_closes(self) -> None:
        self.assertEqual([shutter_opening(t) for t in (0.0, 1.5, 3.1)], [0.0, 1.0, 0.0])

    def test_a_clip_has_the_asked_size_rate_and_length_and_grain(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "dunes.mp4"
            clips.draw_clip(path, "dunes", SIZE, clips.RATE, 0.5)
            clip = Clip(path)
            self.addCleanup(clip.close)
            self.assertEqual((clip.size, clip.facts.frame_count), (SIZE, 15))

    def folder_with_clips(self) -> Path:
        """The demo's folder, a small clip in the place of each."""
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        small = write_numbered(Path(folder.name) / "small.mp4", 3).read_bytes()
        for present in clips.file_names():
            (Path(folder.name) / present).write_bytes(small)
        return Path(folder.name)

    def test_only_missing_files_are_drawn(self) -> None:
        folder = self.folder_with_clips()
        (folder / "strokes.svg").unlink()
        told = mock.Mock()
        paths = clips.make_clips(folder, told)
        self.assertEqual(told.call_args_list, [mock.call(0, 1), mock.call(1, 1)])
        self.assertEqual(len(read_svg(folder / "strokes.svg", SIZE)), 3)
        self.assertEqual([path.stem for path in paths], list(SCENES))

    def test_damaged_clips_are_drawn_again_and_a_folder_that_cannot_be_written_is_named(
        self,
    ) -> None:
        folder = self.folder_with_clips()
        (folder / "pier.mp4").write_bytes((folder / "pier.mp4").read_bytes()[:900])
        (folder / "strokes.svg").write_bytes(b"")
        with mock.patch("multiprocessing.Pool") as pool:
            clips.make_clips(folder, mock.Mock())
        drawn = pool.return_value.__enter__.return_value.imap_unordered.call_args.args[1]
        self.assertEqual({path.name for path in drawn}, {"pier.mp4", "strokes.svg"})
        # What changed since it was drawn is known by its sum.
        whole = self.folder_with_clips()
        with mock.patch("multiprocessing.Pool") as pool:
            clips.make_clips(whole, mock.Mock())
            pool.assert_not_called()
            content = bytearray((whole / "dunes.mp4").read_bytes())
            content[-40] ^= 1
            (whole / "dunes.mp4").write_bytes(content)
            clips.make_clips(whole, mock.Mock())
        drawn = pool.return_value.__enter__.return_value.imap_unordered.call_args.args[1]
        self.assertEqual([path.name for path in drawn], ["dunes.mp4"])
        with self.assertRaisesRegex(InputError, "cannot be drawn in .*Not a directory"):
            clips.make_clips(folder / "strokes.svg" / "deeper", mock.Mock())

    def test_the_drawing_ends_with_who_asked_for_it(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            words = (
                "from pathlib import Path; from wrinkle.demo.clips import make_clips; "
                f"make_clips(Path({folder!r}), lambda done, total: print(done, flush=True))"
            )
            for sent in (signal.SIGKILL, signal.SIGINT):
                with subprocess.Popen(
                    [sys.executable, "-c", words], stdout=subprocess.PIPE, stderr=subprocess.PIPE,
                    start_new_session=True,
                ) as drawing:  # fmt: skip
                    drawing.stdout.readline()
                    time.sleep(0.3)
                    start = time.monotonic()
                    if sent is signal.SIGINT:
                        os.killpg(drawing.pid, sent)  # as a terminal does
                    else:
                        drawing.send_signal(sent)
                    drawing.wait(5.0)
                    while _group(drawing.pid):
                        self.assertLess(time.monotonic() - start, 5.0, "somebody goes on drawing")
                        time.sleep(0.05)
                known = [*clips.file_names(), "sums.json"]
                left = [x.name for x in Path(folder).iterdir() if x.name not in known]
                self.assertEqual(left, [])


def _group(group: int) -> bool:
    """Whether a group of processes has any that runs."""
    try:
        os.killpg(group, 0)
    except ProcessLookupError:
        return False
    return True
