"""What each effect of a chain costs on the frame at the playhead, measured in the background."""

from __future__ import annotations

import threading
import time
import traceback

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design import effect_edits
from wrinkle.core.design.document import Wrinkle
from wrinkle.core.errors import InputError
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

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._stopping = threading.Event()
        self._thread: threading.Thread | None = None

    def measure(
        self, wrinkle: Wrinkle, material: Material, layer: str, frame: int, size: Size
    ) -> None:
        """Begins to measure a layer's chain on a frame; what was begun before is given up."""
        self.stop()
        self._stopping.clear()
        self._thread = threading.Thread(
            target=self._work,
            args=(wrinkle, material, layer, frame, size),
            name="frames-costs",
            daemon=True,
        )
        self._thread.start()

    def stop(self) -> None:
        """Ends without a result and waits for it."""
        self._stopping.set()
        if self._thread is not None:
            self._thread.join()

    def _work(
        self, wrinkle: Wrinkle, material: Material, layer: str, frame: int, size: Size
    ) -> None:
        try:
            costs = self._costs(wrinkle, material, layer, frame, size)
        except InputError as fault:
            self.failed.emit(str(fault))
        except Exception as fault:  # noqa: BLE001 - a thread must not die without a word
            traceback.print_exc()
            self.failed.emit(f"The costs cannot be measured: {fault!r}.")
        else:
            if not self._stopping.is_set():
                self.measured.emit(layer, costs)

    def _costs(
        self, wrinkle: Wrinkle, material: Material, layer: str, frame: int, size: Size
    ) -> dict[str, float]:
        """The chain grows by one effect after the other: each costs what it adds."""
        chain = [use for use in wrinkle.layer(layer).effects if use.shown]
        for use in wrinkle.layer(layer).effects:
            wrinkle = effect_edits.change_effect(wrinkle, layer, use.id, shown=False)
        before = self._spent(wrinkle, material, frame, size)
        costs = {}
        for use in chain:
            wrinkle = effect_edits.change_effect(wrinkle, layer, use.id, shown=True)
            after = self._spent(wrinkle, material, frame, size)
            costs[use.id] = max(after - before, 0.0)
            before = after
        return costs

    def _spent(self, wrinkle: Wrinkle, material: Material, frame: int, size: Size) -> float:
        """The shortest of some renderings, in milliseconds."""
        times = []
        for _ in range(_ROUNDS):
            if self._stopping.is_set():
                return 0.0
            start = time.perf_counter()
            render(wrinkle, material, frame, size, Quality.PREVIEW)
            times.append((time.perf_counter() - start) * 1e3)
        return min(times)
