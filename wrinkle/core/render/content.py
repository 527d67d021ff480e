"""What a layer shows before it is placed: from its plain values to its picture."""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np

from wrinkle.core.design.document.layer_kinds import Pictured
from wrinkle.core.mask.coverage import mask_plane
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.fit import Fit, fit_matrix, fitted_size
from wrinkle.core.picture.gaussian import gaussian
from wrinkle.core.picture.image import Image, Light, Size, mirrored
from wrinkle.core.picture.in_between import in_between, plain_between
from wrinkle.core.picture.resample import Plane, resample
from wrinkle.core.picture.vector import Coverage
from wrinkle.core.render.material import Material
from wrinkle.core.render.planned import Masks, SourceFrame

_BACKDROP_BLUR = 0.04
_BACKDROP_LARGER = 1.08


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


def planned_plane(
    masks: Masks, frame_size: Size, material: Material, around: tuple[int, int] | None
) -> Plane:
    """The coverage of a layer's masks together; ``around`` says how much beyond the frame."""

    def make() -> Plane:
        shapes = [(mask.shape, _coverage_of(mask.painted, material)) for mask in masks]
        return mask_plane(shapes, frame_size, around)

    return material.store.made((masks, frame_size, around), make)


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
