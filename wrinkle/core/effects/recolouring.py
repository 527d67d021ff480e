"""Colour tools on a picture: one after the other, or all of them at once through a table.

Any chain of tools is a function of one colour, so that it can be written down as a table of 33³
colours. Reading a table costs the same for any chain. It is used for dear chains, and only where it
lies nowhere further than 1/1023 from the tools themselves.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import cv2
import numpy as np

from wrinkle.core.effects.effect import Apply, Scene, Tool, Values
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.bands import bands
from wrinkle.core.picture.compositing import recoloured, straight
from wrinkle.core.picture.grading import Operation, ThroughTable, joined, through
from wrinkle.core.picture.image import Image
from wrinkle.core.picture.lut import Lut, looked_up

_TABLE = 33
_WORTH_A_TABLE = 4 * _TABLE**3
"""Pixels; a table is itself worked out from 2 · 33³ colours."""
_DEAR = 1.5
"""How many times what reading a table costs; it has to be worked out for each new value."""
_FARTHEST = 1.0 / 1023.0
_KEPT_TABLES = 16


@dataclass(frozen=True)
class ColourStep:
    """One tool of a chain with its values.

    Attributes:
        tool: what it makes of a colour.
        values: by key.
        lut: the colour table that it reads, if it does.
    """

    tool: Tool
    values: tuple[tuple[str, Value], ...]
    lut: Lut | None = None


def of_colours(tool: Tool) -> Apply:
    """An effect's function from a tool."""

    def apply(image: Image, values: Values, scene: Scene) -> Image:
        return recoloured_by(image, (ColourStep(tool, tuple(values.items()), scene.lut),))

    return apply


def recoloured_by(image: Image, steps: Sequence[ColourStep]) -> Image:
    """The picture after a chain of tools; its alpha stays.

    Args:
        image: encoded.
        steps: in their order.
    """
    chain = tuple(steps)
    operations = operations_of(chain)
    large = image.size.width * image.size.height >= _WORTH_A_TABLE
    dear = sum(one.cost for one in operations) > _DEAR * ThroughTable.cost
    table = baked(chain) if large and dear else None

    result = np.empty(image.pixels.shape, np.float32)
    for rows in bands(image.pixels):
        band = replace(image, pixels=image.pixels[rows])
        colours = straight(band)
        # A table ends at white; a band with brighter colours goes through the tools.
        if table is not None and float(colours.max()) <= 1.0 and float(colours.min()) >= 0.0:
            found = ThroughTable(table)(colours)
        else:
            found = through(operations, colours)
        _, shown = cv2.threshold(found, 0.0, 0.0, cv2.THRESH_TOZERO, found)
        recoloured(band, shown, result[rows])
    return replace(image, pixels=result)


def operations_of(chain: Sequence[ColourStep]) -> list[Operation]:
    """What a chain of tools does to a colour, one after the other."""
    return joined(one for step in chain for one in step.tool(Values(step.values), step.lut))


@lru_cache(maxsize=_KEPT_TABLES)
def baked(chain: tuple[ColourStep, ...]) -> Lut | None:
    """A chain of tools as a table; None where the table is not close enough to the tools.

    Args:
        chain: the tools.
    """
    operations = operations_of(chain)
    steps = np.linspace(0.0, 1.0, _TABLE, dtype=np.float32)
    lattice = np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1)
    flat = lattice.reshape(_TABLE, _TABLE * _TABLE, 3)
    table = Lut("", "", through(operations, flat.copy()).reshape(lattice.shape))
    # One colour anywhere in each cell, always the same ones.
    dice = np.random.default_rng(33)
    between = flat + dice.random(flat.shape, dtype=np.float32) / np.float32(_TABLE - 1)
    between = np.minimum(between, np.float32(1.0))
    apart = np.abs(looked_up(table, between) - through(operations, between.copy()))
    return table if float(apart.max()) <= _FARTHEST else None
