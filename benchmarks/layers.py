"""What masks, blends, mattes, words and following cost, as a ratio to plain passes.

The unit ``pass``: one linear warp of the whole frame turned by 30 degrees with mirrored edges.
"""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction

import cv2
import numpy as np
from msgspec.structs import replace

from benchmarks.motion import median_ms, plain_pass
from wrinkle import library
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import effect_edits, lane_edits
from wrinkle.core.mask.coverage import MaskShape, mask_plane
from wrinkle.core.mask.follow import follow
from wrinkle.core.picture import compiled, paths
from wrinkle.core.picture.blending import BlendMode, blend
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.gaussian import gaussian
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.lettering import Lettering, lettered
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.picture.noise import Noise, noise_field
from wrinkle.core.picture.resample import resample_masked
from wrinkle.core.render.compose import render
from wrinkle.core.render.material import Filling, Material
from wrinkle.core.render.showing import Showing

ROUNDS = 9


def masked_frame(image: Image) -> None:
    """A full-frame feathered ellipse whose path is another one on each frame: raster and all."""
    outline = paths.ellipse(0.5, 0.5, 0.5, 0.5)
    shape = MaskShape(outline, feather=0.1 * min(image.size))
    plane = mask_plane([(shape, None)], image.size, around=(0, 0))
    still = np.eye(3)
    resample_masked(image, still, [still], [plane], image.size, EdgeCover.BARE)


@dataclass(frozen=True)
class Still:
    """A source of one picture."""

    picture: Image
    identity: str = "still"
    duration: Fraction = Fraction(3)

    @property
    def name(self) -> str:
        """As it is told."""
        return self.identity

    @property
    def size(self) -> Size:
        """That of the picture."""
        return self.picture.size

    def index_at(self, seconds: Fraction) -> int:
        """All is one frame."""
        return 0

    def following(self, seconds: Fraction) -> None:
        """Nothing follows."""

    def image(self, index: int, size: Size) -> Image:
        """The picture, which has that size."""
        return self.picture


def layered(count: int, image: Image) -> Callable[[], Image]:
    """Draws a document of turned layers over each other, each smaller than the frame."""
    document = turned_layers(count)
    filling = Filling(Still(image), Fraction(1))

    def draw() -> Image:
        material = Material({"outgoing": filling, "incoming": filling})
        return render(document, material, -1, image.size, Quality.PREVIEW)

    return draw


def turned_layers(count: int) -> Wrinkle:
    """Layers over each other, each smaller than the frame and turned by another angle."""
    cut = plain_cut()
    first = replace(cut.layers[0], edge_cover=Setting("bare"))
    place = first.placement
    layers = []
    for number in range(count):
        scale = 70.0 if number else 150.0
        turned = replace(place, scale=Setting((scale, scale)), rotation=Setting(7.0 * number))
        layers.append(replace(first, id=f"layer{number}", placement=turned))
    return replace(cut, layers=tuple(layers))


def changed_in_front(image: Image) -> None:
    """Prints what a change of the front one of eight layers costs beside drawing all of them."""
    document, _ = effect_edits.add_effect(turned_layers(8), "layer7", "gaussian_blur")
    filling = Filling(Still(image), Fraction(1))
    for name, key in (("an effect", "effects.e1:gaussian_blur.radius"), ("a turn", "rotation")):
        ref, kept = SettingRef("layer7", key), Material({"outgoing": filling, "incoming": filling})
        steps = iter(range(1, 100))

        def shown(material: Material, ref: SettingRef = ref, steps: Iterator[int] = steps) -> None:
            changed = lane_edits.set_value(document, ref, Fraction(0), float(next(steps)))
            showing = Showing(changed, material, image.size, Quality.PREVIEW, ref.layer)
            showing.image(-1)

        shown(kept)
        spent = median_ms(lambda kept=kept, shown=shown: shown(kept), ROUNDS)
        anew = median_ms(lambda kept=kept, shown=shown: shown(Material(kept.slots)), ROUNDS)
        print(f"{name} changed in front of eight layers: {spent / anew:.2f} of drawing all anew")


def documents() -> None:
    """Prints what documents of many layers cost, without the compiled passes and with them."""
    cv2.setNumThreads(1)
    dice = np.random.default_rng(1)
    pixels = dice.random((960, 540, 4), dtype=np.float32)
    pixels[..., 3] = 1.0
    image = Image(pixels, Light.LINEAR, True)
    for name in ("NumPy", "compiled"):
        if name == "compiled":
            compiled.load(library.compiled_folder())
        for count in (2, 8, 16):
            unit = median_ms(lambda: plain_pass(image, 30.0), ROUNDS)
            spent = median_ms(layered(count, image), 5)
            print(f"{count} layers, {name}: {spent:.0f} ms = {spent / unit:.1f} passes")
    changed_in_front(image)


def main() -> None:
    """Prints the table."""
    documents()
    cv2.setNumThreads(os.cpu_count() or 1)
    dice = np.random.default_rng(1)
    for size in (Size(540, 960), Size(1080, 1920)):
        pixels = dice.random((size.height, size.width, 4), dtype=np.float32)
        pixels[..., 3] = 1.0
        image = Image(pixels, Light.LINEAR, True)
        encoded = Image(pixels, Light.ENCODED, True)
        half = Image(pixels * np.float32(0.5), Light.ENCODED)
        pictures = [(pixels[..., :3] * 255).astype(np.uint8)] * 2
        font = library.fonts()["plain", True]
        words = Lettering("Tidewind\nKite Day", font, True, size.width / 6, stroke=(0.0, 0.0, 0.0))
        jobs: list[tuple[str, Callable[[], object]]] = [
            ("feathered ellipse mask, keyed path", lambda i=image: masked_frame(i)),
            ("blend: normal", lambda h=half, e=encoded: blend(h, e)),
            ("blend: soft light", lambda h=half, e=encoded: blend(h, e, BlendMode.SOFT_LIGHT)),
            ("blend: luminosity", lambda h=half, e=encoded: blend(h, e, BlendMode.LUMINOSITY)),
            ("blend: divide", lambda h=half, e=encoded: blend(h, e, BlendMode.DIVIDE)),
            (
                "Gaussian blur, 5 % of the short side",
                lambda p=pixels, s=size: gaussian(p, s.width / 20),
            ),
            ("words drawn anew", lambda w=words, s=size: lettered(w, s)),
            (
                "noise, 4 octaves",
                lambda s=size: noise_field(Noise((s.width / 5, s.width / 5), 4.0, 0.3), s),
            ),
            (
                "following a path for one frame",
                lambda p=pictures: list(follow(p, paths.ellipse(0.5, 0.5, 0.3, 0.2))),
            ),
        ]
        unit = median_ms(lambda i=image: plain_pass(i, 30.0), ROUNDS)
        print(f"{size.label}: one pass {unit:.1f} ms")
        for name, job in jobs:
            job()
            spent = median_ms(job, 5)
            print(f"{size.label} {name}: {spent:.1f} ms = {spent / unit:.2f} passes")


if __name__ == "__main__":
    main()
