"""A piece: its clips trimmed, slipped, split and moved, dressed, and what is seen at each frame."""

import random
import unittest
from dataclasses import replace
from fractions import Fraction
from functools import partial
from itertools import pairwise

from msgspec.structs import replace as replaced

from tests.core.reuse.every_kind import Slanted
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.timing import Span
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.errors import InputError
from wrinkle.core.motion.direction import Direction
from wrinkle.core.picture.image import Size
from wrinkle.core.piece import dressing, edits
from wrinkle.core.piece.document import Marker, Piece
from wrinkle.core.piece.faults import faults
from wrinkle.core.piece.making_room import make_room
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.running import ClipFrame, Paced, UseFrame, Windows, cuts_of, seen, windows
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.reuse.use import Choices
from wrinkle.files import archive
from wrinkle.library import shipped

FRAME = Fraction(1, 30)


def media(name: str, frames: int = 90) -> Media:
    return Media(f"/films/{name}.mp4", f"{name}.mp4", frames * FRAME, Size(640, 360))


def three() -> Piece:
    """Three clips of thirty frames, each from the middle of a file of ninety."""
    piece = edits.add_clips(Piece(), 0, [media("a"), media("b"), media("c")])
    for clip in piece.clips:
        piece = edits.trim(piece, clip.id, 30, -30)
    return piece


def short_cut(frames: int = 4) -> Wrinkle:
    return replaced(plain_cut(), lead=frames * FRAME, tail=frames * FRAME)


def parts(piece: Piece) -> list[tuple[str, int, int]]:
    """Each clip's name, and its in and out point in frames of its file."""
    return [(x.name, round(x.start / FRAME), round(x.end / FRAME)) for x in piece.clips]


class Clips(unittest.TestCase):
    def test_files_become_clips_and_starts_are_sums_of_their_lengths(self) -> None:
        piece = three()
        self.assertEqual([x.id for x in piece.clips], ["clip", "clip-2", "clip-3"])
        self.assertEqual(piece.starts, (0, 30, 60, 90))
        # At half the speed it lasts twice as long.
        slow = edits.set_speed(piece, "clip-2", Fraction(1, 2), reverse=False)
        self.assertEqual(slow.starts, (0, 30, 90, 120))
        self.assertEqual(edits.add_clips(piece, 1, [media("d")]).clips[1].name, "d")

    def test_trim_slip_slide_and_the_cut_between(self) -> None:
        piece = three()
        self.assertEqual(parts(edits.trim(piece, "clip-2", 5, -3))[1], ("b", 35, 57))
        self.assertEqual(parts(edits.slip(piece, "clip-2", -7))[1], ("b", 23, 53))
        rolled = edits.slip_cut(piece, "clip-2", 4)
        self.assertEqual(parts(rolled), [("a", 30, 64), ("b", 34, 60), ("c", 30, 60)])
        self.assertEqual(rolled.frame_count, piece.frame_count)
        slid = edits.slide(piece, "clip-2", 4)
        self.assertEqual(parts(slid), [("a", 30, 64), ("b", 30, 60), ("c", 34, 60)])
        self.assertEqual(slid.frame_count, piece.frame_count)
        back = edits.set_speed(piece, "clip-2", Fraction(1), reverse=True)
        self.assertEqual(parts(edits.trim(back, "clip-2", 5, 0))[1], ("b", 30, 55))

    def test_what_cannot_be_is_one_sentence(self) -> None:
        piece = three()
        for act, words in (
            (lambda: edits.trim(piece, "clip", -31, 0), "a.mp4 has only 30 frames to spare"),
            (lambda: edits.trim(piece, "clip", 30, 0), "Nothing would be left of 'a'"),
            (lambda: edits.slip_cut(piece, "clip", 1), "no cut before the first clip"),
            (lambda: edits.slide(piece, "clip-3", 1), "has none on one side"),
            (lambda: edits.split(piece, 30), "move the playhead off the cut"),
            (lambda: edits.set_speed(piece, "clip", Fraction(0), False), "speed of 'a' must be"),
            (lambda: replace(piece, title=" "), "needs a title"),
            (lambda: replace(piece, clips=(piece.clips[0],) * 2), "Two clips"),
            (lambda: media("e", 0), "e.mp4 is empty"),
        ):
            with self.subTest(words), self.assertRaisesRegex(InputError, words):
                act()

    def test_a_split_clip_shows_the_same_frames_in_either_direction(self) -> None:
        for reverse in (False, True):
            piece = edits.set_speed(three(), "clip-2", Fraction(3, 2), reverse)
            cut = edits.split(piece, 37)
            self.assertEqual(len(cut.clips), 4)
            self.assertEqual(cut.frame_count, piece.frame_count)
            for frame in range(piece.frame_count):
                before, after = (seen(x, frame, Windows()) for x in (piece, cut))
                self.assertEqual(before.seconds, after.seconds, frame)

    def test_order_removal_and_another_file_keep_all_else(self) -> None:
        use = PieceUse(Bundle(short_cut()))
        piece = dressing.put_on(three(), ["clip-2"], use)
        moved = edits.move(piece, "clip-2", 2)
        self.assertEqual([x.name for x in moved.clips], ["a", "c", "b"])
        self.assertEqual([x.entry for x in moved.clips], [None, None, use])
        self.assertEqual([x.entry for x in edits.remove(piece, "clip").clips], [use, None])
        other = edits.put_in_place(piece, "clip-2", media("long", 300)).clip("clip-2")
        self.assertEqual((other.start, other.end, other.entry), (30 * FRAME, 60 * FRAME, use))
        short = edits.put_in_place(piece, "clip-2", media("short", 12)).clip("clip-2")
        self.assertEqual((short.start, short.end), (0, 12 * FRAME))
        found = replace(media("b"), path="/elsewhere/b.mp4")
        paths = [x.media.path for x in edits.relink(piece, [found]).clips]
        self.assertEqual(paths, ["/films/a.mp4", "/elsewhere/b.mp4", "/films/c.mp4"])
        self.assertEqual(replace(piece, markers=(Marker(FRAME, "beat"),)).markers[0].text, "beat")

    def test_random_edits_keep_a_piece_whole(self) -> None:
        dice, piece = random.Random(15), three()
        for _ in range(400):
            clip, by = dice.choice(piece.clips).id, dice.randrange(-9, 10)
            speed = Fraction(dice.randrange(1, 9), 4)
            act = dice.choice(
                (
                    partial(edits.trim, piece, clip, by, dice.randrange(-9, 10)),
                    partial(edits.slip, piece, clip, by),
                    partial(edits.slip_cut, piece, clip, by),
                    partial(edits.slide, piece, clip, by),
                    partial(edits.split, piece, dice.randrange(piece.frame_count)),
                    partial(edits.move, piece, clip, dice.randrange(9)),
                    partial(edits.set_speed, piece, clip, speed, reverse=by > 0),
                )
            )
            try:
                piece = act()
            except InputError as fault:
                self.assertTrue(str(fault).endswith("."))
            if len(piece.clips) > 20:
                piece = edits.remove(piece, clip)
            for frame in range(0, piece.frame_count, 7):
                found = seen(piece, frame, Windows())
                owner = piece.clip(found.clip)
                # Half a frame beyond: lengths are rounded to whole frames.
                self.assertLessEqual(owner.start - owner.speed * FRAME, found.seconds)
                self.assertLessEqual(found.seconds, owner.end + owner.speed * FRAME)


class Dressing(unittest.TestCase):
    def test_all_every_second_none_and_alternating(self) -> None:
        piece = edits.add_clips(Piece(), 0, [media(x) for x in "abcdef"])
        use = PieceUse(archive.read(shipped()["bar_sweep"]))
        entries = [x.entry for x in dressing.on_every(piece, use, 2).clips]
        self.assertEqual(entries, [None, use, None, use, None, use])
        both = dressing.alternating(dressing.on_every(piece, use))
        ways = [x.entry.choices.direction for x in both.clips[1:]]
        made, mirrored = Direction.AS_MADE, Direction.LEFT_RIGHT
        self.assertEqual(ways, [made, mirrored, made, mirrored, made])
        self.assertEqual(dressing.on_every(both, None), piece)

    def test_shuffled_is_repeatable_and_never_twice_in_a_row(self) -> None:
        piece = edits.add_clips(Piece(), 0, [media(str(x)) for x in range(40)])
        uses = [PieceUse(Bundle(short_cut(frames))) for frames in (3, 4, 5)]
        dressed = dressing.shuffled(piece, uses, 7)
        self.assertEqual(dressed, dressing.shuffled(piece, uses, 7))
        self.assertNotEqual(dressed, dressing.shuffled(piece, uses, 8))
        order = [x.entry.wrinkle for x in dressed.clips[1:]]
        self.assertTrue(all(one != other for one, other in pairwise(order)))
        self.assertEqual({x.wrinkle for x in uses}, set(order))
        with self.assertRaisesRegex(InputError, "Choose some wrinkles"):
            dressing.shuffled(piece, [], 1)


class Running(unittest.TestCase):
    def test_what_is_seen_is_a_clip_or_the_use_of_the_nearer_cut(self) -> None:
        piece = dressing.put_on(three(), ["clip-2"], PieceUse(Bundle(short_cut(4))))
        piece = dressing.put_on(piece, ["clip-3"], PieceUse(Bundle(short_cut(20))))
        there = windows(piece)
        self.assertEqual([(x.first, x.cut, x.end) for x in there], [(26, 30, 34), (40, 60, 80)])
        self.assertEqual(seen(piece, 25, there), ClipFrame("clip", 55 * FRAME))
        self.assertEqual(seen(piece, 26, there), UseFrame("clip-2", -4))
        self.assertEqual(seen(piece, 33, there), UseFrame("clip-2", 3))
        self.assertEqual(seen(piece, 34, there), ClipFrame("clip-2", 34 * FRAME))
        self.assertEqual(seen(piece, 79, there), UseFrame("clip-3", 19))
        self.assertEqual(seen(piece, 999, there), ClipFrame("clip-3", 59 * FRAME))

    def test_a_length_that_is_chosen_and_the_piece_s_rate_count(self) -> None:
        choices = Choices(lead=Fraction(1, 5), tail=Fraction(1, 10))
        use = PieceUse(Bundle(short_cut(4)), choices)
        piece = dressing.put_on(three(), ["clip-2"], use)
        (window,) = windows(piece)
        self.assertEqual((window.first, window.end), (24, 33))
        at_60 = replace(piece, rate=type(piece.rate).of(60))
        (window,) = windows(at_60)
        self.assertEqual((window.cut, window.first, window.end), (60, 48, 66))

    def test_faults_are_said_and_nothing_is_refused(self) -> None:
        over = replaced(
            short_cut(20), layers=tuple(replaced(x, span=Span()) for x in plain_cut().layers)
        )
        piece = dressing.put_on(three(), ["clip-2", "clip-3"], PieceUse(Bundle(over)))
        piece = edits.trim(piece, "clip", 0, 25)
        found = [(x.clip, x.frames) for x in faults(piece, windows(piece))]
        # Twenty frames after the out point, of which the file has five; two windows of twenty on
        # either side in thirty frames.
        self.assertEqual(found, [("clip-2", 15), ("clip-2", 10)])
        sentences = [x.sentence for x in faults(piece, windows(piece))]
        self.assertIn("'a' has 5 frames to spare after the cut, and 20 are needed", sentences[0])
        self.assertIn("overlaps the next one by 10 frames", sentences[1])
        tight = dressing.put_on(three(), ["clip-2"], PieceUse(Bundle(short_cut(40))))
        words = [x.sentence for x in faults(tight, windows(tight))]
        self.assertEqual(len(words), 1)
        self.assertIn("reaches 10 frames beyond the piece", words[0])

    def test_room_is_made_by_exactly_what_is_missing(self) -> None:
        over = replaced(
            short_cut(20), layers=tuple(replaced(x, span=Span()) for x in plain_cut().layers)
        )
        piece = dressing.put_on(three(), ["clip-2", "clip-3"], PieceUse(Bundle(over)))
        piece = edits.trim(piece, "clip", 0, 25)
        self.assertEqual([x.frames for x in faults(piece, windows(piece))], [15, 10])
        made = make_room(piece, ["clip-2"])
        self.assertEqual(made.trimmed, (("a", 15),))
        self.assertEqual(made.piece.frame_count, piece.frame_count - 15)
        self.assertEqual(parts(made.piece)[1:], parts(piece)[1:])
        self.assertIn("Trims 'a' by 15 frames; the piece has 100 frames", made.words(piece))
        # What is left are windows that overlap, and no handle.
        found = faults(made.piece, windows(made.piece))
        self.assertEqual([x.short for x in found], ["overlaps the next one by 10 frames"])
        for cuts in (["clip-3"], None):
            with self.assertRaisesRegex(InputError, "there is room already"):
                make_room(made.piece, cuts)
        tight = edits.trim(piece, "clip", 40, 0)
        with self.assertRaisesRegex(InputError, "'a' is too short to make room: it has 15 frames"):
            make_room(tight)

    def test_a_paced_clip_is_seen_in_time_of_the_piece(self) -> None:
        source = Slanted("a", hue=0.0)
        piece = edits.add_clips(Piece(), 0, [media("a", round(source.duration / FRAME))])
        piece = edits.trim(piece, "clip", 6, -9)
        for reverse in (False, True):
            piece = edits.set_speed(piece, "clip", Fraction(3, 2), reverse)
            clip = piece.clips[0]
            paced, (first, last) = Paced(source, clip), cuts_of(piece, clip)
            self.assertEqual(last - first, clip.length)
            for frame in range(piece.frame_count):
                offset = frame * FRAME
                # Backwards a picture is over at the moment at which it begins.
                own = clip.own_time(offset) - (FRAME / 8 if reverse else 0)
                self.assertEqual(paced.index_at(first + offset), source.index_at(own))


if __name__ == "__main__":
    unittest.main()
