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
from wrinkle.core.picture.image import Image, Size
from wrinkle.core.picture.lut import Colours, Lut, looked_up

_TABLE = 33
_WORTH_A_TABLE = 4 * _TABLE**3
"""Pixels; a table is itself worked out from 2 · 33³ colours."""
_FARTHEST = 1.0 / 1023.0
_KEPT_TABLES = 16
_QUICK_READING, _CLOSE_READING = 3, 6
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
        scene: the frame; says by ``preview`` how closely tables are read.
    """
    colours = straight(image)
    chain = tuple(steps)
    table = None
    large = colours.shape[0] * colours.shape[1] >= _WORTH_A_TABLE
    if large and _work(chain) > (_QUICK_READING if scene.preview else _CLOSE_READING):
        table = baked(chain, scene.preview)

    def graded(band: Colours) -> Colours:
        # A table ends at white; a band with brighter colours goes through the tools.
        if table is not None and float(band.max()) <= 1.0 and float(band.min()) >= 0.0:
            found = looked_up(table, band, scene.preview)
        else:
            found = _through(chain, band, scene)
        return np.maximum(found, np.float32(0.0))

    return recoloured(image, in_bands(graded, colours))


@lru_cache(maxsize=_KEPT_TABLES)
def baked(chain: tuple[Step, ...], quick: bool) -> Lut | None:
    """A chain of tools as a table; None where the table is not close enough to the tools.

    Args:
        chain: the tools.
        quick: how the table is going to be read.
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
    apart = np.abs(looked_up(table, between, quick) - _through(chain, between, scene))
    return table if float(apart.max()) <= _FARTHEST else None


def _work(chain: tuple[Step, ...]) -> int:
    """What a chain costs, in plain tools."""
    return sum(_QUICK_READING if step.lut is not None else 1 for step in chain)


def _through(chain: tuple[Step, ...], colours: Colours, scene: Scene) -> Colours:
    for step in chain:
        colours = step.tool(colours, Values(step.values), replace(scene, lut=step.lut))
    return colours
