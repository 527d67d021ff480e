"""What a layer shows. Each kind is one struct with a tag in the file; a new one is one more."""

from __future__ import annotations

import msgspec

from wrinkle.core.design.setting import Setting, check_settings
from wrinkle.core.design.settings import SOURCE, SOURCE_SETTINGS
from wrinkle.core.errors import InputError
from wrinkle.core.picture.paths import Outline, knots

_LONGEST_TEXT = 2000


def _neutral(key: str) -> Setting:
    return Setting(SOURCE_SETTINGS[key].neutral)


class _Source(
    msgspec.Struct, frozen=True, tag_field="kind", forbid_unknown_fields=True, omit_defaults=True
):
    def __post_init__(self) -> None:
        check_settings(self, f"{SOURCE}.")


class SlotSource(_Source, frozen=True, tag="slot"):
    """The layer shows what fills a slot."""

    slot: str


class TreatmentSource(_Source, frozen=True, tag="treatment"):
    """The layer has no picture of its own: it acts on everything below it in its group."""


class GroupSource(_Source, frozen=True, tag="group"):
    """The layer shows the layers that name it as their group."""


class PictureSource(_Source, frozen=True, tag="picture"):
    """The layer shows a picture that is stored with the wrinkle.

    Attributes:
        asset: the picture's file name within the wrinkle's assets.
    """

    asset: str

    def __post_init__(self) -> None:
        check_asset(self.asset)


class FillSource(_Source, frozen=True, tag="fill"):
    """The layer is filled with a colour or a gradient."""

    form: Setting = _neutral("form")
    colour: Setting = _neutral("colour")
    colour_2: Setting = _neutral("colour_2")
    colour_3: Setting = _neutral("colour_3")
    colour_4: Setting = _neutral("colour_4")
    start: Setting = _neutral("start")
    end: Setting = _neutral("end")


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
    """

    path: Setting = _neutral("path")
    closed: bool = True
    further: tuple[FurtherContour, ...] = ()
    filled: Setting = _neutral("filled")
    fill: Setting = _neutral("fill")
    stroke: Setting = _neutral("stroke")
    stroke_width: Setting = _neutral("stroke_width")
    cap: Setting = _neutral("cap")
    join: Setting = _neutral("join")
    dash: Setting = _neutral("dash")
    draw_from: Setting = _neutral("draw_from")
    draw_to: Setting = _neutral("draw_to")


class WordsSource(_Source, frozen=True, tag="words"):
    """The layer shows words.

    Attributes:
        text: with line breaks, at most 2000 characters.
        font: the family of a font of the system; empty for the one that ships with Wrinkle.
        bold: the heavier cut.
    """

    text: str = "Title"
    font: str = ""
    bold: bool = True
    size: Setting = _neutral("size")
    line_spacing: Setting = _neutral("line_spacing")
    tracking: Setting = _neutral("tracking")
    align: Setting = _neutral("align")
    filled: Setting = _neutral("filled")
    fill: Setting = _neutral("fill")
    stroke: Setting = _neutral("stroke")
    stroke_width: Setting = _neutral("stroke_width")
    reveal_by: Setting = _neutral("reveal_by")
    reveal_from: Setting = _neutral("reveal_from")
    reveal_to: Setting = _neutral("reveal_to")
    softness: Setting = _neutral("softness")

    def __post_init__(self) -> None:
        if len(self.text) > _LONGEST_TEXT:
            raise InputError(f"The words of a layer can have {_LONGEST_TEXT} characters at most.")
        super().__post_init__()


class NoiseSource(_Source, frozen=True, tag="noise"):
    """The layer shows noise in grey."""

    cell: Setting = _neutral("cell")
    complexity: Setting = _neutral("complexity")
    contrast: Setting = _neutral("contrast")
    brightness: Setting = _neutral("brightness")
    evolution: Setting = _neutral("evolution")
    seed: Setting = _neutral("seed")


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
    if not name or "/" in name or "\\" in name or name[0] == ".":
        raise InputError(f"'{name}' cannot be the name of an asset.")
