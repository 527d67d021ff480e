"""Ready choices of how something is written: those that ship, and a person's own."""

from __future__ import annotations

from collections.abc import Sequence

import msgspec

from wrinkle.core.errors import InputError
from wrinkle.library.own_files import read_own_file, write_own_file

_FILE = "exports.json"


class ReadyChoice(msgspec.Struct, frozen=True, omit_defaults=True):
    """One choice for all fields at once.

    Attributes:
        name: what it is for.
        form: the key of the format.
        size: of what is written, as ``1080x1920``; None for that of what is shown.
        rate: frames a second; None for those of what is shown.
        quality: of the pictures.
        depth: bits of a colour or a sample; None for the usual one.
        bits: a second, instead of a quality.
        megabytes: of the file, instead of both.
        colour: what its values stand for.
        hears: what is heard.
        smaller: how much smaller than what is shown, where no size is said.
    """

    name: str
    form: str = "h264"
    size: str | None = None
    rate: str | None = None
    quality: float = 75.0
    depth: int | None = None
    bits: int | None = None
    megabytes: float | None = None
    colour: str = "bt709"
    hears: str = "both"
    smaller: float = 1.0


READY = (
    ReadyChoice("As it is, to upload"),
    ReadyChoice("Upright 1080×1920, 30", size="1080x1920", rate="30"),
    ReadyChoice("Upright 1080×1920, 60", size="1080x1920", rate="60"),
    ReadyChoice("Square 1080×1080", size="1080x1080"),
    ReadyChoice("4:5, 1080×1350", size="1080x1350"),
    ReadyChoice("Wide 1920×1080", size="1920x1080"),
    ReadyChoice("Small to send", quality=50.0, smaller=0.5),
    ReadyChoice("To go on editing", "prores422"),
    ReadyChoice("To keep, every bit", "ffv1", depth=16),
    ReadyChoice("What is heard, alone", "wav"),
    ReadyChoice("A contact sheet", "sheet", smaller=0.25),
    ReadyChoice("A picture that moves", "webp", quality=70.0, smaller=0.4),
)


def own_choices() -> tuple[ReadyChoice, ...]:
    """A person's own, in the order in which they were kept.

    Raises:
        DocumentError: the file is damaged; names it.
    """
    return read_own_file(
        _FILE, lambda content: msgspec.json.decode(content, type=tuple[ReadyChoice, ...]), ()
    )


def keep_choice(choice: ReadyChoice) -> None:
    """Keeps one more.

    Raises:
        InputError: it has no name, or one that is taken.
        DocumentError: the file cannot be read or written.
    """
    own = own_choices()
    if not choice.name.strip():
        raise InputError("A ready choice needs a name.")
    if any(one.name == choice.name for one in (*READY, *own)):
        raise InputError(f"There is a choice '{choice.name}' already; give it another name.")
    _keep((*own, choice))


def forget_choice(name: str) -> None:
    """Forgets one; the others stay.

    Raises:
        DocumentError: the file cannot be read or written.
    """
    _keep([one for one in own_choices() if one.name != name])


def _keep(choices: Sequence[ReadyChoice]) -> None:
    write_own_file(_FILE, msgspec.json.format(msgspec.json.encode(choices), indent=2))
