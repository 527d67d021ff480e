"""What each effect of a chain costs on the frame at the playhead, measured in the background."""

from __future__ import annotations

import threading
import time

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design import effect_edits
from wrinkle.core.design.document import Wrinkle
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.compose import render
from wrinkle.core.render.material import Material
from wrinkle.ui.background import Background

_ROUNDS = 3


class EffectCosts(QObject):
    """Measures one chain at a time; it outlives the cards that show what it finds.

    Signals:
        measured: the id of the layer, and milliseconds by the id of each effect.
        failed: one sentence.
    """

    measured = pyqtSignal(str, object)
    failed = pyqtSignal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._background = Background(self, "The costs cannot be measured")
        self._background.failed.connect(self.failed)
        self._given_up = threading.Event()

    def measure(
        self, wrinkle: Wrinkle, material: Material, layer: str, frame: int, size: Size
    ) -> None:
        """Begins to measure a layer's chain on a frame; what was begun before is given up."""
        self._given_up.set()
        self._background.drop()
        given_up = self._given_up = threading.Event()

        def tell(costs: dict[str, float]) -> None:
            if not given_up.is_set():
                self.measured.emit(layer, costs)

        self._background.run(lambda: _costs(wrinkle, material, layer, frame, size, given_up), tell)

    def stop(self) -> None:
        """Ends without a result and waits for it."""
        self._given_up.set()
        self._background.stop()


def _costs(
    wrinkle: Wrinkle,
    material: Material,
    layer: str,
    frame: int,
    size: Size,
    given_up: threading.Event,
) -> dict[str, float]:
    """The chain grows by one effect after the other: each costs what it adds."""

    def spent(wrinkle: Wrinkle) -> float:
        """The shortest of some renderings, in milliseconds."""
        times = []
        for _ in range(_ROUNDS):
            if given_up.is_set():
                return 0.0
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
