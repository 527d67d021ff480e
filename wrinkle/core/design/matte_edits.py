"""Edits of what cuts a layer."""

from __future__ import annotations

from msgspec.structs import replace

from wrinkle.core.design.document import Wrinkle
from wrinkle.core.design.layer_edits import with_layer
from wrinkle.core.design.masking import Matte


def set_matte(wrinkle: Wrinkle, layer_id: str, matte: Matte | None) -> Wrinkle:
    """Lets a layer be cut by another one, or no longer.

    Raises:
        InputError: the layer would be cut by itself; names the circle.
    """
    return with_layer(wrinkle, replace(wrinkle.layer(layer_id), matte=matte))
