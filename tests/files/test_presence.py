"""A disk that does not answer counts as one with nothing on it."""

import errno
import os
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from wrinkle.files.presence import is_file, is_folder, is_there, within

ALL = (is_there, is_file, is_folder)


class Presence(unittest.TestCase):
    def test_what_is_there_is_told_apart(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            folder, file = Path(name), Path(name) / "b.txt"
            (folder / "a.txt").write_text("")
            file.write_text("")
            pipe = folder / "pipe"
            os.mkfifo(pipe)
            self.assertEqual([ask(folder) for ask in ALL], [True, False, True])
            self.assertEqual([ask(file) for ask in ALL], [True, True, False])
            self.assertEqual([ask(pipe) for ask in ALL], [True, False, False])
            self.assertEqual(within(folder, "*.txt"), [folder / "a.txt", file])

    def test_faults_are_nothing(self) -> None:
        faults = [OSError(number, "") for number in (errno.ESTALE, errno.EIO, errno.EACCES)]
        for fault in (*faults, ValueError("embedded null byte")):
            with (
                mock.patch("os.stat", side_effect=fault),
                mock.patch("os.scandir", side_effect=fault),
            ):
                self.assertEqual([ask(Path("a")) for ask in ALL], [False] * 3)
        with mock.patch("os.scandir", side_effect=faults[0]):
            self.assertEqual(within(Path.cwd()), [])
        self.assertEqual([ask(Path("x" * 5000)) for ask in ALL], [False] * 3)
