"""Where files are, as the addresses that timelines hold, and back."""

from __future__ import annotations

import json
import os
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any
from urllib.parse import quote, unquote_to_bytes, urlsplit

from wrinkle.timeline.piece_file import PieceFile

_ADDRESSES = {"ExternalReference": "target_url", "ImageSequenceReference": "target_url_base"}
"""Where the library's objects hold the address of a file, by the name of their schema."""


def path_of(url: str, folder: Path) -> Path:
    """The file that an address names.

    Args:
        url: with or without a scheme; what is relative is so to the timeline's folder.
        folder: of the timeline.
    """
    try:
        found = urlsplit(url)
        # A name such as ``c:film.mp4`` is no scheme of anybody's.
        text = found.path if found.scheme in ("file", "") else url
    except ValueError:
        # Brackets that are no address of a computer stand in a name.
        text = url
    name = os.fsdecode(unquote_to_bytes(text.replace("\0", "")).replace(b"\0", b""))
    return (folder / name).absolute()


def url_of(path: Path, folder: Path) -> str:
    """The address of a file: relative where it lies in the timeline's folder or below it."""
    path, folder = path.absolute(), folder.absolute()
    if path.is_relative_to(folder):
        return quote(os.fsencode(path.relative_to(folder).as_posix()))
    return path.as_uri()


def place_in(path: str, folder: Path) -> str:
    """The place of a file as plain text: relative where it lies in the folder or below it."""
    place = Path(path).absolute()
    if path and place.is_relative_to(folder.absolute()):
        return place.relative_to(folder.absolute()).as_posix()
    return path


def readdressed(text: str, old: Path, new: Path) -> str:
    """What a timeline in one folder holds, as it names the same files from another folder.

    Args:
        text: the library's JSON, of a whole timeline or of a part.
        old: the folder to which its addresses are relative.
        new: the folder where it will lie. What does not lie there is named absolutely.
    """
    if old.absolute() == new.absolute():
        return text
    root = json.loads(text)
    for held, key in _addresses(root):
        url = held[key]
        if isinstance(url, str) and _is_relative(url):
            is_folder = url.endswith("/")
            held[key] = url_of(path_of(url, old), new) + ("/" if is_folder else "")
    for filling in fillings_in(root):
        place = str((old / filling["path"]).absolute()) if filling["path"] else ""
        filling["path"] = place_in(place, new)
    return json.dumps(root)


def in_folder(file: PieceFile, folder: str) -> PieceFile:
    """What was read, with addresses relative to another folder."""
    if not file.folder or file.folder == folder:
        return file
    old, new = Path(file.folder), Path(folder)

    def held(text: str) -> str:
        return readdressed(text, old, new) if text else ""

    segments = tuple(
        replace(one, items=tuple(map(held, one.items)), transition=held(one.transition))
        for one in file.segments
    )
    return replace(
        file,
        root=held(file.root),
        segments=segments,
        after=tuple(map(held, file.after)),
        folder=folder,
    )


def _is_relative(url: str) -> bool:
    try:
        found = urlsplit(url)
    except ValueError:
        return True
    return bool(url) and "://" not in url and found.scheme != "file" and url[0] != "/"


def _objects(root: Any) -> Iterator[dict[str, Any]]:
    """All objects of some JSON."""
    waiting = [root]
    while waiting:
        one = waiting.pop()
        if isinstance(one, dict):
            yield one
            waiting.extend(one.values())
        elif isinstance(one, list):
            waiting.extend(one)


def _addresses(root: Any) -> Iterator[tuple[dict[str, Any], str]]:
    for one in _objects(root):
        key = _ADDRESSES.get(str(one.get("OTIO_SCHEMA", "")).partition(".")[0])
        if key in one:
            yield one, str(key)


def fillings_in(root: Any) -> Iterator[dict[str, Any]]:
    """What Wrinkle noted of files that fill the slots of a use."""
    for one in _objects(root):
        fillings = one.get("fillings")
        for filling in fillings.values() if isinstance(fillings, dict) else ():
            if isinstance(filling, dict) and isinstance(filling.get("path"), str):
                yield filling
