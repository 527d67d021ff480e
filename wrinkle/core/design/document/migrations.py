"""Older formats of ``wrinkle.json``: one step for each, from a format to the next one.

A step changes the plain JSON, before it is read as a document: the types are those of today, and a
step must do the same for ever. Each is tested on a file that was saved in its format.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from fractions import Fraction
from typing import Any

Raw = dict[str, Any]


def _with_dials(raw: Raw) -> Raw:
    """Format 2 has dials, directions, stand-ins and lengths that are kept, none of them in 1.

    Outlines are held to twelve decimals, so that they come back from a mirror.
    """
    found = _rounded(raw)
    return found if isinstance(found, dict) else raw


def _rounded(raw: Any, inside: bool = False) -> Any:
    """Numbers within the paths of masks and shapes to twelve decimals."""
    if isinstance(raw, dict):
        return {key: _rounded(value, inside or key == "path") for key, value in raw.items()}
    if isinstance(raw, list):
        return [_rounded(value, inside) for value in raw]
    return round(raw, 12) if inside and isinstance(raw, float) else raw


def _with_sounds(raw: Raw) -> Raw:
    """Format 3 has sounds, of which 2 has none; all else is the same."""
    return raw


def _with_aside(raw: Raw) -> Raw:
    """Format 4 has findings that are set aside, of which 3 has none; all else is the same."""
    return raw


def _with_sound_settings(raw: Raw) -> Raw:
    """In format 5 what can be set of a sound are settings; in 4 they were plain numbers.

    A sound has an id that no layer has.
    """
    taken = {layer.get("id") for layer in raw.get("layers", ()) if isinstance(layer, dict)}
    sounds = []
    for sound in raw.get("sounds", ()):
        if not isinstance(sound, dict):
            return raw
        found = {key: value for key, value in sound.items() if key not in _PLAIN}
        for key, factor in _PLAIN.items():
            if key in sound:
                found[key] = {"rest": _number(sound[key], factor)}
        while found.get("id") in taken:
            found["id"] = f"{found['id']}-sound"
        taken.add(found.get("id"))
        sounds.append(found)
    return {**raw, "sounds": sounds} if sounds else raw


_PLAIN = {"length": 1, "level": 1, "pitch": 100, "seed": 1}
"""Numbers of a sound in format 4, and how many of today's unit are one of them."""


def _number(value: Any, factor: int) -> Any:
    """A number of format 4; what is none stays, so that whoever reads it says so."""
    try:
        # Fractions were written as they are typed.
        return round(float(Fraction(value)) * factor, 12)
    except (TypeError, ValueError, ZeroDivisionError, OverflowError):
        return value


def _with_departures(raw: Raw) -> Raw:
    """In format 6 *times* acts on how far a setting is from rest; before, on all of it."""
    dials = raw.get("dials", ())
    if not isinstance(dials, list):
        return raw
    return {**raw, "dials": [_all_multiplied(x) for x in dials]} if dials else raw


def _all_multiplied(dial: Any) -> Any:
    if not isinstance(dial, dict) or not isinstance(dial.get("drives"), list):
        return dial
    drives = [
        {**x, "how": "times all of it"} if isinstance(x, dict) and x.get("how") == "times" else x
        for x in dial["drives"]
    ]
    return {**dial, "drives": drives}


MIGRATIONS: Mapping[int, Callable[[Raw], Raw]] = {
    1: _with_dials,
    2: _with_sounds,
    3: _with_aside,
    4: _with_sound_settings,
    5: _with_departures,
}
"""By the format that they start from."""


def migrated(raw: Raw, goal: int) -> Raw:
    """A document of an older format as one of the format ``goal``."""
    for number in range(raw["format"], goal):
        raw = {**MIGRATIONS[number](raw), "format": number + 1}
    return raw
