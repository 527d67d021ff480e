"""What ships with Wrinkle, and where a person's own wrinkles are kept."""

from __future__ import annotations

from functools import cache, partial
from pathlib import Path

import msgspec
import platformdirs

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.errors import DocumentError, InputError
from wrinkle.core.motion.easing import Ease
from wrinkle.core.motion.feels import FEELS
from wrinkle.core.picture.faces import Fonts, ShippedFace
from wrinkle.files.archive import SUFFIX, read
from wrinkle.files.presence import is_there, within
from wrinkle.library.own_files import own_data, read_own_file, write_own_file

FOLDER = Path(__file__).parent
_APP = "wrinkle"
_FEELS = "feels.json"
_FONTS = {
    (ShippedFace.PLAIN.value, False): "OpenSans-Regular",
    (ShippedFace.PLAIN.value, True): "OpenSans-Semibold",
    # It has one cut, and that is heavy.
    (ShippedFace.CONDENSED.value, False): "Anton-Regular",
    (ShippedFace.CONDENSED.value, True): "Anton-Regular",
    (ShippedFace.SERIF.value, False): "Alegreya-Regular",
    (ShippedFace.SERIF.value, True): "Alegreya-Bold",
    (ShippedFace.HAND.value, False): "Kalam-Regular",
    (ShippedFace.HAND.value, True): "Kalam-Bold",
}


def shipped() -> dict[str, Path]:
    """The shipped wrinkles by the name they are asked for."""
    return {path.name: path for path in sorted((FOLDER / "wrinkles").iterdir()) if path.is_dir()}


@cache
def fonts() -> Fonts:
    """The fonts that ship."""
    return {key: (FOLDER / "fonts" / f"{name}.ttf").read_bytes() for key, name in _FONTS.items()}


def own_folder() -> Path:
    """Where a person's own wrinkles are kept."""
    return own_data() / "wrinkles"


def own() -> dict[str, Path]:
    """A person's own wrinkles by file name."""
    return {path.stem: path for path in within(own_folder(), f"*{SUFFIX}")}


def own_feels() -> dict[str, Ease]:
    """A person's own feels by name.

    Raises:
        DocumentError: the file is damaged; names it and the way out.
    """
    return read_own_file(_FEELS, partial(msgspec.json.decode, type=dict[str, Ease]), {})


def keep_feel(name: str, ease: Ease) -> None:
    """Saves an ease as a feel of one's own.

    Raises:
        InputError: the name is empty or that of a shipped feel.
        DocumentError: the file cannot be read or written.
    """
    name = name.strip().lower()
    if not name or name in FEELS:
        raise InputError(f"'{name}' cannot be the name of a feel of your own; choose another.")
    feels = {**own_feels(), name: ease}
    write_own_file(_FEELS, msgspec.json.format(msgspec.json.encode(feels), indent=2))


def cache_folder() -> Path:
    """Where files are kept that can be made again."""
    return Path(platformdirs.user_cache_path(_APP))


def compiled_folder() -> Path:
    """Where compiled passes are kept from one start to the next."""
    return cache_folder() / "compiled"


def find(word: str) -> Bundle:
    """The wrinkle that a person named: a path, an own or a shipped name.

    Raises:
        DocumentError: there is none, or it cannot be read.
    """
    return read(found_at(word))


def found_at(word: str) -> Path:
    """Where the wrinkle lies that a person named.

    Raises:
        DocumentError: there is none.
    """
    path = Path(word)
    if path.suffix == SUFFIX or is_there(path):
        return path
    key = word.strip().lower().replace(" ", "_").replace("-", "_")
    places = {name.lower().replace(" ", "_").replace("-", "_"): p for name, p in own().items()}
    found = (shipped() | places).get(key)
    if found is None:
        raise DocumentError(
            f"There is no wrinkle '{word}'; 'list' shows the names, or give the path of a "
            f"{SUFFIX} file."
        )
    return found
