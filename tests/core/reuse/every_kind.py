"""A wrinkle with a layer of every kind, none of which is the same from the other side."""

from fractions import Fraction

import numpy as np
from msgspec.structs import replace

from tests.core.design.wrinkles import FRAME, turning
from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.masking import Mask, Matte, PaintedFrame
from wrinkle.core.design.document.setting import Jitter, Setting
from wrinkle.core.design.document.slots import Slot, Unfilled
from wrinkle.core.design.document.sources import (
    FillSource,
    FurtherContour,
    GroupSource,
    NoiseSource,
    PictureSource,
    ShapeSource,
    SlotSource,
    TreatmentSource,
)
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import layer_edits
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.track import Keyframe, Track
from wrinkle.core.picture import paths
from wrinkle.core.picture.image import Image, Light, Size, mirrored
from wrinkle.core.render.material import Filling, Material

SIZE = Size(54, 96)


class Slanted:
    """A clip with a colour in each corner, which the time makes lighter."""

    duration = Fraction(3)

    def __init__(self, name: str, mirror: Direction = Direction.AS_MADE, hue: float = 0.0) -> None:
        self.name, self.identity, self.size = name, f"{name} {mirror.value}", SIZE
        self._mirror, self._hue = mirror, hue

    def index_at(self, seconds: Fraction) -> int:
        return min(max(int(seconds * 30), 0), 89)

    def following(self, seconds: Fraction) -> None:
        return None

    def image(self, index: int, size: Size) -> Image:
        x = np.linspace(0.0, 1.0, size.width)[None, :]
        y = np.linspace(0.0, 1.0, size.height)[:, None]
        pixels = np.ones((size.height, size.width, 4), np.float32)
        pixels[..., 0], pixels[..., 1] = x, y * 0.8
        pixels[..., 2] = (x * y + self._hue) * (0.5 + index / 200)
        return mirrored(Image(pixels.clip(0.0, 1.0), Light.LINEAR, True), self._mirror)


def material(mirror: Direction = Direction.AS_MADE) -> Material:
    """The clips mirrored, or not; what the wrinkle carries is as it is."""
    return Material(
        {
            "outgoing": Filling(Slanted("a", mirror), Fraction(1)),
            "incoming": Filling(Slanted("b", mirror, 0.3), Fraction(1)),
        },
        {"card.png": Slanted("card", hue=0.5), "ink.png": Slanted("ink", hue=0.1)},
    )


def _lane(start: object, end: object) -> Setting:
    keys = (Keyframe(-12 * FRAME, start), Keyframe(11 * FRAME, end))  # type: ignore[arg-type]
    return Setting(start, Track(keys))  # type: ignore[arg-type]


def _placed(layer: Layer) -> Layer:
    for name, setting in {
        "position": replace(_lane((0.05, 0.1), (0.2, -0.1)), jitter=Jitter(Setting(0.03))),
        "rotation": replace(Setting(0.0), formula="20 + frame"),
        "skew": _lane(4.0, 10.0),
        "skew_axis": Setting(30.0),
        "anchor": replace(Setting((0.25, 0.75)), formula="0.25 + t / 4, 0.75"),
        "tilt": Setting((6.0, -10.0)),
    }.items():
        layer = layer.with_setting(name, setting)
    return layer


def every_kind() -> Wrinkle:
    """The wrinkle; all of its layers are seen on some frame."""
    wrinkle = turning(40.0)
    slot = Slot("third", "Third clip", stand_in="ink.png", unfilled=Unfilled.STAND_IN)
    wrinkle = replace(wrinkle, slots=(*wrinkle.slots, slot))
    wedge = paths.polygon(((0.1, 0.2), (0.9, 0.3), (0.4, 0.9)))
    hole = FurtherContour(paths.ellipse(0.4, 0.4, 0.1, 0.05))
    corners = {"colour": (1.0, 0.0, 0.0), "colour_2": (0.0, 1.0, 0.0), "colour_3": (0.0, 0.0, 1.0)}
    for name, source in (
        ("Card", PictureSource("card.png")),
        ("Third", SlotSource("third")),
        ("Corners", FillSource(form=Setting("corners"),
                               **{k: Setting(v) for k, v in corners.items()})),
        ("Sweep", FillSource(form=Setting("linear"), start=Setting((0.1, 0.2)))),
        ("Grey", NoiseSource()),
        ("Wedge", ShapeSource(path=Setting(wedge), further=(hole,),
                              stroke_width=Setting(2.0), draw_to=Setting(60.0))),
        ("Held", GroupSource()),
        ("Bend", TreatmentSource()),
    ):  # fmt: skip
        wrinkle = layer_edits.add_layer(wrinkle, name, source)
    ellipse = paths.ellipse(0.4, 0.35, 0.3, 0.2)
    moved = paths.ellipse(0.6, 0.4, 0.35, 0.25)
    masks = {
        "outgoing": (Mask("m", "Oval", path=_lane(ellipse, moved), feather=Setting(8.0),
                          inverted=Setting(True)),),
        "third": (Mask("m", "Cut-out", painted=(PaintedFrame(-12 * FRAME, "card.png"),)),),
    }  # fmt: skip
    effects = {
        "bend": (
            EffectUse("r", "ripple", values={"amount": Setting(2.0), "angle": _lane(20.0, 50.0)}),
            EffectUse("l", "lens_bend", values={"field": Setting(40.0),
                                                "centre": Setting((0.3, 0.6))}),
        ),
        "card": (EffectUse("w", "colour_wash", values={"amount": Setting(50.0),
                                                       "form": Setting("corners")}),),
    }  # fmt: skip
    layers = []
    for layer in wrinkle.layers:
        if layer.id in ("card", "third", "wedge", "incoming"):
            layer = _placed(layer)
        if layer.id in ("corners", "sweep", "card", "third", "grey"):
            layer = replace(layer, opacity=Setting(60.0))
        if layer.id in ("card", "wedge"):
            layer = replace(layer, group="held")
        if layer.id == "sweep":
            layer = replace(layer, matte=Matte("wedge"))
        layer = replace(
            layer, masks=masks.get(layer.id, ()), effects=effects.get(layer.id, layer.effects)
        )
        layers.append(layer)
    return layer_edits.with_layers(wrinkle, tuple(layers))
