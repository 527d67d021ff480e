"""Timeline files: ``.otio``, and ``.otioz`` with the media in it."""

from __future__ import annotations

import hashlib
import json
import shutil
import tempfile
import zipfile
from pathlib import Path

from opentimelineio import adapters, schema, url_utils
from opentimelineio._otio import SerializableObject

from wrinkle import library
from wrinkle.core.errors import DocumentError, InputError, MediaError
from wrinkle.core.piece.document import Piece
from wrinkle.files.whole import read_whole, size_label, write_whole
from wrinkle.timeline.piece_file import BUNDLED, SUFFIX, PieceFile
from wrinkle.timeline.places import path_of
from wrinkle.timeline.reading import piece_of
from wrinkle.timeline.writing import timeline_of

_LARGEST = 256 << 20
_LARGEST_BUNDLE = 64 << 30
_CONTENT = "content.otio"


def read_piece(path: Path, folder: Path | None = None) -> tuple[Piece, PieceFile]:
    """The piece in a file.

    Args:
        path: of the file.
        folder: to which the addresses in it are relative; by default that of the file.

    Raises:
        InputError: it cannot be read; names it and what is wrong.
    """
    try:
        if path.suffix.lower() == BUNDLED:
            content, folder = _unpacked(path)
        else:
            content, folder = read_whole(path, _LARGEST), folder or path.parent
        return piece_of(_root(content), folder)
    except OSError as fault:
        reason = "there is no such file" if isinstance(fault, FileNotFoundError) else fault.strerror
        raise DocumentError(f"{path.name} cannot be opened: {reason}.") from None
    except zipfile.BadZipFile:
        raise DocumentError(f"{path.name} cannot be opened: it is damaged.") from None
    except InputError as fault:
        if str(fault).startswith(path.name):
            raise
        raise DocumentError(f"{path.name} cannot be opened: {str(fault).rstrip('.')}.") from None


def write_piece(path: Path, piece: Piece, file: PieceFile) -> None:
    """Writes a piece, whole or not at all.

    Args:
        path: its ending says whether the media go with it.
        piece: what is written.
        file: what it was read from.

    Raises:
        MediaError: the place cannot be written to, or a file that goes with it is not there.
    """
    bundled = path.suffix.lower() == BUNDLED
    root = timeline_of(piece, file, path.parent)
    try:
        if bundled:
            _write_bundle(path, root)
        else:
            write_whole(path, root.to_json_string(indent=2).encode())
    except OSError as fault:
        raise MediaError(
            f"{path.name} cannot be saved: {fault.strerror}; choose another place."
        ) from None


def _root(content: bytes) -> SerializableObject:
    try:
        text = content.decode()
        # Too many brackets end the program in the library, and are an error here.
        json.loads(text)
        return SerializableObject.from_json_string(text)
    except UnicodeDecodeError:
        raise DocumentError("it is no text") from None
    except Exception:  # noqa: BLE001 - the library has many errors, with no common kind
        raise DocumentError("it is no timeline, or a damaged one") from None


def _unpacked(path: Path) -> tuple[bytes, Path]:
    """The text of a bundle, and the folder in the cache where its media are."""
    state = path.stat()
    key = hashlib.sha256(f"{path.absolute()}{state.st_mtime_ns}{state.st_size}".encode())
    folder = library.cache_folder() / "bundles" / key.hexdigest()[:24]
    with zipfile.ZipFile(path) as bundle:
        entries = [x for x in bundle.infolist() if not x.is_dir()]
        if sum(x.file_size for x in entries) > _LARGEST_BUNDLE:
            raise DocumentError(f"it holds more than {size_label(_LARGEST_BUNDLE)}")
        text = next((x for x in entries if x.filename == _CONTENT), None)
        if text is None or text.file_size > _LARGEST:
            raise DocumentError(f"{_CONTENT} is missing from it, or too large; use a whole copy")
        if not (folder / "whole").exists():
            for entry in entries:
                goal = (folder / entry.filename).resolve()
                if not goal.is_relative_to(folder.resolve()):
                    raise DocumentError(f"'{entry.filename}' in it leads out of it")
                goal.parent.mkdir(parents=True, exist_ok=True)
                with bundle.open(entry) as source, goal.open("wb") as file:
                    shutil.copyfileobj(source, file)
            (folder / "whole").touch()
        return bundle.read(text), folder


def _write_bundle(path: Path, root: SerializableObject) -> None:
    """Writes the media with the timeline; those that are not there stay references.

    Raises:
        OSError: the place cannot be written to.
        MediaError: the media cannot be put in.
    """
    for clip in root.find_clips() if hasattr(root, "find_clips") else ():
        reference = clip.media_reference
        if isinstance(reference, schema.ExternalReference) and reference.target_url:
            place = path_of(reference.target_url, path.parent)
            if place.is_file():
                reference.target_url = url_utils.url_from_filepath(str(place))
            else:
                clip.media_reference = schema.MissingReference(name=place.name)
    with tempfile.TemporaryDirectory(dir=path.parent, prefix=".") as folder:
        made = Path(folder) / f"made{BUNDLED}"
        try:
            adapters.write_to_file(root, str(made))
        except OSError:
            raise
        except Exception as fault:  # noqa: BLE001 - the library has an error for each case
            raise MediaError(
                f"{path.name} cannot be saved with its media ({str(fault).splitlines()[0][:200]}); "
                f"save it as {SUFFIX}."
            ) from None
        made.replace(path)
