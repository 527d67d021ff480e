"""What a look makes of a picture, for showing it before it is chosen."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

import cv2
from msgspec.structs import replace

from wrinkle.core.design.document.looks import Look
from wrinkle.core.design.document.slots import OUTGOING
from wrinkle.core.design.document.timing import Span
from wrinkle.core.design.document.wrinkle import Wrinkle, clip_layer, plain_cut
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.lut import Lut, parse_cube
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.compose import render
from wrinkle.core.render.material import Filling, Material

_KEPT = 16


def look_on(look: Look, picture: Image, share: float) -> Image:
    """A picture on its way through a look.

    Args:
        look: its lanes run once, from the first keyframe of all to the last.
        picture: what it is shown on.
        share: the way that has been gone, 0…1. A look that does not move comes and goes again.

    Returns:
        An encoded image of the picture's size.

    Raises:
        InputError: a colour table of the look cannot be read, or a formula has no value.
    """
    wrinkle = _on_one_clip(look)
    source = _Held(picture)
    material = Material(
        slots={OUTGOING.key: Filling(source, Fraction(0))},
        luts={name: _table(name, content) for name, content in look.tables.items()},
    )
    frames = wrinkle.frames
    frame = frames[min(int(share * len(frames)), len(frames) - 1)]
    treated = render(wrinkle, material, frame, picture.size, Quality.PREVIEW)
    treated = treated.in_light(Light.ENCODED)
    if look.moves:
        return treated
    part = 1.0 - abs(2.0 * share - 1.0)
    plain = picture.in_light(Light.ENCODED).pixels
    mixed = cv2.addWeighted(plain, 1.0 - part, treated.pixels, part, 0.0)
    return Image(mixed, Light.ENCODED, picture.opaque and treated.opaque)


@lru_cache(maxsize=_KEPT)
def _table(name: str, content: bytes) -> Lut:
    """A colour table, read once for all steps of a look's way."""
    return parse_cube(name, content)


def _on_one_clip(look: Look) -> Wrinkle:
    """A wrinkle that shows one clip under the look for as long as its lanes run."""
    wrinkle = plain_cut()
    layer = replace(clip_layer("clip", "Clip", OUTGOING.key), effects=look.effects, span=Span())
    start, end = look.times
    lead, tail = max(wrinkle.lead, -start), max(wrinkle.tail, end + wrinkle.frame_rate.seconds(1))
    return replace(wrinkle, layers=(layer,), lead=lead, tail=tail)


@dataclass(frozen=True)
class _Held:
    """A picture as the only one of a clip."""

    picture: Image
    name: str = "picture"
    identity: str = "picture"
    duration: Fraction = Fraction(0)

    @property
    def size(self) -> Size:
        return self.picture.size

    def index_at(self, seconds: Fraction) -> int:
        return 0

    def following(self, seconds: Fraction) -> tuple[int, float] | None:
        return None

    def image(self, index: int, size: Size) -> Image:
        return self.picture
