"""A plain crossfade, for transitions of which nothing but their length is known."""

from __future__ import annotations

from fractions import Fraction

from msgspec.structs import replace

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.timing import Span
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.motion.track import Keyframe, Track
from wrinkle.core.time.rate import FrameRate

_SHORTEST = Fraction(1, 1000)


def crossfade(name: str, lead: Fraction, tail: Fraction, rate: FrameRate) -> Wrinkle:
    """The incoming clip appears over the outgoing one, evenly.

    Args:
        name: of the wrinkle.
        lead, tail: before and after the cut, in seconds; one of both may be 0.
        rate: of its frames.

    Raises:
        InputError: it is too long.
    """
    lead, tail = max(lead, _SHORTEST), max(tail, _SHORTEST)

    def crossing(layer: Layer) -> Layer:
        if layer.id != "incoming":
            return replace(layer, span=Span())
        keys = (Keyframe(-lead, 0.0), Keyframe(tail, 100.0))
        return replace(layer, span=Span(), opacity=replace(layer.opacity, track=Track(keys)))

    plain = replace(plain_cut(name), lead=lead, tail=tail, frame_rate=rate)
    return replace(plain, layers=tuple(crossing(layer) for layer in plain.layers))
