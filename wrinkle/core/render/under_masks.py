"""The picture that a mask lies on: a layer's own picture before it is placed and cut."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.links import within
from wrinkle.core.design.document.sources import TreatmentSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.compose import draw, draw_layer
from wrinkle.core.render.material import Material
from wrinkle.core.render.plan import plan_group, plan_layer
from wrinkle.core.render.planned import STILL, FramePlan, PlannedLayer


def under_masks(
    wrinkle: Wrinkle, material: Material, layer_id: str, time: Fraction, size: Size
) -> Bytes8:
    """What a layer's masks lie on, encoded RGB ``(H, W, 3)``.

    Args:
        wrinkle, material: the document and what fills it.
        layer_id: the layer; of a treatment what lies below it.
        time: in seconds from the cut.
        size: of the frame in pixels.

    Raises:
        InputError: the layer shows nothing at that time.
    """
    layer = wrinkle.layer(layer_id)
    if isinstance(layer.source, TreatmentSource):
        picture = draw(FramePlan(size, _below(wrinkle, material, layer, time, size)), material)
    else:
        planned = plan_layer(wrinkle, material, layer_id, time, size)
        if planned is None:
            raise InputError(f"'{layer.name}' shows nothing on this frame; move the playhead.")
        bare = replace(planned, placements=(STILL,), masks=(), matte=None)
        picture = draw_layer(bare, size, material)
    return np.ascontiguousarray(picture.to_bytes8()[..., :3])


def _below(
    wrinkle: Wrinkle, material: Material, layer: Layer, time: Fraction, size: Size
) -> tuple[PlannedLayer, ...]:
    siblings = within(wrinkle.layers, layer.group)
    lower = siblings[: siblings.index(layer)]
    return plan_group(wrinkle, material, lower, time, size, Quality.PREVIEW)
