"""What all kinds of layers have in common, and the list of them.

A kind is one struct with a tag in the file, and its declaration beside it. What it is called, what
a new one begins with, what a mirror makes of it and how it is drawn come with it; files, window and
renderer follow from that.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, ClassVar, Protocol, Self

from msgspec.structs import replace

from wrinkle.core.design.document.setting import HasSettings, Setting
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.faces import Fonts
from wrinkle.core.picture.image import Image, Size
from wrinkle.core.registering import Registry


class Pictured(Protocol):
    """The plain values of a drawn picture: hashable, and enough to draw it."""

    def picture(self, size: Size) -> Image:
        """Its picture in a frame of a size, linear or encoded."""


@dataclass(frozen=True)
class Seeing:
    """What a kind that is drawn may look at.

    Attributes:
        value: gives the value of a setting at the frame.
        size: of the frame in pixels; all lengths become pixels of it.
        drawn_in: the frame in which it was designed.
        fonts: those that ship, for words without a font of the system.
    """

    value: Callable[[Setting], Value]
    size: Size
    drawn_in: tuple[int, int]
    fonts: Fonts


class _Source:
    """The type of the field that holds a source.

    It is no struct: whoever reads a file (``coding``) asks the registry for it. Else the kinds
    would be those that were known when the document was declared.
    """

    __slots__ = ()


class LayerSource(HasSettings, _Source, frozen=True, tag_field="kind"):
    """The base of all kinds.

    Attributes:
        formed: it has a form of its own, so that it cuts as a matte by where it is.
    """

    formed: ClassVar[bool] = False

    def in_mirror(self, direction: Direction) -> Self:
        """What is no setting, in a mirror."""
        if "mirrored" not in self.__struct_fields__:
            return self
        mirrored: Direction = getattr(self, "mirrored")  # noqa: B009 - not every kind has it
        return replace(self, mirrored=mirrored.then(direction))

    def words(self, called: Callable[[str], str]) -> str:
        """What it shows, in short.

        Args:
            called: what a slot is called in a sentence.
        """
        return layer_kind(self).label.lower()


if TYPE_CHECKING:
    Source = LayerSource
else:
    Source = _Source


class DrawnSource(LayerSource, frozen=True):
    """The base of the kinds that are drawn from their settings alone."""

    def drawn(self, seeing: Seeing) -> Pictured:
        """The plain values of its picture at a frame.

        Raises:
            TypeError: the kind does not say it.
        """
        raise TypeError(f"{type(self).__name__} does not say how it is drawn")


Starts = tuple[tuple[str, LayerSource], ...]
"""Names of new layers, each with its source."""


@dataclass(frozen=True)
class LayerKind:
    """The declaration of a kind of layer.

    Attributes:
        source: its struct, whose tag is its key.
        label: what the window calls it.
        about: what it is, in a sentence.
        starts: what *Add layer* offers in a frame of a size. Empty for what is made in another way.
    """

    source: type[LayerSource]
    label: str
    about: str
    starts: Callable[[Size], Starts] = lambda frame: ()

    @property
    def key(self) -> str:
        """Its word in the file."""
        return str(self.source.__struct_config__.tag)


LAYER_KINDS: Registry[LayerKind] = Registry("kind of layer")


def layer_kind(source: LayerSource) -> LayerKind:
    """The declaration of what a layer shows."""
    return LAYER_KINDS[str(source.__struct_config__.tag)]
