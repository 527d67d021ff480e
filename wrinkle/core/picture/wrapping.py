"""Words that stay inside the safe area: smaller first, then on more lines."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

from wrinkle.core.picture.faces import face_of
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.lettering import Lettering, extent_of_words
from wrinkle.core.picture.safe_area import safe_size
from wrinkle.core.picture.shaping import base_level, shaped

_MOST_LINES = 40
"""More cannot be read in a frame."""
_FINE = 24
"""Halvings of a width: beyond the last bit of a pixel."""


@lru_cache(64)
def kept_inside(words: Lettering, frame: Size, least: float) -> Lettering:
    """The words at such a size, and on so many lines, that none leaves the safe area.

    What is too wide becomes smaller down to a share of its size. If that is not enough it goes on
    more lines, as many as that share needs and about equally long ones; what cannot be parted
    becomes smaller still.

    Args:
        words: as they are wanted; line breaks of their own stay.
        frame: in which they stand.
        least: the share of their size from which lines are broken instead, above 0, at most 1.
    """
    if words.size <= 0.0 or not words.text.strip():
        return words
    # Laid out in no place of their own: how large they are does not depend on where they stand.
    centred = replace(words, place=(0.5, 0.5))
    paragraphs = [_Paragraph(text, words) for text in words.text.split("\n")]
    best = _on_lines(centred, paragraphs)
    share = _share(best, frame)
    while share < least and sum(len(x.lines) for x in paragraphs) < _MOST_LINES:
        # The widest one that can be parted; else it is the height, or one long word.
        parted = max(paragraphs, key=lambda x: (x.can_part, x.widest))
        if not parted.can_part:
            break
        parted.part()
        tried = _on_lines(centred, paragraphs)
        now = _share(tried, frame)
        if now > share:
            best, share = tried, now
    scaled = replace(_scaled(best, min(share, 1.0)), place=words.place)
    return replace(scaled, offset=_way_inside(scaled, frame))


class _Paragraph:
    """What stands between two line breaks, and how it is broken."""

    def __init__(self, text: str, words: Lettering) -> None:
        from uniseg.linebreak import line_break_units

        face = face_of(words.font, words.bold)
        self._units = list(line_break_units(text)) or [text]
        self.level = base_level(text)
        self._widths = [
            shaped(unit, face, words.bold, words.size, words.tracking, self.level).width
            + words.tracking
            for unit in self._units
        ]
        self.lines = [text]
        self.widest = sum(self._widths)

    @property
    def can_part(self) -> bool:
        """Whether one more line is possible."""
        return len(self.lines) < len(self._units)

    def part(self) -> None:
        """One line more, all as equally long as they can be: the widest is as narrow as can be."""
        count, low, high = len(self.lines) + 1, max(self._widths), sum(self._widths)
        for _ in range(_FINE):
            middle = (low + high) / 2.0
            if len(_filled(self._widths, middle)) <= count:
                high = middle
            else:
                low = middle
        starts = _filled(self._widths, high)
        # Where a narrower line leaves one over, the longest piece gives it.
        while len(starts) < count:
            ends = [*starts[1:], len(self._units)]
            start, end = max(zip(starts, ends, strict=True), key=lambda x: x[1] - x[0])
            starts = sorted([*starts, (start + end) // 2])
        ends = [*starts[1:], len(self._units)]
        pieces = [self._units[a:b] for a, b in zip(starts, ends, strict=True)]
        self.lines = ["".join(piece).strip() for piece in pieces]
        self.widest = high


def _filled(widths: Sequence[float], room: float) -> list[int]:
    """The first unit of each line, if each takes what finds room in it."""
    starts, taken = [0], 0.0
    for index, width in enumerate(widths):
        # The last bits of a sum must not break a line that is exactly as wide as there is room.
        if taken and taken + width > room * (1.0 + 1e-9):
            starts.append(index)
            taken = 0.0
        taken += width
    return starts


def _on_lines(words: Lettering, paragraphs: Sequence[_Paragraph]) -> Lettering:
    lines = [line for paragraph in paragraphs for line in paragraph.lines]
    levels = tuple(x.level for x in paragraphs for _ in x.lines)
    return replace(words, text="\n".join(lines), levels=levels)


def _share(words: Lettering, frame: Size) -> float:
    """The factor at which all ink of words in the middle of a frame lies in its safe area."""
    box = extent_of_words(words, frame)
    if box is None:
        return 1.0
    middle = frame.width / 2.0, frame.height / 2.0
    room = safe_size(frame)
    reach = [max(abs(box[n] - middle[n]), abs(box[n + 2] - middle[n])) for n in (0, 1)]
    return min(room[n] / 2.0 / max(reach[n], 1e-6) for n in (0, 1))


def _way_inside(words: Lettering, frame: Size) -> tuple[float, float]:
    """What brings ink that reaches beyond its line back into the safe area, right and down."""
    box = extent_of_words(words, frame)
    if box is None:
        return 0.0, 0.0
    room = safe_size(frame)
    starts = (frame.width - room[0]) / 2.0, (frame.height - room[1]) / 2.0
    over = [min(starts[n] + room[n] - box[n + 2], 0.0) for n in (0, 1)]
    under = [max(starts[n] - box[n], 0.0) for n in (0, 1)]
    return over[0] + under[0], over[1] + under[1]


def _scaled(words: Lettering, share: float) -> Lettering:
    return replace(
        words,
        size=words.size * share,
        tracking=words.tracking * share,
        stroke_width=words.stroke_width * share,
    )
