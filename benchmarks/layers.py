"""What masks, blends, mattes, words and following cost, as a ratio to plain passes.

The unit ``pass``: one linear warp of the whole frame turned by 30 degrees with mirrored edges.
"""

from __future__ import annotations

import os
from collections.abc import Callable

import cv2
import numpy as np

from benchmarks.motion import median_ms, plain_pass
from wrinkle import library
from wrinkle.core.mask.coverage import MaskShape, mask_plane
from wrinkle.core.mask.follow import follow
from wrinkle.core.picture import paths
from wrinkle.core.picture.blending import BlendMode, blend
from wrinkle.core.picture.gaussian import gaussian
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.lettering import Lettering, lettered
from wrinkle.core.picture.noise import Noise, noise_field
from wrinkle.core.picture.resample import EdgeCover, resample_masked

ROUNDS = 9


def masked_frame(image: Image) -> None:
    """A full-frame feathered ellipse whose path is another one on each frame: raster and all."""
    outline = paths.ellipse(0.5, 0.5, 0.5, 0.5)
    shape = MaskShape(outline, feather=0.1 * min(image.size))
    plane = mask_plane([(shape, None)], image.size, still=True)
    still = np.eye(3)
    resample_masked(image, still, [still], [plane], image.size, EdgeCover.BARE)


def main() -> None:
    """Prints the table."""
    cv2.setNumThreads(os.cpu_count() or 1)
    dice = np.random.default_rng(1)
    for size in (Size(540, 960), Size(1080, 1920)):
        pixels = dice.random((size.height, size.width, 4), dtype=np.float32)
        pixels[..., 3] = 1.0
        image = Image(pixels, Light.LINEAR, True)
        encoded = Image(pixels, Light.ENCODED, True)
        half = Image(pixels * np.float32(0.5), Light.ENCODED)
        greys = [(pixels[..., 0] * 255).astype(np.uint8)] * 2
        font = library.fonts()[True]
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
                lambda g=greys: list(follow(g, paths.ellipse(0.5, 0.5, 0.3, 0.2))),
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
