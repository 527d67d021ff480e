"""The time of a layer: which instant of its clip is seen, and when it is seen at all."""

from __future__ import annotations

import math
from collections.abc import Mapping
from enum import Enum
from fractions import Fraction
from typing import ClassVar

import msgspec
import numpy as np

from wrinkle.core.design.document.setting import HasSettings, Setting, neutral
from wrinkle.core.design.document.setting_specs import TIMING_SETTINGS
from wrinkle.core.errors import InputError
from wrinkle.core.motion.clock import Clock
from wrinkle.core.motion.integral import track_integral
from wrinkle.core.motion.setting_spec import SettingSpec
from wrinkle.core.motion.track import Side
from wrinkle.core.motion.values import parts, require_near

_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(4)
_PANELS_A_FRAME = 4


class Span(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """When a layer is there: from ``start`` (included) to ``end`` (excluded).

    ``None`` ties an end to the first or the last frame of the window.
    """

    start: Fraction | None = None
    end: Fraction | None = None

    def __post_init__(self) -> None:
        require_near(self.start, "The start of a layer")
        require_near(self.end, "The end of a layer")
        if self.start is not None and self.end is not None and self.start >= self.end:
            raise InputError("A layer must end after it starts.")

    def holds(self, time: Fraction) -> bool:
        """Whether the layer is there at ``time``."""
        return (self.start is None or time >= self.start) and (self.end is None or time < self.end)


class Beyond(Enum):
    """What is seen where a clip's handles run out."""

    HOLD = "hold"
    """Its first or last picture."""
    LOOP = "loop"
    """It begins again."""
    NOTHING = "nothing"


class Blink(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """So many frames shown, so many hidden, counted from the layer's start; and again.

    Raises:
        InputError: no frame would be shown, or a number is out of range.
    """

    shown: int = 2
    hidden: int = 2

    def __post_init__(self) -> None:
        if not (1 <= self.shown <= 1000 and 1 <= self.hidden <= 1000):
            raise InputError("A blink shows 1 to 1000 frames and hides 1 to 1000.")


class Timing(HasSettings, frozen=True):
    """How a layer's clip runs.

    Attributes:
        slide: seconds by which the clip is shown later in itself; None is 0.
        speed: per cent; a lane of it is summed exactly.
        reverse: the clip runs backwards through what falls on the cut.
        freeze: the clip's time that is held, in seconds from its own cut point; None lets it run.
        stutter: pictures a second that are held; 0 shows every one.
        blink: the pattern of shown and hidden frames.
        beyond: what is seen where the clip's handles run out.
        frame_blending: pictures between two of the clip's frames are a mix of both.
        along_motion: they are taken along the motion between both, where that is sure.
        sound: whether the clip's own sound runs with it.
    """

    specs: ClassVar[Mapping[str, SettingSpec]] = TIMING_SETTINGS

    slide: Fraction | None = None
    speed: Setting = neutral(TIMING_SETTINGS["speed"])
    reverse: bool = False
    freeze: Fraction | None = None
    stutter: Setting = neutral(TIMING_SETTINGS["stutter"])
    blink: Blink | None = None
    beyond: Beyond = Beyond.HOLD
    frame_blending: bool = False
    along_motion: bool = False
    sound: Setting = neutral(TIMING_SETTINGS["sound"])

    def __post_init__(self) -> None:
        super().__post_init__()
        require_near(self.slide, "What a clip is slid to")
        require_near(self.freeze, "The frozen picture of a clip")

    def shown(self, frame: int, first: int) -> bool:
        """Whether the blink shows a frame of a layer that starts on frame ``first``."""
        if self.blink is None:
            return True
        return (frame - first) % (self.blink.shown + self.blink.hidden) < self.blink.shown

    def clip_time(self, time: Fraction, clock: Clock) -> Fraction:
        """The clip's own time, from its cut point, that is seen at a time from the cut."""
        if self.freeze is not None:
            return self.freeze
        return self.heard_time(self._held(time, clock), clock)

    def heard_time(self, time: Fraction, clock: Clock) -> Fraction:
        """The clip's own time, from its cut point, that is heard where its sound runs along.

        Pictures that are held, all or some, hold no sound.
        """
        run = self._run(time, clock)
        return (self.slide or Fraction(0)) + (-run if self.reverse else run)

    def speed_at(self, time: Fraction, clock: Clock) -> float:
        """Seconds of the clip that pass in a second; negative where it runs backwards."""
        speed = parts(self.speed.seen(time, Side.of(time), clock))[0] / 100.0
        return -speed if self.reverse else speed

    def _held(self, time: Fraction, clock: Clock) -> Fraction:
        typed = parts(self.stutter.seen(time, Side.of(time), clock))[0]
        rate = Fraction(typed).limit_denominator(100_000)
        if rate <= 0:
            return time
        step = 1 / rate
        return math.floor(time / step) * step

    def _run(self, time: Fraction, clock: Clock) -> Fraction:
        """How much of the clip has passed since the cut."""
        speed = self.speed
        if speed.jitter is not None or speed.formula is not None:
            return Fraction(self._summed(time, clock)).limit_denominator(10**9)
        if speed.track is None:
            return time * Fraction(parts(speed.rest)[0]).limit_denominator(10**6) / 100
        area = track_integral(speed.track, parts(speed.rest)[0], time)
        return Fraction(area / 100.0).limit_denominator(10**9)

    def _summed(self, time: Fraction, clock: Clock) -> float:
        """The area under a trembling or worked-out speed, by Gauss's rule on quarter frames."""
        panels = max(1, math.ceil(abs(time * clock.rate.per_second) * _PANELS_A_FRAME))
        step = time / panels
        total = 0.0
        for panel in range(panels):
            for node, weight in zip(_NODES, _WEIGHTS, strict=True):
                at = (panel + Fraction((float(node) + 1.0) / 2.0).limit_denominator(10**6)) * step
                total += weight * parts(self.speed.seen(at, Side.of(at), clock))[0]
        return total * float(step) / 200.0
