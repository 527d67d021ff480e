"""Colour tools on a picture: one after the other, or all of them at once through a table.

Any chain of tools is a function of one colour, so that it can be written down as a table of 33³
colours. Reading a table costs the same for any chain. It is used for long chains, and only where it
lies nowhere further than 1/1023 from the tools themselves.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from wrinkle.core.effects.effect import Apply, Scene, Tool, Values
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.bands import in_bands
from wrinkle.core.picture.compositing import recoloured, straight
from wrinkle.core.picture.image import Image, Pixels, Size
from wrinkle.core.picture.lut import Colours, Lut, looked_up

_TABLE = 33
_WORTH_A_TABLE = 4 * _TABLE**3
"""Pixels; a table is itself worked out from 2 · 33³ colours."""
_FARTHEST = 1.0 / 1023.0
_KEPT_TABLES = 16
_READING = 2
"""What reading a table costs, in plain tools, as measured; see benchmarks/effects.py."""


@dataclass(frozen=True)
class Step:
    """One tool of a chain with its values.

    Attributes:
        tool: the function of a colour.
        values: by key.
        lut: the colour table that it reads, if it does.
    """

    tool: Tool
    values: tuple[tuple[str, Value], ...]
    lut: Lut | None = None


def of_colours(tool: Tool) -> Apply:
    """An effect's function from a tool."""

    def apply(image: Image, values: Values, scene: Scene) -> Image:
        return recoloured_by(image, (Step(tool, tuple(values.items()), scene.lut),), scene)

    return apply


def recoloured_by(image: Image, steps: Sequence[Step], scene: Scene) -> Image:
    """The picture after a chain of tools; its alpha stays.

    Args:
        image: encoded.
        steps: in their order.
        scene: the frame.
    """
    chain = tuple(steps)
    large = image.size.width * image.size.height >= _WORTH_A_TABLE
    table = baked(chain) if large and _work(chain) > _READING else None

    def graded(pixels: Pixels) -> Pixels:
        band = replace(image, pixels=pixels)
        colours = straight(band)
        # A table ends at white; a band with brighter colours goes through the tools.
        if table is not None and float(colours.max()) <= 1.0 and float(colours.min()) >= 0.0:
            found = looked_up(table, colours)
        else:
            found = _through(chain, colours, scene)
        return recoloured(band, np.maximum(found, np.float32(0.0))).pixels

    return replace(image, pixels=in_bands(graded, image.pixels))


@lru_cache(maxsize=_KEPT_TABLES)
def baked(chain: tuple[Step, ...]) -> Lut | None:
    """A chain of tools as a table; None where the table is not close enough to the tools.

    Args:
        chain: the tools.
    """
    scene = Scene.whole(Size(100, 100))
    steps = np.linspace(0.0, 1.0, _TABLE, dtype=np.float32)
    lattice = np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1)
    flat = lattice.reshape(_TABLE, _TABLE * _TABLE, 3)
    table = Lut("", "", _through(chain, flat, scene).reshape(lattice.shape))
    # One colour anywhere in each cell, always the same ones.
    dice = np.random.default_rng(33)
    between = flat + dice.random(flat.shape, dtype=np.float32) / np.float32(_TABLE - 1)
    between = np.minimum(between, np.float32(1.0))
    apart = np.abs(looked_up(table, between) - _through(chain, between, scene))
    return table if float(apart.max()) <= _FARTHEST else None


def _work(chain: tuple[Step, ...]) -> int:
    """What a chain costs, in plain tools."""
    return sum(_READING if step.lut is not None else 1 for step in chain)


def _through(chain: tuple[Step, ...], colours: Colours, scene: Scene) -> Colours:
    for step in chain:
        colours = step.tool(colours, Values(step.values), replace(scene, lut=step.lut))
    return colours
