"""What a turned frame costs, as a ratio to plain passes measured in the same run.

The unit ``pass``: one linear warp of the whole frame turned by 30 degrees with mirrored edges.
"""

from __future__ import annotations

import os
import resource
import statistics
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor

import cv2
import numpy as np

from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.placement import Pose, pose_matrix
from wrinkle.core.picture.resample import resample

SAMPLES = 16
STARTS = (2.0, 18.0, 34.0, 50.0, 66.0, 75.0)


def median_ms(job: Callable[[], object], rounds: int = 9) -> float:
    """The median time of a job in milliseconds."""
    times = []
    for _ in range(rounds):
        start = time.perf_counter()
        job()
        times.append((time.perf_counter() - start) * 1e3)
    return statistics.median(times)


def plain_pass(image: Image, turn: float) -> None:
    """One whole-frame warp on all of OpenCV's threads."""
    size = image.size
    matrix = np.linalg.inv(pose_matrix(Pose(rotation=turn), size))[:2]
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    cv2.warpAffine(image.pixels, matrix, tuple(size), flags=flags, borderMode=cv2.BORDER_REFLECT)


def turned_ms(
    image: Image, start: float, pool: ThreadPoolExecutor, threads: int
) -> tuple[float, float]:
    """What a blurred turn and its plain passes cost, one after the other in each round."""
    size = image.size
    turns = [start + n for n in range(SAMPLES)]
    matrices = [pose_matrix(Pose(rotation=turn), size) for turn in turns]
    blurred, plain = [], []

    def blur() -> Image:
        return resample(image, matrices, size, EdgeCover.MIRROR, pool)

    for _ in range(7):
        cv2.setNumThreads(1)
        blurred.append(
            median_ms(lambda: resample(image, matrices, size, EdgeCover.MIRROR, pool), 1)
        )
        cv2.setNumThreads(threads)
        plain.append(sum(median_ms(lambda turn=turn: plain_pass(image, turn), 1) for turn in turns))
    return statistics.median(blurred), statistics.median(plain)


def compared(blurred: float, plain: float) -> str:
    """The cost of a blurred turn beside that of its plain passes."""
    return f"{blurred:.0f} ms = {blurred / plain:.2f} of the plain passes ({plain:.0f} ms)"


def main() -> None:
    """Prints the table."""
    threads = os.cpu_count() or 1
    dice = np.random.default_rng(1)
    with ThreadPoolExecutor(threads) as pool:
        for size in (Size(540, 960), Size(1080, 1920)):
            pixels = dice.random((size.height, size.width, 4), dtype=np.float32)
            pixels[..., 3] = 1.0
            image = Image(pixels, Light.LINEAR, True)
            still = [pose_matrix(Pose(), size)]
            quarter = [pose_matrix(Pose(rotation=30.0), size)]
            cv2.setNumThreads(threads)
            unit = median_ms(lambda image=image: plain_pass(image, 30.0))
            cv2.setNumThreads(1)
            for name, matrices in (("nothing moves", still), ("one turn, no blur", quarter)):
                spent = median_ms(
                    lambda image=image, matrices=matrices, size=size: resample(
                        image, matrices, size, EdgeCover.MIRROR, pool
                    )
                )
                print(f"{size.label} {name}: {spent / unit:.2f} passes")
            whole = [turned_ms(image, start, pool, threads) for start in STARTS]
            for start, (blurred, plain) in zip(STARTS, whole, strict=True):
                print(f"{size.label} turned {start:g}-{start + SAMPLES - 1:g} degrees, "
                      f"{SAMPLES} samples: {compared(blurred, plain)}")  # fmt: skip
            blurred, plain = (sum(times) for times in zip(*whole, strict=True))
            print(f"{size.label} all of these, a quarter turn: {compared(blurred, plain)}")
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(f"peak memory {memory:.0f} MiB")


if __name__ == "__main__":
    main()
