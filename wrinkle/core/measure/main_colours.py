"""The main colours of pictures: k-means in CIE L*a*b*, the largest groups first."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.image import Bytes8

_SIDE = 72
_ROUNDS, _TRIES = 40, 3
_SEED = 5


def main_colours(pictures: Sequence[Bytes8], count: int) -> NDArray[np.uint8]:
    """Encoded 8-bit RGB ``(N, 3)`` of what is in pictures, at most ``count``; the commonest first.

    The same pictures give the same colours each time.

    Args:
        pictures: RGB ``(H, W, 3)``, each of which counts as much.
        count: how many groups.
    """
    if not pictures:
        return np.zeros((0, 3), np.uint8)
    small = [cv2.resize(x, (_SIDE, _SIDE), interpolation=cv2.INTER_AREA) for x in pictures]
    floats = np.concatenate(small).astype(np.float32) / np.float32(255.0)
    lab = cv2.cvtColor(floats, cv2.COLOR_RGB2Lab).reshape(-1, 3)
    count = min(count, len(np.unique(lab, axis=0)))
    cv2.setRNGSeed(_SEED)
    ends = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, _ROUNDS, 0.2)
    _, labels, centres = cv2.kmeans(lab, count, None, ends, _TRIES, cv2.KMEANS_PP_CENTERS)
    order = np.argsort(-np.bincount(labels.ravel(), minlength=count), kind="stable")
    back = cv2.cvtColor(np.asarray(centres, np.float32)[None, order], cv2.COLOR_Lab2RGB)[0]
    return np.asarray(np.rint(np.clip(back, 0.0, 1.0) * 255.0), np.uint8)
