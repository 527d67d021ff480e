"""Clips of a program: read once, shared, open no longer than they are used."""

import gc
import shutil
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from tests.media.clips import number_of, write_numbered
from wrinkle.core.errors import MediaError
from wrinkle.core.picture.image import Size
from wrinkle.core.store import Store
from wrinkle.media import clip, clip_pool
from wrinkle.media.clip_pool import ClipPool

SIZE = Size(112, 96)


class Pool(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.path = write_numbered(self.folder / "a.mp4", 20)
        self.store = Store()
        self.pool = ClipPool(self.store)
        self.addCleanup(self.pool.close)

    def test_a_file_is_read_once_for_all_who_hold_it(self) -> None:
        with mock.patch.object(clip, "read_index", wraps=clip.read_index) as read:
            one = self.pool.clip(self.path)
            self.assertIs(self.pool.clip(self.path), one)
            self.assertEqual(read.call_count, 1)
            del one
            gc.collect()
            self.pool.clip(self.path)
            self.assertEqual(read.call_count, 2, "nobody held it any more")

    def test_a_file_that_was_changed_is_another_clip(self) -> None:
        one = self.pool.clip(self.path)
        write_numbered(self.path, 30)
        other = self.pool.clip(self.path)
        self.assertEqual((one.facts.frame_count, other.facts.frame_count), (20, 30))

    def test_files_are_open_only_while_they_are_used_and_few_at_a_time(self) -> None:
        paths = [Path(shutil.copy(self.path, self.folder / f"{n}.mp4")) for n in range(5)]
        clips = [self.pool.clip(path) for path in paths]
        self.assertEqual([one.is_open for one in clips], [False] * 5)
        with mock.patch.object(clip_pool, "MOST_OPEN", 2):
            for number, one in enumerate(clips):
                self.assertEqual(number_of(one.bytes8(number, SIZE)), number)
        self.assertEqual([one.is_open for one in clips], [False] * 3 + [True] * 2)
        self.assertEqual(number_of(clips[0].bytes8(17, SIZE)), 17, "it opens again")

    def test_files_that_nobody_used_for_a_while_are_let_go_of(self) -> None:
        now = 10.0
        pool = ClipPool(self.store, lambda: now)
        self.addCleanup(pool.close)
        other = Path(shutil.copy(self.path, self.folder / "b.mp4"))
        first, second = pool.clip(self.path), pool.clip(other)
        first.bytes8(3, SIZE)
        now = 12.0
        second.bytes8(3, SIZE)
        pool.close_idle(3.0)
        self.assertEqual((first.is_open, second.is_open), (True, True))
        now = 13.5
        pool.close_idle(3.0)
        self.assertEqual((first.is_open, second.is_open), (False, True))
        self.assertEqual(number_of(first.bytes8(17, SIZE)), 17)

    def test_nothing_of_a_decoder_is_left_when_its_file_is_closed(self) -> None:
        def threads() -> int:
            return len(list(Path("/proc/self/task").iterdir()))

        paths = [Path(shutil.copy(self.path, self.folder / f"{n}.mp4")) for n in range(8)]
        clips = [self.pool.clip(path) for path in paths]
        gc.collect()
        before = threads()
        for one in clips:
            one.bytes8(3, SIZE)
            one.bytes8(12, SIZE, aside=True)
        self.assertGreater(threads(), before)
        self.pool.close()
        self.store.clear()
        gc.collect()
        self.assertLessEqual(threads(), before)

    def test_decoded_pictures_are_kept_in_the_programs_store(self) -> None:
        self.pool.clip(self.path).bytes8(3, SIZE)
        self.assertGreater(self.store.used, 112 * 96 * 3)

    def test_what_is_no_clip_is_told_by_name(self) -> None:
        self.path.write_text("words")
        with self.assertRaisesRegex(MediaError, "a.mp4 cannot be read as a video"):
            self.pool.clip(self.path)
        with self.assertRaisesRegex(MediaError, "no such file"):
            self.pool.clip(self.folder / "none.mp4")

    def test_a_file_that_goes_while_it_is_held_is_told_at_the_next_picture(self) -> None:
        held = self.pool.clip(self.path)
        self.path.unlink()
        with self.assertRaisesRegex(MediaError, "a.mp4 cannot be opened"):
            held.bytes8(0, SIZE)
