"""Many small pictures on one sheet, with their frame numbers and the seam."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

_GROUND = (119, 119, 119)
_INK = (255, 255, 255)
_SEAM = (179, 38, 30)
_GAP = 8
_LABEL_HEIGHT = 22


def contact_sheet(
    frames: Sequence[NDArray[np.uint8]],
    numbers: Sequence[int],
    columns: int,
    around_cut: bool = True,
) -> NDArray[np.uint8]:
    """RGB ``(H, W, 3)`` with the frames in rows of ``columns``.

    Args:
        frames: encoded 8-bit RGB or RGBA ``(h, w, 3 or 4)``, all of one size, at least one.
        numbers: the frame number written over each.
        columns: frames in a row.
        around_cut: whether they are counted from a cut; the seam is drawn before frame 0 then.
    """
    height, width = frames[0].shape[:2]
    rows = -(-len(frames) // columns)
    cell_width, cell_height = width + _GAP, height + _GAP + _LABEL_HEIGHT
    sheet = np.full((rows * cell_height + _GAP, columns * cell_width + _GAP, 3), _GROUND, np.uint8)
    for place, (pixels, number) in enumerate(zip(frames, numbers, strict=True)):
        x = _GAP + place % columns * cell_width
        y = _GAP + place // columns * cell_height
        label = f"{number:+d}" if number and around_cut else f"{number}"
        cv2.putText(sheet, label, (x, y + 15), cv2.FONT_HERSHEY_SIMPLEX, 0.45, _INK, 1, cv2.LINE_AA)
        top = y + _LABEL_HEIGHT
        sheet[top : top + height, x : x + width] = pixels[..., :3]
        if number == 0 and around_cut:
            for dash in range(y, top + height, 12):
                sheet[dash : dash + 6, max(0, x - 5) : x - 2] = _SEAM
    return sheet
