"""Small choices that a person makes while designing: favourite effects, the folder of LUTs."""

from __future__ import annotations

from pathlib import Path

import msgspec

from wrinkle.library.own_files import read_own_file, write_own_file

_FILE = "choices.json"
SHIPPED_LUTS = Path(__file__).parent / "luts"


class OwnChoices(msgspec.Struct, frozen=True, omit_defaults=True):
    """What was chosen.

    Attributes:
        favourites: keys of effects.
        lut_folder: where the person's own .cube files are; empty for none.
    """

    favourites: tuple[str, ...] = ()
    lut_folder: str = ""


def choices() -> OwnChoices:
    """What was chosen; nothing where nothing was.

    Raises:
        DocumentError: the file is damaged; names it and the way out.
    """
    return read_own_file(
        _FILE, lambda content: msgspec.json.decode(content, type=OwnChoices), OwnChoices()
    )


def keep_choices(chosen: OwnChoices) -> None:
    """Keeps what was chosen.

    Raises:
        DocumentError: the file cannot be written.
    """
    write_own_file(_FILE, msgspec.json.format(msgspec.json.encode(chosen), indent=2))


def luts(folder: str) -> list[Path]:
    """The shipped tables, then those of a folder and of the folders in it, by name."""
    return [*_tables(SHIPPED_LUTS), *(_tables(Path(folder)) if folder else [])]


def _tables(folder: Path) -> list[Path]:
    # No deeper: a folder that was chosen by mistake may hold a whole disk.
    found = [path for pattern in ("*", "*/*") for path in folder.glob(pattern)]
    return sorted(path for path in found if path.suffix.lower() == ".cube")
