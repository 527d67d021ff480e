"""The kinds of layers that ship: each a struct with a tag in the file, and its declaration."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import ClassVar, Self

import msgspec
from msgspec.structs import replace

from wrinkle.core.design.document.layer_kinds import (
    LAYER_KINDS,
    DrawnSource,
    LayerKind,
    LayerSource,
    Pictured,
    Seeing,
    Starts,
)
from wrinkle.core.design.document.limits import MOST_CONTOURS, check_count
from wrinkle.core.design.document.mask_forms import ROUND, MaskForm, form_outline
from wrinkle.core.design.document.setting import Setting, neutral
from wrinkle.core.design.document.setting_specs import (
    FILL_SETTINGS,
    NOISE_SETTINGS,
    SHAPE_SETTINGS,
    WORDS_SETTINGS,
)
from wrinkle.core.errors import InputError
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.setting_spec import SettingSpec
from wrinkle.core.motion.values import number_of, pair_of, parts
from wrinkle.core.picture.gradient import Fill, FillForm
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.lettering import Align, Lettering, RevealBy
from wrinkle.core.picture.noise import EVOLUTION, GreyNoise, Noise
from wrinkle.core.picture.paths import Outline, in_frame, knots, mirrored, transformed
from wrinkle.core.picture.placement import scaling
from wrinkle.core.picture.vector import Cap, Contour, Drawing, Join, Stroke
from wrinkle.core.picture.wrapping import kept_inside

_LONGEST_TEXT = 2000


class SlotSource(LayerSource, frozen=True, tag="slot"):
    """The layer shows what fills a slot.

    Attributes:
        slot: its key.
        mirrored: how its pictures are mirrored, before all else.
    """

    slot: str
    mirrored: Direction = Direction.AS_MADE

    def words(self, called: Callable[[str], str]) -> str:
        """The slot."""
        return called(self.slot)


class TreatmentSource(LayerSource, frozen=True, tag="treatment"):
    """The layer has no picture of its own: it acts on everything below it in its group."""


class GroupSource(LayerSource, frozen=True, tag="group"):
    """The layer shows the layers that name it as their group."""

    formed: ClassVar[bool] = True


class PictureSource(LayerSource, frozen=True, tag="picture"):
    """The layer shows a picture that is stored with the wrinkle.

    Attributes:
        asset: the picture's file name within the wrinkle's assets.
        mirrored: how it is mirrored, before all else.
    """

    asset: str
    mirrored: Direction = Direction.AS_MADE

    def __post_init__(self) -> None:
        check_asset(self.asset)

    def words(self, called: Callable[[str], str]) -> str:
        """The picture's file."""
        return f"picture {self.asset}"


class FillSource(DrawnSource, frozen=True, tag="fill"):
    """The layer is filled with a colour or a gradient."""

    specs: ClassVar[Mapping[str, SettingSpec]] = FILL_SETTINGS
    formed: ClassVar[bool] = True

    form: Setting = neutral(FILL_SETTINGS["form"])
    colour: Setting = neutral(FILL_SETTINGS["colour"])
    colour_2: Setting = neutral(FILL_SETTINGS["colour_2"])
    colour_3: Setting = neutral(FILL_SETTINGS["colour_3"])
    colour_4: Setting = neutral(FILL_SETTINGS["colour_4"])
    start: Setting = neutral(FILL_SETTINGS["start"])
    end: Setting = neutral(FILL_SETTINGS["end"])

    def drawn(self, seeing: Seeing) -> Pictured:
        """The plain values of its picture."""
        form = FillForm(seeing.value(self.form))
        settings = {
            FillForm.FLAT: (self.colour,),
            FillForm.CORNERS: (self.colour, self.colour_2, self.colour_3, self.colour_4),
        }.get(form, (self.colour, self.colour_2))
        colours = tuple(parts(seeing.value(setting)) for setting in settings)
        if form in (FillForm.FLAT, FillForm.CORNERS):
            return Fill(form, colours)
        ends = (pair_of(seeing.value(x)) for x in (self.start, self.end))
        return Fill(form, colours, *ends)


class FurtherContour(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One more piece of a shape, such as a hole; it is not animated."""

    path: Outline
    closed: bool = True

    def __post_init__(self) -> None:
        knots(self.path)


class ShapeSource(DrawnSource, frozen=True, tag="shape"):
    """The layer shows a drawn path.

    Attributes:
        closed: whether the path's end meets its start.
        further: more pieces; where pieces overlap an odd number of times is inside.
        mirrored: what of it was exchanged since it was drawn, so that its edges are the mirror
            image to the last bit.
    """

    specs: ClassVar[Mapping[str, SettingSpec]] = SHAPE_SETTINGS
    formed: ClassVar[bool] = True

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

    def in_mirror(self, direction: Direction) -> Self:
        """Its further pieces as well."""
        further = tuple(replace(x, path=mirrored(x.path, direction)) for x in self.further)
        return replace(super().in_mirror(direction), further=further)

    def drawn(self, seeing: Seeing) -> Pictured:
        """The plain values of its picture."""
        short, whole = min(seeing.size) / 100.0, scaling(*seeing.size)
        pieces = [(parts(seeing.value(self.path)), self.closed)]
        pieces += [(x.path, x.closed) for x in self.further]
        if seeing.value(self.keeps_form):
            pieces = [(in_frame(x, seeing.drawn_in, seeing.size), closed) for x, closed in pieces]
        # Drawn as it was made, and then turned: the edges of a mirrored path are not quite so.
        contours = [
            Contour(transformed(mirrored(path, self.mirrored), whole), closed)
            for path, closed in pieces
        ]
        width = number_of(seeing.value(self.stroke_width)) * short
        dash, gap = (length * short for length in parts(seeing.value(self.dash)))
        stroke = Stroke(
            width=width,
            colour=parts(seeing.value(self.stroke)),
            cap=Cap(seeing.value(self.cap)),
            join=Join(seeing.value(self.join)),
            dash=(dash, gap),
            start=number_of(seeing.value(self.draw_from)) / 100.0,
            end=number_of(seeing.value(self.draw_to)) / 100.0,
        )
        fill = parts(seeing.value(self.fill)) if seeing.value(self.filled) else None
        return Drawing(tuple(contours), fill, stroke if width > 0.0 else None, self.mirrored)


class WordsSource(DrawnSource, frozen=True, tag="words"):
    """The layer shows words.

    Attributes:
        text: with line breaks, at most 2000 characters.
        font: the family of a font of the system; empty for one that ships with Wrinkle.
        bold: the heavier cut.
        slot: the key of a slot for words that gives the text in a use; empty for none.
    """

    specs: ClassVar[Mapping[str, SettingSpec]] = WORDS_SETTINGS
    formed: ClassVar[bool] = True

    text: str = "Title"
    font: str = ""
    bold: bool = True
    slot: str = ""
    size: Setting = neutral(WORDS_SETTINGS["size"])
    face: Setting = neutral(WORDS_SETTINGS["face"])
    place: Setting = neutral(WORDS_SETTINGS["place"])
    keep_inside: Setting = neutral(WORDS_SETTINGS["keep_inside"])
    least: Setting = neutral(WORDS_SETTINGS["least"])
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

    def words(self, called: Callable[[str], str]) -> str:
        """The first line."""
        return f"words “{self.text.splitlines()[0] if self.text.strip() else ''}”"

    def drawn(self, seeing: Seeing) -> Pictured:
        """The plain values of its picture."""
        short = min(seeing.size) / 100.0
        width = number_of(seeing.value(self.stroke_width)) * short
        face = str(seeing.value(self.face))
        wanted = Lettering(
            text=self.text,
            font=self.font or seeing.fonts.get((face, self.bold), ""),
            bold=self.bold,
            size=number_of(seeing.value(self.size)) * short,
            line_spacing=number_of(seeing.value(self.line_spacing)) / 100.0,
            tracking=number_of(seeing.value(self.tracking)) * short,
            align=Align(seeing.value(self.align)),
            place=pair_of(seeing.value(self.place)),
            fill=parts(seeing.value(self.fill)) if seeing.value(self.filled) else None,
            stroke=parts(seeing.value(self.stroke)) if width > 0.0 else None,
            stroke_width=width,
            start=number_of(seeing.value(self.reveal_from)) / 100.0,
            end=number_of(seeing.value(self.reveal_to)) / 100.0,
            softness=max(number_of(seeing.value(self.softness)), 0.05),
            by=RevealBy(seeing.value(self.reveal_by)),
        )
        if not seeing.value(self.keep_inside):
            return wanted
        return kept_inside(wanted, seeing.size, number_of(seeing.value(self.least)) / 100.0)


class NoiseSource(DrawnSource, frozen=True, tag="noise"):
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

    def drawn(self, seeing: Seeing) -> Pictured:
        """The plain values of its picture."""
        short = min(seeing.size) / 100.0
        across, down = parts(seeing.value(self.cell))
        noise = Noise(
            cell=(across * short, down * short),
            octaves=number_of(seeing.value(self.complexity)),
            z=number_of(seeing.value(self.evolution)) * EVOLUTION,
            seed=round(number_of(seeing.value(self.seed))),
            loop=EVOLUTION,
        )
        contrast = number_of(seeing.value(self.contrast)) / 100.0
        brightness = number_of(seeing.value(self.brightness)) / 100.0
        return GreyNoise(noise, contrast, brightness, self.mirrored)


def _shapes(frame: Size) -> Starts:
    return tuple(
        (
            form.value,
            ShapeSource(path=Setting(form_outline(form, frame)), keeps_form=Setting(form in ROUND)),
        )
        for form in (MaskForm.RECTANGLE, MaskForm.ELLIPSE, MaskForm.POLYGON)
    )


def _one(label: str, source: type[LayerSource]) -> Callable[[Size], Starts]:
    return lambda frame: ((label, source()),)


def _title(frame: Size) -> Starts:
    return (("Words", WordsSource(keep_inside=Setting(True))),)


def _given(frame: Size) -> Starts:
    return (
        ("Outgoing clip", SlotSource("outgoing")),
        ("Incoming clip", SlotSource("incoming")),
    )


for _kind in (
    LayerKind(TreatmentSource, "Treatment", "Acts on everything below it in its group.",
              _one("Treatment", TreatmentSource)),
    LayerKind(FillSource, "Fill", "A colour or a gradient.", _one("Fill", FillSource)),
    LayerKind(ShapeSource, "Shape", "A drawn path.", _shapes),
    LayerKind(WordsSource, "Words", "A title.", _title),
    LayerKind(NoiseSource, "Noise", "Moving grey noise.", _one("Noise", NoiseSource)),
    LayerKind(SlotSource, "Clip", "What fills a slot.", _given),
    LayerKind(GroupSource, "Group", "Shows the layers that it holds."),
    LayerKind(PictureSource, "Picture", "A picture that is stored with the wrinkle."),
):  # fmt: skip
    LAYER_KINDS.declare(_kind)


def check_asset(name: str) -> None:
    """Refuses names that could lead out of the wrinkle's assets.

    Raises:
        InputError: names it.
    """
    if not name or {"/", "\\", "\0"} & set(name) or name[0] == ".":
        raise InputError(f"'{name}' cannot be the name of an asset.")
