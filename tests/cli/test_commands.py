"""The command line, by its exit status and what it prints and writes."""

import contextlib
import csv
import io
import json
import logging
import math
import tempfile
import unittest
from fractions import Fraction
from pathlib import Path
from unittest import mock

import av
import cv2
import numpy as np
import pyloudnorm
from msgspec.structs import replace

from tests.core.design.wrinkles import turning
from tests.core.sound.test_beats import drums
from tests.media.clips import write_numbered
from tests.media.sounds import write_sound
from tests.media.test_sound import write_sounding
from wrinkle import library
from wrinkle.__main__ import main
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.dials import Drive, How
from wrinkle.core.design.document.masking import Mask
from wrinkle.core.design.document.named_dials import SwitchDial
from wrinkle.core.design.document.ranged_dials import AmountDial
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.slot_kinds import WORDS
from wrinkle.core.design.document.slots import Slot
from wrinkle.core.design.document.sources import SlotSource, WordsSource
from wrinkle.core.design.document.wrinkle import Offered, Wrinkle, plain_cut
from wrinkle.core.design.edits import effect_edits, layer_edits, slot_edits
from wrinkle.core.motion.direction import Direction
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.paths import ellipse
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.demo.extras import late_gold
from wrinkle.files import archive
from wrinkle.media.clip import Clip
from wrinkle.media.output.formats import FORMATS
from wrinkle.media.sound_file import SoundFile

KEPT = Path(__file__).parents[1] / "core" / "design" / "document" / "kept" / "format_2.wrinkle"
KEPT_DIALS = [
    "Violent: amount, 0 to 200 %, 100 % as made",
    "Pace: time, 0.2 to 0.6 s, 0.4 s as made",
    "Feel: choice, calm | loud, calm as made",
    "With words: switch, on as made",
    "Tint: colour, #ffffff as made",
    "Line: words, Kite\nday as made",
    "Chance: seed, 0 as made",
]


def typed() -> Wrinkle:
    """A turn behind words in a soft mask, with two directions, two dials and a slot for words."""
    words = WordsSource("Now", slot="line", size=Setting(40.0))
    mask = Mask("m", "Oval", path=Setting(ellipse(0.5, 0.5, 0.4, 0.2)), feather=Setting(20.0))
    wrinkle = layer_edits.add_layer(turning(), "Words", replace(words, slot=""))
    layer = replace(wrinkle.layer("words"), source=words, masks=(mask,))
    slots = (*wrinkle.slots, Slot("line", "Line", WORDS, words="Now"))
    far = AmountDial("far", "Far", drives=(Drive("turn", "rotation", How.TIMES, 0.0, 2.0),),
                     high=200.0)  # fmt: skip
    shown = SwitchDial("shown", "With words", default=True,
                       drives=(Drive("words", "visible", values=(False, True)),))  # fmt: skip
    ways = (Offered(Direction.AS_MADE, "clockwise"),
            Offered(Direction.LEFT_RIGHT, "counter-clockwise"))  # fmt: skip
    layers = (*wrinkle.layers[:-1], layer)
    return replace(wrinkle, slots=slots, layers=layers, dials=(far, shown), directions=ways)


class Commands(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.clips = [
            "--outgoing", str(write_numbered(self.folder / "a.mp4", 60)),
            "--incoming", str(write_numbered(self.folder / "b.mp4", 60)),
        ]  # fmt: skip
        own = self.folder / "own"
        own.mkdir()
        archive.write(own / "My turn.wrinkle", Bundle(turning()))
        patch = mock.patch.object(library, "own_folder", return_value=own)
        patch.start()
        self.addCleanup(patch.stop)

    def run_words(self, *words: str) -> tuple[int, str, str]:
        """Exit status, standard output, standard error."""
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            try:
                status = main(words)
            except SystemExit as left:
                status = int(left.code or 0)
        return status, out.getvalue(), err.getvalue()

    def test_list_names_shipped_and_own_wrinkles_one_a_line(self) -> None:
        status, out, _ = self.run_words("list")
        self.assertEqual(status, 0)
        names = [line.split("\t")[0] for line in out.splitlines()]
        self.assertEqual(names, [*library.shipped(), "My turn"])

    def test_a_broken_own_wrinkle_does_not_end_the_list(self) -> None:
        (self.folder / "own" / "Bad.wrinkle").write_bytes(b"PK")
        status, out, err = self.run_words("list")
        self.assertEqual((status, len(out.splitlines())), (0, len(library.shipped()) + 1))
        self.assertIn("Bad.wrinkle cannot be opened", err)

    def test_nothing_is_written_over_what_is_read(self) -> None:
        wrinkle = self.folder / "own" / "My turn.wrinkle"
        before = wrinkle.read_bytes(), (self.folder / "a.mp4").read_bytes()
        for output in (wrinkle, self.folder / "new.wrinkle", self.folder / "a.mp4"):
            status, _, err = self.run_words(
                "render", str(wrinkle), *self.clips, "--output", str(output)
            )
            self.assertEqual(status, 1)
            self.assertRegex(err, "name another output|no ending that is written")
        self.assertEqual((wrinkle.read_bytes(), (self.folder / "a.mp4").read_bytes()), before)

    def test_sheets_and_videos_have_limits(self) -> None:
        long = replace(turning(), lead=Fraction(30), tail=Fraction(30))
        archive.write(self.folder / "long.wrinkle", Bundle(long))
        words = [str(self.folder / "long.wrinkle"), *self.clips, "--output"]
        status, _, err = self.run_words("sheet", *words, str(self.folder / "s.png"))
        self.assertEqual(status, 1)
        self.assertRegex(err, "A contact sheet of 1[0-9]+ frames would be too large")
        wide = [*words, str(self.folder / "v.mp4"), "--size", "9000x100"]
        status, _, err = self.run_words("render", *wide)
        self.assertEqual(status, 1)
        self.assertRegex(
            err, "9000×100 is not possible in MP4, H.264: no side can be longer than 8192"
        )

    def test_formats_are_listed_and_a_wrinkle_and_a_piece_are_written_in_them(self) -> None:
        _, out, _ = self.run_words("formats")
        lines = [line.split("\t") for line in out.splitlines()]
        self.assertEqual([line[0] for line in lines], list(FORMATS))
        self.assertTrue(all(len(line) == 6 for line in lines))
        film, frames = self.folder / "a.mkv", self.folder / "frames"
        words = ["render", "plain_push", *self.clips]
        self.assertEqual(self.run_words(*words, "--depth", "16", "--output", str(film))[0], 0)
        with av.open(str(film)) as container:
            self.assertEqual(container.streams.video[0].format.name, "gbrp16le")
            count = sum(1 for _ in container.decode(video=0))
        status, _, _ = self.run_words(*words, "--format", "exr", "--output", str(frames))
        self.assertEqual((status, len(list(frames.iterdir()))), (0, count))
        piece = str(self.folder / "piece.otio")
        clips = self.clips[1::2]
        self.run_words("piece", *clips, "--output", piece)
        dressed = ["dress", piece, "--with", "half_turn", "--dial", "Sound=no", "--strength", "50",
                   "--direction", "left-right"]  # fmt: skip
        short = self.folder / "short.webm"
        asked = ["--range", "1.5-2.5", "--size", "64x64", "--rate", "15", "--quality", "40"]
        status, out, _ = self.run_words(*dressed, *asked, "--output", str(short))
        self.assertEqual(status, 0)
        self.assertIn("15 frames, 64×64, 15", out)
        with av.open(str(short)) as container:
            self.assertEqual(container.streams.video[0].codec_context.name, "vp9")
        for given, told in (
            (["--range", "9-12", "--output", "x.mp4"], "is no range of the piece, which has 4.00"),
            (["--format", "best", "--output", "x.mp4"], "There is no format 'best'; use h264"),
            (["--depth", "10", "--output", "x.mp4"], "has 8 bits, not 10"),
            (["--output", "x.xyz"], "no ending that is written"),
            (["--dial", "Loud=1", "--output", "x.mp4"], "has no dial 'Loud'"),
        ):
            given[-1] = str(self.folder / given[-1])
            status, _, err = self.run_words(*dressed, *given)
            self.assertEqual(status, 1)
            self.assertIn(told, err)

    def test_an_error_that_nobody_foresaw_is_one_line_and_its_details_are_logged(self) -> None:
        with mock.patch("platformdirs.user_state_path", return_value=self.folder / "state"):
            with mock.patch.object(library, "shipped", side_effect=ZeroDivisionError("oh")):
                status, _, err = self.run_words("list")
            logged = (self.folder / "state" / "wrinkle.log").read_text()
        self.assertEqual((status, err.count("\n")), (1, 1))
        self.assertIn("Something went wrong inside Wrinkle (ZeroDivisionError)", err)
        self.assertIn("Traceback", logged)
        for handler in list(logging.getLogger("wrinkle").handlers):
            logging.getLogger("wrinkle").removeHandler(handler)
            handler.close()

    def test_a_further_slot_is_filled_by_name_and_an_empty_one_told(self) -> None:
        wrinkle, slot = slot_edits.add_slot(turning())
        wrinkle = layer_edits.add_layer(wrinkle, "Third", SlotSource(slot))
        wrinkle, use = effect_edits.add_effect(wrinkle, "third", "lut")
        wrinkle = effect_edits.change_effect(wrinkle, "third", use, asset="gold.cube")
        table = self.folder / "gold.cube"
        late_gold(table)
        path = self.folder / "three.wrinkle"
        archive.write(path, Bundle(wrinkle, {"gold.cube": table.read_bytes()}))
        target = self.folder / "f.png"
        job = ["frame", str(path), *self.clips, "--at", "2", "--output", str(target), "--overwrite"]
        status, _, err = self.run_words(*job)
        self.assertEqual((status, "The slot 'third' stays empty" in err), (0, True))
        status, _, err = self.run_words(*job, "--fill", f"fourth={self.clips[1]}")
        self.assertIn("no further slot 'fourth'; it has third", err)
        card = self.folder / "card.png"
        cv2.imwrite(str(card), np.zeros((5, 7, 3), np.uint8))
        self.assertEqual(self.run_words(*job, "--fill", f"third={card}")[::2], (0, ""))
        with_card = cv2.imread(str(target))
        status, _, err = self.run_words(*job, "--fill", f"third={self.clips[1]}")
        self.assertEqual((status, err), (0, ""))
        self.assertGreater(cv2.absdiff(cv2.imread(str(target)), with_card).mean(), 5.0)

    def test_render_in_another_size_and_rate_with_the_clips_around(self) -> None:
        target = self.folder / "o.mp4"
        status, out, err = self.run_words(
            "render", "Smooth turn", *self.clips, "--output", str(target), "--size", "96x54",
            "--rate", "60", "--seconds-around", "0.1", "--cut-outgoing", "1", "--cut-incoming", ".5"
        )  # fmt: skip
        self.assertEqual((status, err), (0, ""))
        clip = Clip(target)
        self.addCleanup(clip.close)
        facts = clip.facts
        self.assertEqual(
            (facts.size, facts.rate.label, facts.frame_count), (Size(96, 54), "60", 64)
        )
        self.assertIn("64 frames, 96×54, 60", out)

    def test_a_frame_and_a_sheet(self) -> None:
        frame, sheet = self.folder / "f.png", self.folder / "s.png"
        words = ["my_turn", *self.clips]
        self.assertEqual(
            self.run_words("frame", *words, "--at", "-3", "--output", str(frame))[0], 0
        )
        self.assertEqual(cv2.imread(str(frame)).shape, (96, 112, 3))
        self.assertEqual(self.run_words("sheet", *words, "--output", str(sheet))[0], 0)
        height, width, _ = cv2.imread(str(sheet)).shape
        # No picture is larger than the frame, 112 wide here.
        self.assertGreater(width * height, 24 * 96 * 112)
        again = ["sheet", *words, "--overwrite", "--output", str(sheet)]
        self.assertEqual(self.run_words(*again, "--width", "56")[0], 0)
        small = cv2.imread(str(sheet)).shape
        columns = round((width - 8) / (112 + 8))
        self.assertEqual(small[1], columns * (56 + 8) + 8)
        status, _, err = self.run_words(*again, "--width", "7")
        self.assertEqual(status, 2)
        self.assertIn("'7' is no width; give whole pixels from 16 to 8192", err)

    def test_a_use_is_typed(self) -> None:
        frame, path = self.folder / "f.png", self.folder / "typed.wrinkle"
        archive.write(path, Bundle(typed()))
        job = ["frame", str(path), *self.clips, "--size", "54x96", "--at", "-4",
               "--overwrite", "--output", str(frame)]  # fmt: skip
        seen = []
        for words in (
            [], ["--direction", "left-right"], ["--direction", "counter-clockwise"],
            ["--strength", "50"], ["--softness", "0%"], ["--dial", "far=200"],
            ["--dial", "With words=off"], ["--fill", "line=Other"], ["--lead", "0.2"],
        ):  # fmt: skip
            with self.subTest(words):
                status, _, err = self.run_words(*job, *words)
                self.assertEqual((status, err), (0, ""))
                seen.append(frame.read_bytes())
        self.assertEqual(seen[1], seen[2])
        self.assertEqual(len(set(seen)), len(seen) - 1)
        for words, told in (
            (["--direction", "up-down"], "does not go up-down; it has as-made, left-right"),
            (
                ["--direction", "over"],
                "'over' is no direction of Turning; it has as-made, left-right",
            ),
            (["--dial", "loudness=1"], "has no dial 'loudness'; it has 'Far', 'With words'"),
            (["--dial", "far=wide"], "Far takes a number from 0 to 200 %, not 'wide'"),
            (["--strength", "300"], "strength must be within 0 and 200 %"),
            (["--fill", "line"], "'line' is not a name and a value"),
            (["--fill", "fourth=x"], "has no further slot 'fourth'; it has line."),
        ):
            status, _, err = self.run_words(*job, *words)
            self.assertNotEqual(status, 0)
            self.assertIn(told, err)

    def test_inspect_tells_what_a_file_is(self) -> None:
        picture = self.folder / "p.png"
        cv2.imwrite(str(picture), np.zeros((5, 7, 3), np.uint8))
        tune = self.folder / "tune.flac"
        write_sound(tune, "flac", SAMPLE_RATE, samples=drums(120.0, swung=False)[0][:, 0])
        for path, key, value in (
            (self.clips[1], "frames", 60),
            (str(picture), "size", "7×5"),
            (str(self.folder / "own" / "My turn.wrinkle"), "lanes", ["Turn · rotation"]),
            (str(library.shipped()["plain_push"]), "lead_frames", 14),
            ("Plain push", "first_frame", -14),
            ("my turn", "end_frame", 12),
            (str(KEPT), "dials", KEPT_DIALS),
            (str(tune), "beats_a_minute", 120.0),
        ):
            status, out, _ = self.run_words("inspect", path, "--json")
            self.assertEqual((status, json.loads(out)[key]), (0, value))
            self.assertEqual(self.run_words("inspect", path)[0], 0)

    def test_examine_tells_what_is_open_and_by_its_status(self) -> None:
        right = self.folder / "right.wrinkle"
        archive.write(right, archive.read(library.shipped()["plain_push"]))
        status, out, _ = self.run_words("examine", str(right))
        self.assertEqual((status, out), (0, f"{right}: Plain push: 0 open\n"))
        broken, _ = effect_edits.add_effect(
            archive.read(right).wrinkle, "outgoing", "gaussian_blur"
        )
        wrong = self.folder / "wrong.wrinkle"
        archive.write(wrong, Bundle(broken))
        status, out, _ = self.run_words("examine", str(wrong), "--json")
        self.assertEqual(status, 1)
        (told,) = json.loads(out)
        checks = {x["check"]: x for x in told["findings"]}
        self.assertIn("rest", checks)
        self.assertIn("Gaussian blur", checks["rest"]["sentence"])
        self.assertEqual(checks["rest"]["mends"], ["Bring it to rest there"])

    def test_measure_writes_a_row_for_each_frame(self) -> None:
        table = self.folder / "table.csv"
        words = ("measure", "plain_push", "--csv", str(table), *self.clips)
        self.assertEqual(self.run_words(*words)[0], 0)
        with table.open(newline="", encoding="utf-8") as file:
            rows = list(csv.DictReader(file))
        self.assertEqual([int(x["frame"]) for x in rows], list(range(-14, 14)))
        self.assertTrue(all(0 < float(x["Brightness (%)"]) < 100 for x in rows))
        # The frame after the cut shows another clip, whose motion nobody can follow.
        self.assertEqual([x["frame"] for x in rows if not x["Speed by the lanes (%)"]], ["0"])
        status, out, _ = self.run_words("measure", "plain_push", *self.clips)
        self.assertEqual((status, out.count("\n")), (0, 29))

    def test_a_piece_is_examined_cut_by_cut(self) -> None:
        goal = self.folder / "piece.otio"
        clips = self.clips[1::2]
        self.run_words("piece", *clips, "--output", str(self.folder / "plain.otio"))
        self.run_words("dress", str(self.folder / "plain.otio"), "--with", "half_turn",
                       "--output", str(goal))  # fmt: skip
        status, out, _ = self.run_words("examine", str(goal))
        # The bits of their numbers, in black and white, are other ones on each frame.
        self.assertEqual(status, 1)
        self.assertIn(f"{goal}: cut 1, a → b: 1 open", out)
        # Handles that are too short get what they lack.
        roomy = self.folder / "roomy.otio"
        status, out, _ = self.run_words(
            "dress", str(self.folder / "plain.otio"), "--with", "corner_split", "--make-room",
            "--output", str(roomy),
        )  # fmt: skip
        self.assertEqual(status, 0)
        self.assertRegex(out, r"Trims 'a' by \d+, 'b' by \d+ frames; the piece has \d+ frames then")
        status, out, _ = self.run_words("inspect", str(roomy))
        self.assertNotIn("missing", out)
        self.run_words("dress", str(roomy), "--make-room", "--output", str(self.folder / "x.otio"))
        status, out, _ = self.run_words("examine", str(goal))
        self.assertRegex(out, "No harmful flashes.*general flashes within one second")

    def test_the_sound_of_a_piece_is_measured_with_its_clips(self) -> None:
        clips = [str(write_sounding(self.folder / f"{x}.mp4", "aac", 48_000)) for x in "ab"]
        plain, goal = (str(self.folder / f"{x}.otio") for x in ("plain", "goal"))
        self.run_words("piece", *clips, "--output", plain)
        silent = self.folder / "silent.wrinkle"
        archive.write(silent, Bundle(plain_cut("Silent")))
        self.run_words("dress", plain, "--with", str(silent), "--output", goal)
        _, out, _ = self.run_words("measure", goal)
        loud = {
            int(x["frame"]): float(x["Loudness (LUFS)"]) for x in csv.DictReader(io.StringIO(out))
        }
        # A sine at half of the full scale, in one channel, of 1 kHz: BS.1770-4 gives it the power
        # of its samples. It fills the second half of the first clip; the other one begins silent.
        self.assertAlmostEqual(loud[-7], 10.0 * math.log10(0.5**2 / 2.0), delta=0.2)
        self.assertLess(loud[8], -45.0)

    def loudness_of(self, path: Path) -> float:
        """The integrated loudness of a file, by another program."""
        found = SoundFile.read(path)
        samples = found.sound().samples(0, round(found.duration * SAMPLE_RATE))
        return float(pyloudnorm.Meter(SAMPLE_RATE).integrated_loudness(samples.astype(float)))

    def test_what_is_heard_of_a_use_is_chosen(self) -> None:
        clips = [str(write_sounding(self.folder / f"{x}.mp4", "aac", 48_000)) for x in "cd"]
        given = ["--outgoing", clips[0], "--incoming", clips[1], "--seconds-around", "0.2"]
        heard = {}
        for sound in ("both", "clips", "wrinkle", "none"):
            target = self.folder / f"{sound}.mp4"
            words = ("--cut-outgoing", "0.8", "--cut-incoming", "0.8", "--sound", sound)
            status, _, _ = self.run_words(
                "render", "porthole", *given, *words, "--output", str(target)
            )
            self.assertEqual(status, 0)
            clip = Clip(target)
            self.addCleanup(clip.close)
            sound_of = clip.sound()
            heard[sound] = None if sound_of is None else sound_of.samples(0, 2 * SAMPLE_RATE)
        self.assertIsNone(heard["none"])
        both, clips_alone, alone = (heard[x] for x in ("both", "clips", "wrinkle"))
        # Each by itself is heard, and together they are the sum, but for what AAC makes of it.
        self.assertGreater(float(np.abs(clips_alone).max()), 0.3)
        self.assertGreater(float(np.abs(alone).max()), 0.05)
        summed = np.clip(clips_alone + alone, -1, 1)
        away = both - summed
        self.assertLess(float((away**2).mean()), 0.02 * float((summed**2).mean()))

    def test_a_piece_with_music_is_as_loud_as_is_typed(self) -> None:
        clips = [str(write_sounding(self.folder / f"{x}.mp4", "aac", 48_000)) for x in "cd"]
        tune = write_sound(self.folder / "tune.flac", "flac", 44_100)
        plain, goal = (str(self.folder / f"{x}.otio") for x in ("plain", "goal"))
        self.run_words("piece", *clips, "--output", plain)
        status, _, err = self.run_words(
            "dress", plain, "--bed", str(tune), "--loudness", "-20", "--output", goal
        )
        self.assertEqual((status, err), (0, ""))
        target = self.folder / "sound.wav"
        status, out, _ = self.run_words("sound", goal, "--bits", "24", "--output", str(target))
        self.assertEqual(status, 0)
        self.assertIn("2.000 s, -20.0 LUFS", out)
        self.assertAlmostEqual(self.loudness_of(target), -20.0, delta=0.15)
        video = self.folder / "video.mp4"
        self.assertEqual(self.run_words("dress", goal, "--output", str(video))[0], 0)
        self.assertAlmostEqual(self.loudness_of(video), -20.0, delta=0.3)
        for words, said in (
            (("--loudness", "loud"), "'loud' is no loudness"),
            (("--bed", str(self.folder / "none.mp3")), "none.mp3"),
        ):
            status, _, err = self.run_words("dress", goal, *words, "--output", f"{goal}2.otio")
            self.assertNotEqual(status, 0)
            self.assertIn(said, err)

    def test_the_sound_of_a_wrinkle_alone(self) -> None:
        target = self.folder / "porthole.flac"
        status, out, _ = self.run_words("sound", "porthole", "--output", str(target))
        self.assertEqual(status, 0)
        self.assertRegex(out, r"porthole\.flac: \d\.\d{3} s, -\d+\.\d LUFS, peak -\d+\.\d dBTP")
        # What is there stays, and a silent one is said to be.
        self.assertEqual(self.run_words("sound", "porthole", "--output", str(target))[0], 1)
        plain, silent = self.folder / "plain.wrinkle", str(self.folder / "silent.wav")
        archive.write(plain, Bundle(plain_cut("Plain")))
        self.assertIn(
            "Nothing is heard", self.run_words("sound", str(plain), "--output", silent)[2]
        )
        self.assertIn(".wav or .flac", self.run_words("sound", "porthole", "--output", "a.mp3")[2])

    def test_the_inputs_fault_is_one_sentence_and_status_1(self) -> None:
        words = self.folder / "words.mp4"
        words.write_text("words")
        here = str(self.folder / "o.mp4")
        for given, told in (
            (("render", "nothing", *self.clips, "--output", here), "no wrinkle 'nothing'"),
            (("render", str(words), *self.clips, "--output", here), "words.mp4 cannot be opened"),
            (("render", "smooth_turn", "--outgoing", str(words), *self.clips[2:],
              "--output", here), "words.mp4 cannot be read as a video"),
            (("render", "smooth_turn", *self.clips, "--output", "/no/where.mp4"), "does not exist"),
            (("render", "smooth_turn", *self.clips, "--output", here, "--size", "95x54"), "even"),
            (("render", "smooth_turn", *self.clips, "--output", here, "--cut-outgoing", "99"),
             "cut of a must lie within"),
            (("inspect", str(self.folder / "none.mp4")), "no such file"),
        ):  # fmt: skip
            with self.subTest(told):
                status, _, err = self.run_words(*given)
                self.assertEqual(status, 1)
                self.assertRegex(err, told)
                self.assertEqual(err.count("\n"), 1)
        self.assertFalse(Path(here).exists())

    def test_wrong_usage_is_status_2_and_each_command_helps(self) -> None:
        for given in (("fly",), ("render",), ("frame", "x", *self.clips, "--at", "soon"),
                      ("render", "x", *self.clips, "--output", "o", "--size", "0x0"),
                      ("render", "x", *self.clips, "--output", "o", "--rate", "nan")):  # fmt: skip
            self.assertEqual(self.run_words(*given)[0], 2)
        for command in ("open", "demo", "list", "render", "frame", "sheet", "inspect"):
            status, out, _ = self.run_words(command, "--help")
            self.assertEqual(status, 0)
            self.assertIn(command, out)

    def test_without_a_screen_the_window_says_so(self) -> None:
        with mock.patch.dict("os.environ", clear=True):
            status, _, err = self.run_words("open")
        self.assertEqual(status, 1)
        self.assertIn("xvfb-run ./run demo", err)
