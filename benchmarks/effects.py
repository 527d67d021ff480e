"""What each effect costs with the values it starts with, as a ratio to plain passes.

The unit ``pass``: one linear warp of the whole frame turned by 30 degrees with mirrored edges, on
all threads; effects run on one thread, as a frame of a queue does. The compiled passes are loaded,
as they are some seconds after the window has opened.
"""

from __future__ import annotations

import os
import statistics
from collections.abc import Callable
from dataclasses import replace

import cv2
import numpy as np

from benchmarks.motion import median_ms, plain_pass
from wrinkle import library
from wrinkle.core.effects.chain import ChainLink, after
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


def spent_on(job: Callable[[], object], plain: Callable[[], object]) -> tuple[float, float]:
    """What a job costs: in milliseconds, and in the passes taken right before and after it."""
    times, ratios = [], []
    for _ in range(7):
        cv2.setNumThreads(os.cpu_count() or 1)
        unit = median_ms(plain, 3)
        cv2.setNumThreads(1)
        times.append(median_ms(job, 1))
        cv2.setNumThreads(os.cpu_count() or 1)
        ratios.append(times[-1] / ((unit + median_ms(plain, 3)) / 2.0))
    cv2.setNumThreads(1)
    return statistics.median(times), statistics.median(ratios)


def grade(image: Image, plain: Callable[[], object]) -> None:
    """What a chain of colour tools costs beside its tools one by one."""
    steps = np.linspace(0.0, 1.0, 33, dtype=np.float32)
    solid = np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1)
    around = replace(scene(image.size), lut=Lut("square root", "square root", np.sqrt(solid)))
    links = [
        ChainLink(one, Values({**one.neutral(), **one.starts_with}), around)
        for one in (EFFECTS[key] for key in GRADE)
    ]
    together, passes = spent_on(lambda: after(image, links), plain)
    alone = sum(median_ms(lambda x=x: after(image, [x]), 5) for x in links)
    print(f"{image.size.label} {len(links)} colour tools in one chain: {together:.0f} ms = "
          f"{passes:.1f} passes; one by one {alone:.0f} ms")  # fmt: skip


def main() -> None:
    """Prints the table; a star marks what costs more than it may."""
    compiled.load(library.compiled_folder())
    dice = np.random.default_rng(1)
    for size in (Size(540, 960), Size(1080, 1920)):
        pixels = dice.random((size.height, size.width, 4), dtype=np.float32)
        pixels[..., 3] = 1.0
        linear = Image(pixels, Light.LINEAR, True)

        def plain(linear: Image = linear) -> None:
            plain_pass(linear, 30.0)

        print(f"{size.label}: one pass {median_ms(plain):.1f} ms")
        grade(Image(pixels, Light.ENCODED, True), plain)
        jobs = [(key, dict(one.starts_with)) for key, one in EFFECTS.items()]
        jobs += [("ground", {"amount": 100.0, "ground": "weave"}), *WIDE.items()]
        for key, given in jobs:
            one = EFFECTS[key]
            image = Image(pixels, one.light, True)
            values = Values({**one.neutral(), **given})
            around = scene(size)
            spent, passes = spent_on(
                lambda o=one, i=image, v=values, s=around: o.applied(i, v, s), plain
            )
            star = " *" if passes > MOST else ""
            print(f"{size.label} {one.label}: {spent:.0f} ms = {passes:.1f} passes{star}")


if __name__ == "__main__":
    main()
