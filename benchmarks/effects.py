"""What each effect costs with the values it starts with, as a ratio to plain passes.

The unit ``pass``: one linear warp of the whole frame turned by 30 degrees with mirrored edges, on
all threads; effects run on one thread, as a frame of a queue does. The compiled passes are loaded,
as they are some seconds after the window has opened.
"""

from __future__ import annotations

import os
from dataclasses import replace

import cv2
import numpy as np

from benchmarks.motion import median_ms, plain_pass
from wrinkle import library
from wrinkle.core.effects.chain import Link, after
from wrinkle.core.effects.effect import Scene, Values
from wrinkle.core.effects.registry import EFFECTS
from wrinkle.core.picture import compiled
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.lut import Lut

WIDE = {"spin_blur": {"angle": 90.0}, "zoom_blur": {"amount": 200.0}}
MOST = 8.0


def scene(size: Size) -> Scene:
    """The frame at preview quality."""
    dice = np.random.default_rng(2)
    other = Image(dice.random((size.height, size.width, 4), dtype=np.float32), Light.ENCODED)
    table = Lut("random", "random", dice.random((33, 33, 33, 3), dtype=np.float32))
    return Scene.whole(size, time=0.1, frame=3, preview=True, lut=table, other=other)


GRADE = ("tone", "white_balance", "saturation", "lift_gamma_gain", "curves", "lut")


def grade(size: Size, unit: float) -> None:
    """What a chain of colour tools costs beside its tools one by one."""
    dice = np.random.default_rng(1)
    pixels = dice.random((size.height, size.width, 4), dtype=np.float32)
    pixels[..., 3] = 1.0
    image = Image(pixels, Light.ENCODED, True)
    steps = np.linspace(0.0, 1.0, 33, dtype=np.float32)
    plain = np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1)
    around = replace(scene(size), lut=Lut("square root", "square root", np.sqrt(plain)))
    links = [
        Link(one, Values({**one.neutral(), **one.starts_with}), around)
        for one in (EFFECTS[key] for key in GRADE)
    ]
    together = median_ms(lambda: after(image, links), 5)
    alone = sum(median_ms(lambda x=x: after(image, [x]), 5) for x in links)
    print(f"{size.label} {len(links)} colour tools in one chain: {together:.0f} ms = "
          f"{together / unit:.1f} passes; one by one {alone:.0f} ms")  # fmt: skip


def main() -> None:
    """Prints the table; a star marks what costs more than it may."""
    compiled.load(library.compiled_folder())
    dice = np.random.default_rng(1)
    for size in (Size(540, 960), Size(1080, 1920)):
        pixels = dice.random((size.height, size.width, 4), dtype=np.float32)
        pixels[..., 3] = 1.0
        cv2.setNumThreads(os.cpu_count() or 1)
        linear = Image(pixels, Light.LINEAR, True)
        unit = median_ms(lambda i=linear: plain_pass(i, 30.0), 9)
        cv2.setNumThreads(1)
        print(f"{size.label}: one pass {unit:.1f} ms")
        jobs = [(key, dict(one.starts_with)) for key, one in EFFECTS.items()]
        jobs += [("ground", {"amount": 100.0, "ground": "weave"}), *WIDE.items()]
        for key, given in jobs:
            one = EFFECTS[key]
            image = Image(pixels, one.light, True)
            values = Values({**one.neutral(), **given})
            around = scene(size)
            spent = median_ms(lambda o=one, i=image, v=values, s=around: o.applied(i, v, s), 7)
            star = " *" if spent / unit > MOST else ""
            print(f"{size.label} {one.label}: {spent:.0f} ms = {spent / unit:.1f} passes{star}")

        grade(size, unit)


if __name__ == "__main__":
    main()
