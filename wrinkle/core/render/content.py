"""What a layer shows before it is placed: plain values, and how they become a picture."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import cv2
import numpy as np

from wrinkle.core.mask.coverage import MaskShape, mask_plane
from wrinkle.core.picture.fit import Fit, fit_matrix, fitted_size
from wrinkle.core.picture.gaussian import gaussian
from wrinkle.core.picture.gradient import Fill, gradient
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.lettering import Lettering, lettered
from wrinkle.core.picture.noise import Noise, noise_field
from wrinkle.core.picture.resample import EdgeCover, Plane, resample
from wrinkle.core.picture.transfer import decode
from wrinkle.core.picture.vector import Coverage, Drawing, painted
from wrinkle.core.render.material import Material

if TYPE_CHECKING:
    from wrinkle.core.render.plan import PlannedLayer

_BACKDROP_BLUR = 0.04
_BACKDROP_LARGER = 1.08


@dataclass(frozen=True)
class SourceFrame:
    """A picture of a source, or a mix of two that follow each other.

    Attributes:
        place: ``("slot", key)`` or ``("asset", name)``.
        identity: of the source.
        index: of the picture.
        size: to which it is scaled.
        following: the other picture, and its share 0…1 in the mix.
        backdrop: the frame behind which a blurred copy is laid, for clips of another shape.
    """

    place: tuple[str, str]
    identity: str
    index: int
    size: Size
    following: tuple[int, float] | None = None
    backdrop: Size | None = None


@dataclass(frozen=True)
class GreyNoise:
    """Noise as a grey picture: 0.5 + brightness + contrast · noise, in encoded colour."""

    noise: Noise
    contrast: float
    brightness: float


@dataclass(frozen=True)
class Grouped:
    """The layers of a group, from the back to the front."""

    layers: tuple[PlannedLayer, ...]


@dataclass(frozen=True)
class PlannedMask:
    """One mask, with the coverage picture that takes the place of its path, if there is one."""

    shape: MaskShape
    painted: SourceFrame | None = None


Drawn = Fill | Drawing | Lettering | GreyNoise
Content = SourceFrame | Drawn | Grouped


def drawn(content: Drawn, size: Size, material: Material) -> Image:
    """The picture of a drawn content; it is kept with the material."""
    key = (content, size)
    kept = material.drawn.get(key)
    if isinstance(kept, Image):
        return kept
    match content:
        case Fill():
            picture = gradient(content, size)
        case Drawing():
            picture = painted(content, size)
        case Lettering():
            picture = lettered(content, size)
        case GreyNoise():
            picture = _grey(content, size)
    material.drawn.put(key, picture)
    return picture


def fetched(frame: SourceFrame, material: Material) -> Image:
    """The picture of a source.

    Raises:
        MediaError: it cannot be read.
    """
    kind, key = frame.place
    source = material.pictures[key] if kind == "asset" else material.slots[key].source
    picture = source.image(frame.index, frame.size)
    if frame.following is not None:
        index, share = frame.following
        after = source.image(index, frame.size)
        mixed = cv2.addWeighted(
            picture.in_light(Light.LINEAR).pixels,
            1.0 - share,
            after.in_light(Light.LINEAR).pixels,
            share,
            0.0,
        )
        picture = Image(mixed, Light.LINEAR, picture.opaque and after.opaque)
    return picture if frame.backdrop is None else _on_backdrop(picture, frame.backdrop)


def planned_plane(
    masks: tuple[PlannedMask, ...], frame: Size, material: Material, still: bool
) -> Plane:
    """The coverage of a layer's masks together; it is kept with the material.

    Of a layer that stands ``still`` nothing outside the frame is seen.
    """
    key = (masks, frame, still)
    kept = material.drawn.get(key)
    if isinstance(kept, Plane):
        return kept
    shapes = [(mask.shape, _coverage_of(mask.painted, material)) for mask in masks]
    plane = mask_plane(shapes, frame, still)
    material.drawn.put(key, plane)
    return plane


def _coverage_of(frame: SourceFrame | None, material: Material) -> Coverage | None:
    if frame is None:
        return None
    # A coverage picture is grey by its stored numbers, not by light.
    pixels = fetched(frame, material).in_light(Light.ENCODED).pixels
    return np.ascontiguousarray(pixels[..., 0])


def _grey(content: GreyNoise, size: Size) -> Image:
    field = noise_field(content.noise, size)
    grey = np.clip(0.5 + content.brightness + content.contrast * field, 0.0, 1.0)
    pixels = np.repeat(grey.astype(np.float32)[..., None], 4, axis=2)
    pixels[..., 3] = 1.0
    pixels[..., :3] = decode(np.ascontiguousarray(pixels[..., :3]))
    return Image(pixels, Light.LINEAR, opaque=True)


def _on_backdrop(picture: Image, frame: Size) -> Image:
    """The whole clip over a blurred, slightly larger copy that covers the frame."""
    linear = picture.in_light(Light.LINEAR)
    shown = fitted_size(linear.size, frame, Fit.FILL).scaled(_BACKDROP_LARGER)
    behind = cv2.resize(linear.pixels, tuple(shown), interpolation=cv2.INTER_LINEAR)
    left, top = (shown.width - frame.width) // 2, (shown.height - frame.height) // 2
    cut = np.ascontiguousarray(behind[top : top + frame.height, left : left + frame.width])
    behind = gaussian(cut, _BACKDROP_BLUR * min(frame))
    matrix = fit_matrix(linear.size, linear.size, frame, Fit.WHOLE)
    whole = resample(linear, [matrix], frame, EdgeCover.BARE)
    pixels = whole.pixels + behind * (np.float32(1.0) - whole.pixels[..., 3:])
    return replace(linear, pixels=pixels, light=Light.LINEAR)
