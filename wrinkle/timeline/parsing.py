"""The text of a timeline as the library's objects, once it is sure that these do no harm.

The library follows references without end, falls over those to what it does not expect, and takes
any amount of memory; a fault in it ends the program. So references are written out before it sees
any, what goes beyond reason is refused, and a text is tried in another process first.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Any

from opentimelineio._otio import SerializableObject

from wrinkle.core.errors import DocumentError, told_as
from wrinkle.files.tokens import check_tokens
from wrinkle.timeline.trial import TRIAL

_MOST_TOKENS = 1_500_000
_MOST_CLIPS = 10_000
_MOST_REFERENCES = 10_000
_DEEPEST = 200
_MAY_REFER = (b"ObjectRef", b"REF_ID", rb"\u00")
"""One of these stands in whatever holds a reference, be its letters escaped."""
_VALUES: Mapping[str, frozenset[str]] = {
    "RationalTime": frozenset(("rate", "value")),
    "TimeRange": frozenset(("start_time", "duration")),
    "TimeTransform": frozenset(("offset", "scale", "rate")),
    "V2d": frozenset(("x", "y")),
    "Box2d": frozenset(("min", "max")),
    "Color": frozenset(("r", "g", "b", "a", "name")),
}
"""What the library takes for plain values, and what they consist of."""
_MOST_WRITTEN_OUT = 1_000_000
"""Values."""
_SCHEMA, _REFERENCE, _ID, _REFERS_TO = "OTIO_SCHEMA", "SerializableObjectRef", "OTIO_REF_ID", "id"


def parsed(content: bytes, ours: bool = False) -> SerializableObject:
    """What the text of a timeline holds.

    Args:
        content: the text.
        ours: the library has just written it, and so can read it.

    Raises:
        DocumentError: it is no timeline, or a damaged or an impossible one.
    """
    check_tokens(content, _MOST_TOKENS)
    if content.count(b'"Clip.') > _MOST_CLIPS:
        raise DocumentError(f"it has more than {_MOST_CLIPS} clips; take it apart")
    try:
        text = content.decode()
        suspect = any(mark in content for mark in _MAY_REFER)
        root = json.loads(text, object_pairs_hook=_named_once if suspect else None)
    except UnicodeDecodeError:
        raise DocumentError("it is no text") from None
    except DocumentError:
        raise
    except (ValueError, RecursionError):
        raise _damaged() from None
    tamed = _tame(root)
    if suspect:
        text = _written_out(root)
    elif tamed:
        text = json.dumps(root)
    if not (ours or TRIAL.reads(text.encode())):
        raise _damaged()
    with told_as(_damaged):
        return SerializableObject.from_json_string(text)


def _damaged() -> DocumentError:
    return DocumentError("it is no timeline, or a damaged one")


def _named_once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    """An object; the library may take the other one of two values of one name."""
    found = dict(pairs)
    if len(found) < len(pairs):
        raise DocumentError("it names a value twice")
    return found


def _tame(root: Any) -> bool:
    """Takes away what plain values do not consist of; the library falls over objects in them.

    Returns:
        Whether there was any.
    """
    tamed, waiting = False, [root]
    while waiting:
        one = waiting.pop()
        parts = _VALUES.get(_schema(one)) if isinstance(one, dict) else None
        if parts is not None:
            for key in [x for x in one if x not in (_SCHEMA, _ID) and not _is_part(one, x, parts)]:
                del one[key]
                tamed = True
        waiting.extend(_children(one))
    return tamed


def _is_part(one: dict[str, Any], key: str, parts: frozenset[str]) -> bool:
    value = one[key]
    plain = _schema(value) in _VALUES if isinstance(value, dict) else not isinstance(value, list)
    return key in parts and plain


def _schema(one: dict[str, Any]) -> str:
    return str(one.get(_SCHEMA, "")).partition(".")[0]


def _written_out(root: Any) -> str:
    """The text with the parts themselves in the place of references to them.

    Raises:
        DocumentError: a part holds itself, or is not there, or it would be far too much.
    """
    known = _checked_references(root)
    room = _MOST_WRITTEN_OUT

    def whole(one: Any) -> Any:
        nonlocal room
        room -= 1
        if room < 0:
            raise DocumentError("it refers to its own parts far too often")
        if isinstance(one, list):
            return [whole(child) for child in one]
        if not isinstance(one, dict):
            return one
        if _is_reference(one):
            goal = known.get(str(one.get(_REFERS_TO)))
            if goal is None:
                raise DocumentError("it refers to a part that is not there")
            return whole(goal)
        return {key: whole(value) for key, value in one.items() if key != _ID}

    try:
        return json.dumps(whole(root))
    except RecursionError:
        raise DocumentError("what it holds is nested too deeply") from None


def _checked_references(root: Any) -> dict[str, Any]:
    """The parts that have a name; none of them holds itself.

    Raises:
        DocumentError: one does, or there are far too many.
    """
    known: dict[str, Any] = {}
    references = 0
    waiting = [(root, 0)]
    while waiting:
        one, deep = waiting.pop()
        if deep > _DEEPEST:
            raise DocumentError("what it holds is nested too deeply")
        if isinstance(one, dict):
            if isinstance(one.get(_ID), str):
                if one[_ID] in known:
                    raise DocumentError("two of its parts have one name")
                known[one[_ID]] = one
            references += _is_reference(one)
        waiting.extend((child, deep + 1) for child in _children(one))
    if references > _MOST_REFERENCES:
        raise DocumentError(f"it refers to its own parts more than {_MOST_REFERENCES} times")
    if references:
        _check_circles(root, known)
    return known


def _check_circles(root: Any, known: dict[str, Any]) -> None:
    """Each object is entered once; one that is entered within itself is a circle."""
    within: set[int] = set()
    done: set[int] = set()
    waiting: list[tuple[Any, bool]] = [(root, False)]
    while waiting:
        one, left = waiting.pop()
        if left:
            within.discard(id(one))
            done.add(id(one))
            continue
        if id(one) in within:
            raise DocumentError("a part of it holds itself")
        if id(one) in done:
            continue
        within.add(id(one))
        waiting.append((one, True))
        if isinstance(one, dict) and _is_reference(one):
            goal = known.get(str(one.get(_REFERS_TO)))
            waiting.extend([(goal, False)] if goal is not None else [])
        waiting.extend((child, False) for child in _children(one))


def _is_reference(one: dict[str, Any]) -> bool:
    return _schema(one) == _REFERENCE


def _children(one: Any) -> list[Any]:
    held = one.values() if isinstance(one, dict) else one if isinstance(one, list) else ()
    return [child for child in held if isinstance(child, dict | list)]
