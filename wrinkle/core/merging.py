"""Two changes of one state put together: what was worked out late, on what was edited meanwhile.

States are immutable: structs and dataclasses, tuples of parts with an ``id`` or a ``key``,
mappings, plain values. Where the two touch different parts both count; where they touch the same
one differently there is no answer.
"""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from types import MappingProxyType
from typing import Any, TypeVar

import msgspec

from wrinkle.core.errors import InputError

State = TypeVar("State")
_GONE = object()
"""In the place of a part that is not there."""


class CrossedError(InputError):
    """Both changes touch the same part."""


def merged(base: State, late: State, now: State) -> State:
    """The state with both changes.

    Args:
        base: from which both began.
        late: what was made of it by one of them.
        now: what was made of it by the other; its order of parts counts where both have one.

    Raises:
        CrossedError: both touch the same part.
        InputError: what comes of both is no possible state.
    """
    found: State = _merged(base, late, now)
    return found


def _merged(base: Any, late: Any, now: Any) -> Any:
    if late is base or late == base:
        return now
    if now is base or now == base or late == now:
        return late
    if type(base) is type(late) is type(now):
        fields = _fields(base)
        if fields:
            return _with_fields(base, late, now, fields)
        if isinstance(base, tuple):
            return _merged_parts(base, late, now)
    if all(isinstance(x, Mapping) for x in (base, late, now)):
        return MappingProxyType(_merged_keys(dict(base), dict(late), dict(now)))
    raise CrossedError(f"{_name(base)} was changed meanwhile")


def _fields(value: Any) -> tuple[str, ...]:
    if isinstance(value, msgspec.Struct):
        return value.__struct_fields__
    if dataclasses.is_dataclass(value):
        return tuple(field.name for field in dataclasses.fields(value) if field.init)
    return ()


def _with_fields(base: Any, late: Any, now: Any, fields: tuple[str, ...]) -> Any:
    changed = {
        name: _merged(getattr(base, name), getattr(late, name), getattr(now, name))
        for name in fields
        if getattr(late, name) is not getattr(base, name)
    }
    if isinstance(now, msgspec.Struct):
        return msgspec.structs.replace(now, **changed)
    return dataclasses.replace(now, **changed)


def _merged_keys(base: dict[Any, Any], late: dict[Any, Any], now: dict[Any, Any]) -> dict[Any, Any]:
    found = dict(now)
    for key in {*base, *late}:
        was, wanted, is_now = (x.get(key, _GONE) for x in (base, late, now))
        if _GONE not in (was, wanted, is_now):
            found[key] = _merged(was, wanted, is_now)
        elif is_now is _GONE and wanted in (was, _GONE):
            continue
        elif wanted is not _GONE and is_now in (was, wanted):
            found[key] = wanted
        elif wanted is _GONE and is_now == was:
            del found[key]
        else:
            raise CrossedError(f"{key} was changed meanwhile")
    return found


def _merged_parts(base: tuple[Any, ...], late: tuple[Any, ...], now: tuple[Any, ...]) -> Any:
    """Parts are known by their names, and stand in the order of whoever changed it."""
    by_base, by_late, by_now = (_by_name(x) for x in (base, late, now))
    if by_base is None or by_late is None or by_now is None:
        raise CrossedError("a list was changed meanwhile")
    found = _merged_keys(by_base, by_late, by_now)
    return tuple(found[name] for name in _order([*by_base], [*by_late], [*by_now]) if name in found)


def _order(base: list[Any], late: list[Any], now: list[Any]) -> list[Any]:
    """The names of both, each new one behind the one that it was put behind."""
    both = set(base) & set(late) & set(now)
    kept = [[x for x in names if x in both] for names in (base, late, now)]
    if kept[0] != kept[1] != kept[2] != kept[0]:
        raise CrossedError("the order was changed meanwhile")
    order, other = (now, late) if kept[1] == kept[0] else (late, now)
    order = list(order)
    for place, name in enumerate(other):
        if name not in order:
            before = [x for x in other[:place] if x in order]
            order.insert(order.index(before[-1]) + 1 if before else 0, name)
    return order


def _by_name(parts: tuple[Any, ...]) -> dict[Any, Any] | None:
    """The parts by their names; None where they have none, or one name twice."""
    named = {own_name(part): part for part in parts}
    return named if None not in named and len(named) == len(parts) else None


def own_name(part: Any) -> Any:
    """The name by which a part is known among its like; None where it has none."""
    return getattr(part, "id", None) or getattr(part, "key", None)


def _name(value: Any) -> str:
    name = getattr(value, "name", "")
    return f"“{name}”" if isinstance(name, str) and name else "the same part"
