"""Eases: how a value goes from one keyframe to the next.

An ease maps the share of the time that has passed (0…1) to the share of the way (0 at the start,
1 at the end, beyond them where it overshoots). Each is a small frozen type with ``at``, ``slope``
(the pace: the derivative of ``at``), ``reversed`` and a place in the file format by its tag. A new
one is one more class in ``Ease``.
"""

from wrinkle.core.motion.ease_curves import Bezier, Break, Hold, Jump, Linear, Points, Steps
from wrinkle.core.motion.ease_shapes import (
    Back,
    Bounce,
    Circular,
    Exponential,
    Power,
    Sine,
    Spring,
    Way,
)

Ease = (
    Hold
    | Linear
    | Bezier
    | Steps
    | Points
    | Break
    | Power
    | Sine
    | Exponential
    | Circular
    | Back
    | Bounce
    | Spring
)

__all__ = [
    "Back",
    "Bezier",
    "Bounce",
    "Break",
    "Circular",
    "Ease",
    "Exponential",
    "Hold",
    "Jump",
    "Linear",
    "Points",
    "Power",
    "Sine",
    "Spring",
    "Steps",
    "Way",
]
