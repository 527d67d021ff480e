"""Files that are dragged over a widget and dropped on it."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtGui import QDragEnterEvent, QDropEvent

PICTURE_AND_CLIP_FILTER = (
    "Video and pictures (*.mp4 *.mov *.mkv *.webm *.avi *.m4v *.png *.jpg *.jpeg *.webp *.tif);;"
    "Timelines (*.otio *.otioz *.edl);;All files (*)"
)
CLIP_FILTER = "Video (*.mp4 *.mov *.mkv *.webm *.avi *.m4v);;All files (*)"
SOUND_FILTER = (
    "Sound (*.wav *.flac *.mp3 *.ogg *.opus *.oga *.m4a *.aac *.aif *.aiff *.mka);;" + CLIP_FILTER
)


def accept_files(event: QDragEnterEvent | None) -> None:
    """Lets a drag go on that carries files."""
    mime = event.mimeData() if event is not None else None
    if event is not None and mime is not None and mime.hasUrls():
        event.acceptProposedAction()


def dropped_files(event: QDropEvent | None) -> list[Path]:
    """The files that were dropped."""
    mime = event.mimeData() if event is not None else None
    return [Path(url.toLocalFile()) for url in mime.urls()] if mime is not None else []
