"""From a line of text to glyphs in their places, as its script and its font want them.

HarfBuzz lays out what belongs together: kerning, ligatures, marks. The order of what runs right to
left is that of the Unicode Bidirectional Algorithm (UAX #9), computed by python-bidi; a character
that the font lacks is taken from another one.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import groupby
from typing import Any, NamedTuple

from wrinkle.core.picture.faces import Face, other_face_with

_UNITS = 1024
"""HarfBuzz counts in whole numbers: of so many parts of a pixel."""
_NO_SCRIPT = ("Zyyy", "Zinh", "Zzzz")
_MARKS, _JOINERS = ("Mn", "Me"), "\u200c\u200d"
"""General categories, and the two characters beside them, that have no script of their own but that
of what they follow (Unicode Standard Annex 24, Script=Inherited)."""
_PLAIN = {"liga": False, "clig": False, "dlig": False}
"""Letters with space between them are not joined."""


class Placed(NamedTuple):
    """A glyph of a line.

    Attributes:
        face, code: which one.
        x, y: its base point in pixels, from the line's left end and its base line, y down.
        cluster: the index in the text of the first character that it stands for.
    """

    face: Face
    code: int
    x: float
    y: float
    cluster: int


@dataclass(frozen=True)
class TextLine:
    """A line of text that is laid out.

    Attributes:
        glyphs: from left to right.
        width: from the left end to the right, without the tracking after the last letter.
    """

    glyphs: tuple[Placed, ...]
    width: float


class _Character(NamedTuple):
    """What the character at a place of the text is laid out with."""

    place: int
    level: int
    face: Face
    script: str


def shaped(
    text: str,
    face: Face,
    bold: bool,
    size: float,
    tracking: float = 0.0,
    base: int | None = None,
) -> TextLine:
    """A line of text as glyphs.

    Args:
        text: without line breaks.
        face: of the font; what it lacks comes from another one.
        bold: whether that one is to be bold.
        size: of the font in pixels.
        tracking: extra space after each letter, in pixels.
        base: its direction as a whole: 0 left to right, 1 right to left; that of its first letter
            where nothing is said.
    """
    glyphs: list[Placed] = []
    pen = 0.0
    for run in _visual_order(list(_runs(_characters(text, face, bold, base)))):
        placed, pen = _shaped_run(text, run, size, tracking, pen)
        glyphs += placed
    return TextLine(tuple(glyphs), max(pen - tracking, 0.0) if glyphs else 0.0)


def base_level(text: str) -> int:
    """The direction of a paragraph by its first letter: 0 left to right, 1 right to left."""
    from bidi import algorithm

    return int(algorithm.get_base_level(text))


def _characters(text: str, face: Face, bold: bool, base: int | None) -> Iterator[_Character]:
    """The characters that are laid out; those that only steer the direction are not."""
    levels = _levels(text, base_level(text) if base is None else base)
    current, last_script = face, ""
    for index, character in enumerate(text):
        if index not in levels:
            continue
        own = _script(character)
        # Marks and joiners belong to what they follow.
        joins = not own and (unicodedata.category(character) in _MARKS or character in _JOINERS)
        if not joins and not character.isspace():
            current = _face_with(character, face, bold)
        last_script = own or last_script
        yield _Character(index, levels[index], current, last_script)


@lru_cache(maxsize=4096)
def _script(character: str) -> str:
    """The script of a character (ISO 15924); empty for what every script uses."""
    import uharfbuzz

    buffer = uharfbuzz.Buffer()
    buffer.add_str(character)
    buffer.guess_segment_properties()
    found = buffer.script
    return found if isinstance(found, str) and found not in _NO_SCRIPT else ""


def _face_with(character: str, face: Face, bold: bool) -> Face:
    if face.has(character):
        return face
    other = other_face_with(character, bold)
    return other if other is not None else face


def _levels(text: str, level: int) -> dict[int, int]:
    """The embedding level of each character: odd ones run right to left."""
    from bidi import algorithm

    storage = algorithm.get_empty_storage()
    storage["base_level"], storage["base_dir"] = level, "LR"[level]
    algorithm.get_embedding_levels(text, storage)
    for index, character in enumerate(storage["chars"]):
        character["index"] = index
    algorithm.explicit_embed_and_overrides(storage)
    algorithm.resolve_weak_types(storage)
    algorithm.resolve_neutral_types(storage, False)
    algorithm.resolve_implicit_levels(storage, False)
    return {one["index"]: one["level"] for one in storage["chars"]}


def _runs(characters: Iterator[_Character]) -> Iterator[list[_Character]]:
    """What is laid out together: of one level, face and script."""
    found = list(characters)
    # Digits and points before the first letter belong to its script.
    first = next((one.script for one in found if one.script), "Latn")
    named = (x if x.script else x._replace(script=first) for x in found)
    for _, run in groupby(named, key=lambda x: (x.level, id(x.face), x.script)):
        yield list(run)


def _visual_order(runs: list[list[_Character]]) -> list[list[_Character]]:
    """Runs from left to right: UAX #9, rule L2."""
    levels = [run[0].level for run in runs]
    order = list(range(len(runs)))
    for level in range(max(levels, default=0), 0, -1):
        start = 0
        while start < len(order):
            end = start
            while end < len(order) and levels[order[end]] >= level:
                end += 1
            order[start:end] = reversed(order[start:end])
            start = end + 1
    return [runs[index] for index in order]


def _shaped_run(
    text: str, run: list[_Character], size: float, tracking: float, pen: float
) -> tuple[list[Placed], float]:
    """The glyphs of a run from a place on, and the place after it."""
    import uharfbuzz

    face, start = run[0].face, run[0].place
    buffer = uharfbuzz.Buffer()
    # The text around it is given too: what is joined looks at its neighbours.
    buffer.add_str(text, start, run[-1].place + 1 - start)
    buffer.direction = "rtl" if run[0].level % 2 else "ltr"
    buffer.script = run[0].script
    buffer.guess_segment_properties()
    font = uharfbuzz.Font(face.shaping)
    font.scale = (round(size * _UNITS), round(size * _UNITS))
    uharfbuzz.shape(font, buffer, _PLAIN if tracking else {})
    infos, positions = buffer.glyph_infos, buffer.glyph_positions
    placed = []
    for number, (info, position) in enumerate(zip(infos, positions, strict=True)):
        x, y = pen + position.x_offset / _UNITS, -position.y_offset / _UNITS
        placed.append(Placed(face, info.codepoint, x, y, info.cluster))
        pen += position.x_advance / _UNITS
        if _ends_cluster(infos, number):
            pen += tracking
    return placed, pen


def _ends_cluster(infos: Any, number: int) -> bool:
    following = number + 1
    return following == len(infos) or infos[following].cluster != infos[number].cluster
