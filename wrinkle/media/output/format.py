"""The declaration of a format: what it can hold, and how its encoder is set."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from enum import Enum

from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size

Options = Mapping[str, str]


class Into(Enum):
    """What becomes of the pictures."""

    VIDEO = "a video"
    FRAMES = "a folder of pictures"
    MOVING = "a picture that moves"
    SOUND = "sound without pictures"
    SHEET = "all frames on one picture"


class Alpha(Enum):
    """How colours stand beside alpha."""

    STRAIGHT = "straight"
    PREMULTIPLIED = "premultiplied"


@dataclass(frozen=True)
class Format:
    """One way in which pictures and sound are written.

    Attributes:
        key: its name on the command line and in files.
        label: what the window calls it.
        about: what it is good for, in a sentence.
        suffix: of the file, or of each picture.
        into: a video, a folder of pictures, a picture that moves, sound alone, or a sheet.
        container, codec: FFmpeg's names.
        opaque: the pixel format of each depth in bits, the usual one first; of sound the format of
            a sample.
        clear: that with alpha; none where it has none.
        alpha: how colours stand beside it.
        sound: the codec of the sound; empty for none.
        quality: gives the encoder's options for a quality 0…100; None where it is lossless.
        options: further ones, whatever the quality; it may say the same ones anew.
        container_options: of the container.
        tag: the four letters by which players know the codec; empty for the usual ones.
        even: sides must be even: colours are shared by two pixels.
        linear: colours are linear light, and not limited.
        most: the longest side, in pixels.
    """

    key: str
    label: str
    about: str
    suffix: str
    into: Into
    container: str
    codec: str
    opaque: Mapping[int, str]
    clear: Mapping[int, str] = field(default_factory=dict)
    alpha: Alpha = Alpha.STRAIGHT
    sound: str = ""
    quality: Callable[[float], Options] | None = None
    options: Options = field(default_factory=dict)
    container_options: Options = field(default_factory=dict)
    tag: str = ""
    even: bool = False
    linear: bool = False
    most: int = 16_384

    @property
    def coloured(self) -> bool:
        """Whether it can say what its colours are: videos of brightness and colour can."""
        kinds = (*self.opaque.values(), *self.clear.values())
        return self.into is Into.VIDEO and all(kind.startswith("yuv") for kind in kinds)

    @property
    def depths(self) -> tuple[int, ...]:
        """Bits of a colour that it can have, the usual one first."""
        return tuple(self.opaque)

    @property
    def lossless(self) -> bool:
        """Whether pictures come back as they were given."""
        return self.quality is None and self.codec not in _LOSSY

    def pixels(self, depth: int, alpha: bool) -> str:
        """The pixel format of a depth.

        Raises:
            InputError: it has none; names those that it has.
        """
        kinds = self.clear if alpha else self.opaque
        if alpha and not kinds:
            raise InputError(f"{self.label} has no transparency; choose another format.")
        if depth not in kinds:
            words = " or ".join(f"{bits}" for bits in kinds)
            clear = " with transparency" if alpha else ""
            raise InputError(f"{self.label} has {words} bits{clear}, not {depth}.")
        return kinds[depth]

    def checked(self, size: Size) -> Size:
        """``size`` if it can have it.

        Raises:
            InputError: a side is odd where it must be even, or longer than it can be.
        """
        if max(size) > self.most:
            raise InputError(
                f"A picture of {size.label} is not possible in {self.label}: no side can be longer "
                f"than {self.most}."
            )
        if self.even and size != size.even:
            raise InputError(
                f"A video of {size.label} is not possible in {self.label}: both sides must be "
                f"even. Use {size.even.label}."
            )
        return size


_LOSSY = frozenset({"prores_ks", "gif"})
