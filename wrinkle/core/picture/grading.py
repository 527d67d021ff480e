"""The operations that colour tools are made of; each is a function of one encoded colour."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import ClassVar, Protocol

import cv2
import numpy as np
from numpy.typing import ArrayLike, NDArray

from wrinkle.core.picture.channels import LUMA, threefold
from wrinkle.core.picture.compiled import passes
from wrinkle.core.picture.lut import Colours, Lut, looked_up, through_levels

_LEAST_LUMA = np.float32(1e-6)
_LARGEST_CORRECTION = np.float32(20.0)


class Operation(Protocol):
    """From encoded colours without alpha to others, each by itself.

    Colours are ``(H, W, 3)`` float32, whole in memory. Those that it gives may lie below 0 or
    above 1, and may stand in the array that it is given.
    """

    @property
    def cost(self) -> float:
        """How long it takes, with a mix as 1; as measured, see benchmarks/effects.py."""

    def __call__(self, colours: Colours) -> Colours:
        """The colours after it."""


@dataclass(frozen=True)
class ColourMix:
    """Each channel a sum of all three, and of a shift.

    Attributes:
        rows: ``(3, 3)``, a row for each channel of the result.
        shift: ``(3,)``, or one number for all.
    """

    rows: ArrayLike
    shift: ArrayLike = 0.0
    cost: ClassVar[float] = 1.0

    @cached_property
    def matrix(self) -> NDArray[np.float64]:
        """``(3, 4)``: the rows, each with its shift."""
        shift = np.broadcast_to(np.asarray(self.shift, np.float64), 3)
        return np.column_stack((np.asarray(self.rows, np.float64), shift))

    def __call__(self, colours: Colours) -> Colours:
        mixed: Colours = cv2.transform(colours, self.matrix.astype(np.float32), colours)
        return mixed

    def then(self, other: ColourMix) -> ColourMix:
        """Both as one."""
        rows, shift = self.matrix[:, :3], self.matrix[:, 3]
        return ColourMix(
            other.matrix[:, :3] @ rows, other.matrix[:, :3] @ shift + other.matrix[:, 3]
        )


def scaled(factors: ArrayLike, shift: ArrayLike = 0.0) -> ColourMix:
    """Each channel times a factor of its own, or all times one; and shifted."""
    return ColourMix(np.diag(np.broadcast_to(np.asarray(factors, np.float64), 3)), shift)


@dataclass(frozen=True)
class Balance:
    """Each channel times a factor, and then all of them so that the luma stays.

    Attributes:
        factors: ``(3,)``, above 0.
    """

    factors: ArrayLike
    cost: ClassVar[float] = 2.0

    def __call__(self, colours: Colours) -> Colours:
        factors = np.asarray(self.factors, np.float32)
        # Colours with less than nothing of a channel can balance to a luma of all but nothing.
        within = _LEAST_LUMA, _LARGEST_CORRECTION
        compiled = passes()
        if compiled is not None:
            compiled.balance(colours, factors, LUMA, *within)
            return colours
        # Step for step as in the compiled pass.
        planes = cv2.split(colours)
        balanced = [plane * factor for plane, factor in zip(planes, factors, strict=True)]
        after = np.maximum(_luma(balanced), within[0])
        kept = np.minimum(np.maximum(_luma(planes) / after, np.float32(0.0)), within[1])
        return np.asarray(cv2.merge(balanced) * threefold(kept.astype(np.float32)), np.float32)


@dataclass(frozen=True)
class Levels:
    """Each channel, held within 0…1, through a table of its own.

    Attributes:
        tables: ``(3, N)`` float32, in even steps from 0 to 1.
    """

    tables: Colours
    cost: ClassVar[float] = 4.0

    def __call__(self, colours: Colours) -> Colours:
        return through_levels(self.tables, colours)


@dataclass(frozen=True)
class ThroughTable:
    """The colours through a colour table.

    Attributes:
        lut: the table.
        share: 0…1, how much of what it gives.
    """

    lut: Lut
    share: float = 1.0
    cost: ClassVar[float] = 12.0

    def __call__(self, colours: Colours) -> Colours:
        if self.share == 1.0:
            return looked_up(self.lut, colours, colours)
        graded = looked_up(self.lut, colours)
        found: Colours = cv2.addWeighted(graded, self.share, colours, 1.0 - self.share, 0.0)
        return found


@dataclass(frozen=True)
class Other:
    """Any other function of colours."""

    function: Callable[[Colours], Colours]
    cost: float = 8.0

    def __call__(self, colours: Colours) -> Colours:
        return self.function(colours)


def joined(operations: Iterable[Operation]) -> list[Operation]:
    """The same operations, neighbouring mixes as one."""
    found: list[Operation] = []
    for one in operations:
        last = found[-1] if found else None
        if isinstance(one, ColourMix) and isinstance(last, ColourMix):
            found[-1] = last.then(one)
        else:
            found.append(one)
    return found


def through(operations: Sequence[Operation], colours: Colours) -> Colours:
    """Colours after operations, one after the other; may stand in the array that is given."""
    for one in operations:
        colours = one(colours)
    return colours


def _luma(planes: Sequence[Colours]) -> Colours:
    red, green, blue = (plane * weight for plane, weight in zip(planes, LUMA, strict=True))
    return np.asarray(red + green + blue, np.float32)
