"""Words as pictures: lines of text with fill, stroke and a reveal by letters or words."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import Enum
from typing import Any

import numpy as np

from wrinkle.core.picture.image import Image, Light, Size
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
        align: how the lines stand to each other; the whole block stands centred in the frame.
        fill, stroke: either may be missing; the stroke lies behind the fill.
        start, end: the part of the text that is seen, 0…1, by ``by``.
        softness: how many pieces fade at a time, above 0.
        by: what appears at a time.
    """

    text: str
    font: bytes | str
    bold: bool
    size: float
    line_spacing: float = 1.0
    tracking: float = 0.0
    align: Align = Align.CENTRE
    fill: tuple[float, ...] | None = (1.0, 1.0, 1.0)
    stroke: tuple[float, ...] | None = None
    stroke_width: float = 0.0
    start: float = 0.0
    end: float = 1.0
    softness: float = 1.0
    by: RevealBy = RevealBy.LETTER


@dataclass(frozen=True)
class Glyph:
    """A letter where it stands: its base point in pixels, and which piece of the reveal it is."""

    code: int
    x: float
    y: float
    piece: int


def lettered(words: Lettering, size: Size) -> Image:
    """The words in the middle of a frame of ``size``, on nothing: a linear image."""
    import skia

    pixels = np.zeros((size.height, size.width, 4), np.float32)
    if words.size <= 0.0 or not words.text.strip():
        return Image(pixels, Light.LINEAR)
    font = _font(words)
    glyphs, pieces = laid_out(words, size)
    canvas = canvas_on(pixels)
    outlines = {glyph.code: font.getPath(glyph.code) for glyph in glyphs}
    for shown, path in _by_share(skia, words, glyphs, pieces, outlines):
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
    """Where each letter stands, and how many pieces there are to reveal."""
    font = _font(words)
    metrics = font.getMetrics()
    height = font.getSpacing() * words.line_spacing
    lines = words.text.split("\n")
    block = height * (len(lines) - 1) - metrics.fAscent + metrics.fDescent
    base = (size.height - block) / 2.0 - metrics.fAscent
    runs = []
    for line in lines:
        codes = font.textToGlyphs(line)
        advances = [width + words.tracking for width in font.getWidths(codes)] if codes else []
        runs.append((line, codes, advances, sum(advances) - (words.tracking if codes else 0.0)))
    widest = max(width for *_, width in runs)
    left = (size.width - widest) / 2.0
    share = {Align.LEFT: 0.0, Align.CENTRE: 0.5, Align.RIGHT: 1.0}[words.align]
    glyphs: list[Glyph] = []
    piece = 0
    for row, (line, codes, advances, width) in enumerate(runs):
        x = left + (widest - width) * share
        inside = [m.span() for m in re.finditer(r"\S+", line)]
        for at, (code, advance) in enumerate(zip(codes, advances, strict=True)):
            if not line[at : at + 1].isspace():
                word = next((i for i, (a, b) in enumerate(inside) if a <= at < b), 0)
                number = {
                    RevealBy.LETTER: len(glyphs),
                    RevealBy.WORD: piece + word,
                    RevealBy.LINE: row,
                }
                glyphs.append(Glyph(code, x, base + row * height, number[words.by]))
            x += advance
        piece += len(inside)
    return glyphs, max((glyph.piece for glyph in glyphs), default=-1) + 1


def revealed(piece: int, pieces: int, words: Lettering) -> float:
    """How much of a piece is seen, 0…1: it comes in with ``end`` and goes out with ``start``."""
    reach = pieces - 1 + words.softness

    def passed(edge: float) -> float:
        return min(max((edge * reach - piece) / words.softness, 0.0), 1.0)

    return max(passed(words.end) - passed(words.start), 0.0)


def _by_share(
    skia: Any, words: Lettering, glyphs: list[Glyph], pieces: int, outlines: dict[int, Any]
) -> list[tuple[float, Any]]:
    """One path for each share that is seen: letters that overlap do not show through."""
    paths: dict[float, Any] = {}
    for glyph in glyphs:
        shown = revealed(glyph.piece, pieces, words)
        outline = outlines[glyph.code]
        if shown <= 0.0 or outline is None:
            continue
        path = paths.setdefault(shown, skia.Path())
        path.addPath(outline, glyph.x, glyph.y)
    return sorted(paths.items(), key=lambda item: item[0])


def _font(words: Lettering) -> Any:
    import skia

    if isinstance(words.font, bytes):
        face = skia.Typeface.MakeFromData(skia.Data(words.font))
    else:
        style = skia.FontStyle.Bold() if words.bold else skia.FontStyle.Normal()
        face = skia.FontMgr().matchFamilyStyle(words.font, style)
    font = skia.Font(face if face is not None else skia.Typeface.MakeDefault(), words.size)
    font.setSubpixel(True)
    font.setHinting(skia.FontHinting.kNone)
    font.setLinearMetrics(True)
    return font


def system_fonts() -> list[str]:
    """The family names of the fonts that the system has."""
    import skia

    known = skia.FontMgr()
    return sorted({known.getFamilyName(index) for index in range(known.countFamilies())})
