"""Addresses of media hold wherever a timeline goes; read with the library of the format."""

import json
import os
import shutil
from contextlib import redirect_stderr, redirect_stdout
from dataclasses import replace
from fractions import Fraction
from io import StringIO
from pathlib import Path
from unittest import mock

import opentimelineio as otio
from opentimelineio import schema
from opentimelineio.opentime import RationalTime, TimeRange

from tests.media.clips import Files, write_numbered
from wrinkle.__main__ import main
from wrinkle.core.errors import InputError
from wrinkle.core.piece import dressing
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.files.archive import read
from wrinkle.library import shipped
from wrinkle.timeline.files import MissingMediaError, read_piece, write_piece
from wrinkle.timeline.kept_piece import PieceCodec
from wrinkle.timeline.piece_file import PieceFile
from wrinkle.timeline.places import in_folder, path_of, place_in, readdressed, url_of

NAMES = ("a clip.mp4", "50%.mp4", "[x] #1?.mp4", "naïve ü.mp4")


class Addresses(Files):
    def setUp(self) -> None:
        super().setUp()
        state = mock.patch("platformdirs.user_state_path", return_value=self.folder / "state")
        state.start()
        self.addCleanup(state.stop)
        self.project, self.elsewhere = self.folder / "project", self.folder / "else where"
        (self.project / "films").mkdir(parents=True)
        self.elsewhere.mkdir()
        for name in NAMES:
            write_numbered(self.project / "films" / name, 40)

    def strangers(self) -> Path:
        """A timeline that somebody else wrote, whose addresses are relative to it."""
        track = schema.Track("V", kind=schema.TrackKind.Video)
        for name in NAMES:
            reference = schema.ExternalReference(url_of(Path("films") / name, Path()))
            whole = TimeRange(RationalTime(0, 30), RationalTime(40, 30))
            reference.available_range = whole
            track.append(
                schema.Clip(name, reference, TimeRange(RationalTime(10, 30), RationalTime(20, 30)))
            )
        timeline = schema.Timeline("theirs")
        # Large pictures would show nothing more.
        timeline.metadata["wrinkle"] = {"rate": "30", "size": "32x32"}
        timeline.tracks.append(track)
        path = self.project / "theirs.otio"
        otio.adapters.write_to_file(timeline, str(path))
        return path

    def files(self, path: Path) -> list[Path]:
        """The files that the library of the format finds behind a timeline's addresses."""
        root = otio.adapters.read_from_file(str(path))
        found = []
        for clip in root.find_clips():
            url = clip.media_reference.target_url
            place = Path(otio.url_utils.filepath_from_url(url))
            found.append((path.parent / place).resolve())
        return found

    def test_a_name_is_an_address_and_back(self) -> None:
        for name in (*NAMES, "http://[x", "//[", "c:film.mp4", os.fsdecode(b"\xff\xfe.mp4")):
            place = self.project / "films" / name.replace("/", "_")
            for folder in (self.project, self.elsewhere):
                self.assertEqual(path_of(url_of(place, folder), folder), place)
                self.assertEqual(folder / place_in(str(place), folder), place)
        for url in ("http://[x", "//[", "file://[", "%00", ""):
            self.assertTrue(path_of(url, self.project).is_absolute(), url)

    def test_a_name_that_is_no_text_is_said(self) -> None:
        odd = self.project / os.fsdecode(b"caf\xe9.mp4")
        (self.project / "films" / NAMES[0]).rename(odd)
        told = StringIO()
        with redirect_stdout(told), redirect_stderr(told):
            goal = str(self.elsewhere / "p.otio")
            self.assertEqual(main(["piece", str(odd), "--output", goal]), 1)
        self.assertIn("cannot be noted: a name on the way to it holds bytes", told.getvalue())

    def test_saved_in_another_folder_it_names_the_same_files(self) -> None:
        path = self.strangers()
        piece, file = read_piece(path)
        wanted = [(self.project / "films" / name).resolve() for name in NAMES]
        self.assertEqual([Path(x.media.path).resolve() for x in piece.clips], wanted)
        there = self.elsewhere / "ours.otio"
        write_piece(there, piece, file)
        self.assertEqual(self.files(there), wanted)
        again, _ = read_piece(there)
        self.assertEqual([x.media.path for x in again.clips], [x.media.path for x in piece.clips])
        # Where it came from nothing changes: what is relative stays so, and moves with its folder.
        write_piece(path, piece, file)
        moved = self.folder / "moved"
        shutil.copytree(self.project, moved)
        self.assertEqual(
            self.files(moved / path.name), [(moved / "films" / name).resolve() for name in NAMES]
        )

    def test_what_was_kept_beside_the_program_is_whole_wherever_it_is_saved(self) -> None:
        piece, file = read_piece(self.strangers())
        filled = replace(piece.clips[1], entry=PieceUse(read(shipped()["sea_fog"]), fillings={
            "fog": Media(piece.clips[0].media.path, "fog", Fraction(1)),
        }))  # fmt: skip
        piece = piece.with_clips(piece.clips[0], filled, *piece.clips[2:])
        parts: dict[str, bytes] = {}

        def put(owner: object, make) -> str:  # type: ignore[no-untyped-def]
            content = make()
            name = str(hash(content))
            parts[name] = content
            return name

        codec = PieceCodec()
        state, rest = codec.encode(piece, put), codec.encode_rest(file, put)
        back = codec.decode(state, parts.__getitem__)
        held = codec.decode_rest(rest, parts.__getitem__)
        for folder in (self.elsewhere, self.project):
            goal = folder / "kept.otio"
            write_piece(goal, back, held)
            again, _ = read_piece(goal)
            self.assertEqual(
                [x.media.path for x in again.clips], [x.media.path for x in piece.clips]
            )
            entry = again.clips[1].entry
            assert entry is not None
            self.assertEqual(entry.fillings["fog"].path, piece.clips[0].media.path)
        # In the project's own folder the filling is relative too: it moves with it.
        text = (self.project / "kept.otio").read_text()
        self.assertIn('"path": "films/a clip.mp4"', text)

    def test_parts_of_files_of_two_folders_come_together(self) -> None:
        piece, file = read_piece(self.strangers())
        there = in_folder(file, str(self.elsewhere))
        wanted = json.loads(there.segments[0].items[0])["media_references"]
        url = next(iter(wanted.values()))["target_url"]
        self.assertEqual(path_of(url, self.elsewhere), Path(piece.clips[0].media.path))
        text = json.dumps({"OTIO_SCHEMA": "ImageSequenceReference.1", "target_url_base": "seq/"})
        moved = json.loads(readdressed(text, self.project, self.elsewhere))["target_url_base"]
        self.assertEqual(moved, (self.project / "seq").as_uri() + "/")

    def test_a_bundle_holds_its_media_and_gives_them_back(self) -> None:
        piece, file = read_piece(self.strangers())
        bundle = self.elsewhere / "all.otioz"
        write_piece(bundle, piece, file)
        self.assertEqual([x.name for x in self.elsewhere.iterdir()], ["all.otioz"])
        # As the library of the format unpacks it.
        out = self.folder / "out"
        out.mkdir()
        otio.adapters.read_from_file(str(bundle), extract_to_directory=str(out))
        self.assertEqual({x.name for x in (out / "media").iterdir()}, set(NAMES))
        opened, held = read_piece(bundle)
        for clip, name in zip(opened.clips, NAMES, strict=True):
            kept = Path(clip.media.path).read_bytes()
            self.assertEqual(kept, (self.project / "films" / name).read_bytes())
        # Saved without them, they are put beside it: what was unpacked may go one day.
        plain = self.folder / "plain.otio"
        write_piece(plain, opened, held)
        write_piece(plain, opened, held)
        shutil.rmtree(self.folder / "state")
        beside = self.folder / "plain media"
        self.assertEqual({x.name for x in beside.iterdir()}, set(NAMES))
        self.assertEqual({x.parent for x in self.files(plain)}, {beside.resolve()})

    def test_what_fills_a_slot_goes_with_a_bundle(self) -> None:
        piece, file = read_piece(self.strangers())
        fog = Media(str(self.project / "films" / NAMES[2]), "fog", Fraction(1))
        entry = PieceUse(read(shipped()["sea_fog"]), fillings={"fog": fog})
        piece = piece.with_clips(piece.clips[0], replace(piece.clips[1], entry=entry))
        bundle = self.elsewhere / "filled.otioz"
        write_piece(bundle, piece, file)
        wanted = Path(fog.path).read_bytes()
        shutil.rmtree(self.project)
        opened, _ = read_piece(bundle)
        found = opened.clips[1].entry
        assert found is not None
        self.assertEqual(Path(found.fillings["fog"].path).read_bytes(), wanted)

    def test_files_of_one_name_do_not_take_each_others_place(self) -> None:
        other = self.elsewhere / NAMES[0]
        write_numbered(other, 30)
        piece, file = read_piece(self.strangers())
        media = replace(piece.clips[1].media, path=str(other))
        piece = piece.with_clips(piece.clips[0], replace(piece.clips[1], media=media))
        bundle = self.folder / "two.otioz"
        write_piece(bundle, piece, file)
        opened, _ = read_piece(bundle)
        sizes = [Path(x.media.path).stat().st_size for x in opened.clips]
        wanted = [self.project / "films" / NAMES[0], other]
        self.assertEqual(sizes, [x.stat().st_size for x in wanted])

    def test_what_is_missing_is_said_before_it_is_left_out(self) -> None:
        path = self.strangers()
        (self.project / "films" / NAMES[1]).unlink()
        piece, file = read_piece(path)
        bundle = self.elsewhere / "gap.otioz"
        with self.assertRaisesRegex(MissingMediaError, "50%.mp4 cannot be found"):
            write_piece(bundle, piece, file)
        self.assertFalse(bundle.exists())
        write_piece(bundle, piece, file, without_missing=True)
        # What a bundle lacks is missing from a video as well.
        video = self.elsewhere / "gap.mp4"
        for words, code in (([], 1), (["--allow-missing"], 0)):
            told = StringIO()
            with redirect_stdout(told), redirect_stderr(told):
                status = main(["dress", str(bundle), *words, "--output", str(video)])
            self.assertEqual((status, video.exists()), (code, code == 0), told.getvalue())
            if code:
                self.assertIn("put up with the gap (--allow-missing).", told.getvalue())

    def test_clips_are_never_written_over(self) -> None:
        path = self.strangers()
        piece, file = read_piece(path)
        clip = self.project / "films" / NAMES[0]
        before = clip.read_bytes()
        link = self.elsewhere / "link.mp4"
        link.symlink_to(clip)
        for output in (clip, link):
            for words in (["dress", str(path)], ["dress", str(path), "--overwrite"]):
                told = StringIO()
                with redirect_stdout(told), redirect_stderr(told):
                    self.assertEqual(main([*words, "--output", str(output)]), 1)
                self.assertRegex(told.getvalue(), "is what would be read|is there already")
        named = self.elsewhere / "clip.otio"
        shutil.copy(clip, named)
        odd = piece.with_clips(
            replace(piece.clips[0], media=replace(piece.clips[0].media, path=str(named)))
        )
        with self.assertRaisesRegex(InputError, "clip.otio is what would be read"):
            write_piece(named, odd, file)
        self.assertEqual(clip.read_bytes(), before)

    def test_rendered_windows_replace_nothing_unasked_and_are_no_remains(
        self,
    ) -> None:
        path = self.strangers()
        piece, file = read_piece(path)
        dressed = self.project / "dressed.otio"
        write_piece(
            dressed, dressing.on_every(piece, PieceUse(read(shipped()["plain_push"]))), file
        )
        flat, windows = self.project / "flat.otio", self.project / "flat windows"
        windows.mkdir()
        mine = windows / "cut 001.mp4"
        mine.write_bytes(b"mine")

        def run(*words: str) -> tuple[int, str]:
            told = StringIO()
            with redirect_stdout(told), redirect_stderr(told):
                job = ["dress", str(dressed), "--flatten", "--output", str(flat), *words]
                return main(job), told.getvalue()

        status, told = run()
        self.assertEqual((status, mine.read_bytes(), flat.exists()), (1, b"mine", False), told)
        self.assertIn("cut 001.mp4 is in flat windows already", told)
        with mock.patch("wrinkle.timeline.flattening.write_piece", side_effect=InputError("full")):
            self.assertEqual(run("--overwrite")[0], 1)
        self.assertEqual([x.name for x in windows.iterdir()], ["cut 001.mp4"])
        self.assertEqual(run("--overwrite")[0], 0)
        self.assertGreater(len(list(windows.iterdir())), 1)
        # Flattened once more under the same name it would be written over what it reads.
        status, told = run()
        self.assertIn("flat.otio is there already", told)

    def test_what_would_not_open_as_it_is_meant_is_not_written(self) -> None:
        piece, file = read_piece(self.strangers())
        goal = self.elsewhere / "odd.otio"
        with (
            mock.patch("wrinkle.timeline.writing.url_of", return_value="elsewhere.mp4"),
            self.assertRaisesRegex(InputError, "would not be found again from there"),
        ):
            write_piece(goal, piece, PieceFile())
        self.assertFalse(goal.exists())
        with (
            mock.patch("wrinkle.timeline.files.LARGEST", 1000),
            self.assertRaisesRegex(InputError, "could not be opened"),
        ):
            write_piece(goal, piece, file)
        self.assertFalse(goal.exists())
        write_piece(goal, Piece(), PieceFile())
