"""What each effect of a chain costs on the frame at the playhead, measured in the background."""

from __future__ import annotations

import time

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import effect_edits
from wrinkle.core.jobs import Job, Jobs, Urgency, WorkLine
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.compose import render
from wrinkle.core.render.material import Material

_ROUNDS = 3


class EffectCosts(QObject):
    """Measures one chain at a time; it outlives the cards that show what it finds.

    Signals:
        measured: the id of the layer, and milliseconds by the id of each effect.
        failed: one sentence.
    """

    measured = pyqtSignal(str, object)
    failed = pyqtSignal(str)

    def __init__(self, jobs: Jobs, parent: QObject | None = None) -> None:
        super().__init__(parent)
        what = "The costs cannot be measured"
        self._line = WorkLine(jobs, Urgency.ASKED, what, self.failed.emit)
        self._job = Job()

    def measure(
        self, wrinkle: Wrinkle, material: Material, layer: str, frame: int, size: Size
    ) -> None:
        """Begins to measure a layer's chain on a frame; what was begun before is given up."""
        self._job.cancel()
        self._line.drop()
        self._job = self._line.put(
            lambda job: _costs(wrinkle, material, layer, frame, size, job),
            lambda costs: self.measured.emit(layer, costs),
        )


def _costs(
    wrinkle: Wrinkle,
    material: Material,
    layer: str,
    frame: int,
    size: Size,
    job: Job,
) -> dict[str, float]:
    """The chain grows by one effect after the other: each costs what it adds."""

    def spent(wrinkle: Wrinkle) -> float:
        """The shortest of some renderings, in milliseconds."""
        times = []
        for _ in range(_ROUNDS):
            job.check()
            start = time.perf_counter()
            render(wrinkle, material, frame, size, Quality.PREVIEW)
            times.append((time.perf_counter() - start) * 1e3)
        return min(times)

    chain = [use for use in wrinkle.layer(layer).effects if use.shown]
    for use in wrinkle.layer(layer).effects:
        wrinkle = effect_edits.change_effect(wrinkle, layer, use.id, shown=False)
    before = spent(wrinkle)
    costs = {}
    for use in chain:
        wrinkle = effect_edits.change_effect(wrinkle, layer, use.id, shown=True)
        after = spent(wrinkle)
        costs[use.id] = max(after - before, 0.0)
        before = after
    return costs
