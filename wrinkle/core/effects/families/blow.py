"""A blow on the camera: it swings about its place, as a damped spring does, and comes to rest."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import NamedTuple

import cv2
import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.motion.declaring import angle, length, number, seed
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.picture.edge_cover import BORDERS, EdgeCover
from wrinkle.core.picture.image import Image, Light
from wrinkle.core.picture.placement import Matrix, rotation, scaling, translation

_PACES = (1.0, 1.17, 0.83, 0.71)
"""Of the four swings: along, aside, turning, towards the eye. All alike it would be a line, which
looks like a machine."""
_UNEVEN = 0.08
"""By how much the seed changes each pace."""
_PIXELS_A_SAMPLE = 4.0
_MOST_SAMPLES, _MOST_IN_PREVIEW = 16, 8
_LEAST = 0.02
"""Pixels; a swing that is smaller is none."""


class _Swing(NamedTuple):
    """Where the camera is: pixels along and aside, degrees, and a share of the size."""

    along: float
    aside: float
    turn: float
    push: float


def blow(image: Image, values: Values, scene: Scene) -> Image:
    """The picture as a camera sees it that was struck at the cut, or some time from it."""
    dice = np.random.default_rng(round(values.number("seed")))
    paces = [pace * (1.0 + _UNEVEN * float(dice.uniform(-1.0, 1.0))) for pace in _PACES]
    open_for = values.number("smear")
    time = scene.time - values.number("delay")
    ends = [_swing(values, scene, paces, time + share * open_for) for share in (0.0, 0.5, 1.0)]
    reach = max(scene.width, scene.height) / 2.0
    if all(_size(swing, reach) < _LEAST for swing in ends):
        return image
    way = sum(_apart(a, b, reach) for a, b in pairwise(ends))
    most = _MOST_IN_PREVIEW if scene.preview else _MOST_SAMPLES
    count = min(max(1, math.ceil(way / _PIXELS_A_SAMPLE)), most)
    total = np.zeros_like(image.pixels)
    for n in range(count):
        at = time + (n + 0.5) / count * open_for if open_for > 0.0 else time
        matrix = _matrix(_swing(values, scene, paces, at), values.number("angle"), scene)
        cv2.accumulate(_warped(image, matrix, scene.cover), total)
    total /= np.float32(count)
    return Image(total, image.light, image.opaque and scene.cover is not EdgeCover.BARE)


def ringing(time: float, frequency: float, damping: float) -> float:
    """How far a weight on a spring is that was struck at 0; its first peak is 1.

    Args:
        time: in seconds; before 0 it is at rest.
        frequency: swings a second without damping.
        damping: its ratio; at 1 and above it does not swing.

    Source: x'' + 2 damping w x' + w² x = 0 from 0 with any speed, w = 2 pi frequency.
    """
    if time <= 0.0:
        return 0.0
    omega = 2.0 * math.pi * frequency
    rest = 1.0 - damping * damping
    if abs(rest) < 1e-6:
        return omega * time * math.exp(1.0 - omega * time)
    if rest > 0.0:
        swing = omega * math.sqrt(rest)
        peak = math.atan2(math.sqrt(rest), damping) / swing
        top = math.exp(-damping * omega * peak) * math.sin(swing * peak)
        return math.exp(-damping * omega * time) * math.sin(swing * time) / top
    root = math.sqrt(-rest)
    slow, fast = (omega * (damping - root), omega * (damping + root))
    peak = math.log(fast / slow) / (fast - slow)
    top = math.exp(-slow * peak) - math.exp(-fast * peak)
    return (math.exp(-slow * time) - math.exp(-fast * time)) / top


def _swing(values: Values, scene: Scene, paces: list[float], time: float) -> _Swing:
    frequency, damping = values.number("frequency"), values.number("damping")
    along, aside, turn, push = (ringing(time, frequency * pace, damping) for pace in paces)
    return _Swing(
        values.number("amount") * scene.unit * along,
        values.number("aside") * scene.unit * aside,
        values.number("turn") * turn,
        values.number("push") / 100.0 * push,
    )


def _size(swing: _Swing, reach: float) -> float:
    return _apart(swing, _Swing(0.0, 0.0, 0.0, 0.0), reach)


def _apart(one: _Swing, other: _Swing, reach: float) -> float:
    """By how many pixels two places of the camera differ, at most about."""
    moved = math.hypot(one.along - other.along, one.aside - other.aside)
    turned = abs(math.radians(one.turn - other.turn)) * reach
    return moved + turned + abs(one.push - other.push) * reach


def _matrix(swing: _Swing, degrees: float, scene: Scene) -> Matrix:
    x, y = scene.middle
    cos, sin = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    right, down = swing.along * cos - swing.aside * sin, swing.along * sin + swing.aside * cos
    size = max(1.0 + swing.push, 0.05)
    return (
        translation(x + right, y + down)
        @ rotation(swing.turn)
        @ scaling(size, size)
        @ translation(-x, -y)
    )


def _warped(image: Image, matrix: Matrix, cover: EdgeCover) -> np.ndarray:
    # OpenCV counts from pixel centres, places from pixel corners.
    centred = translation(-0.5, -0.5) @ matrix @ translation(0.5, 0.5)
    found: np.ndarray = cv2.warpAffine(
        image.pixels, centred[:2], tuple(image.size), flags=cv2.INTER_LINEAR,
        borderMode=BORDERS[cover],
    )  # fmt: skip
    return found


EFFECTS = (
    Effect(
        "blow",
        "Blow",
        "The camera is struck at the cut, swings as a damped spring does and comes to rest.",
        Family.BEND,
        Light.LINEAR,
        (
            length("amount", "Amount", "How far it is thrown, along the angle.", 0.0, 0.0, 60.0),
            angle("angle", "Angle", "Where it is thrown, clockwise from the level."),
            length("aside", "Aside", "How far it swings across the angle.", 0.0, -60.0, 60.0,
                   mirror=Mirroring.TURN),
            number("turn", "Turn", "How far it is turned.", 0.0, -90.0, 90.0, Unit.DEGREES, 0.5,
                   Mirroring.TURN),
            number("push", "Push", "By how much it is nearer at first.", 0.0, -80.0, 300.0),
            number("frequency", "Swings", "How many in a second.", 6.0, 0.2, 40.0,
                   Unit.PER_SECOND, 0.5),
            number("damping", "Damping", "How soon it is at rest; from 1 it does not swing.", 0.2,
                   0.01, 5.0, Unit.NONE, 0.05),
            number("delay", "Delay", "When it is struck, from the cut.", 0.0, -10.0, 10.0,
                   Unit.SECONDS, 0.01),
            number("smear", "Smear", "How long each picture is exposed.", 0.0, 0.0, 0.1,
                   Unit.SECONDS, 0.002),
            seed(),
        ),
        blow,
        rests_by=("amount", "aside", "turn", "push"),
        starts_with={"amount": 4.0, "aside": 1.5, "turn": 1.5, "push": 4.0, "angle": 70.0,
                     "smear": 0.016},
        words="impact hit shake quake camera spring punch",
        timed=True,
        jumps=True,
    ),
)  # fmt: skip
