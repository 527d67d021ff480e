"""What a frame's picture depends on, as plain hashable values: equal plans give equal pictures."""

from __future__ import annotations

from dataclasses import dataclass, field, fields
from functools import cached_property

import numpy as np

from wrinkle.core.design.document.layer_kinds import Pictured
from wrinkle.core.design.document.masking import MatteBy
from wrinkle.core.mask.coverage import MaskShape
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.blending import BlendMode
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.placement import Matrix

Rows = tuple[float, ...]
STILL: Rows = tuple(np.eye(3).ravel().tolist())
"""The placement that moves nothing."""


@dataclass(frozen=True)
class SourceFrame:
    """A picture of a source, or a mix of two that follow each other.

    Attributes:
        place: ``("slot", key)`` or ``("asset", name)``.
        identity: of the source.
        index: of the picture.
        size: to which it is scaled.
        following: the other picture, and its share 0…1 in the mix.
        along_motion: the mix is taken along the motion between both.
        backdrop: the frame behind which a blurred copy is laid, for clips of another shape.
        mirrored: what of it is exchanged.
        frozen: its layer shows this picture all the time.
    """

    place: tuple[str, str]
    identity: str
    index: int
    size: Size
    following: tuple[int, float] | None = None
    backdrop: Size | None = None
    mirrored: Direction = Direction.AS_MADE
    along_motion: bool = False
    frozen: bool = field(default=False, compare=False)


@dataclass(frozen=True)
class Grouped:
    """The layers of a group, from the back to the front; ``held`` as in ``FramePlan``."""

    layers: tuple[PlannedLayer, ...]
    held: int = field(default=0, compare=False)


@dataclass(frozen=True)
class PlannedMask:
    """One mask, with the coverage picture that takes the place of its path, if there is one."""

    shape: MaskShape
    painted: SourceFrame | None = None


Content = SourceFrame | Pictured | Grouped


Masks = tuple[PlannedMask, ...]


@dataclass(frozen=True)
class PlannedEffect:
    """An effect with the plain values of its settings, by key.

    Attributes:
        kind: its key.
        values: of its settings.
        timed: whether the time counts.
        motion: of the layer in one frame, in pixels; 0 for effects that do not look at it.
        lut: the name and the identity of its colour table.
        other: the layer that it looks at; None for what lies below, where it looks at that.
        earlier: that layer at its beginning, for effects that compare both.
        steady: its settings never move, so that it does the same in every frame.
    """

    kind: str
    values: tuple[tuple[str, Value], ...]
    timed: bool
    lut: tuple[str, str] = ("", "")
    other: PlannedLayer | None = None
    motion: tuple[float, float] = (0.0, 0.0)
    earlier: PlannedLayer | None = None
    steady: bool = field(default=False, compare=False)

    @property
    def lasts(self) -> bool:
        """Whether it makes the same of the same picture in every frame."""
        others = self.other or self.earlier or self.motion != (0.0, 0.0)
        return self.steady and not (self.timed or others)


@dataclass(frozen=True)
class PlannedMatte:
    """What cuts a layer.

    Attributes:
        layer: the matte as it stands; None where it is not there, and covers nothing.
        by: its brightness or its coverage.
        inverted: what it does not have is shown.
    """

    layer: PlannedLayer | None
    by: MatteBy
    inverted: bool


@dataclass(frozen=True)
class PlannedLayer:
    """One layer at one frame.

    Attributes:
        content: what it shows; None for a treatment, which takes what lies below it.
        effects: what acts on the picture before it is placed, in order; resting ones left out.
        moment: the time in seconds and the frame that timed effects see; 0 without any.
        preview: fewer samples will do, for its effects and its movement.
        fit: from the content's picture to the unmoved frame, nine numbers.
        placements: the samples of its movement, nine numbers each, from frame to frame.
        masks: the masks at those samples: none, one set for all, or one set for each.
        cover: what is outside the picture.
        opacity: 0…1.
        blend, within: how it meets what lies below.
        matte: what cuts it.
        stands: nothing moves it or what it shows, so that it is the same in every frame.
    """

    content: Content | None
    effects: tuple[PlannedEffect, ...] = ()
    moment: tuple[float, int] = (0.0, 0)
    preview: bool = False
    fit: Rows = STILL
    placements: tuple[Rows, ...] = (STILL,)
    masks: tuple[Masks, ...] = ()
    cover: EdgeCover = EdgeCover.BARE
    opacity: float = 1.0
    blend: BlendMode = BlendMode.NORMAL
    within: bool = False
    matte: PlannedMatte | None = None
    stands: bool = field(default=False, compare=False)

    def __hash__(self) -> int:
        return self._hash

    @cached_property
    def _hash(self) -> int:
        # Layers that others are made from are hashed with each of those.
        return hash(tuple(getattr(self, x.name) for x in fields(self) if x.compare))

    @property
    def samples(self) -> int:
        """How many resamplings the layer takes."""
        inner = self.content.layers if isinstance(self.content, Grouped) else ()
        return len(self.placements) + sum(layer.samples for layer in inner)


@dataclass(frozen=True)
class FramePlan:
    """All that a frame's picture depends on; layers from the back to the front.

    Attributes:
        held: so many layers from the back are worth keeping as one picture, because one in front
            of them is being changed.
    """

    size: Size
    layers: tuple[PlannedLayer, ...]
    held: int = field(default=0, compare=False)

    def __hash__(self) -> int:
        return self._hash

    @cached_property
    def _hash(self) -> int:
        # A plan is looked up each time that its picture is painted.
        return hash((self.size, self.layers))

    @property
    def samples(self) -> int:
        """How many resamplings the frame takes."""
        return sum(layer.samples for layer in self.layers)


def rows_of(matrix: Matrix) -> Rows:
    """A 3×3 matrix as nine plain numbers."""
    return tuple(matrix.ravel().tolist())


def matrix_of(rows: Rows) -> Matrix:
    """The 3×3 matrix that nine numbers are."""
    return np.array(rows).reshape(3, 3)
