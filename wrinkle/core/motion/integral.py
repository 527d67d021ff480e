"""The exact area under a lane: how far a clip has run when its speed is a lane.

Between two keyframes a lane is a mix of their values by an ease, so that its area needs the area
under the ease. That is a closed form for holds, straight lines and Bézier eases; the others are
smooth between known breaks and are summed by Gauss's rule.
"""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise

import numpy as np

from wrinkle.core.motion.easing import (
    Bezier,
    Bounce,
    Break,
    Circular,
    Ease,
    Hold,
    Linear,
    Points,
    Spring,
    Steps,
)
from wrinkle.core.motion.track import Track
from wrinkle.core.motion.values import parts

_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(12)
_PANELS = 8
_SPRING_PANELS = 64


def track_integral(track: Track, rest: float, until: Fraction) -> float:
    """The area under a lane of one number from the cut (time 0) to ``until``, in value · seconds.

    Negative before the cut where the values are positive.
    """
    own = track.released(rest)
    return _from_start(own, until) - _from_start(own, Fraction(0))


def ease_integral(ease: Ease, share: float) -> float:
    """The area under an ease from 0 to ``share`` of its time."""
    if share <= 0.0:
        return 0.0
    if isinstance(ease, Hold):
        return 0.0
    if isinstance(ease, Linear):
        return share * share / 2.0
    if isinstance(ease, Bezier):
        return _under_bezier(ease, share)
    edges = sorted({0.0, share, *(x for x in _breaks(ease) if 0.0 < x < share)})
    return sum(_gauss(ease, low, high) for low, high in pairwise(edges))


def _from_start(track: Track, until: Fraction) -> float:
    """The area from the first keyframe; before it the first value counts backwards."""
    keys = track.keys
    first, last = keys[0], keys[-1]
    if until <= first.time:
        return float(until - first.time) * parts(first.value)[0]
    area = 0.0
    for start, end in pairwise(keys):
        if until <= start.time:
            break
        length = float(end.time - start.time)
        share = 1.0 if until >= end.time else float((until - start.time) / (end.time - start.time))
        a, b = parts(start.value)[0], parts(end.value)[0]
        area += length * (a * share + (b - a) * ease_integral(start.ease, share))
    if until > last.time:
        area += float(until - last.time) * parts(last.value)[0]
    return area


def _under_bezier(ease: Bezier, share: float) -> float:
    """∫ y dx along the curve is ∫ y(s) x'(s) ds: a polynomial of degree 5, exact with 3 nodes."""
    parameter = ease.parameter(share)
    s = (_NODES + 1.0) / 2.0 * parameter
    u = 1.0 - s
    y = 3.0 * u * u * s * ease.y1 + 3.0 * u * s * s * ease.y2 + s**3
    slope = 3.0 * u * u * ease.x1 + 6.0 * u * s * (ease.x2 - ease.x1) + 3.0 * s * s * (1 - ease.x2)
    return float(np.dot(_WEIGHTS, y * slope)) * parameter / 2.0


def _breaks(ease: Ease) -> list[float]:
    """Where an ease is not smooth, or where it swings so fast that the sum wants an edge."""
    if isinstance(ease, Steps):
        return [index / ease.count for index in range(ease.count)]
    if isinstance(ease, Points):
        return [x for x, _ in ease.points]
    if isinstance(ease, Break):
        return [(1.0 - ease.pause) / 2.0, (1.0 + ease.pause) / 2.0]
    if isinstance(ease, Bounce):
        landings = [1.0]
        for bounce in range(1, ease.bounces + 1):
            landings.append(landings[-1] + 2.0 * ease.spring**bounce)
        shares = [landing / landings[-1] for landing in landings]
        # In, out and both run the same flight forwards, backwards and in half the time.
        turned = [1.0 - x for x in shares]
        return [0.5, *shares, *turned, *(x / 2.0 for x in turned), *(0.5 + x / 2.0 for x in shares)]
    if isinstance(ease, Circular):
        # Its curve stands upright at one end: the panels grow smaller towards every such place.
        small = [0.5**k for k in range(1, 30)]
        return [*small, *(1.0 - x for x in small), *(0.5 - x / 2 for x in small),
                *(0.5 + x / 2 for x in small)]  # fmt: skip
    panels = _SPRING_PANELS if isinstance(ease, Spring) else _PANELS
    return [index / panels for index in range(panels)]


def _gauss(ease: Ease, low: float, high: float) -> float:
    middle, half = (low + high) / 2.0, (high - low) / 2.0
    values = [ease.at(middle + half * float(node)) for node in _NODES]
    return float(np.dot(_WEIGHTS, values)) * half
