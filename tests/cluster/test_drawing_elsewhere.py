"""A real cluster of three processes draws a piece: it is the same, whatever becomes of them."""

import os
import signal
import subprocess
import sys
import tempfile
import unittest
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from typing import Any
from unittest import mock

import av
import msgspec
import numpy as np
import psutil
from av.video.frame import VideoFrame

from tests.media.clips import write_numbered
from wrinkle import library
from wrinkle.cluster import drawing_elsewhere
from wrinkle.cluster.drawing_elsewhere import write_elsewhere
from wrinkle.cluster.packing import PackedFrame, pack, unpack
from wrinkle.cluster.versions import versions
from wrinkle.core.errors import Cancelled, InputError, MediaError
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.store import Store
from wrinkle.core.time.rate import FrameRate
from wrinkle.library.films import opened_film
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.exporting.parts import What
from wrinkle.media.exporting.piece_video import film_output
from wrinkle.media.output.formats import FORMATS
from wrinkle.media.output.output import Output, write_output
from wrinkle.media.output.rendition import Rendition

SIZE = Size(112, 96)
CLIPS, FRAMES = 3, 30
_LONG = 600.0
"""Seconds that a cluster may take to answer on a machine with much else to do."""


def contents(path: Path) -> list[bytes]:
    """All packets of a file in order; the container around them has a number of its own."""
    with av.open(str(path)) as container:
        return [bytes(packet) for packet in container.demux() if packet.size]


class PackedFrames(unittest.TestCase):
    def test_every_bit_and_the_colours_come_back_in_every_format(self) -> None:
        dice = np.random.default_rng(3)
        for form in FORMATS.values():
            if not form.container or form.codec.startswith("pcm") or form.codec == "flac":
                continue
            for alpha, depths in ((False, form.opaque), (True, form.clear)):
                for depth in depths:
                    pixels = Rendition(form, depth, alpha).sent
                    frame = VideoFrame(50, 30, pixels)
                    for plane in frame.planes:
                        plane.update(dice.bytes(plane.buffer_size))
                    frame.colorspace, frame.color_range = 1, 1
                    sent = msgspec.msgpack.encode(pack(frame))
                    found = unpack(msgspec.msgpack.decode(sent, type=PackedFrame))
                    self.assertEqual(pack(found), pack(frame), pixels)

    def test_rows_may_be_aligned_otherwise(self) -> None:
        frame = VideoFrame(50, 30, "gray")
        frame.planes[0].update(np.random.default_rng(4).bytes(frame.planes[0].buffer_size))
        ((stride, content),) = pack(frame).planes
        rows = [content[at : at + 50] for at in range(0, len(content), stride)]
        narrow = msgspec.structs.replace(pack(frame), planes=((50, b"".join(rows)),))
        np.testing.assert_array_equal(unpack(narrow).to_ndarray(), frame.to_ndarray())


class OneCluster(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.folder = Path(folder.name)
        cls.elsewhere = cls.folder / "elsewhere"
        cls.elsewhere.mkdir()
        said = cls.started("--scheduler", "--port", "0")
        cls.address = said.removeprefix("Scheduler at ").strip()
        cls.started("--at", cls.address, "--processes", "3")
        for number in range(CLIPS):
            write_numbered(cls.folder / f"{number}.mp4", 60)
        for name, value in (("_ANSWERS_WITHIN", _LONG), ("_SOON", 0.3)):
            patched = mock.patch.object(drawing_elsewhere, name, value)
            patched.start()
            cls.addClassCleanup(patched.stop)

    @classmethod
    def started(cls, *words: str) -> str:
        """Starts the command in a folder where none of the clips is; gives its first line."""
        process = subprocess.Popen(
            [sys.executable, "-m", "wrinkle", "workers", *words],
            stdout=subprocess.PIPE,
            text=True,
            cwd=cls.elsewhere,
            env={**os.environ, "PYTHONPATH": str(Path(__file__).parents[2])},
        )
        assert process.stdout is not None

        def end() -> None:
            process.terminate()
            process.communicate()

        cls.addClassCleanup(end)
        line = process.stdout.readline()
        cls.process = process
        return line

    def setUp(self) -> None:
        self.jobs = Jobs()
        self.addCleanup(self.jobs.stop)

    def piece(self, place: str) -> Piece:
        """Three clips in a folder that is written so, a spin on the first cut."""
        use = PieceUse(library.find("Half turn"))
        duration = Fraction(2)
        clips = tuple(
            PieceClip(
                f"c{n}", f"{n}", Media(f"{place}/{n}.mp4", f"{n}.mp4", duration, SIZE),
                Fraction(1, 2), Fraction(3, 2), entry=use if n == 1 else None,
            )
            for n in range(CLIPS)
        )  # fmt: skip
        return Piece("Three", SIZE, FrameRate.parse("30"), clips)

    def output(self, name: str, piece: Piece, form: str = "ffv1") -> Output:
        pool = ClipPool(Store())
        self.addCleanup(pool.close)
        film = opened_film(piece, pool, Store(), Quality.FINAL)
        return film_output(self.folder / name, film, Rendition(FORMATS[form]))

    def both(self, told: Callable[[int], None] = lambda done: None, place: str = "") -> None:
        """Writes it here and there without loss, and compares what can be seen and heard."""
        piece = self.piece(place or str(self.folder))
        here, there = (self.output(name, piece) for name in ("here.mkv", "there.mkv"))
        write_output(here, self.jobs, Job())
        job = Job(lambda done, total, left: told(done))
        count = write_elsewhere(self.address, there, piece, What.ALL, self.jobs, job)
        self.assertEqual(count, CLIPS * FRAMES)
        self.assertEqual(contents(here.path), contents(there.path))

    def workers(self) -> list[psutil.Process]:
        """The processes that draw."""
        found = psutil.Process(self.process.pid).children(recursive=True)
        return [x for x in found if "spawn_main" in " ".join(x.cmdline())]

    def test_the_same_bytes_as_here_frame_by_frame(self) -> None:
        self.both()

    def test_one_that_is_killed_is_not_missed(self) -> None:
        killed: list[int] = []

        def kill(done: int) -> None:
            if not killed:
                victim = self.workers()[0]
                killed.append(victim.pid)
                victim.kill()

        self.both(kill)
        self.assertTrue(killed)

    def test_one_that_stands_still_does_not_hold_up_the_end(self) -> None:
        stopped: list[psutil.Process] = []

        def stop(done: int) -> None:
            if not stopped:
                stopped.append(self.workers()[-1])
                stopped[0].send_signal(signal.SIGSTOP)

        try:
            self.both(stop)
        finally:
            for process in stopped:
                process.send_signal(signal.SIGCONT)

    def test_one_that_stands_still_with_what_it_has_drawn_is_not_waited_for(self) -> None:
        stopped: list[psutil.Process] = []
        fetched = drawing_elsewhere._Giving._fetched

        def stop_first(giving: Any, future: Any) -> Any:
            if not stopped:
                ((holder, *_),) = giving._client.who_has([future]).values()
                pid = giving._client.run(os.getpid, workers=[holder])[holder]
                stopped.append(psutil.Process(pid))
                stopped[0].send_signal(signal.SIGSTOP)
            return fetched(giving, future)

        try:
            with (
                mock.patch.object(drawing_elsewhere._Giving, "_fetched", stop_first),
                mock.patch.object(drawing_elsewhere, "_FETCHED_WITHIN", 2.0),
            ):
                self.both()
        finally:
            for process in stopped:
                process.send_signal(signal.SIGCONT)
        self.assertTrue(stopped)

    def test_files_that_a_worker_does_not_have_are_sent(self) -> None:
        # The same words lead elsewhere for each process: what is here is not there.
        before = Path.cwd()
        os.chdir(self.folder)
        self.addCleanup(os.chdir, before)
        self.both(place="/proc/self/cwd")

    def refused(self, kind: type[Exception], *words: str, **fields: Any) -> None:
        """It says these words, and leaves no file."""
        piece = self.piece(str(self.folder))
        output = self.output("refused.mp4", piece, **fields)
        with self.assertRaises(kind) as found:
            write_elsewhere(self.address, output, piece, What.ALL, self.jobs, Job())
        for word in words:
            self.assertIn(word, str(found.exception))
        self.assertFalse(output.path.exists())

    def test_another_version_is_refused_by_its_name(self) -> None:
        other = {**versions(), "numpy": "1.0"}
        with mock.patch.object(drawing_elsewhere, "versions", return_value=other):
            self.refused(MediaError, "another version", "and not 1.0", "tcp://")

    def test_what_cannot_be_is_said_and_nothing_is_left(self) -> None:
        with (
            mock.patch.object(type(self), "address", "127.0.0.1:1"),
            mock.patch.object(drawing_elsewhere, "_ANSWERS_WITHIN", 0.5),
        ):
            self.refused(MediaError, "No scheduler answers at 127.0.0.1:1", "./run workers")
        self.refused(InputError, "Contact sheet", form="sheet")

    def test_cancelling_leaves_nothing(self) -> None:
        piece = self.piece(str(self.folder))
        output = self.output("cancelled.mp4", piece)
        job = Job(lambda done, total, left: job.cancel())
        with self.assertRaises(Cancelled):
            write_elsewhere(self.address, output, piece, What.ALL, self.jobs, job)
        self.assertFalse(output.path.exists())


class NoWorker(unittest.TestCase):
    def test_a_scheduler_without_workers_is_said(self) -> None:
        from distributed import LocalCluster

        jobs = Jobs()
        self.addCleanup(jobs.stop)
        with (
            LocalCluster(n_workers=0, dashboard_address=None, silence_logs=50) as cluster,
            mock.patch.object(drawing_elsewhere, "_WITHOUT_WORKERS", 0.5),
            tempfile.TemporaryDirectory() as folder,
        ):
            address = cluster.scheduler_address.removeprefix("tcp://")
            piece = Piece("Dark", SIZE, FrameRate.parse("30"), (
                PieceClip("a", "a", Media("", "a", Fraction(2), SIZE), Fraction(0), Fraction(1)),
            ))  # fmt: skip
            film = opened_film(piece, ClipPool(Store()), Store(), Quality.FINAL)
            output = film_output(Path(folder) / "x.mp4", film)
            with self.assertRaisesRegex(MediaError, "has no worker"):
                write_elsewhere(address, output, piece, What.ALL, jobs, Job())


if __name__ == "__main__":
    unittest.main()
