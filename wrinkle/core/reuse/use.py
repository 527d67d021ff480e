"""A use: a wrinkle on one cut, with its length there and what fills its slots."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from fractions import Fraction

from wrinkle.core.design.document import OUTGOING, Wrinkle
from wrinkle.core.design.retiming import Retiming, retime
from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Filling, Material
from wrinkle.core.render.showing import Showing
from wrinkle.core.time.rate import FrameRate


@dataclass(frozen=True)
class Use:
    """A wrinkle put on one cut.

    Attributes:
        wrinkle: as it was designed.
        fillings: what fills its slots, by their key.
        lead, tail: the lengths before and after the cut, in seconds; None for those designed.
            What lies between cut and end moves in proportion.
    """

    wrinkle: Wrinkle
    fillings: Mapping[str, Filling]
    lead: Fraction | None = None
    tail: Fraction | None = None


def resolved(use: Use, rate: FrameRate) -> Wrinkle:
    """The plain wrinkle that a use comes to at a rate; it is the same in every size of frame.

    Times stay as they are in seconds, but for what holds: it changes on whole frames.

    Raises:
        InputError: a length is not possible.
    """
    lead = use.lead if use.lead is not None else use.wrinkle.lead
    tail = use.tail if use.tail is not None else use.wrinkle.tail
    return retime(use.wrinkle, Retiming(rate, lead, tail, stretch=True))


def showing(
    use: Use, carried: Material, size: Size, rate: FrameRate, quality: Quality = Quality.FINAL
) -> Showing:
    """A use as it is shown.

    Args:
        use: what is put on the cut.
        carried: what the wrinkle brings with it: pictures, colour tables and fonts.
        size: of the pictures.
        rate: of the frames.
        quality: how closely they are rendered.

    Raises:
        InputError: a cut lies outside its clip, or a length is not possible.
    """
    for filling in use.fillings.values():
        source, cut = filling.source, filling.cut
        if not 0 <= cut <= source.duration:
            raise InputError(
                f"The cut of {source.name} must lie within 0 and {float(source.duration):.3g} "
                f"seconds, not {float(cut):.3g}."
            )
    return Showing(resolved(use, rate), replace(carried, slots=use.fillings), size, quality)


def natural_size(use: Use) -> Size:
    """The size of the outgoing clip, one pixel larger where a side is odd."""
    size = use.fillings[OUTGOING.key].source.size
    return Size(size.width + size.width % 2, size.height + size.height % 2)
