"""Words as pictures: lines of text with fill, stroke and a reveal by letters or words."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import Enum
from functools import lru_cache
from itertools import zip_longest
from typing import Any

import numpy as np

from wrinkle.core.picture.faces import Face, face_of
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.safe_area import safe_size
from wrinkle.core.picture.shaping import shaped
from wrinkle.core.picture.vector import Join, Stroke, canvas_on, colour_paint, stroke_paint


class Align(Enum):
    """How the lines stand to each other."""

    LEFT = "left"
    CENTRE = "centre"
    RIGHT = "right"


class RevealBy(Enum):
    """What appears at a time."""

    LETTER = "letter"
    WORD = "word"
    LINE = "line"


@dataclass(frozen=True)
class Lettering:
    """All that the picture of words depends on; lengths in pixels.

    Attributes:
        text: with line breaks.
        font: the bytes of a font file, or the family name of a font of the system.
        bold: the semi-bold or bold cut, where a family has one.
        size: of the font: the height of an em.
        line_spacing: from one base line to the next, as a factor of the font's own.
        tracking: extra space after each letter.
        align: how the lines stand to each other.
        place: where the whole block stands, in parts of the safe area that it leaves free: (0, 0)
            is the upper left, (0.5, 0.5) the middle of the frame.
        offset: from there, right and down.
        fill, stroke: either may be missing; the stroke lies behind the fill.
        start, end: the part of the text that is seen, 0…1, by ``by``.
        softness: how many pieces fade at a time, above 0.
        by: what appears at a time.
        levels: the base direction of each line: 0 left to right, 1 right to left; lines beyond
            them go by their own first letter.
    """

    text: str
    font: bytes | str
    bold: bool
    size: float
    line_spacing: float = 1.0
    tracking: float = 0.0
    align: Align = Align.CENTRE
    place: tuple[float, float] = (0.5, 0.5)
    offset: tuple[float, float] = (0.0, 0.0)
    fill: tuple[float, ...] | None = (1.0, 1.0, 1.0)
    stroke: tuple[float, ...] | None = None
    stroke_width: float = 0.0
    start: float = 0.0
    end: float = 1.0
    softness: float = 1.0
    by: RevealBy = RevealBy.LETTER
    levels: tuple[int, ...] = ()

    def picture(self, size: Size) -> Image:
        """Its picture in a frame of a size."""
        return lettered(self, size)


@dataclass(frozen=True)
class Glyph:
    """A letter where it stands.

    Attributes:
        face, code: which one.
        x, y: its base point in pixels.
        piece: which piece of the reveal it is.
    """

    face: Face
    code: int
    x: float
    y: float
    piece: int


def lettered(words: Lettering, size: Size) -> Image:
    """The words in the middle of a frame of ``size``, on nothing: a linear image."""

    pixels = np.zeros((size.height, size.width, 4), np.float32)
    if words.size <= 0.0 or not words.text.strip():
        return Image(pixels, Light.LINEAR)
    glyphs, pieces = laid_out(words, size)
    canvas = canvas_on(pixels)
    for shown, path in _by_share(words, glyphs, pieces):
        # A fading letter fades as a whole: its fill does not let its stroke shine through.
        canvas.saveLayer(None, colour_paint((0.0, 0.0, 0.0), shown))
        if words.stroke is not None and words.stroke_width > 0.0:
            # Half of a centred stroke lies under the fill: twice the width shows all of it.
            line = Stroke(2.0 * words.stroke_width, words.stroke, join=Join.ROUND)
            canvas.drawPath(path, stroke_paint(line))
        if words.fill is not None:
            canvas.drawPath(path, colour_paint(words.fill))
        canvas.restore()
    return Image(pixels, Light.LINEAR)


def laid_out(words: Lettering, size: Size) -> tuple[list[Glyph], int]:
    """Where each letter stands, and how many pieces there are to reveal.

    Letters come in the order in which they are read, whichever way they run. A piece is what a
    reader takes for one letter: with its marks, or joined with its neighbour.
    """
    face = face_of(words.font, words.bold)
    metrics = _sized(face, words.size).getMetrics()
    height = _sized(face, words.size).getSpacing() * words.line_spacing
    rows = words.text.split("\n")
    block = height * (len(rows) - 1) - metrics.fAscent + metrics.fDescent
    lines = [
        shaped(row, face, words.bold, words.size, words.tracking, level)
        for row, level in zip_longest(rows, words.levels[: len(rows)])
    ]
    widest = max(line.width for line in lines)
    safe_width, safe_height = safe_size(size)
    across, down = words.place
    left = (size.width - widest) / 2.0 + (across - 0.5) * (safe_width - widest) + words.offset[0]
    top = (size.height - block) / 2.0 + (down - 0.5) * (safe_height - block) + words.offset[1]
    base = top - metrics.fAscent
    share = {Align.LEFT: 0.0, Align.CENTRE: 0.5, Align.RIGHT: 1.0}[words.align]
    glyphs: list[Glyph] = []
    letters = words_before = 0
    for row, (text, line) in enumerate(zip(rows, lines, strict=True)):
        start = left + (widest - line.width) * share
        inside = [m.span() for m in re.finditer(r"\S+", text)]
        seen = sorted({x.cluster for x in line.glyphs if not text[x.cluster].isspace()})
        clusters = {cluster: number for number, cluster in enumerate(seen)}
        for one in sorted(line.glyphs, key=lambda x: x.cluster):
            if one.cluster not in clusters:
                continue
            word = next((i for i, (a, b) in enumerate(inside) if a <= one.cluster < b), 0)
            piece = {
                RevealBy.LETTER: letters + clusters[one.cluster],
                RevealBy.WORD: words_before + word,
                RevealBy.LINE: row,
            }[words.by]
            x, y = start + one.x, base + row * height + one.y
            glyphs.append(Glyph(one.face, one.code, x, y, piece))
        letters += len(clusters)
        words_before += len(inside)
    return glyphs, max((glyph.piece for glyph in glyphs), default=-1) + 1


@lru_cache(64)
def extent_of_words(words: Lettering, size: Size) -> tuple[float, float, float, float] | None:
    """Left, top, right and bottom of all letters, seen yet or not, in pixels; None without any."""
    found: Any = None
    glyphs, _ = laid_out(words, size) if words.text.strip() and words.size > 0.0 else ([], 0)
    for glyph in glyphs:
        outline = _sized(glyph.face, words.size).getPath(glyph.code)
        if outline is None or outline.isEmpty():
            continue
        box = outline.computeTightBounds()
        box.offset(glyph.x, glyph.y)
        if found is None:
            found = box
        else:
            found.join(box)
    if found is None:
        return None
    reach = words.stroke_width if words.stroke is not None else 0.0
    return found.left() - reach, found.top() - reach, found.right() + reach, found.bottom() + reach


def revealed(piece: int, pieces: int, words: Lettering) -> float:
    """How much of a piece is seen, 0…1: it comes in with ``end`` and goes out with ``start``."""
    reach = pieces - 1 + words.softness

    def passed(edge: float) -> float:
        return min(max((edge * reach - piece) / words.softness, 0.0), 1.0)

    return max(passed(words.end) - passed(words.start), 0.0)


def _by_share(words: Lettering, glyphs: list[Glyph], pieces: int) -> list[tuple[float, Any]]:
    """One path for each share that is seen: letters that overlap do not show through."""
    import skia

    paths: dict[float, Any] = {}
    fonts: dict[Face, Any] = {}
    for glyph in glyphs:
        shown = revealed(glyph.piece, pieces, words)
        if shown <= 0.0:
            continue
        font = fonts.setdefault(glyph.face, _sized(glyph.face, words.size))
        outline = font.getPath(glyph.code)
        if outline is not None:
            path = paths.setdefault(shown, skia.Path())
            path.addPath(outline, glyph.x, glyph.y)
    return sorted(paths.items(), key=lambda item: item[0])


def _sized(face: Face, size: float) -> Any:
    import skia

    font = skia.Font(face.typeface, size)
    font.setSubpixel(True)
    font.setHinting(skia.FontHinting.kNone)
    font.setLinearMetrics(True)
    return font
