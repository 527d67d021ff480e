"""Where a lane's curve, pins and handles stand, and what a place in the lane means."""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from typing import TypeVar

from PyQt6.QtCore import QLineF, QPointF

from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.edits.lane_edits import on_own_half, shown_keys
from wrinkle.core.motion.easing import Bezier, Linear
from wrinkle.core.motion.setting_spec import ChoiceSpec, PairSpec, SettingSpec
from wrinkle.core.motion.track import IncomingHalf, Side
from wrinkle.core.motion.values import Value, discrete, parts
from wrinkle.ui.desk.looking import PinChoice
from wrinkle.ui.shared.frame_axis import FrameAxis

REACH = 12.0
_PAD = 12
_MOST_POINTS_A_FRAME = 3
_NARROW = 4.0
"""Points; in a narrower cell a step is as steep with one point a frame."""
_EVEN = Bezier(1 / 3, 1 / 3, 2 / 3, 2 / 3)


@dataclass(frozen=True)
class Pin:
    """A pin's head: of a keyframe, on a side, for one number of its value."""

    choice: PinChoice
    part: int
    spot: QPointF
    time: Fraction
    value: Value


@dataclass(frozen=True)
class Handle:
    """One of the two handles of an ease, on a stem from its pin."""

    number: int
    anchor: QPointF
    spot: QPointF


Thing = TypeVar("Thing", Pin, Handle)


@dataclass(frozen=True)
class LaneGeometry:
    """One setting on an axis.

    Attributes:
        ref, spec, setting: what is drawn; the setting is a lane.
        rate: frames per second.
        axis: where the frames stand.
        height: of the lane in pixels.
        low, high: the numbers at its foot and its head.
    """

    ref: SettingRef
    spec: SettingSpec
    setting: Setting
    rate: Fraction
    axis: FrameAxis
    height: int
    low: float
    high: float

    def x(self, time: Fraction) -> float:
        """Where a time stands."""
        return self.axis.x(float(time * self.rate))

    def y(self, number: float) -> float:
        """Where a number stands."""
        return self.height - _PAD - (number - self.low) * self._pixels_a_unit

    def number_at(self, y: float) -> float:
        """The number at a height."""
        return self.low + (self.height - _PAD - y) / self._pixels_a_unit

    @property
    def _pixels_a_unit(self) -> float:
        return (self.height - 2 * _PAD) / (self.high - self.low)

    def numbers(self, value: Value) -> tuple[float, ...]:
        """A value as the numbers that are drawn: a choice by its place, a colour in the middle."""
        return drawn_numbers(self.spec, value)

    def value_at(self, number: float, old: Value) -> Value:
        """The choice, or yes or no, that a dragged number stands for."""
        if isinstance(old, bool):
            return number >= 0.5
        if isinstance(self.spec, ChoiceSpec):
            place = min(max(round(number), 0), len(self.spec.choices) - 1)
            return self.spec.choices[place]
        return old

    def pins(self) -> list[Pin]:
        """All pins, the mirrored ones too."""
        pins = []
        linked = isinstance(self.spec, PairSpec) and self.spec.linked
        for index, side, time, value in shown_keys(self.setting):
            numbers = self.numbers(value)
            if linked and len(set(numbers)) == 1:
                numbers = numbers[:1]
            for part, number in enumerate(numbers):
                spot = QPointF(self.x(time), self.y(number))
                pins.append(Pin(PinChoice(self.ref, index, side), part, spot, time, value))
        return pins

    def own_time(self, pin: Pin) -> Fraction:
        """The time of the keyframe behind a pin: a mirrored pin has it on the other side."""
        return on_own_half(self.setting, pin.choice.side, pin.time, pin.value)[0]

    def follows(self, pin: Pin) -> bool:
        """Whether a pin only follows the one on the other side of the cut."""
        track = self.setting.track
        mirrored = track is not None and track.incoming is not IncomingHalf.OWN
        return mirrored and pin.choice.side is Side.INCOMING

    def handles(self, pin: PinChoice | None) -> list[Handle]:
        """The two handles of the ease that leads on from a pin, if it has any."""
        ends = self._ends(pin)
        curve = self._curve_of(pin)
        if ends is None or curve is None:
            return []
        start, end = ends
        way = end - start
        return [
            Handle(
                number,
                start if number == 0 else end,
                QPointF(start.x() + way.x() * across, start.y() + way.y() * up),
            )
            for number, across, up in ((0, curve.x1, curve.y1), (1, curve.x2, curve.y2))
        ]

    def ease_with(self, pin: PinChoice, number: int, spot: QPointF) -> Bezier | None:
        """The ease that results from a handle dragged to a spot."""
        ends, curve = self._ends(pin), self._curve_of(pin)
        if ends is None or curve is None:
            return None
        start, end = ends
        way = end - start
        across = round(min(max((spot.x() - start.x()) / way.x(), 0.0), 1.0), 3)
        flat = abs(way.y()) < 1e-6
        if number == 0:
            up = curve.y1 if flat else round((spot.y() - start.y()) / way.y(), 3)
            return Bezier(across, up, curve.x2, curve.y2)
        up = curve.y2 if flat else round((spot.y() - start.y()) / way.y(), 3)
        return Bezier(curve.x1, curve.y1, across, up)

    def curve(self, part: int, side: Side) -> list[QPointF]:
        """The curve of one side."""
        points: list[QPointF] = []
        track, rest = self.setting.track, self.setting.rest
        frames, times = _drawn_at(*self._span(side), self.rate)
        values = track.drawn(times, rest, side) if track is not None else [rest] * len(frames)
        steps = discrete(rest)
        numbers = parts if self.spec.numeric else self.numbers
        left, cell, foot, unit = self.axis.x(0), self.axis.cell, self.y(0.0), self._pixels_a_unit
        for frame, value in zip(frames, values, strict=True):
            spot = QPointF(left + frame * cell, foot - numbers(value)[part] * unit)
            if points and steps:
                points.append(QPointF(spot.x(), points[-1].y()))
            points.append(spot)
        return points

    def speed_curves(self, part: int) -> list[list[QPointF]]:
        """The speed of both sides on one scale: the fastest fills half the lane."""
        sides = [(self._frames(side), self._speeds(part, side)) for side in Side]
        finite = [abs(s) for _, speeds in sides for s in speeds if math.isfinite(s)]
        largest = max(finite, default=0.0) or 1.0
        middle, reach = self.height / 2, self.height / 2 - _PAD / 2
        return [
            [
                QPointF(self.axis.x(float(n)), middle - reach * min(max(s / largest, -1.0), 1.0))
                for n, s in zip(frames, speeds, strict=True)
            ]
            for frames, speeds in sides
        ]

    def _speeds(self, part: int, side: Side) -> list[float]:
        track, rest = self.setting.track, self.setting.rest
        if track is None:
            return []
        times = (frame / self.rate for frame in self._frames(side))
        return [parts(track.speed_at(time, rest, side))[part] for time in times]

    def _frames(self, side: Side) -> list[Fraction]:
        return _broken_frames(*self._span(side))

    def _span(self, side: Side) -> tuple[int, int, int]:
        """A few points for each frame of a side, so that holds look like steps.

        Gives the first and the last one, counted from the cut, and how many there are in a frame.
        """
        start, end = (self.axis.first, 0) if side is Side.OUTGOING else (0, self.axis.end)
        cell = self.axis.cell
        fine = 1 if cell < _NARROW else min(max(2, int(cell / 4)), _MOST_POINTS_A_FRAME)
        return start * fine, end * fine, fine

    def pin_before(self, spot: QPointF) -> PinChoice | None:
        """The pin whose ease a spot on the curve belongs to; None away from the curve."""
        if self.setting.track is None:
            return None
        time = Fraction(self.axis.frame(spot.x())).limit_denominator(1000) / self.rate
        value = self.setting.at(time)
        if all(abs(self.y(number) - spot.y()) > REACH for number in self.numbers(value)):
            return None
        side = Side.of(time)
        own, _ = on_own_half(self.setting, side, time, self.setting.rest)
        before = [i for i, key in enumerate(self.setting.track.keys) if key.time <= own]
        return PinChoice(self.ref, before[-1] if before else 0, side)

    def _curve_of(self, pin: PinChoice | None) -> Bezier | None:
        """The curve that the handles show: an even pace can be bent, a step cannot."""
        track = self.setting.track
        if track is None or pin is None or pin.ref != self.ref or pin.index >= len(track.keys):
            return None
        if discrete(self.setting.rest):
            return None
        ease = track.keys[pin.index].ease
        if isinstance(ease, Linear):
            return _EVEN
        return ease if isinstance(ease, Bezier) else None

    def _ends(self, pin: PinChoice | None) -> tuple[QPointF, QPointF] | None:
        """Where the ease of a pin begins and ends."""
        track = self.setting.track
        if track is None or pin is None or pin.ref != self.ref:
            return None
        if pin.index + 1 >= len(track.keys):
            return None
        start, end = track.keys[pin.index], track.keys[pin.index + 1]
        if start.time == end.time:
            return None
        first, second = (
            QPointF(self.x(key.time), self.y(self.numbers(key.value)[0])) for key in (start, end)
        )
        return first, second


def _broken_frames(start: int, end: int, fine: int) -> list[Fraction]:
    return [Fraction(n, fine) for n in range(start, end + 1)]


@lru_cache(64)
def _drawn_at(
    start: int, end: int, fine: int, rate: Fraction
) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Broken frame numbers and their times in seconds: the same at each move of a drag."""
    frames = _broken_frames(start, end, fine)
    return tuple(map(float, frames)), tuple(float(frame / rate) for frame in frames)


def drawn_numbers(spec: SettingSpec, value: Value) -> tuple[float, ...]:
    """The numbers by which a value is drawn in a lane."""
    if isinstance(value, bool):
        return (float(value),)
    if isinstance(spec, ChoiceSpec):
        return (float(spec.choices.index(str(value))),)
    if spec.numeric:
        return parts(value)
    return (0.5,)


def value_range(setting: Setting, spec: SettingSpec) -> tuple[float, float]:
    """The smallest and largest number of a lane's pins and its rest, some way apart."""
    if isinstance(spec, ChoiceSpec):
        return 0.0, float(max(1, len(spec.choices) - 1))
    if not spec.numeric:
        return 0.0, 1.0
    numbers = list(parts(setting.rest))
    for _, _, _, value in shown_keys(setting):
        numbers += parts(value)
    low, high = min(numbers), max(numbers)
    least = spec.step * 10
    if high - low < least:
        middle = (low + high) / 2
        return middle - least / 2, middle + least / 2
    return low, high


def twin_of(pin: PinChoice) -> PinChoice:
    """The same keyframe on the other side of the cut, in a lane that mirrors one half."""
    other = Side.INCOMING if pin.side is Side.OUTGOING else Side.OUTGOING
    return PinChoice(pin.ref, pin.index, other)


def nearest(things: list[Thing], spot: QPointF) -> Thing | None:
    """The pin or handle within reach of a spot, the closest one first."""
    near = [thing for thing in things if far(thing, spot) <= REACH]
    return min(near, key=lambda thing: far(thing, spot), default=None)


def far(thing: Pin | Handle, spot: QPointF) -> float:
    """The distance of a pin or handle from a spot, in pixels."""
    return QLineF(thing.spot, spot).length()
