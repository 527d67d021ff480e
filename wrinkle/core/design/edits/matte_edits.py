"""Edits of what cuts a layer."""

from __future__ import annotations

from msgspec.structs import replace

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.masking import Matte, MatteBy
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.layer_edits import with_layer


def set_matte(wrinkle: Wrinkle, layer_id: str, matte: Matte | None) -> Wrinkle:
    """Lets a layer be cut by another one, or no longer.

    Raises:
        InputError: the layer would be cut by itself; names the circle.
    """
    return with_layer(wrinkle, replace(wrinkle.layer(layer_id), matte=matte))


def usual_by(cutter: Layer) -> MatteBy:
    """What of a layer cuts: the coverage of what has a form, the brightness of a picture."""
    formed = cutter.source.formed
    return MatteBy.COVERAGE if formed else MatteBy.BRIGHTNESS
