"""What thumbnails of effects and looks are shown on: the picture of a layer as it is now."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from fractions import Fraction

from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Image, from_bytes8
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.compose import render
from wrinkle.core.render.under_masks import under_masks
from wrinkle.library.samples import DEMO_CLIPS
from wrinkle.ui.desk.parts import Supplying

_SHOWN, _AT = "pier", Fraction(1)


def layer_ground(desk: Supplying, layer: str, side: int) -> Callable[[], Image]:
    """Makes what the thumbnails show: the layer's picture as it is now, or else the result."""
    wrinkle, material = desk.document.state, desk.material()
    time, frame = desk.looking.time, desk.looking.playhead
    size = desk.document.frame_size.scaled(side / max(desk.document.frame_size))

    def ground() -> Image:
        if layer:
            with suppress(InputError):
                return from_bytes8(under_masks(wrinkle, material, layer, time, size))
        result = render(wrinkle, material, frame, size, Quality.PREVIEW)
        if result.pixels[..., 3].any():
            return result
        # Before there is a clip, one of the demo shows what the entries do.
        clip = desk.workers.pool.clip(DEMO_CLIPS[_SHOWN])
        return clip.image(clip.index_at(_AT), size)

    return ground
