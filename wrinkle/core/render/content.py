"""What a layer shows before it is placed: from its plain values to its picture."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import cv2
import numpy as np

from wrinkle.core.design.document.layer_kinds import Pictured
from wrinkle.core.mask.coverage import mask_plane
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.fit import Fit, fit_matrix, fitted_size
from wrinkle.core.picture.gaussian import gaussian
from wrinkle.core.picture.ground import needed_padding
from wrinkle.core.picture.image import Image, Light, Size, mirrored
from wrinkle.core.picture.in_between import in_between, plain_between
from wrinkle.core.picture.looking import looked_back, shows
from wrinkle.core.picture.placement import Matrix
from wrinkle.core.picture.resample import Plane, resample
from wrinkle.core.picture.vector import Coverage
from wrinkle.core.render.material import Material
from wrinkle.core.render.planned import STILL, Masks, PlannedLayer, SourceFrame

_BACKDROP_BLUR = 0.04
_BACKDROP_LARGER = 1.08
_STEPS = 8
"""To a frame, in which the room around masks grows."""


def drawn(content: Pictured, size: Size, material: Material) -> Image:
    """The picture of a drawn content."""

    return material.store.made((content, size), lambda: content.picture(size))


def fetched(wanted: SourceFrame, material: Material) -> Image:
    """The picture of a source.

    Raises:
        MediaError: it cannot be read.
    """
    kind, key = wanted.place
    source = material.pictures[key] if kind == "asset" else material.slots[key].source
    picture = source.image(wanted.index, wanted.size)
    if wanted.following is not None:
        index, share = wanted.following
        after = source.image(index, wanted.size)
        between = in_between if wanted.along_motion else plain_between
        picture = between(picture, after, share)
    if wanted.backdrop is not None:
        picture = _on_backdrop(picture, wanted.backdrop)
    return mirrored(picture, wanted.mirrored)


def planned_planes(
    layer: PlannedLayer, placements: Sequence[Matrix], frame_size: Size, material: Material
) -> list[Plane]:
    """The coverage of a layer's masks together: one plane for each set of them.

    Args:
        layer: whose masks.
        placements: of the layer, from frame to frame.
        frame_size: in pixels.
        material: what keeps them.
    """
    around = _around(layer, placements, frame_size)

    def plane(masks: Masks) -> Plane:
        def make() -> Plane:
            shapes = [(mask.shape, _coverage_of(mask.painted, material)) for mask in masks]
            return mask_plane(shapes, frame_size, around)

        return material.store.made((masks, frame_size, around), make)

    return [plane(masks) for masks in layer.masks]


def _around(
    layer: PlannedLayer, placements: Sequence[Matrix], size: Size
) -> tuple[int, int] | None:
    """How far beyond the frame the masks are looked at, across and down; None where all may be."""
    if layer.placements == (STILL,):
        return 0, 0
    if not all(shows(matrix) for matrix in placements):
        return None
    back = [looked_back(matrix) for matrix in placements]
    top, bottom, left, right = needed_padding(size, back, size)
    # One set of masks is kept for other frames, where the layer lies elsewhere, but not far off.
    steps = np.array(size) / _STEPS if len(layer.masks) == 1 else np.ones(2)
    beyond = np.array((max(left, right), max(top, bottom)))
    across, down = np.ceil(np.ceil(beyond / steps) * steps).tolist()
    return int(across), int(down)


def _coverage_of(painted: SourceFrame | None, material: Material) -> Coverage | None:
    if painted is None:
        return None
    # A coverage picture is grey by its stored numbers, not by light.
    pixels = fetched(painted, material).in_light(Light.ENCODED).pixels
    return np.ascontiguousarray(pixels[..., 0])


def _on_backdrop(picture: Image, frame_size: Size) -> Image:
    """The whole clip over a blurred, slightly larger copy that covers the frame."""
    linear = picture.in_light(Light.LINEAR)
    shown = fitted_size(linear.size, frame_size, Fit.FILL).scaled(_BACKDROP_LARGER)
    behind = cv2.resize(linear.pixels, tuple(shown), interpolation=cv2.INTER_LINEAR)
    left, top = (shown.width - frame_size.width) // 2, (shown.height - frame_size.height) // 2
    cut = np.ascontiguousarray(
        behind[top : top + frame_size.height, left : left + frame_size.width]
    )
    behind = gaussian(cut, _BACKDROP_BLUR * min(frame_size))
    matrix = fit_matrix(linear.size, linear.size, frame_size, Fit.WHOLE)
    whole = resample(linear, [matrix], frame_size, EdgeCover.BARE)
    pixels = whole.pixels + behind * (np.float32(1.0) - whole.pixels[..., 3:])
    return replace(linear, pixels=pixels, light=Light.LINEAR)
