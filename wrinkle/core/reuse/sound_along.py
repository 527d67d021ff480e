"""A clip's own sound, as a wrinkle runs the clip's pictures."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.sources import SlotSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.sound_run import SoundRun
from wrinkle.core.motion.track import CUT, Side
from wrinkle.core.sound.heard import SoundSource
from wrinkle.core.sound.warping import Warped
from wrinkle.core.synthesis.samples import SAMPLE_RATE, sample_at

_NODES_A_SECOND = 200
"""At which a clip's time is worked out exactly; it is smooth between them."""


def along_pictures(wrinkle: Wrinkle, slot: str, sound: SoundSource, cut: int) -> SoundSource:
    """A clip's sound, run through as the first layer of it runs whose sound runs along.

    Args:
        wrinkle: a plain one, without dials.
        slot: the key of the clip's slot.
        sound: of the clip, as it runs without the wrinkle.
        cut: the sample of the sound that lies on the cut.

    Returns:
        The sound itself where no layer asks for that.
    """
    for layer in wrinkle.layers:
        if not isinstance(layer.source, SlotSource) or layer.source.slot != slot:
            continue
        run = _run(wrinkle, layer)
        if run is SoundRun.AS_IT_WAS:
            continue
        ends = (wrinkle.first_frame, wrinkle.end_frame)
        span = range(*(sample_at(wrinkle.frame_rate, frame) for frame in ends))
        # Grains of it would run forwards where it runs backwards.
        kept = run is SoundRun.PITCH_KEPT and not layer.timing.reverse
        return Warped(sound, cut, span, _Places(wrinkle, layer), kept)
    return sound


def _run(wrinkle: Wrinkle, layer: Layer) -> SoundRun:
    timing = layer.timing
    true = timing.speed.still and timing.speed.rest == 100.0
    if timing.freeze is not None or (true and not timing.reverse and not timing.slide):
        return SoundRun.AS_IT_WAS
    return SoundRun(timing.sound.seen(CUT, Side.of(CUT), wrinkle.clock(layer, CUT)))


@dataclass(frozen=True)
class _Places:
    """Where in a clip's sound each sample is heard, as a layer runs; both counted from the cut."""

    wrinkle: Wrinkle
    layer: Layer

    def __call__(self, samples: NDArray[np.float64]) -> NDArray[np.float64]:
        seconds = samples / SAMPLE_RATE
        inside = np.clip(seconds, float(-self.wrinkle.lead), float(self.wrinkle.tail))
        found: NDArray[np.float64] = self._seconds(inside) + (seconds - inside)
        return found * SAMPLE_RATE

    @cached_property
    def _seconds(self) -> Callable[[NDArray[np.float64]], NDArray[np.float64]]:
        # Not at the top: it takes its time to load, and few clips run unevenly.
        from scipy.interpolate import CubicHermiteSpline

        wrinkle, timing = self.wrinkle, self.layer.timing
        length = wrinkle.lead + wrinkle.tail
        steps = max(2, round(length * _NODES_A_SECOND))
        times = [length * step / steps - wrinkle.lead for step in range(steps + 1)]
        nodes = [(time, wrinkle.clock(self.layer, time)) for time in times]
        seconds = np.array([float(time) for time in times])
        speeds = np.array([timing.speed_at(*node) for node in nodes])
        if timing.speed.jitter is None and timing.speed.formula is None:
            heard = np.array([float(timing.heard_time(*node)) for node in nodes])
        else:
            # To sum what trembles up from the cut to each node would take a second.
            areas = np.diff(seconds) * (speeds[1:] + speeds[:-1]) / 2.0
            heard = np.concatenate([[0.0], np.cumsum(areas)])
            heard += float(timing.slide or 0) - np.interp(0.0, seconds, heard)
        found: Callable[[NDArray[np.float64]], NDArray[np.float64]]
        found = CubicHermiteSpline(seconds, heard, speeds)
        return found
