"""Draws the two small clips that ship, on which the Collection shows wrinkles.

They are kept with the program, so that the first look needs no drawing: ``python -m
wrinkle.demo.samples`` draws them anew after a change of the scenes.
"""

from __future__ import annotations

from fractions import Fraction
from typing import Final

from wrinkle.core.picture.image import Size
from wrinkle.core.time.rate import FrameRate
from wrinkle.demo.clips import draw_clip
from wrinkle.library.samples import SAMPLES

_SIZE: Final = Size(180, 320)
_RATE: Final = FrameRate(Fraction(30))
_SECONDS: Final = 2.0
_SCENES: Final = {"outgoing": "box_kite", "incoming": "pier"}


def main() -> None:
    """Draws both."""
    for slot, path in SAMPLES.items():
        path.parent.mkdir(exist_ok=True)
        draw_clip(path, _SCENES[slot], _SIZE, _RATE, _SECONDS)


if __name__ == "__main__":
    main()
