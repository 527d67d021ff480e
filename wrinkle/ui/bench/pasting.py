"""The clipboard: pins within Wrinkle; pictures, files, drawings and words from elsewhere."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QBuffer, QIODevice, QMimeData
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QApplication

from wrinkle.core.design.document.sources import WordsSource
from wrinkle.core.errors import InputError
from wrinkle.ui.bench.stack.stack import Stack
from wrinkle.ui.desk.parts import Supplying

_PINS = "application/x-wrinkle-pins"
_LONGEST_NAME = 24


class Pasting:
    """What Copy and Paste do on the Bench: the newest thing on the clipboard is pasted."""

    def __init__(self, desk: Supplying, stack: Stack) -> None:
        self._desk = desk
        self._stack = stack

    def copy(self) -> None:
        """Copies the selected pins."""
        board = QApplication.clipboard()
        if self._desk.clipboard.copy_pins() and board is not None:
            mime = QMimeData()
            mime.setData(_PINS, b"pins")
            board.setMimeData(mime)

    def paste(self) -> None:
        """Pastes pins at the playhead, or what another program has copied as a new layer."""
        board = QApplication.clipboard()
        mime = board.mimeData() if board is not None else None
        if mime is None or mime.hasFormat(_PINS):
            self._desk.clipboard.paste_pins()
        elif mime.hasUrls():
            for url in mime.urls():
                self._stack.new.add_file(Path(url.toLocalFile()))
        elif mime.hasImage():
            self._paste_picture(QImage(mime.imageData()))
        elif mime.hasText() and mime.text().strip():
            self._paste_words(mime.text().strip())
        else:
            self._desk.clipboard.paste_pins()

    def _paste_picture(self, picture: QImage) -> None:
        buffer = QBuffer()
        buffer.open(QIODevice.OpenModeFlag.WriteOnly)
        picture.save(buffer, "PNG")
        self._stack.new.add_picture_bytes("pasted.png", bytes(buffer.data().data()))

    def _paste_words(self, text: str) -> None:
        try:
            source = WordsSource(text)
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            return
        name = text.splitlines()[0]
        self._stack.new.add(name[:_LONGEST_NAME], source)
