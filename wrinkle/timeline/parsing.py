"""The text of a timeline as the library's objects, once it is sure that these do no harm.

The library follows references without end and takes any amount of memory; a fault in it ends the
program. So what could do that is refused before.
"""

from __future__ import annotations

import json
from typing import Any

from opentimelineio._otio import SerializableObject

from wrinkle.core.errors import DocumentError
from wrinkle.files.tokens import check_tokens

_MOST_TOKENS = 3_000_000
_MOST_CLIPS = 10_000
_MOST_REFERENCES = 10_000
_DEEPEST = 200
_MAY_REFER = (b"ObjectRef", rb"\u00")
"""One of these stands in whatever holds a reference, be its letters escaped."""
_REFERENCE, _ID, _REFERS_TO = "SerializableObjectRef", "OTIO_REF_ID", "id"


def parsed(content: bytes) -> SerializableObject:
    """What the text of a timeline holds.

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
        raise DocumentError("it is no timeline, or a damaged one") from None
    if suspect:
        _check_references(root)
    try:
        return SerializableObject.from_json_string(text)
    except Exception:  # noqa: BLE001 - the library has many errors, with no common kind
        raise DocumentError("it is no timeline, or a damaged one") from None


def _named_once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    """An object; the library may take the other one of two values of one name."""
    found = dict(pairs)
    if len(found) < len(pairs):
        raise DocumentError("it names a value twice")
    return found


def _check_references(root: Any) -> None:
    """Refuses objects that hold themselves by way of references, and far too many of these."""
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
    if not references:
        return
    if references > _MOST_REFERENCES:
        raise DocumentError(f"it refers to its own parts more than {_MOST_REFERENCES} times")
    _check_circles(root, known)


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
            # The library gives up on what refers to nothing; that is told as a damaged timeline.
            waiting.extend([(goal, False)] if goal is not None else [])
        waiting.extend((child, False) for child in _children(one))


def _is_reference(one: dict[str, Any]) -> bool:
    return str(one.get("OTIO_SCHEMA", "")).startswith(_REFERENCE)


def _children(one: Any) -> list[Any]:
    held = one.values() if isinstance(one, dict) else one if isinstance(one, list) else ()
    return [child for child in held if isinstance(child, dict | list)]
