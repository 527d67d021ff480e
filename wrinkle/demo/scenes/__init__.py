"""The scenes of the demo piece, each a function that paints one instant.

A scene takes the canvas, in coordinates of 1080 by 1920, and the time in seconds (0…3.2).
"""

from collections.abc import Callable

import skia

from wrinkle.demo.scenes import shore, sky, town

Scene = Callable[[skia.Canvas, float], None]

SCENES: dict[str, Scene] = {
    "dunes": shore.dunes,
    "box_kite": sky.box_kite,
    "tail": sky.tail,
    "porthole": town.porthole,
    "workshop": town.workshop,
    "pier": shore.pier,
    "lighthouse": shore.lighthouse,
    "finale": sky.finale,
}
"""In running order."""
