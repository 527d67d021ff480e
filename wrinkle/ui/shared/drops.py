"""Files that are dragged over a widget and dropped on it."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QMimeData, QUrl
from PyQt6.QtGui import QDragEnterEvent, QDropEvent

PICTURE_AND_CLIP_FILTER = (
    "Video and pictures (*.mp4 *.mov *.mkv *.webm *.avi *.m4v *.png *.jpg *.jpeg *.webp *.tif);;"
    "Timelines (*.otio *.otioz *.edl);;All files (*)"
)
_OWN = "application/x-wrinkle-paths"
CLIP_FILTER = "Video (*.mp4 *.mov *.mkv *.webm *.avi *.m4v);;All files (*)"
SOUND_FILTER = (
    "Sound (*.wav *.flac *.mp3 *.ogg *.opus *.oga *.m4a *.aac *.aif *.aiff *.mka);;" + CLIP_FILTER
)


def dragged(own: Sequence[Path], handed_out: Sequence[Path]) -> QMimeData:
    """What is dragged: other programs get files, and this one what they stand for.

    Args:
        own: as this program knows them, such as the folder of a wrinkle that ships.
        handed_out: a file for each of them.
    """
    mime = QMimeData()
    mime.setUrls([QUrl.fromLocalFile(str(path)) for path in handed_out])
    mime.setData(_OWN, b"\0".join(str(path).encode("utf-8", "surrogateescape") for path in own))
    return mime


def paths_of(mime: QMimeData | None) -> list[Path]:
    """The files that are dragged, as this program knows them."""
    if mime is None:
        return []
    if mime.hasFormat(_OWN):
        names = mime.data(_OWN).data().split(b"\0")
        return [Path(name.decode("utf-8", "surrogateescape")) for name in names if name]
    return [Path(url.toLocalFile()) for url in mime.urls() if url.isLocalFile()]


def accept_files(event: QDragEnterEvent | None) -> None:
    """Lets a drag go on that carries files."""
    mime = event.mimeData() if event is not None else None
    if event is not None and mime is not None and mime.hasUrls():
        event.acceptProposedAction()


def dropped_files(event: QDropEvent | None) -> list[Path]:
    """The files that were dropped."""
    return paths_of(event.mimeData()) if event is not None else []
