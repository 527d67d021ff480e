"""Small choices that a person makes while designing: favourite effects, the folder of LUTs."""

from __future__ import annotations

from pathlib import Path

import msgspec
import platformdirs

from wrinkle.core.design.archive import write_whole
from wrinkle.core.errors import DocumentError

SHIPPED_LUTS = Path(__file__).parent / "luts"


class Choices(msgspec.Struct, frozen=True, omit_defaults=True):
    """What was chosen.

    Attributes:
        favourites: keys of effects.
        lut_folder: where the person's own .cube files are; empty for none.
    """

    favourites: tuple[str, ...] = ()
    lut_folder: str = ""


def choices() -> Choices:
    """What was chosen; nothing where nothing was.

    Raises:
        DocumentError: the file is damaged; names it and the way out.
    """
    path = _file()
    try:
        return msgspec.json.decode(path.read_bytes(), type=Choices)
    except FileNotFoundError:
        return Choices()
    except (OSError, msgspec.DecodeError):
        raise DocumentError(f"{path.name} cannot be read; mend it or delete it.") from None


def keep_choices(chosen: Choices) -> None:
    """Keeps what was chosen.

    Raises:
        DocumentError: the file cannot be written.
    """
    path = _file()
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        write_whole(path, msgspec.json.format(msgspec.json.encode(chosen), indent=2))
    except OSError as fault:
        raise DocumentError(f"{path.name} cannot be written: {fault.strerror}.") from None


def luts(folder: str) -> list[Path]:
    """The shipped tables, then those of a folder and of the folders in it, by name."""
    own = sorted(Path(folder).rglob("*.cube")) if folder else []
    return [*sorted(SHIPPED_LUTS.glob("*.cube")), *own]


def _file() -> Path:
    return Path(platformdirs.user_data_path("wrinkle")) / "choices.json"
