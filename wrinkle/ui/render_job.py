"""Writing a video in the background, with progress and cancel."""

from __future__ import annotations

import threading
import time
import traceback
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design.document import Wrinkle
from wrinkle.core.errors import Cancelled, InputError
from wrinkle.core.picture.image import Size
from wrinkle.core.render.material import Material
from wrinkle.media.wrinkle_video import frames_with_surroundings, write_wrinkle_video


@dataclass(frozen=True)
class RenderOrder:
    """What is to be written."""

    path: Path
    wrinkle: Wrinkle
    material: Material
    size: Size
    around: Fraction


class RenderJob(QObject):
    """One order on a thread of its own.

    Signals:
        progressed: frames done, frames in all, seconds left.
        done: the number of frames written.
        failed: one sentence.
        cancelled: it was stopped on request.
    """

    progressed = pyqtSignal(int, int, float)
    done = pyqtSignal(int)
    failed = pyqtSignal(str)
    cancelled = pyqtSignal()

    def __init__(self, order: RenderOrder, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._order = order
        self._cancel = threading.Event()
        self._total = len(frames_with_surroundings(order.wrinkle, order.around))
        self._thread = threading.Thread(target=self._work, name="render-job", daemon=True)

    def start(self) -> None:
        """Begins."""
        self._started = time.monotonic()
        self._thread.start()

    def cancel(self) -> None:
        """Stops as soon as the current frame is done."""
        self._cancel.set()

    def wait(self) -> None:
        """Until the thread has ended."""
        if self._thread.is_alive():
            self._thread.join()

    def _work(self) -> None:
        order = self._order
        try:
            count = write_wrinkle_video(
                order.path, order.wrinkle, order.material, order.size, order.around, self._told
            )
        except Cancelled:
            self.cancelled.emit()
        except InputError as fault:
            self.failed.emit(str(fault))
        except MemoryError:
            self.failed.emit("There is not enough memory for a video of this size; use a smaller.")
        except Exception as fault:  # noqa: BLE001 - a thread must not die without a word
            traceback.print_exc()
            self.failed.emit(f"The video cannot be written: {fault!r}.")
        else:
            self.done.emit(count)

    def _told(self, done: int) -> None:
        if self._cancel.is_set():
            raise Cancelled
        spent = time.monotonic() - self._started
        self.progressed.emit(done, self._total, spent / done * (self._total - done))
