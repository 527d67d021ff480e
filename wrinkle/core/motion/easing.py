"""Eases: how a value goes from one keyframe to the next.

An ease maps the share of the time that has passed (0…1) to the share of the way (0 at the start,
1 at the end, beyond them where it overshoots). Each is a small frozen type with ``at``,
``reversed`` and a place in the file format by its tag; a new one is one more class in ``Ease``.
"""

from __future__ import annotations

import math

import msgspec

from wrinkle.core.errors import InputError


class Hold(msgspec.Struct, frozen=True, tag="hold", tag_field="kind", forbid_unknown_fields=True):
    """Stays at the start value and changes at the next keyframe; ``early`` changes at once."""

    early: bool = False

    def at(self, share: float) -> float:
        """The share of the way at ``share`` of the time."""
        if self.early:
            return 1.0 if share > 0.0 else 0.0
        return 1.0 if share >= 1.0 else 0.0

    def reversed(self) -> Hold:
        """The ease that is this one run backwards from the end."""
        return Hold(early=not self.early)


class Linear(
    msgspec.Struct, frozen=True, tag="linear", tag_field="kind", forbid_unknown_fields=True
):
    """An even pace."""

    def at(self, share: float) -> float:
        """The share of the way at ``share`` of the time."""
        return min(1.0, max(0.0, share))

    def reversed(self) -> Linear:
        """The ease that is this one run backwards from the end."""
        return self


class Bezier(
    msgspec.Struct, frozen=True, tag="bezier", tag_field="kind", forbid_unknown_fields=True
):
    """A cubic Bézier curve from (0, 0) to (1, 1) with two handles.

    ``x1`` and ``x2`` are shares of time within 0…1, so that each time has one value; ``y1`` and
    ``y2`` are shares of the way and may lie outside 0…1 (overshoot).

    Raises:
        InputError: a handle is not finite, or its time is outside 0…1.

    Source: CSS Easing Functions Level 1, section 2.2, cubic-bezier().
    """

    x1: float
    y1: float
    x2: float
    y2: float

    def __post_init__(self) -> None:
        if not all(math.isfinite(v) for v in (self.x1, self.y1, self.x2, self.y2)):
            raise InputError("The handles of an ease must be finite numbers.")
        if not (0.0 <= self.x1 <= 1.0 and 0.0 <= self.x2 <= 1.0):
            raise InputError(
                f"The handles of an ease must lie within 0 and 1 in time, not {self.x1:g} and "
                f"{self.x2:g}."
            )

    def at(self, share: float) -> float:
        """The share of the way at ``share`` of the time."""
        if share <= 0.0:
            return 0.0
        if share >= 1.0:
            return 1.0
        return _bezier(self.y1, self.y2, self._parameter(share))

    def reversed(self) -> Bezier:
        """The ease that is this one run backwards from the end."""
        return Bezier(1.0 - self.x2, 1.0 - self.y2, 1.0 - self.x1, 1.0 - self.y1)

    def _parameter(self, share: float) -> float:
        """The curve's parameter at which its time is ``share``.

        The time never falls along the curve, so that bisection always has the root between its
        two ends; Newton's step is taken wherever it stays between them.
        """
        low, high, parameter = 0.0, 1.0, share
        for _ in range(80):
            miss = _bezier(self.x1, self.x2, parameter) - share
            if miss == 0.0 or high - low < 1e-16:
                break
            if miss > 0.0:
                high = parameter
            else:
                low = parameter
            slope = _bezier_slope(self.x1, self.x2, parameter)
            step = parameter - miss / slope if slope > 0.0 else low
            following = step if low < step < high else (low + high) / 2.0
            if following == parameter:
                break
            parameter = following
        return parameter


class Exponential(
    msgspec.Struct, frozen=True, tag="exponential", tag_field="kind", forbid_unknown_fields=True
):
    """Each equal step of time multiplies the value's gain by the same factor.

    ``ratio`` (above 1) is the pace at the end divided by the pace at the start. From 1 to
    ``ratio`` the value is ``ratio ** share``. ``out`` runs it backwards: fast first.
    """

    ratio: float
    out: bool = False

    def __post_init__(self) -> None:
        if not (math.isfinite(self.ratio) and self.ratio > 1.0):
            raise InputError(
                f"The ratio of an exponential ease must be above 1, not {self.ratio:g}."
            )

    def at(self, share: float) -> float:
        """The share of the way at ``share`` of the time."""
        share = min(1.0, max(0.0, share))
        if self.out:
            return 1.0 - self._into(1.0 - share)
        return self._into(share)

    def reversed(self) -> Exponential:
        """The ease that is this one run backwards from the end."""
        return Exponential(self.ratio, not self.out)

    def _into(self, share: float) -> float:
        growth = math.log(self.ratio)
        return math.expm1(growth * share) / math.expm1(growth)


Ease = Hold | Linear | Bezier | Exponential


def _bezier(first: float, second: float, parameter: float) -> float:
    a = 1.0 + 3.0 * first - 3.0 * second
    b = 3.0 * second - 6.0 * first
    c = 3.0 * first
    return ((a * parameter + b) * parameter + c) * parameter


def _bezier_slope(first: float, second: float, parameter: float) -> float:
    a = 1.0 + 3.0 * first - 3.0 * second
    b = 3.0 * second - 6.0 * first
    c = 3.0 * first
    return (3.0 * a * parameter + 2.0 * b) * parameter + c
