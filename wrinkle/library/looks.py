"""Looks: those that ship with Wrinkle, and a person's own."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache, partial
from pathlib import Path

from wrinkle.core.design.document.looks import Look, decode_looks, encode_looks, renamed
from wrinkle.core.errors import InputError
from wrinkle.library.own_files import read_own_file, write_own_file

_FILE = "looks.json"


@cache
def shipped_looks() -> tuple[Look, ...]:
    """The looks that ship, by name."""
    path = Path(__file__).parent / _FILE
    return tuple(decode_looks(_FILE, path.read_bytes()))


def own_looks() -> list[Look]:
    """A person's own looks, by name.

    Raises:
        DocumentError: the file is damaged; names it.
    """
    return read_own_file(_FILE, partial(decode_looks, _FILE), [])


def keep_look(look: Look) -> None:
    """Saves a look beside the others.

    Raises:
        InputError: the name is taken.
        DocumentError: the file cannot be read or written.
    """
    looks = own_looks()
    _keep_all([*looks, _under_free_name(look, looks)])


def rename_look(name: str, to: str) -> None:
    """Gives an own look another name.

    Raises:
        InputError: the new name is empty or taken.
        DocumentError: the file cannot be read or written.
    """
    looks = own_looks()
    others = [one for one in looks if one.name != name]
    changed = [renamed(one, to) for one in looks if one.name == name]
    _keep_all([*others, *(_under_free_name(one, others) for one in changed)])


def delete_look(name: str) -> None:
    """Deletes an own look; the others stay.

    Raises:
        DocumentError: the file cannot be read or written.
    """
    _keep_all([one for one in own_looks() if one.name != name])


def _keep_all(looks: Sequence[Look]) -> None:
    write_own_file(_FILE, encode_looks(sorted(looks, key=lambda one: one.name)))


def _under_free_name(look: Look, others: Sequence[Look]) -> Look:
    if any(one.name == look.name for one in (*others, *shipped_looks())):
        raise InputError(
            f"There is a look '{look.name}' already; choose another name, or delete that one in "
            "the Collection."
        )
    return look
