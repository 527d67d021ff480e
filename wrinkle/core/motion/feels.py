"""Feels: eases with a name; and the text in which an ease is typed."""

from __future__ import annotations

import re

from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Bezier, Ease, Exponential, Hold, Linear

FEELS: dict[str, Ease] = {
    "steady": Linear(),
    "gentle": Bezier(0.46, 0.03, 0.54, 0.97),
    "rush": Bezier(0.62, 0.0, 0.88, 0.5),
    "brake": Bezier(0.12, 0.5, 0.38, 1.0),
    "snap": Bezier(0.86, 0.0, 0.14, 1.0),
    "overshoot": Bezier(0.3, 0.9, 0.42, 1.32),
    "surge": Exponential(180.0),
    "hold": Hold(),
}

# CSS Easing Functions Level 1, section 2.2: the named curves.
_CSS: dict[str, Ease] = {
    "linear": Linear(),
    "ease": Bezier(0.25, 0.1, 0.25, 1.0),
    "ease-in": Bezier(0.42, 0.0, 1.0, 1.0),
    "ease-out": Bezier(0.0, 0.0, 0.58, 1.0),
    "ease-in-out": Bezier(0.42, 0.0, 0.58, 1.0),
}
_CALL = re.compile(r"^([a-z-]+)\(([^()]*)\)$")


def feel_of(ease: Ease) -> str | None:
    """The name of the feel that is exactly this ease, if there is one."""
    return next((name for name, known in FEELS.items() if known == ease), None)


def ease_text(ease: Ease) -> str:
    """The ease as it can be typed: a feel's name, or the curve in numbers."""
    name = feel_of(ease)
    if name is not None:
        return name
    match ease:
        case Bezier(x1=x1, y1=y1, x2=x2, y2=y2):
            return f"cubic-bezier({x1:.6g}, {y1:.6g}, {x2:.6g}, {y2:.6g})"
        case Exponential(ratio=ratio, out=out):
            return f"exponential({ratio:.6g}{', out' if out else ''})"
        case Hold():
            return "hold-early"
        case Linear():
            return "steady"


def parse_ease(text: str) -> Ease:
    """The ease that a person typed: a feel, a CSS name, or a curve in numbers.

    Raises:
        InputError: the text names no ease; the message lists what can be written.
    """
    cleaned = text.strip().lower()
    if cleaned in FEELS:
        return FEELS[cleaned]
    if cleaned in _CSS:
        return _CSS[cleaned]
    if cleaned == "hold-early":
        return Hold(early=True)
    match = _CALL.match(cleaned)
    if match is not None:
        name, inside = match.groups()
        words = [word.strip() for word in inside.split(",")]
        try:
            if name == "cubic-bezier" and len(words) == 4:
                return Bezier(*(float(word) for word in words))
            if name == "exponential" and words[1:] in ([], ["out"]):
                return Exponential(float(words[0]), out=len(words) == 2)
        except ValueError:
            pass
    raise InputError(
        f"'{text.strip()}' is not an ease; write a feel ({', '.join(FEELS)}) or "
        "cubic-bezier(x1, y1, x2, y2)."
    )
