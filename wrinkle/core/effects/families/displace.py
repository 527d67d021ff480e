"""Displace: another layer as a map that pushes the picture about."""

from __future__ import annotations

import math

import cv2
import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.sampling import Field, blurred, grid, read
from wrinkle.core.motion.declaring import angle, choice, length, number
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.picture.bands import in_bands
from wrinkle.core.picture.channels import luma, mixed, threefold
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.image import Image, Light, Size

_A_STEP = 4.0
"""Of the radius of a blur: so many pixels of it are one of a map that is made smaller."""


def displace(image: Image, values: Values, scene: Scene) -> Image:
    """Each pixel is read some way off: where the map is bright one way, where dark the other.

    Mid grey (in encoded colour) and what the map does not cover move nothing.
    """
    if scene.other is None:
        return image
    by_luma = values.choice("by") == "brightness"
    maps = _map(scene.other, image, scene, values.number("soften") * scene.unit, by_luma)
    across, down = values.number("across") * scene.unit, values.number("down") * scene.unit
    turn = math.radians(values.number("angle"))
    cos, sin = math.cos(turn), math.sin(turn)
    pushes = mixed(maps, np.array([(cos * across, -sin * down), (sin * across, cos * down)]))
    x, y = grid(image.size)
    to_x: Field = x - pushes[..., 0]
    to_y: Field = y - pushes[..., 1]
    about = np.float32(math.radians(values.number("turn")))
    if about:
        x0, y0 = (np.float32(part) for part in scene.middle)
        turned = np.asarray(maps[..., 0] * about, np.float32)
        right, below = to_x - x0, to_y - y0
        cosines, sines = np.cos(turned), np.sin(turned)
        to_x = x0 + right * cosines + below * sines
        to_y = y0 + below * cosines - right * sines
    return read(image, to_x, to_y, scene)


def _map(other: Image, image: Image, scene: Scene, blur: float, by_luma: bool) -> Field:
    """The map's departures from grey, -1…1, ``(H, W, 2)``, over the whole picture."""
    whole = other.size
    fewer = 2 ** int(math.log2(max(blur / _A_STEP, 1.0)))
    if fewer > 1:
        # What is blurred so far is as well told by fewer pixels.
        small = Size(-(-whole.width // fewer), -(-whole.height // fewer))
        pixels = cv2.resize(other.pixels, tuple(small), interpolation=cv2.INTER_AREA)
        other, blur = Image(pixels, other.light, other.opaque), blur / fewer

    def departures(pixels: Field) -> Field:
        alpha = pixels[..., 3]
        # Grey twice, less what covers: the same as for colours without their alpha, covered.
        held = cv2.min(cv2.max(cv2.cvtColor(pixels, cv2.COLOR_RGBA2RGB), 0.0), threefold(alpha))
        planes = [luma(held)] * 2 if by_luma else cv2.split(held)[:2]
        return np.asarray(
            cv2.merge([cv2.addWeighted(p, 2.0, alpha, -1.0, 0.0) for p in planes]), np.float32
        )

    away = in_bands(departures, other.in_light(Light.ENCODED).pixels)
    if blur > 0.0:
        away = blurred(away, blur / 2.0, EdgeCover.MIRROR)
    if fewer > 1:
        away = cv2.resize(away, tuple(whole), interpolation=cv2.INTER_LINEAR)
    width, height = image.size
    left, top = round(scene.left), round(scene.top)
    below, right = height - top - away.shape[0], width - left - away.shape[1]
    if (left, top, right, below) == (0, 0, 0, 0):
        return np.ascontiguousarray(away, np.float32)
    above, under, before, after = (max(side, 0) for side in (top, below, left, right))
    wide = cv2.copyMakeBorder(away, above, under, before, after, cv2.BORDER_REPLICATE)
    found: Field = np.ascontiguousarray(wide[max(-top, 0) :][:height, max(-left, 0) :][:, :width])
    return found


EFFECTS = (
    Effect(
        "displace",
        "Displace",
        "Pushes the picture about by the light and dark of another layer.",
        Family.BEND,
        Light.LINEAR,
        (
            length("across", "Across", "How far it is pushed sideways.", 0.0, -200.0, 200.0,
                   mirror=Mirroring.SIDEWAYS),
            length("down", "Down", "How far it is pushed down.", 0.0, -200.0, 200.0,
                   mirror=Mirroring.UPRIGHT),
            number("turn", "Turn", "How far it is turned about the middle.", 0.0, -3600.0, 3600.0,
                   Unit.DEGREES, mirror=Mirroring.TURN),
            choice("by", "By", "The map's brightness, or its red and green.", "brightness",
                   "brightness", "red and green"),
            angle("angle", about="Turns the way it is pushed.", mirror=Mirroring.TURN),
            length("soften", "Soften", "Blurs the map first.", 1.0, 0.0, 100.0),
        ),
        displace,
        rests_by=("across", "down", "turn"),
        starts_with={"across": 5.0, "down": 5.0},
        words="map push glass heat fog",
        needs_layer=True,
    ),
)  # fmt: skip
