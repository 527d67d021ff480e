"""Small pictures of clips, read in the background for source pictures and source strips."""

from __future__ import annotations

import threading
from collections import OrderedDict
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from wrinkle.core.errors import MediaError
from wrinkle.core.picture.image import Size
from wrinkle.media.clip import Clip
from wrinkle.ui.shared.qimages import qimage

_Key = tuple[str, int, Size]
_KEPT = 600


class ClipPictures(QObject):
    """Pictures of clips by frame number and size; what was asked for last comes first.

    Signals:
        ready: some picture has arrived.
        failed: one sentence on what could not be read.
    """

    ready = pyqtSignal()
    failed = pyqtSignal(str)
    _finished = pyqtSignal(object, object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._pictures: OrderedDict[_Key, QImage | None] = OrderedDict()
        self._wanted: OrderedDict[_Key, Path] = OrderedDict()
        self._urgent: OrderedDict[_Key, Path] = OrderedDict()
        # Clips of its own: sharing them with the renderer would make both jump about in the file.
        self._clips: dict[Path, Clip] = {}
        self._wake = threading.Condition()
        self._stopping = False
        self._finished.connect(self._on_finished)
        self._thread = threading.Thread(target=self._work, name="clip-pictures", daemon=True)
        self._thread.start()

    def get(self, clip: Clip, index: int, size: Size, urgent: bool = False) -> QImage | None:
        """The picture, or None and it is read; urgent ones come first."""
        key = (clip.identity, index, size)
        if key in self._pictures:
            self._pictures.move_to_end(key)
            return self._pictures[key]
        with self._wake:
            if urgent:
                self._urgent[key] = clip.path
                while len(self._urgent) > 4:
                    self._urgent.popitem(last=False)
            else:
                self._wanted[key] = clip.path
                while len(self._wanted) > 96:
                    self._wanted.popitem(last=False)
            self._wake.notify()
        return None

    def stop(self) -> None:
        """Ends the thread and waits for it."""
        with self._wake:
            self._stopping = True
            self._wake.notify()
        self._thread.join()

    def _work(self) -> None:
        while True:
            with self._wake:
                while not (self._wanted or self._urgent or self._stopping):
                    self._wake.wait()
                if self._stopping:
                    return
                queue = self._urgent or self._wanted
                key, path = queue.popitem(last=queue is self._urgent)
            try:
                pixels = self._clip(path).bytes8(key[1], key[2])
                straight = pixels.shape[2] == 4
                layout = QImage.Format.Format_RGBA8888 if straight else QImage.Format.Format_RGB888
                screen = QImage.Format.Format_RGB32
                result: QImage | str = qimage(pixels, layout).convertToFormat(screen)
            except MediaError as fault:
                result = str(fault)
            with self._wake:
                if self._stopping:
                    return
            self._finished.emit(key, result)

    def _clip(self, path: Path) -> Clip:
        if path not in self._clips:
            self._clips[path] = Clip(path)
        return self._clips[path]

    def _on_finished(self, key: _Key, result: object) -> None:
        self._pictures[key] = result if isinstance(result, QImage) else None
        while len(self._pictures) > _KEPT:
            self._pictures.popitem(last=False)
        if isinstance(result, QImage):
            self.ready.emit()
        else:
            self.failed.emit(str(result))
