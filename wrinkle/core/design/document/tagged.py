"""Structs of kinds that declare themselves, from the plain values of a file."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, TypeVar

import msgspec

from wrinkle.core.errors import InputError

_Tagged = TypeVar("_Tagged", bound=msgspec.Struct)
_MOST_SHOWN = 60


def struct_from(
    raw: Any,
    what: str,
    kinds: Mapping[str, type[_Tagged]],
    from_json: Callable[[type, Any], Any],
) -> _Tagged:
    """A struct from plain values, of the kind that they name.

    Args:
        raw: an object with its kind.
        what: the kinds are of, with its article, such as ``a kind of layer``.
        kinds: by their word.
        from_json: reads what msgspec cannot by itself.

    Raises:
        InputError: it is none, of no known kind, or not possible; says where.
    """
    kind = raw.get("kind") if isinstance(raw, dict) else None
    if not isinstance(kind, str) or kind not in kinds:
        raise InputError(f"expected {what}, found {str(kind)[:_MOST_SHOWN]!r}")
    try:
        return msgspec.convert(raw, kinds[kind], dec_hook=from_json)
    except msgspec.ValidationError as fault:
        # As another error, so that the place where it stands is added to that in it.
        raise InputError(str(fault)) from None
