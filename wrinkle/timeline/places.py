"""Where files are, as the addresses that timelines hold, and back."""

from __future__ import annotations

from pathlib import Path
from urllib.parse import quote, unquote, urlsplit


def path_of(url: str, folder: Path) -> Path:
    """The file that an address names.

    Args:
        url: with or without a scheme; what is relative is so to the timeline's folder.
        folder: of the timeline.
    """
    found = urlsplit(url)
    # A name such as ``c:film.mp4`` is no scheme of anybody's.
    text = unquote(found.path) if found.scheme in ("file", "") else unquote(url)
    return (folder / text.replace("\0", "")).absolute()


def url_of(path: Path, folder: Path) -> str:
    """The address of a file: relative where it lies in the timeline's folder or below it."""
    path, folder = path.absolute(), folder.absolute()
    if path.is_relative_to(folder):
        return quote(path.relative_to(folder).as_posix())
    return path.as_uri()
