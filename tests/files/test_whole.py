"""Ordinary files: read within a limit, written whole or not at all."""

import errno
import os
import signal
import stat
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from wrinkle.core.errors import InputError
from wrinkle.files.whole import read_whole, whole_file, write_whole

WRITES_FOREVER = """
import sys
from pathlib import Path
from wrinkle.files.whole import whole_file
with whole_file(Path(sys.argv[1])) as place, place.open("wb") as file:
    print("writing", flush=True)
    while True:
        file.write(bytes(1 << 16))
"""


def only_named(path: object, flags: int, *more: object, opened=os.open, **named: object) -> int:  # type: ignore[no-untyped-def]
    """Opens as on a file system that has no files without a name."""
    if flags & os.O_TMPFILE == os.O_TMPFILE:
        raise OSError(errno.EOPNOTSUPP, os.strerror(errno.EOPNOTSUPP))
    return opened(path, flags, *more, **named)


class Written(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.path = self.folder / "a.wrinkle"

    def names(self) -> list[str]:
        return sorted(path.name for path in self.folder.iterdir())

    def test_links_and_permissions_stay(self) -> None:
        write_whole(self.path, b"first")
        umask = os.umask(0)
        os.umask(umask)
        self.assertEqual(stat.S_IMODE(self.path.stat().st_mode), 0o666 & ~umask)
        self.path.chmod(0o600)
        link = self.folder / "link.wrinkle"
        link.symlink_to(self.path)
        write_whole(link, b"second")
        self.assertTrue(link.is_symlink())
        self.assertEqual(self.path.read_bytes(), b"second")
        self.assertEqual(stat.S_IMODE(self.path.stat().st_mode), 0o600)
        self.assertEqual(self.names(), ["a.wrinkle", "link.wrinkle"])

    def test_what_goes_wrong_on_the_way_leaves_the_file_as_it_was(self) -> None:
        write_whole(self.path, b"first")
        for unnamed in (True, False):
            refused = OSError(errno.EOPNOTSUPP, "no unnamed files")
            how = mock.patch("os.open", side_effect=os.open if unnamed else only_named)
            with how, self.assertRaises(OSError), whole_file(self.path) as place:
                place.write_bytes(b"half")
                raise refused
            self.assertEqual((self.path.read_bytes(), self.names()), (b"first", ["a.wrinkle"]))
            with how:
                write_whole(self.path, b"again")
                self.assertEqual((self.path.read_bytes(), self.names()), (b"again", ["a.wrinkle"]))
            write_whole(self.path, b"first")

    def test_where_an_unnamed_file_gets_no_name_it_is_copied(self) -> None:
        write_whole(self.path, b"first")
        self.path.chmod(0o640)
        refused = OSError(errno.EXDEV, os.strerror(errno.EXDEV))
        with mock.patch("os.link", side_effect=refused):
            write_whole(self.path, b"second")
            with mock.patch("shutil.copyfileobj", side_effect=refused), self.assertRaises(OSError):
                write_whole(self.path, b"third")
        self.assertEqual((self.path.read_bytes(), self.names()), (b"second", ["a.wrinkle"]))
        self.assertEqual(stat.S_IMODE(self.path.stat().st_mode), 0o640)

    def test_the_longest_name_can_be_written_and_what_is_no_file_is_not_replaced(self) -> None:
        longest = self.folder / ("x" * 247 + ".wrinkle")
        write_whole(longest, b"all")
        self.assertEqual(longest.read_bytes(), b"all")
        pipe = self.folder / "pipe"
        os.mkfifo(pipe)
        for place in (pipe, self.folder, Path("/dev/null")):
            with self.assertRaises(OSError):
                write_whole(place, b"x")
        self.assertTrue(stat.S_ISFIFO(pipe.stat().st_mode))

    def test_who_is_killed_leaves_nothing(self) -> None:
        write_whole(self.path, b"first")
        for sent in (signal.SIGTERM, signal.SIGKILL):
            words = [sys.executable, "-c", WRITES_FOREVER, str(self.path)]
            with subprocess.Popen(words, stdout=subprocess.PIPE) as writing:
                writing.stdout.readline()
                writing.send_signal(sent)
            self.assertEqual((self.path.read_bytes(), self.names()), (b"first", ["a.wrinkle"]))


class Read(unittest.TestCase):
    def test_only_ordinary_files_within_their_limit(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            path, pipe = Path(name) / "a", Path(name) / "pipe"
            path.write_bytes(bytes(2000))
            self.assertEqual(read_whole(path, 2000), bytes(2000))
            with self.assertRaisesRegex(InputError, "a is larger than 1 KiB; use a smaller file"):
                read_whole(path, 1999)
            os.mkfifo(pipe)
            # A pipe that nobody writes to would hang, and this device never ends.
            for place in (pipe, Path("/dev/zero"), Path(name)):
                with self.assertRaises(OSError):
                    read_whole(place, 1 << 20)
