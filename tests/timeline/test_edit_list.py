"""Edit decision lists, in and out, by their own lines as SMPTE 258M lays them out."""

import tempfile
import unittest
from fractions import Fraction
from pathlib import Path

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.design.edits import wrinkle_edits
from wrinkle.core.errors import DocumentError, InputError
from wrinkle.core.piece import dressing, edits
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.time.rate import FrameRate
from wrinkle.timeline.edit_list import write_edit_list
from wrinkle.timeline.files import read_piece

RATE = FrameRate.of(30)


class Lists(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        media = [Media(str(self.folder / f"{x}.mp4"), f"{x}.mp4", Fraction(4)) for x in "abc"]
        piece = edits.add_clips(Piece(rate=RATE, title="Three"), 0, media)
        for clip in piece.clips:
            piece = edits.trim(piece, clip.id, 30, -30)
        wrinkle = wrinkle_edits.rename(plain_cut(), "Soft turn")
        wrinkle = wrinkle_edits.set_length(wrinkle, RATE.seconds(10), RATE.seconds(10))
        cut = piece.clips[1].id
        self.piece = dressing.put_on(piece, [cut], PieceUse(Bundle(wrinkle)))

    def written(self, piece: Piece) -> tuple[list[str], list[str]]:
        path = self.folder / "three.edl"
        unsaid = write_edit_list(path, piece)
        return path.read_text().splitlines(), unsaid

    def test_cuts_and_a_dissolve_of_the_length_of_the_window(self) -> None:
        lines, unsaid = self.written(self.piece)
        self.assertEqual(lines[0], "TITLE: Three")
        events = [line.split() for line in lines if line[:3].isdigit()]
        # Number, reel, track, kind, length of the dissolve; source in and out, record in and out.
        self.assertEqual(events[0][2:4], ["V", "C"])
        (dissolve,) = [event for event in events if event[3] == "D"]
        self.assertEqual(dissolve[4], "020")
        # It begins ten frames before the cut, which is after two seconds.
        self.assertEqual(dissolve[7], "00:00:01:20")
        self.assertEqual(dissolve[5], "00:00:00:20")
        self.assertEqual(events[-1][4:], ["00:00:01:00", "00:00:03:00", "00:00:04:00",
                                          "00:00:06:00"])  # fmt: skip
        self.assertIn("* WRINKLE: Soft turn", [line.strip() for line in lines])
        self.assertIn("* FROM CLIP NAME:  a", lines)
        said = "Wrinkles are dissolves of their length, with their names as comments."
        self.assertIn(said, unsaid)

    def test_it_comes_back_with_its_clips_cuts_and_windows(self) -> None:
        self.written(self.piece)
        found, file = read_piece(self.folder / "three.edl")
        self.assertEqual(file.root, "")
        self.assertEqual([x.media.name for x in found.clips], ["a.mp4", "b.mp4", "c.mp4"])
        self.assertEqual([(x.start, x.end) for x in found.clips],
                         [(x.start, x.end) for x in self.piece.clips])  # fmt: skip
        self.assertEqual(found.starts, self.piece.starts)
        use = found.clips[1].entry
        assert use is not None
        self.assertEqual((use.wrinkle.lead, use.wrinkle.tail), (RATE.seconds(10),) * 2)
        self.assertEqual(found.clips[0].media.path, str(self.folder / "a.mp4"))

    def test_names_that_columns_and_black_would_break(self) -> None:
        names = ("bl.mp4", "my clip 1.mp4", "my clip 2.mp4", "kürbis.mov")
        media = [Media(str(self.folder / x), x, Fraction(2)) for x in names]
        lines, _ = self.written(edits.add_clips(Piece(rate=RATE, title="A\nB"), 0, media))
        events = [line.split() for line in lines if line[:3].isdigit()]
        self.assertEqual(len({event[1] for event in events}), 4)
        self.assertTrue(all(len(event) == 8 and len(event[1]) <= 8 for event in events))
        found, _ = read_piece(self.folder / "three.edl")
        self.assertEqual(tuple(x.media.name for x in found.clips), names)

    def test_speeds_are_in_it(self) -> None:
        clip = self.piece.clips[2]
        piece = edits.set_speed(self.piece, clip.id, Fraction(2), False)
        lines, _ = self.written(piece)
        (speed,) = [line.split() for line in lines if line.startswith("M2")]
        self.assertEqual(float(speed[2]), 60.0)
        found, _ = read_piece(self.folder / "three.edl")
        self.assertEqual(found.clips[2].speed, 2)

    def test_a_list_of_another_writer_and_one_that_is_none(self) -> None:
        text = (
            "TITLE: OTHER\nFCM: NON-DROP FRAME\n\n"
            "001  AX       V     C        00:00:10:00 00:00:12:00 01:00:00:00 01:00:02:00\n"
            "* FROM CLIP NAME: street.mov\n"
            "002  AX       V     C        00:00:03:00 00:00:04:15 01:00:02:00 01:00:03:15\n"
            "* FROM CLIP NAME: shop.mov\n"
        )
        path = self.folder / "other.edl"
        path.write_text(text)
        found, _ = read_piece(path)
        self.assertEqual([piece.name for piece in found.clips], ["street.mov", "shop.mov"])
        self.assertEqual([found.frames_of(x) for x in found.clips], [60, 45])
        self.assertEqual(found.clips[0].media.path, str(self.folder / "street.mov"))
        for content in (b"nothing of it", b"", b"\x00\xff" * 50):
            path.write_bytes(content)
            with self.subTest(content), self.assertRaises(DocumentError) as caught:
                read_piece(path)
            self.assertRegex(str(caught.exception), r"^other\.edl cannot be opened: .*\.$")
        with self.assertRaisesRegex(InputError, "no such file"):
            read_piece(self.folder / "none.edl")
