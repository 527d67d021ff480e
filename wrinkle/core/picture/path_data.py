"""SVG path data: every command, absolute and relative, as outlines.

Source: SVG 1.1 (Second Edition), section 8.3; arcs by appendix F.6.
"""

from __future__ import annotations

import math
import re

from wrinkle.core.errors import InputError
from wrinkle.core.picture.paths import Knot, outline_of
from wrinkle.core.picture.vector import Contour

_TOKEN = re.compile(r"\s*,?\s*([MmZzLlHhVvCcSsQqTtAa]|[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?)")
_FLAG = re.compile(r"\s*,?\s*([01])")
_ARGUMENTS = {"M": 2, "Z": 0, "L": 2, "H": 1, "V": 1, "C": 6, "S": 4, "Q": 4, "T": 2, "A": 7}
_FLAGS_OF_ARC = (3, 4)
Point = tuple[float, float]


def contours_of(data: str) -> list[Contour]:
    """The contours in the ``d`` attribute of an SVG path, in its own units.

    Raises:
        InputError: the text is no path data; names the place.
    """
    pen = _Pen()
    at, command = 0, ""
    text = data.strip()
    while at < len(text):
        found = _TOKEN.match(text, at)
        if found is None:
            raise InputError(f"The path data cannot be read at '{text[at : at + 12]}'.")
        if found[1].isalpha():
            command, at = found[1], found.end()
            if not pen.started and command not in "Mm":
                raise InputError("Path data must begin with a move (M).")
        elif not command or command in "Zz":
            raise InputError(f"The path data has a number without a command: '{found[1]}'.")
        numbers = []
        for index in range(_ARGUMENTS[command.upper()]):
            flag = command in "Aa" and index in _FLAGS_OF_ARC
            number = (_FLAG if flag else _TOKEN).match(text, at)
            if number is None or number[1].isalpha():
                raise InputError(f"The path data lacks a number after '{command}'.")
            numbers.append(float(number[1]))
            at = number.end()
        pen.draw(command, numbers)
        # Further pairs after a move are lines.
        command = {"M": "L", "m": "l"}.get(command, command)
        at += len(text[at:]) - len(text[at:].lstrip())
    return pen.finished()


class _Pen:
    def __init__(self) -> None:
        self.started = False
        self._contours: list[Contour] = []
        self._knots: list[Knot] = []
        self._start: Point = (0.0, 0.0)
        self._spot: Point = (0.0, 0.0)
        self._control: Point | None = None
        self._kind = ""

    def draw(self, command: str, numbers: list[float]) -> None:
        self.started = True
        kind = command.upper()
        x0, y0 = self._spot if command.islower() else (0.0, 0.0)
        if kind == "A":
            pairs = [(x0 + numbers[5], y0 + numbers[6])]
        elif kind == "H":
            pairs = [(x0 + numbers[0], self._spot[1])]
        elif kind == "V":
            pairs = [(self._spot[0], y0 + numbers[0])]
        else:
            pairs = [(x0 + x, y0 + y) for x, y in zip(numbers[::2], numbers[1::2], strict=True)]
        if kind == "M":
            self._lift(closed=False)
            self._start = self._spot = pairs[0]
        elif kind == "Z":
            self._lift(closed=True)
            self._spot = self._start
        elif kind in "LHV":
            self._curve(self._spot, pairs[0], pairs[0])
        elif kind == "C":
            self._curve(*pairs)
        elif kind == "S":
            self._curve(self._mirrored("CS"), *pairs)
        elif kind == "Q":
            self._quadratic(pairs[0], pairs[1])
        elif kind == "T":
            self._quadratic(self._mirrored("QT"), pairs[0])
        else:
            self._arc(numbers, pairs[0])
        if kind not in "CSQT":
            self._control = None
        self._kind = kind

    def finished(self) -> list[Contour]:
        self._lift(closed=False)
        return self._contours

    def _mirrored(self, kinds: str) -> Point:
        """The control point across the last one, if the last command had one."""
        if self._control is None or self._kind not in kinds:
            return self._spot
        return 2 * self._spot[0] - self._control[0], 2 * self._spot[1] - self._control[1]

    def _quadratic(self, control: Point, end: Point) -> None:
        start = self._spot
        first, second = (
            (p[0] + 2.0 / 3.0 * (control[0] - p[0]), p[1] + 2.0 / 3.0 * (control[1] - p[1]))
            for p in (start, end)
        )
        self._curve(first, second, end)
        self._control = control

    def _curve(self, first: Point, second: Point, end: Point) -> None:
        if not self._knots:
            self._knots.append(Knot(*self._spot))
        x, y = self._spot
        self._knots[-1] = self._knots[-1]._replace(out_x=first[0] - x, out_y=first[1] - y)
        self._knots.append(Knot(*end, second[0] - end[0], second[1] - end[1]))
        self._spot, self._control = end, second

    def _arc(self, numbers: list[float], end: Point) -> None:
        rx, ry, turn, large, sweep = abs(numbers[0]), abs(numbers[1]), *numbers[2:5]
        x1, y1 = self._spot
        if (x1, y1) == end:
            return
        if rx == 0.0 or ry == 0.0:
            self._curve(self._spot, end, end)
            return
        phi = math.radians(turn)
        cos, sin = math.cos(phi), math.sin(phi)
        dx, dy = (x1 - end[0]) / 2.0, (y1 - end[1]) / 2.0
        xp, yp = cos * dx + sin * dy, -sin * dx + cos * dy
        too_small = (xp / rx) ** 2 + (yp / ry) ** 2
        if too_small > 1.0:
            rx, ry = rx * math.sqrt(too_small), ry * math.sqrt(too_small)
        left = rx**2 * ry**2 - rx**2 * yp**2 - ry**2 * xp**2
        root = math.sqrt(max(left, 0.0) / (rx**2 * yp**2 + ry**2 * xp**2))
        root = -root if large == sweep else root
        cxp, cyp = root * rx * yp / ry, -root * ry * xp / rx
        cx = cos * cxp - sin * cyp + (x1 + end[0]) / 2.0
        cy = sin * cxp + cos * cyp + (y1 + end[1]) / 2.0
        start = math.atan2((yp - cyp) / ry, (xp - cxp) / rx)
        way = math.atan2((-yp - cyp) / ry, (-xp - cxp) / rx) - start
        if sweep and way < 0.0:
            way += 2.0 * math.pi
        elif not sweep and way > 0.0:
            way -= 2.0 * math.pi
        pieces = max(1, math.ceil(abs(way) / (math.pi / 2.0) - 1e-9))
        step = way / pieces
        reach = 4.0 / 3.0 * math.tan(step / 4.0)

        def spot(angle: float, ahead: float) -> Point:
            """On the ellipse, and along its tangent."""
            ex = rx * (math.cos(angle) - ahead * math.sin(angle))
            ey = ry * (math.sin(angle) + ahead * math.cos(angle))
            return cx + cos * ex - sin * ey, cy + sin * ex + cos * ey

        for piece in range(pieces):
            angle = start + piece * step
            goal = end if piece == pieces - 1 else spot(angle + step, 0.0)
            self._curve(spot(angle, reach), spot(angle + step, -reach), goal)

    def _lift(self, closed: bool) -> None:
        points = self._knots
        self._knots = []
        if len(points) < 2:
            return
        first, last = points[0], points[-1]
        if closed and math.hypot(first.x - last.x, first.y - last.y) < 1e-9:
            points[0] = first._replace(in_x=last.in_x, in_y=last.in_y)
            points.pop()
        self._contours.append(Contour(outline_of(points), closed))
