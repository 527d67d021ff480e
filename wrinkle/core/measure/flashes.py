"""Flashes that can harm, by the published definitions. A screening, not a certification.

Sources: WCAG 2.2, success criterion 2.3.1 with its definitions of general flash and red flash and
of relative luminance; Rec. ITU-R BT.1702-3 (its numbers from memory). What they say:

- A *general flash* is a pair of opposing changes of relative luminance by 10 % of the most or more,
  where the darker of both is below 0.80 (WCAG). On a display of 200 cd/m² these are BT.1702's
  20 cd/m², with the darker picture below 160 cd/m².
- A *red flash* is a pair of opposing transitions to or from a saturated red: R/(R+G+B) ≥ 0.8, and
  the states differ by more than 0.2 in the CIE 1976 UCS diagram (WCAG).
- More than three of either within any one second fail, where together they cover more than a
  quarter of a field of ten degrees (WCAG, which takes 341 × 256 pixels of a screen of 1024 × 768
  for that), or of the screen (BT.1702).
- The changes of a pair are of the same places: where a picture runs past, some of it gets brighter
  and some darker with every frame, and that alone is none.
- Patterns finer than a tenth of a degree do not count (WCAG): a cell here is about that large.

The frame is thought to fill the screen of 1024 × 768 as far as its shape allows.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture import transfer
from wrinkle.core.picture.image import Bytes8

PEAK_CANDELA = 200.0
"""The display that is assumed: cd/m² of its white."""
MOST_FLASHES = 3.0
"""WCAG 2.2, 2.3.1; BT.1702: in any one second."""
_CHANGE, _DARKER = 0.10, 0.80
"""WCAG 2.2, general flash."""
_RED_SHARE, _RED_APART = 0.8, 0.2
"""WCAG 2.2, red flash."""
_AREA = 0.25
"""WCAG 2.2 and BT.1702: of the field, and of the screen."""
_SCREEN, _FIELD = (1024, 768), (341, 256)
"""WCAG 2.2, the note on general flash and red flash thresholds: pixels."""
_LUMINANCE = np.array([0.2126, 0.7152, 0.0722], np.float32)
"""WCAG 2.2, relative luminance, as IEC 61966-2-1 has it."""
_TO_XYZ = np.array(
    [[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]], np.float32
)
"""IEC 61966-2-1."""
_GREY = (0.1978, 0.4683)
"""u', v' of the white of D65: black has no colour of its own."""

Plane = NDArray[np.float32]
Marks = NDArray[np.bool_]


@dataclass(frozen=True, eq=False)
class Flashing:
    """How often it flashes within the second that ends on each frame, in pairs of changes.

    Attributes:
        general: where changes cover more than a quarter of a field of ten degrees.
        screen: where they cover more than a quarter of the screen.
        red: of saturated red, over a quarter of the field.
        changes: the frames with a change of luminance over a quarter of the field.
    """

    general: NDArray[np.float64]
    screen: NDArray[np.float64]
    red: NDArray[np.float64]
    changes: tuple[int, ...]


def flashing(frames: Iterable[Bytes8], per_second: float, with_red: bool = True) -> Flashing:
    """Looks for flashes.

    Args:
        frames: encoded RGB cells ``(H, W, 3)`` of all frames, in their order and of one size; a
            cell is to be about a tenth of a degree large.
        per_second: their rate.
        with_red: whether red flashes are looked for.
    """
    general, red = _Counter(per_second, _over_field), _Counter(per_second, _over_field)
    screen = _Counter(per_second, _over_all)
    light, colour = _Swings(), _RedSwings()
    for frame in frames:
        linear = transfer.decode_8bit(frame)[..., :3]
        up, down = light.next(linear @ _LUMINANCE)
        general.add(up, down)
        screen.add(up, down)
        none = np.zeros(up.shape, bool)
        to, away = colour.next(linear) if with_red else (none, none)
        red.add(to, away)
    return Flashing(general.counts(), screen.counts(), red.counts(), general.frames())


def _over_field(marks: Marks) -> Marks:
    """Around which cells the marks cover more than a quarter of a field of ten degrees."""
    if not marks.any():
        return marks
    height, width = marks.shape
    factor = min(_SCREEN[0] / width, _SCREEN[1] / height)
    across, down = _FIELD[0] / factor, _FIELD[1] / factor
    size = (max(1, min(width, round(across))), max(1, min(height, round(down))))
    sums = cv2.boxFilter(
        marks.astype(np.float32), -1, size, normalize=False, borderType=cv2.BORDER_CONSTANT
    )
    return np.asarray(sums > _AREA * across * down)


def _over_all(marks: Marks) -> Marks:
    """Whether the marks cover more than a quarter of the screen."""
    return np.array([[np.count_nonzero(marks) > _AREA * marks.size]])


class _Swings:
    """Where luminance turns: a change counts once it has gone far enough from the last extreme."""

    def __init__(self) -> None:
        self._state: tuple[Plane, Plane, NDArray[np.int8]] | None = None

    def next(self, light: Plane) -> tuple[Marks, Marks]:
        """Which cells have become brighter, and darker, by enough with this frame."""
        if self._state is None:
            self._state = light.copy(), light.copy(), np.zeros(light.shape, np.int8)
            none = np.zeros(light.shape, bool)
            return none, none
        low, high, last = self._state
        np.minimum(low, light, out=low)
        np.maximum(high, light, out=high)
        # Ten per cent that lose a bit in floating point are ten per cent.
        enough = np.float32(_CHANGE - 1e-5)
        up = (last <= 0) & (light - low >= enough) & (low < _DARKER)
        down = (last >= 0) & (high - light >= enough) & (light < _DARKER) & ~up
        last[up], last[down] = 1, -1
        turned = up | down
        low[turned] = light[turned]
        high[turned] = light[turned]
        return up, down


class _RedSwings:
    """Where colours go to a saturated red, or from it."""

    def __init__(self) -> None:
        self._before: Plane | None = None
        self._was_red: Marks | None = None

    def next(self, linear: Plane) -> tuple[Marks, Marks]:
        """Which cells have become a saturated red with this frame, and which are none any more."""
        red = _is_red(linear)
        before, was_red = self._before, self._was_red
        none = np.zeros(red.shape, bool)
        if before is None or was_red is None or not (red.any() or was_red.any()):
            self._before, self._was_red = linear, red
            return none, none
        # Only what is red, or was, can have changed to it or from it.
        looked_at = red | was_red
        way = _chromaticity(linear[looked_at]) - _chromaticity(before[looked_at])
        apart = none.copy()
        apart[looked_at] = np.hypot(way[:, 0], way[:, 1]) > _RED_APART
        to, away = apart & red & ~was_red, apart & was_red & ~red
        # A red that only drifts is compared with what it was.
        stays = was_red & ~away
        self._before = np.where(stays[..., np.newaxis], before, linear)
        self._was_red = to | stays
        return to, away


def _is_red(linear: Plane) -> Marks:
    red, green, blue = cv2.split(linear)
    whole = red + green + blue
    return np.asarray((red >= _RED_SHARE * whole) & (whole > 1e-3))


def _chromaticity(linear: Plane) -> Plane:
    """u' and v' of CIE 1976 ``(N, 2)`` of linear colours ``(N, 3)``."""
    x, y, z = (linear @ _TO_XYZ.T).T
    whole = x + 15.0 * y + 3.0 * z
    there = whole > 1e-4
    safe = np.where(there, whole, 1.0)
    u = np.where(there, 4.0 * x / safe, _GREY[0])
    v = np.where(there, 9.0 * y / safe, _GREY[1])
    return np.stack([u, v], axis=1).astype(np.float32)


class _Counter:
    """Counts opposing changes around each cell within the last second.

    Args:
        per_second: frames in a second.
        over: where marks cover enough.
    """

    def __init__(self, per_second: float, over: Callable[[Marks], Marks]) -> None:
        self._second = max(1, round(per_second))
        self._over = over
        self._events: list[Marks] = []
        self._last: tuple[NDArray[np.int8], NDArray[np.int32]] | None = None
        self._turned: NDArray[np.int32] | None = None

    def add(self, up: Marks, down: Marks) -> None:
        """The cells that change with a frame: each one up and down by turns."""
        rises, falls = self._over(up), self._over(down)
        if self._last is None or self._turned is None:
            self._last = np.zeros(rises.shape, np.int8), np.zeros(rises.shape, np.int32)
            self._turned = np.full(up.shape, -1, np.int32)
        last, since = self._last
        rises = self._opposed(up, rises & (last <= 0))
        falls = self._opposed(down, falls & (last >= 0)) & ~rises
        last[rises], last[falls] = 1, -1
        since[rises | falls] = self._turned[up | down] = len(self._events)
        self._events.append(rises | falls)

    def _opposed(self, changing: Marks, around: Marks) -> Marks:
        """Around which cells enough changes back that has changed since the last event there."""
        assert self._last is not None
        last, since = self._last
        found = around & (last == 0)
        for frame in np.unique(since[around & ~found]):
            enough = self._over(changing & (self._turned >= frame))
            found |= around & (last != 0) & (since == frame) & enough
        return np.asarray(found)

    def counts(self) -> NDArray[np.float64]:
        """For each frame the most flashes of any cell: half of the changes."""
        if not self._events:
            return np.zeros(0)
        seen = np.zeros(self._events[0].shape, np.int32)
        found = []
        for number, event in enumerate(self._events):
            seen += event
            if number >= self._second:
                seen -= self._events[number - self._second]
            found.append(float(seen.max()) / 2.0)
        return np.array(found)

    def frames(self) -> tuple[int, ...]:
        """The numbers of the frames with a change anywhere."""
        return tuple(n for n, event in enumerate(self._events) if event.any())
