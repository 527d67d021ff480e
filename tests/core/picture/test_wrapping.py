"""Words that stay inside the safe area, in every shape, face and direction."""

import random
import unittest
from dataclasses import replace
from itertools import combinations

from tests.core.picture.test_lettering import drawn_font
from wrinkle import library
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.lettering import Align, Lettering, extent_of_words, lettered
from wrinkle.core.picture.safe_area import SAFE
from wrinkle.core.picture.wrapping import kept_inside

BOXES = drawn_font()
"""Each letter is half an em wide, and so is a space."""
WORDS = ("a", "ab", "aba", "babab", "abababa")
SHAPES = (Size(108, 192), Size(120, 120), Size(128, 160), Size(192, 108))
TEXTS = (
    "TIDEWIND",
    "The other side of a very long summer",
    "Unzertrennlichkeitsversprechen",
    "Two lines\nof its own making, one much longer than the other",
    "\u05e9\u05dc\u05d5\u05dd \u05e2\u05d5\u05dc\u05dd abc \u05de\u05d9\u05dc\u05d9\u05dd",
    "\u6d77\u304b\u3089\u306e\u98a8\u304c\u5439\u3044\u3066\u3044\u308b\u65e5",
)  # fmt: skip


def reach(words: Lettering, frame: Size) -> float:
    """How far the ink goes beyond the safe area, in pixels; from the drawn picture."""
    alpha = lettered(words, frame).pixels[..., 3] > 0.02
    beyond = []
    for axis, side in ((0, frame.width), (1, frame.height)):
        taken = alpha.any(axis=axis).nonzero()[0]
        margin = side * (1.0 - SAFE) / 2.0
        beyond += [margin - taken[0], taken[-1] + 1 - (side - margin)]
    return float(max(beyond))


class KeptInside(unittest.TestCase):
    def test_every_face_text_shape_place_and_align_stays_inside(self) -> None:
        chance = random.Random(7)
        for text in TEXTS:
            for (face, bold), font in library.fonts().items():
                frame = chance.choice(SHAPES)
                wanted = Lettering(
                    text,
                    font,
                    bold,
                    min(frame) * chance.uniform(0.08, 0.9),
                    tracking=min(frame) * chance.choice((0.0, 0.05)),
                    align=chance.choice(list(Align)),
                    place=(chance.choice((0.0, 0.3, 1.0)), chance.choice((0.0, 0.7, 1.0))),
                    stroke=(1.0, 0.0, 0.0),
                    stroke_width=chance.choice((0.0, 2.0)),
                )
                with self.subTest(text=text, face=face, frame=frame.label):
                    kept = kept_inside(wanted, frame, 0.7)
                    self.assertLessEqual(reach(kept, frame), 1.0)
                    self.assertLessEqual(kept.size, wanted.size)
                    # All of it is still there, in its order.
                    self.assertEqual("".join(kept.text.split()), "".join(text.split()))

    def test_what_has_room_is_left_as_it_is(self) -> None:
        wanted = Lettering("ab", BOXES, False, 20.0, place=(0.0, 1.0))
        kept = kept_inside(wanted, Size(200, 100), 0.7)
        self.assertEqual(replace(kept, levels=()), wanted)
        # Its box stands in the lower left of the safe area.
        left, _, _, bottom = extent_of_words(kept, Size(200, 100)) or (0.0,) * 4
        self.assertAlmostEqual(left, 10.0 + 0.05 * 20.0, delta=0.1)
        self.assertAlmostEqual(bottom, 95.0 - 0.2 * 20.0, delta=0.1)

    def test_lines_are_as_equal_as_any_breaks_make_them(self) -> None:
        # Reference: all ways to break the lines, tried one after the other.
        chance = random.Random(3)
        for _ in range(40):
            words = [chance.choice(WORDS) for _ in range(chance.randint(2, 8))]
            wanted = Lettering(" ".join(words), BOXES, False, 40.0)
            lines = kept_inside(wanted, Size(150, 400), 0.9).text.split("\n")
            ways = (
                [" ".join(words[a:b]) for a, b in zip((0, *cuts), (*cuts, len(words)), strict=True)]
                for cuts in combinations(range(1, len(words)), len(lines) - 1)
            )
            best = min(max(len(line) for line in way) for way in ways)
            self.assertEqual(max(len(line) for line in lines), best, words)

    def test_lines_are_broken_only_below_the_least_size(self) -> None:
        # Four letters and a space, 50 pixels each: 250 less the white beside the outer letters.
        wanted = Lettering("ab ab", BOXES, False, 100.0)
        whole = kept_inside(wanted, Size(200, 400), 0.7)
        self.assertEqual(whole.text, "ab ab")
        self.assertAlmostEqual(whole.size, 100.0 * 180.0 / 240.0, delta=0.1)
        parted = kept_inside(wanted, Size(200, 400), 0.8)
        self.assertEqual((parted.text, parted.size), ("ab\nab", 100.0))

    def test_a_line_that_follows_keeps_the_direction_of_its_paragraph(self) -> None:
        text = "\u05d0\u05d1 \u05d0\u05d1 ab\u05d0 ab"
        kept = kept_inside(Lettering(text, BOXES, False, 60.0), Size(150, 400), 0.9)
        self.assertGreater(len(kept.text.split("\n")), 1)
        self.assertEqual(set(kept.levels), {1})


if __name__ == "__main__":
    unittest.main()
