"""Where the picture of a layer lies in the frame before it is placed."""

from __future__ import annotations

from fractions import Fraction

import numpy as np

from wrinkle.core.design.document.sources import FillSource, GroupSource, TreatmentSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.wrinkle_edits import set_shutter
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.lettering import Lettering, extent_of_words
from wrinkle.core.picture.paths import flattened
from wrinkle.core.picture.vector import Drawing
from wrinkle.core.render.material import Material
from wrinkle.core.render.plan import plan_layer
from wrinkle.core.render.planned import PlannedLayer, SourceFrame, matrix_of

Box = tuple[float, float, float, float]
"""Left, top, right and bottom, in pixels."""


def layer_extent(
    wrinkle: Wrinkle, material: Material, layer_id: str, time: Fraction, size: Size
) -> Box:
    """The box around what a layer draws: words, a shape, a clip that is fitted whole.

    Args:
        wrinkle: a plain one.
        material: what fills it.
        layer_id: of the layer.
        time: in seconds from the cut.
        size: of the frame.

    Returns:
        In pixels of the unmoved frame; all of it where the layer has no picture of its own, fills
        the frame, or draws nothing at that time.
    """
    whole = whole_frame(size)
    if isinstance(wrinkle.layer(layer_id).source, TreatmentSource | GroupSource | FillSource):
        return whole
    # Where it is at each instant of an open shutter does not matter here.
    planned = plan_layer(set_shutter(wrinkle, 0.0), material, layer_id, time, size)
    if planned is None:
        return whole
    content = planned.content
    if isinstance(content, Lettering):
        return extent_of_words(content, size) or whole
    if isinstance(content, Drawing) and content.contours:
        spots = np.concatenate([flattened(x.outline, x.closed) for x in content.contours])
        reach = content.stroke.width / 2.0 if content.stroke is not None else 0.0
        (left, top), (right, bottom) = spots.min(axis=0) - reach, spots.max(axis=0) + reach
        return float(left), float(top), float(right), float(bottom)
    return fitted(planned, size)


def fitted(planned: PlannedLayer, size: Size) -> Box:
    """Where a clip or a picture lies by its fit; any other content has all of the frame."""
    content = planned.content
    if not isinstance(content, SourceFrame) or content.backdrop is not None:
        return whole_frame(size)
    fit, inner = matrix_of(planned.fit), content.size
    ends = fit @ np.array([[0.0, inner.width], [0.0, inner.height], [1.0, 1.0]])
    return float(ends[0, 0]), float(ends[1, 0]), float(ends[0, 1]), float(ends[1, 1])


def whole_frame(size: Size) -> Box:
    """All of a frame."""
    return 0.0, 0.0, float(size.width), float(size.height)
