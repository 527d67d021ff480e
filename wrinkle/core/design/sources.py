"""What a layer shows. Each kind is one struct with a tag in the file; a new one is one more."""

from __future__ import annotations

from collections.abc import Mapping
from typing import ClassVar

import msgspec

from wrinkle.core.design.limits import MOST_CONTOURS, check_count
from wrinkle.core.design.setting import HasSettings, Setting, neutral
from wrinkle.core.design.setting_specs import (
    FILL_SETTINGS,
    NOISE_SETTINGS,
    SHAPE_SETTINGS,
    WORDS_SETTINGS,
)
from wrinkle.core.errors import InputError
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.setting_spec import SettingSpec
from wrinkle.core.picture.paths import Outline, knots

_LONGEST_TEXT = 2000


class _Source(HasSettings, frozen=True, tag_field="kind"):
    """What all kinds have in common."""


class SlotSource(_Source, frozen=True, tag="slot"):
    """The layer shows what fills a slot.

    Attributes:
        slot: its key.
        mirrored: how its pictures are mirrored, before all else.
    """

    slot: str
    mirrored: Direction = Direction.AS_MADE


class TreatmentSource(_Source, frozen=True, tag="treatment"):
    """The layer has no picture of its own: it acts on everything below it in its group."""


class GroupSource(_Source, frozen=True, tag="group"):
    """The layer shows the layers that name it as their group."""


class PictureSource(_Source, frozen=True, tag="picture"):
    """The layer shows a picture that is stored with the wrinkle.

    Attributes:
        asset: the picture's file name within the wrinkle's assets.
        mirrored: how it is mirrored, before all else.
    """

    asset: str
    mirrored: Direction = Direction.AS_MADE

    def __post_init__(self) -> None:
        check_asset(self.asset)


class FillSource(_Source, frozen=True, tag="fill"):
    """The layer is filled with a colour or a gradient."""

    specs: ClassVar[Mapping[str, SettingSpec]] = FILL_SETTINGS

    form: Setting = neutral(FILL_SETTINGS["form"])
    colour: Setting = neutral(FILL_SETTINGS["colour"])
    colour_2: Setting = neutral(FILL_SETTINGS["colour_2"])
    colour_3: Setting = neutral(FILL_SETTINGS["colour_3"])
    colour_4: Setting = neutral(FILL_SETTINGS["colour_4"])
    start: Setting = neutral(FILL_SETTINGS["start"])
    end: Setting = neutral(FILL_SETTINGS["end"])


class FurtherContour(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One more piece of a shape, such as a hole; it is not animated."""

    path: Outline
    closed: bool = True

    def __post_init__(self) -> None:
        knots(self.path)


class ShapeSource(_Source, frozen=True, tag="shape"):
    """The layer shows a drawn path.

    Attributes:
        closed: whether the path's end meets its start.
        further: more pieces; where pieces overlap an odd number of times is inside.
        mirrored: what of it was exchanged since it was drawn, so that its edges are the mirror
            image to the last bit.
    """

    specs: ClassVar[Mapping[str, SettingSpec]] = SHAPE_SETTINGS

    path: Setting = neutral(SHAPE_SETTINGS["path"])
    closed: bool = True
    further: tuple[FurtherContour, ...] = ()
    mirrored: Direction = Direction.AS_MADE
    filled: Setting = neutral(SHAPE_SETTINGS["filled"])
    fill: Setting = neutral(SHAPE_SETTINGS["fill"])
    stroke: Setting = neutral(SHAPE_SETTINGS["stroke"])
    stroke_width: Setting = neutral(SHAPE_SETTINGS["stroke_width"])
    cap: Setting = neutral(SHAPE_SETTINGS["cap"])
    join: Setting = neutral(SHAPE_SETTINGS["join"])
    dash: Setting = neutral(SHAPE_SETTINGS["dash"])
    draw_from: Setting = neutral(SHAPE_SETTINGS["draw_from"])
    draw_to: Setting = neutral(SHAPE_SETTINGS["draw_to"])
    keeps_form: Setting = neutral(SHAPE_SETTINGS["keeps_form"])

    def __post_init__(self) -> None:
        super().__post_init__()
        check_count("further contours in a shape", self.further, MOST_CONTOURS)


class WordsSource(_Source, frozen=True, tag="words"):
    """The layer shows words.

    Attributes:
        text: with line breaks, at most 2000 characters.
        font: the family of a font of the system; empty for the one that ships with Wrinkle.
        bold: the heavier cut.
        slot: the key of a slot for words that gives the text in a use; empty for none.
    """

    specs: ClassVar[Mapping[str, SettingSpec]] = WORDS_SETTINGS

    text: str = "Title"
    font: str = ""
    bold: bool = True
    slot: str = ""
    size: Setting = neutral(WORDS_SETTINGS["size"])
    line_spacing: Setting = neutral(WORDS_SETTINGS["line_spacing"])
    tracking: Setting = neutral(WORDS_SETTINGS["tracking"])
    align: Setting = neutral(WORDS_SETTINGS["align"])
    filled: Setting = neutral(WORDS_SETTINGS["filled"])
    fill: Setting = neutral(WORDS_SETTINGS["fill"])
    stroke: Setting = neutral(WORDS_SETTINGS["stroke"])
    stroke_width: Setting = neutral(WORDS_SETTINGS["stroke_width"])
    reveal_by: Setting = neutral(WORDS_SETTINGS["reveal_by"])
    reveal_from: Setting = neutral(WORDS_SETTINGS["reveal_from"])
    reveal_to: Setting = neutral(WORDS_SETTINGS["reveal_to"])
    softness: Setting = neutral(WORDS_SETTINGS["softness"])

    def __post_init__(self) -> None:
        if len(self.text) > _LONGEST_TEXT:
            raise InputError(f"The words of a layer can have {_LONGEST_TEXT} characters at most.")
        super().__post_init__()


class NoiseSource(_Source, frozen=True, tag="noise"):
    """The layer shows noise in grey.

    Attributes:
        mirrored: what of it is exchanged.
    """

    specs: ClassVar[Mapping[str, SettingSpec]] = NOISE_SETTINGS

    cell: Setting = neutral(NOISE_SETTINGS["cell"])
    complexity: Setting = neutral(NOISE_SETTINGS["complexity"])
    contrast: Setting = neutral(NOISE_SETTINGS["contrast"])
    brightness: Setting = neutral(NOISE_SETTINGS["brightness"])
    evolution: Setting = neutral(NOISE_SETTINGS["evolution"])
    seed: Setting = neutral(NOISE_SETTINGS["seed"])
    mirrored: Direction = Direction.AS_MADE


Source = (
    SlotSource
    | TreatmentSource
    | GroupSource
    | PictureSource
    | FillSource
    | ShapeSource
    | WordsSource
    | NoiseSource
)


def check_asset(name: str) -> None:
    """Refuses names that could lead out of the wrinkle's assets.

    Raises:
        InputError: names it.
    """
    if not name or {"/", "\\", "\0"} & set(name) or name[0] == ".":
        raise InputError(f"'{name}' cannot be the name of an asset.")
