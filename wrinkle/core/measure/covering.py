"""How much of the frame one layer covers, and how densely."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.links import cut_by
from wrinkle.core.design.document.masking import MatteBy
from wrinkle.core.design.document.slots import shows_given
from wrinkle.core.design.document.sources import TreatmentSource
from wrinkle.core.measure.subject import Subject
from wrinkle.core.measure.survey import Series
from wrinkle.core.picture.blending import BlendMode
from wrinkle.core.picture.channels import luma
from wrinkle.core.picture.image import Light
from wrinkle.core.render.compose import draw_layer
from wrinkle.core.render.plan import plan_layer
from wrinkle.core.render.planned import PlannedLayer

_BY_LIGHT = {
    BlendMode.SCREEN, BlendMode.LIGHTEN, BlendMode.PLUS_LIGHTER, BlendMode.COLOR_DODGE,
}  # fmt: skip
_BY_DARKNESS = {BlendMode.MULTIPLY, BlendMode.DARKEN, BlendMode.COLOR_BURN}


@dataclass(frozen=True)
class _Share:
    value: float
    nbytes: int = 32


def has_cover(subject: Subject, layer: Layer) -> bool:
    """Whether it is worth asking how much a layer covers: not of a whole clip or a treatment."""
    if isinstance(layer.source, TreatmentSource):
        return False
    return not shows_given(layer.source) or bool(layer.masks) or layer.matte is not None


def covered(subject: Subject, layer: Layer) -> Series:
    """The share of the frame that a layer covers on each frame of the window, 0…1.

    Of a layer that cuts another one by its brightness it is the share that it lets through; of one
    that only lightens or darkens what lies below, what it can change.
    """
    cut = cut_by(subject.wrinkle.layers, layer.id)
    light = any(x.matte is not None and x.matte.by is MatteBy.BRIGHTNESS for x in cut)
    return np.array([_at(subject, layer, frame, bool(cut), light) for frame in subject.frames])


def _at(subject: Subject, layer: Layer, frame: int, cuts: bool, light: bool) -> float:
    showing = subject.showing
    planned = plan_layer(
        showing.wrinkle, showing.material, layer.id, subject.time(frame), showing.size
    )
    if planned is None or (not cuts and not layer.visible.at(subject.time(frame))):
        return 0.0
    key = ("cover", planned, showing.size, light)
    made = showing.material.store.made(key, lambda: _Share(_share(subject, planned, light)))
    return made.value


def _share(subject: Subject, planned: PlannedLayer, light: bool) -> float:
    image = draw_layer(planned, subject.showing.size, subject.showing.material)
    alpha = image.pixels[..., 3]
    light = light or planned.blend in _BY_LIGHT
    if light or planned.blend in _BY_DARKNESS:
        bright = np.clip(luma(image.in_light(Light.ENCODED).pixels), 0.0, 1.0)
        alpha = bright if light else alpha - bright
    return float(alpha.mean()) * planned.opacity
