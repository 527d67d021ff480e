"""Paths from SVG files, as shapes of the frame."""

from __future__ import annotations

import re
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np

from wrinkle.core.design.setting import Setting
from wrinkle.core.design.sources import FurtherContour, ShapeSource
from wrinkle.core.errors import MediaError
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.path_data import contours_of
from wrinkle.core.picture.paths import transformed
from wrinkle.core.picture.placement import IDENTITY, Matrix, rotation, scaling, translation
from wrinkle.core.picture.transfer import decode
from wrinkle.core.picture.vector import Contour

if TYPE_CHECKING:
    from xml.etree.ElementTree import Element

_LARGEST = 8 << 20
_MOST_SHAPES = 200
_STEP = re.compile(r"(\w+)\s*\(([^)]*)\)")
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")
_COLOURS = {"black": "#000000", "white": "#ffffff", "red": "#ff0000", "none": ""}
_HIDDEN = frozenset({"defs", "clipPath", "mask", "symbol", "pattern", "marker"})


def read_svg(path: Path, frame: Size) -> list[tuple[str, ShapeSource]]:
    """The shapes of an SVG file with their names, fitted whole into a frame.

    Paths, rectangles, circles, ellipses, lines and polygons with their transforms, fill and
    stroke; what else is in the file is left out.

    Args:
        path: of the file.
        frame: the size of the frame in pixels; its view box is centred in it.

    Raises:
        MediaError: it cannot be read, or holds no path.
    """
    from defusedxml import DefusedXmlException
    from defusedxml.ElementTree import ParseError, fromstring

    try:
        content = path.read_bytes()
    except OSError as fault:
        raise MediaError(f"{path.name} cannot be opened: {fault.strerror}.") from None
    if len(content) > _LARGEST:
        raise MediaError(f"{path.name} is larger than {_LARGEST >> 20} MiB; simplify it first.")
    try:
        root = fromstring(content)
    except (ParseError, DefusedXmlException, ValueError) as fault:
        raise MediaError(f"{path.name} cannot be read as an SVG file: {fault}.") from None
    box = _view_box(root)
    factor = min(frame.width / box[2], frame.height / box[3])
    fitted = (
        scaling(1.0 / frame.width, 1.0 / frame.height)
        @ translation((frame.width - box[2] * factor) / 2.0, (frame.height - box[3] * factor) / 2.0)
        @ scaling(factor, factor)
        @ translation(-box[0], -box[1])
    )
    pixels = scaling(*frame)
    shapes: list[tuple[str, ShapeSource]] = []
    _collect(root, fitted, {}, pixels, path.stem, shapes)
    if not shapes:
        raise MediaError(f"{path.name} holds no path; draw one in it first.")
    if len(shapes) > _MOST_SHAPES:
        raise MediaError(
            f"{path.name} holds {len(shapes)} paths; {_MOST_SHAPES} at most can become layers."
        )
    return shapes


def _collect(
    element: Element,
    matrix: Matrix,
    style: dict[str, str],
    pixels: Matrix,
    stem: str,
    shapes: list[tuple[str, ShapeSource]],
) -> None:
    kind = element.tag.rpartition("}")[2]
    if kind in _HIDDEN:
        return
    matrix = matrix @ _transform(element.get("transform", ""))
    style = {**style, **_style(element)}
    contours = [Contour(transformed(x.outline, matrix), x.closed) for x in _contours(element, kind)]
    if contours:
        name = element.get("id") or f"{stem} {len(shapes) + 1}"
        # A line's width grows as areas do: by the root of the determinant.
        growth = float(abs(np.linalg.det((pixels @ matrix)[:2, :2])) ** 0.5)
        short = min(pixels[0, 0], pixels[1, 1]) / 100.0
        shapes.append((name, _shape(contours, style, growth / short)))
    for child in element:
        _collect(child, matrix, style, pixels, stem, shapes)


def _shape(contours: list[Contour], style: dict[str, str], short: float) -> ShapeSource:
    first, *others = contours
    fill = _colour(style.get("fill", "black"))
    stroke = _colour(style.get("stroke", "none"))
    width = _number(style.get("stroke-width", "1")) * short if stroke is not None else 0.0
    linecap, linejoin = style.get("stroke-linecap", "butt"), style.get("stroke-linejoin", "miter")
    return ShapeSource(
        path=Setting(first.outline),
        closed=first.closed,
        further=tuple(FurtherContour(x.outline, x.closed) for x in others),
        filled=Setting(fill is not None),
        fill=Setting(fill or (1.0, 1.0, 1.0)),
        stroke=Setting(stroke or (0.0, 0.0, 0.0)),
        stroke_width=Setting(min(width, 200.0)),
        cap=Setting(linecap if linecap in ("butt", "round", "square") else "butt"),
        join=Setting(linejoin if linejoin in ("miter", "round", "bevel") else "miter"),
    )


def _contours(element: Element, kind: str) -> list[Contour]:
    def length(key: str) -> float:
        return _number(element.get(key, "0"))

    if kind == "path":
        return contours_of(element.get("d", ""))
    if kind == "rect" and length("width") and length("height"):
        x, y, w, h = (length(key) for key in ("x", "y", "width", "height"))
        return contours_of(f"M{x} {y}h{w}v{h}h{-w}z")
    if kind in ("circle", "ellipse"):
        rx, ry = length("rx") or length("r"), length("ry") or length("r")
        x, y = length("cx"), length("cy")
        if rx and ry:
            half = f"a{rx} {ry} 0 1 1"
            return contours_of(f"M{x - rx} {y}{half} {2 * rx} 0{half} {-2 * rx} 0z")
    if kind == "line":
        ends = " ".join(str(length(key)) for key in ("x1", "y1", "x2", "y2"))
        return contours_of(f"M{ends}")
    if kind in ("polygon", "polyline"):
        numbers = _NUMBER.findall(element.get("points", ""))
        if len(numbers) >= 4:
            return contours_of("M" + " ".join(numbers) + ("z" if kind == "polygon" else ""))
    return []


def _transform(text: str) -> Matrix:
    """SVG 1.1 (Second Edition), section 7.6."""
    matrix = IDENTITY
    for name, arguments in _STEP.findall(text):
        n = [float(x) for x in _NUMBER.findall(arguments)]
        step = IDENTITY
        if name == "matrix" and len(n) == 6:
            step = np.array([[n[0], n[2], n[4]], [n[1], n[3], n[5]], [0.0, 0.0, 1.0]])
        elif name == "translate" and n:
            step = translation(n[0], n[1] if len(n) > 1 else 0.0)
        elif name == "scale" and n:
            step = scaling(n[0], n[1] if len(n) > 1 else n[0])
        elif name == "rotate" and n:
            x, y = (n[1], n[2]) if len(n) == 3 else (0.0, 0.0)
            step = translation(x, y) @ rotation(n[0]) @ translation(-x, -y)
        elif name in ("skewX", "skewY") and n:
            lean = float(np.tan(np.radians(n[0])))
            step = np.eye(3)
            step[(0, 1) if name == "skewX" else (1, 0)] = lean
        matrix = matrix @ step
    return matrix


def _style(element: Element) -> dict[str, str]:
    keys = ("fill", "stroke", "stroke-width", "stroke-linecap", "stroke-linejoin")
    found = {key: element.get(key, "") for key in keys if element.get(key)}
    for part in element.get("style", "").split(";"):
        key, _, value = part.partition(":")
        if key.strip() in keys:
            found[key.strip()] = value.strip()
    return found


def _view_box(root: Element) -> tuple[float, float, float, float]:
    numbers = [float(x) for x in _NUMBER.findall(root.get("viewBox", ""))]
    if len(numbers) == 4 and numbers[2] > 0 and numbers[3] > 0:
        return numbers[0], numbers[1], numbers[2], numbers[3]
    width, height = _number(root.get("width", "")), _number(root.get("height", ""))
    return 0.0, 0.0, width or 100.0, height or 100.0


def _colour(text: str) -> tuple[float, ...] | None:
    """A colour, linear; None for none. What is no hexadecimal colour or known name is black."""
    text = _COLOURS.get(text.strip().lower(), text.strip())
    if not text:
        return None
    digits = text.removeprefix("#")
    digits = "".join(x * 2 for x in digits) if len(digits) == 3 else digits
    if not re.fullmatch(r"[0-9a-fA-F]{6}", digits):
        digits = "000000"
    encoded = np.array([[int(digits[i : i + 2], 16) / 255.0 for i in (0, 2, 4)]], np.float32)
    return tuple(float(x) for x in decode(encoded)[0])


def _number(text: str) -> float:
    found = _NUMBER.match(text.strip())
    return float(found[0]) if found else 0.0
