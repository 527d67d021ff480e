"""Second half of a frame: from its plan to pixels, layer by layer from the back."""

from __future__ import annotations

from concurrent.futures import Executor

from wrinkle.core.design.document import Wrinkle
from wrinkle.core.picture.compositing import source_over
from wrinkle.core.picture.image import Image, Light, Size, blank, filled
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.picture.resample import resample
from wrinkle.core.render.material import Material
from wrinkle.core.render.plan import FramePlan, PlannedPicture, plan_frame


def render(
    wrinkle: Wrinkle,
    material: Material,
    frame: int,
    size: Size,
    quality: Quality = Quality.FINAL,
    spread: Executor | None = None,
) -> Image:
    """The picture of one frame of a wrinkle.

    Args:
        wrinkle: what to show; its frame rate says how long a frame is.
        material: what fills its slots.
        frame: counted from the cut: -1 is the last outgoing one, 0 the first incoming one.
        size: of the picture in pixels.
        quality: how closely motion blur is sampled.
        spread: where strips of the picture are computed; the result is the same to the bit.

    Raises:
        MediaError: a source cannot be read.
    """
    return draw(plan_frame(wrinkle, material, frame, size, quality), material, spread)


def draw(plan: FramePlan, material: Material, spread: Executor | None = None) -> Image:
    """The picture of a plan, whose sources are found in ``material``."""
    below = blank(plan.size)
    for layer in plan.layers:
        treats = layer.picture is None and layer.colour is None
        if layer.colour is not None:
            picture = filled(plan.size, layer.colour)
        else:
            picture = below if layer.picture is None else _fetch(layer.picture, material)
        linear = picture.in_light(Light.LINEAR)
        moved = resample(linear, layer.matrix_list(), plan.size, layer.cover, spread)
        if treats:
            # What a treatment moves is no longer where it was: it replaces what lies below.
            below = moved if layer.opacity >= 1.0 else _mixed(moved, below, layer.opacity)
        else:
            below = source_over(moved, below, layer.opacity)
    return below


def _mixed(treated: Image, untreated: Image, share: float) -> Image:
    """From ``untreated`` at share 0 to ``treated`` at share 1, alpha included."""
    front = treated.in_light(Light.ENCODED).pixels
    back = untreated.in_light(Light.ENCODED).pixels
    return Image(back + (front - back) * share, Light.ENCODED, treated.opaque and untreated.opaque)


def _fetch(picture: PlannedPicture, material: Material) -> Image:
    kind, key = picture.place
    source = material.pictures[key] if kind == "asset" else material.slots[key].source
    return source.image(picture.index, picture.size)
