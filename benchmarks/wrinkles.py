"""What each shipped wrinkle costs at half size and preview quality, as a ratio to plain passes.

The unit ``pass``: one linear warp of the whole frame turned by 30 degrees with mirrored edges. The
clips are still pictures, so that no time is spent on decoding. A star marks what costs more than
twice the median of the others.
"""

from __future__ import annotations

import time
from fractions import Fraction
from statistics import median

import cv2
import numpy as np

from benchmarks.layers import Still
from benchmarks.motion import median_ms, plain_pass
from wrinkle import library
from wrinkle.core.picture import compiled
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Filling
from wrinkle.core.reuse.use import Use, showing
from wrinkle.core.store import Store
from wrinkle.files import archive
from wrinkle.media.assets import read_assets

SIZE = Size(540, 960)
ROUNDS = 3
MOST = 2.0


def picture(seed: int) -> Image:
    """A soft picture, opaque, in linear light as clips give theirs."""
    dice = np.random.default_rng(seed)
    rough = dice.random((SIZE.height // 20, SIZE.width // 20, 3), dtype=np.float32)
    pixels = np.ones((SIZE.height, SIZE.width, 4), np.float32)
    pixels[..., :3] = cv2.resize(rough, SIZE, interpolation=cv2.INTER_CUBIC).clip(0.0, 1.0) ** 2
    return Image(pixels, Light.LINEAR, True)


def frames_ms(name: str, fillings: dict[str, Filling]) -> list[float]:
    """Of each frame of the window, the best of some rounds, each drawn anew."""
    bundle = archive.read(library.shipped()[name])
    carried = read_assets(bundle.assets, Store()).material(library.fonts())
    wrinkle = bundle.wrinkle
    rounds = []
    for _ in range(ROUNDS):
        shown = showing(Use(wrinkle, fillings), carried, SIZE, wrinkle.frame_rate, Quality.PREVIEW)
        spent = []
        for frame in wrinkle.frames:
            began = time.perf_counter()
            shown.image(frame)
            spent.append((time.perf_counter() - began) * 1000.0)
        rounds.append(spent)
    return [min(times) for times in zip(*rounds, strict=True)]


def main() -> None:
    """Prints a line for each wrinkle, the dearest first."""
    compiled.load(library.compiled_folder())
    cv2.setNumThreads(1)
    one = picture(1)
    fillings = {
        "outgoing": Filling(Still(one), Fraction(3, 2)),
        "incoming": Filling(Still(picture(2), "other"), Fraction(3, 2)),
    }
    unit = median_ms(lambda: plain_pass(one, 30.0), 9)
    print(f"{SIZE.label}: one pass {unit:.1f} ms on one thread")
    costs = {name: frames_ms(name, fillings) for name in library.shipped()}
    for name in sorted(costs, key=lambda key: -sum(costs[key])):
        spent = costs[name]
        others = median(sum(times) / len(times) for key, times in costs.items() if key != name)
        ratio = sum(spent) / len(spent) / others
        print(
            f"{name}: {len(spent)} frames {sum(spent):.0f} ms, one {sum(spent) / len(spent):.0f} ms"
            f" = {sum(spent) / len(spent) / unit:.1f} passes, dearest {max(spent):.0f} ms;"
            f" {ratio:.2f} of the others' median{' *' if ratio > MOST else ''}"
        )


if __name__ == "__main__":
    main()
