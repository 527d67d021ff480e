"""What a pixel of a picture is, in words."""

from __future__ import annotations

import numpy as np

from wrinkle.core.picture.transfer import decode
from wrinkle.ui.shared.picture_view import PictureView, frame_label


def pixel_words(view: PictureView, pointed: tuple[int, int, int] | None) -> str:
    """Frame, place, levels 0…255 and linear light 0…1; empty where all of the picture is seen.

    Args:
        view: where it is pointed at.
        pointed: frame, x and y, as the view told them.
    """
    if pointed is None or view.zoom.fits:
        return ""
    frame, x, y = pointed
    colour = view.colour_at(x, y)
    if colour is None:
        return ""
    levels = colour.red(), colour.green(), colour.blue()
    light = decode(np.array(levels, np.float32) / np.float32(255.0))
    values = " ".join(f"{part:.3f}" for part in light)
    red, green, blue = levels
    return (
        f"Frame {frame_label(frame)} · x {x}, y {y} · R {red} G {green} B {blue} · linear {values}"
    )
