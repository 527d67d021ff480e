"""What measuring a window costs, against rendering it: all traces, and all checks.

Both on all processors. The unit ``pass``: one linear warp of the whole frame at half size, turned
by 30 degrees. Frames are measured from small ones of their own, which are drawn first and are kept
as long as they stay the same: what that costs is told beside it. The clips are still pictures, so
that no time is spent on decoding.
"""

from __future__ import annotations

import time
from fractions import Fraction

import cv2

from benchmarks.layers import Still
from benchmarks.motion import median_ms, plain_pass
from benchmarks.wrinkles import SIZE, picture
from wrinkle import library
from wrinkle.core.examine.examined import Examined
from wrinkle.core.examine.subjects import use_subject
from wrinkle.core.jobs import Jobs
from wrinkle.core.measure.traces import TRACES
from wrinkle.core.picture import compiled
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Filling
from wrinkle.core.reuse.use import Use, showing
from wrinkle.core.store import Store
from wrinkle.files import archive
from wrinkle.media.assets import read_assets

NAMES = ("smooth_turn", "plain_push", "half_turn", "sea_fog")
MOST = 0.25
"""The share of the time of the frames at half size."""
ROUNDS = 3


def spent(jobs: Jobs, make: object, numbers: range) -> float:
    """Milliseconds for something done with each number."""
    began = time.perf_counter()
    for _ in jobs.in_order(make, numbers):  # type: ignore[arg-type]
        pass
    return (time.perf_counter() - began) * 1e3


def main() -> None:
    """Prints a line for each wrinkle."""
    compiled.load(library.compiled_folder())
    cv2.setNumThreads(1)
    one, other = picture(1), picture(2)
    unit = median_ms(lambda: plain_pass(one, 30.0), 9)
    print(f"{SIZE.label}: one pass {unit:.1f} ms on one thread")
    fillings = {
        "outgoing": Filling(Still(one), Fraction(3, 2)),
        "incoming": Filling(Still(other, "other"), Fraction(3, 2)),
    }
    jobs = Jobs()
    for name in NAMES:
        bundle = archive.read(library.shipped()[name])
        wrinkle, use = bundle.wrinkle, Use(bundle.wrinkle, fillings)
        rows = []
        for _ in range(ROUNDS):
            carried = read_assets(bundle.assets, Store()).material(library.fonts())
            shown = showing(use, carried, SIZE, wrinkle.frame_rate, Quality.PREVIEW)
            frames = spent(jobs, shown.image, wrinkle.frames)
            carried = read_assets(bundle.assets, Store()).material(library.fonts())
            subject = use_subject(use, carried, Size(1080, 1920), wrinkle.frame_rate)
            began = time.perf_counter()
            spent(jobs, subject.survey.look, range(subject.frames.start - 1, subject.frames.stop))
            small = (time.perf_counter() - began) * 1e3
            began = time.perf_counter()
            spent(jobs, subject.survey.prepare, subject.frames)
            for trace in TRACES.values():
                trace.measure(subject)
            traces = (time.perf_counter() - began) * 1e3
            Examined.of(subject)
            whole = (time.perf_counter() - began) * 1e3
            rows.append((traces / frames, frames, small, traces, whole))
        share, frames, small, traces, whole = min(rows)
        print(
            f"{name}: {len(wrinkle.frames)} frames at half size {frames:.0f} ms; measured in all "
            f"traces {traces:.0f} ms = {share:.2f}{' *' if share > MOST else ''}, with all checks "
            f"{whole:.0f} ms; drawn small before {small:.0f} ms = {small / frames:.2f}"
        )
    jobs.stop()


if __name__ == "__main__":
    main()
