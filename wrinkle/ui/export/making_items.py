"""Items of the queue from what is chosen: one for each part and each choice."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size
from wrinkle.core.piece.document import Piece
from wrinkle.core.time.rate import FrameRate
from wrinkle.library.exports import FLAT, ExportItem, new_name
from wrinkle.library.ready_choices import ReadyChoice
from wrinkle.media.exporting.parts import What
from wrinkle.media.output.colour import BT709, COLOURS
from wrinkle.media.output.format import Into
from wrinkle.media.output.formats import FORMATS, USUAL_QUALITY
from wrinkle.media.output.rendition import Rendition

Part = tuple[str, int, int]
"""What is written, in words, with its first frame and the one after its last."""


def items_of(
    piece: Piece,
    parts: Sequence[Part],
    choices: Sequence[ReadyChoice],
    what: str,
    path: Path,
) -> list[ExportItem]:
    """The items that write parts of a piece, each in every choice.

    Args:
        piece: as it is shown.
        parts: of it, at its rate.
        choices: how they are written; the files of several are called after them.
        what: of the pictures, or of the timeline, as an item says it.
        path: of the file, or after which several are named.

    Raises:
        InputError: a size or a rate is none, or the format cannot be so; says which choice where
            there are several.
    """
    kept, found = new_name(), []
    for choice in choices:
        try:
            found += _items(
                piece, parts, choice, what, _goal(path, choice, what, len(choices)), kept
            )
        except InputError as fault:
            if len(choices) == 1:
                raise
            raise InputError(f"{choice.name}: {fault}") from None
    return found


def size_of(choice: ReadyChoice, shown: Size) -> Size:
    """The size in which it is written.

    Raises:
        InputError: it is none.
    """
    if choice.size is not None:
        return Size.parse(choice.size)
    if choice.smaller == 1.0:
        return shown
    small = shown.scaled(choice.smaller)
    return Size(max(small.width - small.width % 2, 2), max(small.height - small.height % 2, 2))


def _goal(path: Path, choice: ReadyChoice, what: str, count: int) -> Path:
    if count == 1:
        return path
    form = FORMATS.get(choice.form)
    suffix = form.suffix if form is not None and form.into is not Into.FRAMES else ""
    suffix = path.suffix if what == FLAT else suffix
    said = choice.name.replace("/", "-").replace(":", "-")
    return path.with_name(f"{path.stem} {said}{suffix}")


def _items(
    piece: Piece, parts: Sequence[Part], choice: ReadyChoice, what: str, path: Path, kept: str
) -> list[ExportItem]:
    if choice.form not in FORMATS:
        raise InputError(f"There is no format '{choice.form}' in this version.")
    form, size = FORMATS[choice.form], size_of(choice, piece.size)
    rate = piece.rate if choice.rate is None else FrameRate.parse(choice.rate)
    form.checked(size)
    if what == FLAT and form.into is not Into.VIDEO:
        raise InputError(f"{form.label} is no video; a timeline needs clips that it can play.")
    lossless = form.quality is None
    # Refuses what the format does not have.
    kind = Rendition(
        form,
        choice.depth,
        what == What.OVERLAY.value,
        USUAL_QUALITY if lossless else choice.quality,
        None if lossless else choice.bits,
        None if lossless else choice.megabytes,
        COLOURS[choice.colour] if form.coloured and choice.colour in COLOURS else BT709,
    )
    items = []
    for number, (words, first, end) in enumerate(parts, 1):
        goal = path
        if len(parts) > 1:
            goal = path.with_name(f"{path.stem} {number:02}{path.suffix}")
        first, end = (rate.nearest_frame(piece.rate.seconds(x)) for x in (first, end))
        items.append(
            ExportItem(
                id=new_name(),
                title=words,
                piece=kept,
                first=first,
                end=max(end, first + 1),
                size=(size.width, size.height),
                rate=rate.label,
                form=form.key,
                path=str(goal),
                depth=kind.bits_a_colour,
                quality=kind.quality,
                bits=kind.bits,
                megabytes=kind.megabytes,
                colour=kind.colour.key,
                hears=choice.hears,
                what=what,
            )
        )
    return items
