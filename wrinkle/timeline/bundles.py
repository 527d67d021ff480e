"""Timelines that hold their media (``.otioz``): unpacked, and put together.

The format is a ZIP with the timeline as ``content.otio`` and the files in ``media/``, which the
timeline names relative to itself (the OpenTimelineIO file bundle).
"""

from __future__ import annotations

import hashlib
import json
import os
import shutil
import tempfile
import time
import zipfile
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import replace
from pathlib import Path
from typing import Any
from urllib.parse import quote

from opentimelineio import schema
from opentimelineio._otio import SerializableObject

from wrinkle.core.errors import DocumentError
from wrinkle.core.naming import free_name
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.media import Media
from wrinkle.files.presence import is_file, is_there
from wrinkle.files.whole import check_ordinary, whole_file
from wrinkle.files.zips import opened_zip_at
from wrinkle.library.own_files import own_state
from wrinkle.timeline.places import fillings_in, path_of

CONTENT = "content.otio"
_VERSION, _FORMAT = "version.txt", "1.0.0"
_MEDIA = "media/"
_MOST_ENTRIES = 10_000
_GROWS, _ALWAYS = 4, 64 << 20
"""Media are packed already: so many times as much may come out, and so much in any case."""
_KEPT_FOR = 60 * 24 * 3600.0
"""Seconds after its last use: until then a piece that was never saved elsewhere needs it."""
_USED = ".used"


def unpacked(path: Path, most: int) -> tuple[bytes, Path]:
    """The text of a timeline, of at most so many bytes, and the folder where its media are now.

    Raises:
        OSError: it cannot be opened, or there is no room.
        DocumentError: it is damaged, or holds what it should not.
    """
    check_ordinary(path)
    state = path.stat()
    key = hashlib.sha256(
        os.fsencode(path.absolute()) + f"{state.st_mtime_ns} {state.st_size}".encode()
    )
    folder = _home() / key.hexdigest()[:24]
    budget = state.st_size * _GROWS + _ALWAYS
    with opened_zip_at(path, budget, _MOST_ENTRIES) as archive:
        text = archive.read(CONTENT, most)
        if not is_there(folder):
            folder.parent.mkdir(parents=True, exist_ok=True)
            with tempfile.TemporaryDirectory(dir=folder.parent) as made:
                for name in archive.names:
                    if name != CONTENT:
                        goal = (Path(made) / name).resolve()
                        if not goal.is_relative_to(Path(made).resolve()):
                            raise DocumentError(f"'{name}' in it leads out of it")
                        goal.parent.mkdir(parents=True, exist_ok=True)
                        archive.copy(name, goal)
                with suppress(OSError):
                    # Another Wrinkle may have been quicker; the same is in both.
                    Path(made).rename(folder)
                    # The temporary folder is looked for at the end.
                    Path(made).mkdir()
    (folder / _USED).touch()
    return text, folder


def forget_old() -> None:
    """Removes what was unpacked and has not been used for a long time."""
    for folder in _home().glob("*/"):
        with suppress(OSError):
            used = folder / _USED
            when = (used if is_there(used) else folder).stat().st_mtime
            if time.time() - when > _KEPT_FOR:
                shutil.rmtree(folder)


def put_media(archive: zipfile.ZipFile, root: SerializableObject, folder: Path) -> str:
    """Puts the media of a timeline into its archive; those that are not there stay named.

    Args:
        archive: what is being written.
        root: the timeline.
        folder: to which its addresses are relative.

    Returns:
        The text of the timeline, which names what is in the archive.

    Raises:
        OSError: a file cannot be read.
    """
    archive.writestr(_VERSION, _FORMAT)
    names: dict[Path, str] = {}

    def put(place: Path) -> str:
        if place not in names:
            taken = set(names.values())
            stem = free_name(place.stem, lambda x: f"{x}{place.suffix}" in taken)
            names[place] = f"{stem}{place.suffix}"
            archive.write(place, _MEDIA + names[place])
        return _MEDIA + names[place]

    for held, reference in _references(root):
        place = path_of(reference.target_url, folder)
        if is_file(place):
            reference.target_url = quote(put(place))
        else:
            held.media_reference = schema.MissingReference(name=place.name)
    text = str(root.to_json_string(indent=2))
    made = json.loads(text)
    filled = False
    for filling in fillings_in(made):
        place = (folder / filling["path"]).absolute()
        if filling["path"] and is_file(place):
            filling["path"], filled = put(place), True
    return json.dumps(made, indent=2) if filled else text


def carried_out(path: Path, piece: Piece) -> Piece:
    """The piece, with media that were unpacked from another timeline put beside its file.

    Raises:
        OSError: they cannot be put there.
    """
    if path.is_relative_to(own_state()):
        # A copy that the program keeps for itself lasts no longer than what was unpacked.
        return piece
    folder = path.with_name(f"{path.stem} media")
    moved: dict[str, str] = {}

    def beside(media: Media) -> Media:
        place = Path(media.path)
        if not (media.path and place.is_relative_to(_home()) and is_file(place)):
            return media
        if media.path not in moved:
            folder.mkdir(exist_ok=True)
            moved[media.path] = str(_copied(place, folder))
        return replace(media, path=moved[media.path])

    clips = []
    for clip in piece.clips:
        entry = clip.entry
        if entry is not None:
            entry = replace(entry, fillings={k: beside(x) for k, x in entry.fillings.items()})
        clips.append(replace(clip, media=beside(clip.media), entry=entry))
    return piece.with_clips(*clips) if moved else piece


def _copied(place: Path, folder: Path) -> Path:
    """A copy of a file in a folder; one that is there already serves."""
    size = place.stat().st_size

    def other(stem: str) -> bool:
        goal = folder / f"{stem}{place.suffix}"
        return is_there(goal) and (goal.stat().st_size != size or _sum(goal) != _sum(place))

    goal = folder / f"{free_name(place.stem, other)}{place.suffix}"
    if not is_there(goal):
        with whole_file(goal) as part:
            shutil.copyfile(place, part)
    return goal


def _sum(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def _references(root: Any) -> Iterator[tuple[schema.Clip, schema.ExternalReference]]:
    """Each clip that names a file, with that name."""
    for clip in root.find_clips() if hasattr(root, "find_clips") else ():
        reference = clip.media_reference
        if isinstance(reference, schema.ExternalReference) and reference.target_url:
            yield clip, reference


def _home() -> Path:
    return own_state() / "unpacked"
