"""Frame numbers burnt into clips of five sizes and rates, read back from the piece they are in."""

from contextlib import redirect_stderr, redirect_stdout
from dataclasses import replace
from fractions import Fraction
from io import StringIO
from itertools import pairwise
from pathlib import Path

import numpy as np
import opentimelineio as otio
from opentimelineio import schema

from tests.media.clips import Files, number_of, write_numbered
from tests.media.test_sound import write_sounding
from tests.timeline.test_files import crossing, span
from wrinkle.__main__ import main
from wrinkle.core.jobs import Cancelled, Job, Jobs
from wrinkle.core.picture.image import Size
from wrinkle.core.piece import dressing, edits
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.film import Film
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.render.material import FrameSource, Material
from wrinkle.core.store import Store
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.core.time.rate import FrameRate
from wrinkle.files.archive import read
from wrinkle.library import shipped
from wrinkle.library.samples import SAMPLES
from wrinkle.media.clip import Clip
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.exporting.piece_video import write_film
from wrinkle.media.pieces import read_source
from wrinkle.timeline.files import read_piece, write_piece
from wrinkle.timeline.flattening import runs_of, write_flattened
from wrinkle.timeline.piece_file import PieceFile

KINDS = [((112, 96), 30), ((224, 192), 24), ((168, 144), 60), ((56, 48), 25), ((336, 288), 50)]
SIZE = Size(112, 96)


class Numbered(Files):
    def setUp(self) -> None:
        super().setUp()
        self.store = Store()
        self.pool = ClipPool(self.store)
        self.addCleanup(self.pool.close)
        self.sources: dict[str, FrameSource] = {}

    def piece(self, count: int) -> Piece:
        """So many clips of 72 frames each in the middle of files of 120 or so."""
        media = []
        for number in range(count):
            size, rate = KINDS[number % len(KINDS)]
            path = self.folder / f"{number % len(KINDS)}.mp4"
            if not path.exists():
                write_numbered(path, 120, size, Fraction(rate))
            one, source = read_source(path, self.pool, self.store)
            self.sources[one.path] = source
            media.append(one)
        piece = edits.add_clips(Piece("Numbers", SIZE, FrameRate.of(30)), 0, media)
        for clip in piece.clips:
            piece = edits.trim(piece, clip.id, 15, -15)
        return piece

    def film(self, piece: Piece) -> Film:
        return Film(
            piece, self.sources, lambda bundle: Material(store=self.store), self.store, SIZE
        )

    def assert_numbers(self, film: Film, numbers: list[int]) -> None:
        """Outside the windows each frame is the one of its clip that is due."""
        piece, checked = film.piece, 0
        self.assertEqual(len(numbers), sum(piece.frames_of(clip) for clip in piece.clips))
        for place, clip in enumerate(piece.clips):
            rate = self.sources[clip.media.path].facts.rate
            for frame in range(*piece.starts[place : place + 2]):
                if film.is_costly(frame):
                    continue
                offset = piece.rate.seconds(frame - piece.starts[place])
                due = rate.frame_at(clip.own_time(offset) + Fraction(1, 10**6))
                self.assertEqual(numbers[frame], due, (clip.name, frame))
                checked += 1
        self.assertGreater(checked, len(numbers) // 3)

    def test_no_frame_is_shown_twice_or_left_out(self) -> None:
        film = self.film(self.piece(5))
        numbers = [number_of(film.image(n).to_bytes8()) for n in film.frames]
        self.assert_numbers(film, numbers)
        first = numbers[: film.piece.starts[1]]
        self.assertEqual({b - a for a, b in pairwise(first)}, {1})
        # Backwards, at double speed, standing still, and a picture of nothing.
        piece = edits.set_speed(self.piece(1), "clip", Fraction(2), reverse=True)
        film = self.film(piece)
        numbers = [number_of(film.image(n).to_bytes8()) for n in film.frames]
        self.assertEqual({b - a for a, b in pairwise(numbers)}, {-2})
        stands = self.film(edits.change(self.piece(1), "clip", frozen=True))
        self.assertEqual({number_of(stands.image(n).to_bytes8()) for n in (0, 40)}, {15})
        gone = replace(film, sources={})
        self.assertLess(int(gone.image(3).to_bytes8()[..., :3].max()), 80)

    def test_an_unknown_transition_is_a_crossfade_of_its_length_and_a_gap_is_dark(self) -> None:
        self.piece(2)
        second = 30.0

        def shown(number: int) -> schema.Clip:
            path = str(self.folder / f"{number}.mp4")
            return schema.Clip(
                path, schema.ExternalReference(path, span(0, 120, second)), span(20, 40, second)
            )

        made = schema.Track("shown", kind="Video")
        made.extend([shown(0), crossing(6 * 24 / 30, 8 * 24 / 30), shown(1)])
        made.append(schema.Gap(source_range=span(0, 10, second)))
        whole = schema.Timeline("theirs")
        whole.tracks.append(made)
        path = self.folder / "theirs.otio"
        path.write_text(whole.to_json_string())
        piece, _ = read_piece(path)
        self.assertEqual(piece.starts, (0, 40, 80, 90))
        film = self.film(piece)
        (window,) = film.windows
        self.assertEqual((window.first, window.end), (34, 48))
        plain = self.film(piece.with_clips(*(replace(x, entry=None) for x in piece.clips)))
        # Ten of fourteen frames in, as much of the incoming clip is seen.
        longer = self.film(edits.trim(plain.piece, "clip-1", 0, 9))
        mixed, incoming, outgoing = (
            x.image(44).to_bytes8()[..., :3].astype(float) for x in (film, plain, longer)
        )
        wanted = incoming * (10 / 14) + outgoing * (4 / 14)
        self.assertLess(float(np.abs(mixed - wanted).mean()), 2.0)
        self.assertGreater(float(np.abs(mixed - outgoing).mean()), 10.0)
        self.assertLess(int(film.image(85).to_bytes8()[..., :3].max()), 80)

    def test_forty_clips_dressed_by_the_command_line(self) -> None:
        piece, path = self.piece(40), self.folder / "piece.otio"
        for clip in piece.clips:
            piece = edits.trim(piece, clip.id, 0, 26 - piece.frames_of(clip))
        write_piece(path, piece, PieceFile())
        out, told = self.folder / "out.mp4", StringIO()
        with redirect_stdout(told), redirect_stderr(StringIO()):
            words = ["dress", str(path), "--with", "plain_push", "--every", "13"]
            self.assertEqual(main([*words, "--output", str(out)]), 0)
        film = self.film(dressing.on_every(piece, PieceUse(read(shipped()["plain_push"])), 13))
        self.assertEqual(len(film.windows), 3)
        clip = Clip(out)
        self.addCleanup(clip.close)
        self.assertEqual(clip.facts.frame_count, piece.frame_count)
        numbers = [number_of(clip.bytes8(n, SIZE)) for n in range(piece.frame_count)]
        self.assert_numbers(film, numbers)

    def test_flattened_it_is_what_any_reader_of_the_format_plays(self) -> None:
        piece = dressing.on_every(self.piece(4), PieceUse(read(shipped()["plain_push"])), 2)
        film, path = self.film(piece), self.folder / "flat.otio"
        jobs = Jobs()
        self.addCleanup(jobs.stop)
        self.assertEqual(write_flattened(path, film, jobs, Job()), 2)
        found = otio.adapters.read_from_file(str(path))
        track = found.tracks[0]
        self.assertEqual(found.duration().value, piece.frame_count)
        self.assertEqual(len(track), len(runs_of(film)))
        self.assertTrue(all(isinstance(x, otio.schema.Clip) for x in track))
        for item in track:
            media = Clip(self.folder / item.media_reference.target_url.replace("%20", " "))
            self.addCleanup(media.close)
            start = int(track.range_of_child(item).start_time.value)
            source = item.source_range
            for n in (0, int(source.duration.value) // 2, int(source.duration.value) - 1):
                seconds = Fraction(source.start_time.value + n) / Fraction(source.start_time.rate)
                played = media.bytes8(media.index_at(seconds), SIZE)[..., :3].astype(int)
                seen = film.image(start + n).to_bytes8()[..., :3].astype(int)
                self.assertLess(float(np.abs(played - seen).mean()), 6.0, (item.name, n))
            if item.name.startswith("cut"):
                # Half a second of the piece on both sides.
                whole = item.media_reference.available_range.duration.value
                self.assertEqual(whole - source.duration.value, 30)

    def test_the_sound_of_the_clips_is_in_the_video_on_its_frame(self) -> None:
        path = write_sounding(self.folder / "tone.mkv", "pcm_s16le", SAMPLE_RATE)
        one, source = read_source(path, self.pool, self.store)
        self.sources[one.path] = source
        piece = edits.add_clips(Piece("Tone", SIZE, FrameRate.of(30)), 0, [one, one])
        piece = edits.trim(piece, piece.clips[1].id, 10, 0)
        piece = edits.change(piece, piece.clips[1].id, level=-6.0)
        jobs = Jobs()
        self.addCleanup(jobs.stop)
        out = self.folder / "tone.mp4"
        write_film(out, self.film(piece), jobs, Job())
        clip = Clip(out)
        self.addCleanup(clip.close)
        self.assertEqual(clip.facts.frame_count, piece.frame_count)
        left = clip.sound().samples(0, round(piece.rate.seconds(piece.frame_count) * SAMPLE_RATE))[
            :, 0
        ]
        # The tone begins half a second into the file, at half of the full scale.
        loud = np.abs(left) > 0.1
        self.assertAlmostEqual(int(np.argmax(loud)) / SAMPLE_RATE, 0.5, delta=0.003)
        frame = SAMPLE_RATE // 30
        first, second = left[25 * frame : 29 * frame], left[45 * frame : 49 * frame]
        self.assertAlmostEqual(float(np.abs(first).max()), 0.5, delta=0.02)
        self.assertAlmostEqual(float(np.abs(second).max()), 0.25, delta=0.02)
        # A flattened window sounds as it does there.
        dressed = dressing.on_every(piece, PieceUse(read(shipped()["plain_push"])))
        flat = self.folder / "flat.otio"
        write_flattened(flat, self.film(dressed), jobs, Job())
        window = Clip(self.folder / "flat windows" / "cut 001.mp4")
        self.addCleanup(window.close)
        part = window.sound().samples(20 * frame, 2 * frame)[:, 0]
        there = left[(30 - 12 - 15 + 20) * frame :][: 2 * frame]
        self.assertAlmostEqual(float(part.std()), float(there.std()), delta=0.02)
        self.assertGreater(float(there.std()), 0.3)
        # Ten frames of the second clip are cut off: its tone begins five frames in.
        begins = int(np.argmax(loud[31 * frame :])) / frame + 31
        self.assertAlmostEqual(begins, 35.0, delta=0.1)

    def test_a_rendering_that_is_ended_leaves_no_file(self) -> None:
        film, path = self.film(self.piece(2)), self.folder / "ended.mp4"
        jobs = Jobs()
        self.addCleanup(jobs.stop)
        job = Job(lambda done, total, left: job.cancel() if done > 3 else None)
        with self.assertRaises(Cancelled):
            write_film(path, film, jobs, job)
        self.assertFalse(path.exists())

    def test_commands_say_what_is_wrong_and_make_pieces(self) -> None:
        self.piece(2)
        clips = [str(self.folder / f"{n}.mp4") for n in (0, 1)]
        goal = self.folder / "made.otio"
        for words, code, told in (
            (["piece", *clips, "--output", str(goal)], 0, "2 clips"),
            (["piece", *clips, "--output", str(self.folder / "x.txt")], 1, "no ending that is"),
            (["dress", str(goal), "--with", "nobody", "--output", clips[0]], 1, "nobody"),
            (["dress", str(goal), "--output", str(goal)], 1, "is what would be read"),
            (["dress", clips[0], "--output", str(self.folder / "y.otio")], 1, "0.mp4 cannot be"),
            (
                ["dress", str(goal), "--every", "0", "--output", str(self.folder / "z.mp4")],
                1,
                "--every 0",
            ),
            (["cuts", str(SAMPLES["outgoing"])], 0, "0 cuts in 96 frames"),
            (["cuts", clips[0], "--output", str(self.folder / "shots.otio")], 0, "30 clips"),
            (["cuts", clips[0], "--output", str(goal)], 1, "is there already"),
        ):
            out = StringIO()
            with self.subTest(words), redirect_stdout(out), redirect_stderr(out):
                self.assertEqual(main(words), code)
                self.assertIn(told, out.getvalue())
        shuffled = [str(self.folder / f"s{n}.otio") for n in (1, 2)]
        for output in shuffled:
            words = ["dress", str(goal), "--with", "half_turn", "--with", "iris", "--shuffle", "7"]
            with redirect_stdout(StringIO()), redirect_stderr(StringIO()):
                self.assertEqual(main([*words, "--output", output]), 0)
        self.assertEqual(*(Path(x).read_bytes() for x in shuffled))
