"""What an effect is: a declaration, and a pure function from picture and values to a picture."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from enum import Enum
from typing import Any

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.motion.setting_spec import SettingSpec
from wrinkle.core.motion.values import Value, parts
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.grading import Operation
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.lut import Lut
from wrinkle.core.picture.transfer import encode


class Family(Enum):
    """Where an effect is found."""

    BLUR = "Blur"
    BEND = "Bend"
    BREAK = "Break"
    LIGHT = "Light"
    COLOUR = "Colour"
    REVEAL = "Reveal"
    TEXTURE = "Texture"


@dataclass(frozen=True)
class Scene:
    """What an effect knows of the frame besides the picture.

    Attributes:
        unit: pixels in one per cent of the frame's short side; lengths are multiples of it.
        left, top, width, height: the frame within the picture, in pixels; a clip that is larger
            than the frame reaches beyond it.
        time: of the frame, in seconds from the cut.
        frame: its number, counted from the cut.
        cover: what is outside the picture.
        preview: fewer samples will do.
        lut: the colour table of the effect.
        motion: how far the layer's middle moves in one frame, in pixels of the picture, seen from
            the picture itself.
        other: the other layer that the effect looks at, or what lies below, over the frame.
        earlier: the other layer as it was at its beginning, for effects that compare both.
    """

    unit: float
    left: float
    top: float
    width: float
    height: float
    time: float = 0.0
    frame: int = 0
    cover: EdgeCover = EdgeCover.MIRROR
    preview: bool = False
    lut: Lut | None = None
    other: Image | None = None
    earlier: Image | None = None
    motion: tuple[float, float] = (0.0, 0.0)

    @classmethod
    def whole(cls, size: Size, **fields: Any) -> Scene:
        """The scene of a picture that is as large as the frame; ``fields`` are the others."""
        width, height = (float(side) for side in size)
        return cls(min(size) / 100.0, 0.0, 0.0, width, height, **fields)

    @property
    def middle(self) -> tuple[float, float]:
        """The middle of the frame, in pixels of the picture."""
        return self.left + self.width / 2.0, self.top + self.height / 2.0

    def spot(self, pair: tuple[float, float]) -> tuple[float, float]:
        """A point in parts of the frame, in pixels of the picture."""
        return self.left + pair[0] * self.width, self.top + pair[1] * self.height


class Values(dict[str, Value]):
    """The plain values of an effect's settings at one time, by key."""

    def number(self, key: str) -> float:
        """A number."""
        (number,) = parts(self[key])
        return number

    def pair(self, key: str) -> tuple[float, float]:
        """A pair."""
        first, second = parts(self[key])
        return first, second

    def colour(self, key: str) -> tuple[float, float, float]:
        """A colour, linear."""
        red, green, blue = parts(self[key])
        return red, green, blue

    def encoded(self, key: str) -> NDArray[np.float32]:
        """A colour after the transfer function, ``(3,)``."""
        wide = np.ones((1, 1, 4), np.float32)
        wide[0, 0, :3] = self.colour(key)
        found: NDArray[np.float32] = encode(wide)[0, 0, :3]
        return found

    def on(self, key: str) -> bool:
        """Yes or no."""
        return bool(self[key])

    def choice(self, key: str) -> str:
        """The name of a choice."""
        return str(self[key])


Apply = Callable[[Image, Values, Scene], Image]
Tool = Callable[[Values, Lut | None], Sequence[Operation]]
"""What values, and a colour table, make of one colour, wherever it lies.

What comes of it may lie below 0 or above 1: the last tool of a chain is held, not each.
"""


@dataclass(frozen=True)
class HueDisc:
    """Two settings that are one point of a disc of hues.

    Attributes:
        label: of the disc.
        hue: the key of its angle in degrees.
        amount: the key of its distance from the middle; the rim is ``full``.
        full: the amount at the rim.
    """

    label: str
    hue: str
    amount: str
    full: float = 100.0


@dataclass(frozen=True)
class Effect:
    """One effect.

    Attributes:
        key: its name in the file.
        label: its name in the window.
        about: what it does, in one sentence.
        family: where it is found.
        light: the state of the picture that its function takes and gives.
        settings: its settings; their neutral values together change nothing.
        apply: the function. It does not write into the picture it is given.
        at_rest: whether values change nothing; by default whether all of ``rests_by`` are neutral.
        rests_by: the settings whose neutral values are enough for rest; by default all.
        starts_with: values other than the neutral ones that a new effect has, to show what it does.
        words: what else it is searched by.
        timed: it looks different at another time with the same values.
        follows: it looks at the movement of its layer.
        needs_layer: it looks at another layer; without one it rests.
        sees_below: without another layer it looks at what lies below its own.
        looks_back: it compares the other layer with how that was at its own beginning.
        tool: what it does to each colour by itself, if that is all it does.
        pads: settings that are set together on discs of hues.
        hue_range: the keys of the middle of a range of hues, and of its reach on either side.
        palette: the keys of colours, dark to light, that can be taken from a clip.
        reads_decisions: its values can be read from a file of colour decisions.
        needs_lut: it reads a colour table among the wrinkle's assets; without one it rests.
        forms: what it starts with in other forms of its choice ``form``, beside ``starts_with``.
        jumps: single frames of it jump out, and are meant to.
        ends_with: values at which it has done all it can, to which a lane of it goes.
    """

    key: str
    label: str
    about: str
    family: Family
    light: Light
    settings: tuple[SettingSpec, ...]
    apply: Apply
    rests_by: tuple[str, ...] = ()
    starts_with: Mapping[str, Value] = field(default_factory=dict)
    words: str = ""
    timed: bool = False
    jumps: bool = False
    needs_lut: bool = False
    needs_layer: bool = False
    follows: bool = False
    sees_below: bool = False
    looks_back: bool = False
    tool: Tool | None = None
    pads: tuple[HueDisc, ...] = ()
    hue_range: tuple[str, str] | None = None
    palette: tuple[str, ...] = ()
    reads_decisions: bool = False
    forms: Mapping[str, Mapping[str, Value]] = field(default_factory=dict)
    ends_with: Mapping[str, Value] = field(default_factory=dict)

    def spec(self, key: str) -> SettingSpec:
        """The declaration of a setting.

        Raises:
            KeyError: there is none of that name.
        """
        for spec in self.settings:
            if spec.key == key:
                return spec
        raise KeyError(key)

    def begun(self, form: str = "") -> dict[str, Value]:
        """The values with which it is added, in one of its forms."""
        given = {"form": form, **self.forms[form]} if form else {}
        return {**self.starts_with, **given}

    def neutral(self) -> Values:
        """The values at which it changes nothing."""
        return Values({spec.key: spec.neutral for spec in self.settings})

    def resting(self, values: Mapping[str, Value]) -> bool:
        """Whether values change nothing, so that the effect is skipped."""
        keys = self.rests_by or tuple(spec.key for spec in self.settings)
        return all(self.spec(key).changes_nothing(values[key]) for key in keys)

    def idle(self, values: Mapping[str, Value], scene: Scene) -> bool:
        """Whether it is skipped: it rests, or lacks what it looks at."""
        lacking = (self.needs_lut and scene.lut is None) or (
            self.needs_layer and scene.other is None
        )
        return lacking or self.resting(values)

    def applied(self, image: Image, values: Values, scene: Scene) -> Image:
        """The picture with the effect; the picture itself where it rests."""
        if self.idle(values, scene):
            return image
        return self.apply(image.in_light(self.light), values, scene)
