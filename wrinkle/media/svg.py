"""Shapes from SVG files, as layers of the frame."""

from __future__ import annotations

import io
import math
from pathlib import Path
from typing import TYPE_CHECKING, Any

import numpy as np

from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.sources import FurtherContour, ShapeSource
from wrinkle.core.errors import InputError, MediaError
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.paths import transformed
from wrinkle.core.picture.placement import scaling
from wrinkle.core.picture.transfer import decode
from wrinkle.core.picture.vector import Contour
from wrinkle.files.whole import read_whole
from wrinkle.media.svg_extent import check_extent
from wrinkle.media.svg_paths import check_path_data, contours_in

if TYPE_CHECKING:
    from xml.etree.ElementTree import Element

_LARGEST = 4 << 20
"""Bytes of a file; a drawing traced by a machine has some hundred thousand."""
_MOST_SHAPES = 200
_WIDEST = 200.0
_UNSEEN = ("hidden", "collapse")
_CAPS, _JOINS = ("butt", "round", "square"), ("miter", "round", "bevel")


def read_svg(path: Path, frame_size: Size) -> list[tuple[str, ShapeSource]]:
    """The shapes of an SVG file with their names, fitted whole into a frame.

    All that SVG 1.1 calls basic shapes, and paths, with their transforms, units, style sheets and
    uses of other elements; what is not displayed and what is no shape is left out.

    Args:
        path: of the file.
        frame_size: of the frame in pixels; the file's view box is centred in it.

    Raises:
        MediaError: it cannot be read, or holds no shape.
    """
    root = _checked(path)
    shapes: list[tuple[str, ShapeSource]] = []
    pixels = scaling(1.0 / frame_size.width, 1.0 / frame_size.height)
    for element in _displayed(path, root, frame_size):
        try:
            found = contours_in(element.path)
        except InputError as fault:
            raise MediaError(f"{path.name} cannot be used: {fault}") from None
        contours = [Contour(transformed(x.outline, pixels), x.closed) for x in found]
        if contours:
            name = element.name or f"{path.stem} {len(shapes) + 1}"
            shapes.append((name, _shape(contours, element, min(frame_size) / 100.0)))
    if not shapes:
        raise MediaError(f"{path.name} holds no path; draw one in it first.")
    if len(shapes) > _MOST_SHAPES:
        raise MediaError(
            f"{path.name} holds {len(shapes)} paths; {_MOST_SHAPES} at most can become layers."
        )
    return shapes


class _Displayed:
    """A shape of the file as it is seen, in pixels of the frame."""

    def __init__(self, shape: Any) -> None:
        from svgelements import Path as SvgPath

        self.path = SvgPath(shape)
        self.name: str = shape.id or ""
        self.fill, self.stroke = _colour(shape.fill), _colour(shape.stroke)
        self.stroke_width = float(shape.stroke_width or 0.0)
        values = shape.values
        self.cap = values.get("stroke-linecap", _CAPS[0])
        self.join = values.get("stroke-linejoin", _JOINS[0])
        self.seen = values.get("visibility") not in _UNSEEN


def _checked(path: Path) -> Element:
    """The root of the file, whose path data can be read."""
    from defusedxml import DefusedXmlException
    from defusedxml.ElementTree import ParseError, fromstring

    try:
        content = read_whole(path, _LARGEST)
    except OSError as fault:
        raise MediaError(f"{path.name} cannot be opened: {fault.strerror}.") from None
    try:
        root: Element = fromstring(content)
        check_extent(root)
        for element in root.iter():
            if isinstance(element.tag, str) and element.tag.endswith("}path"):
                check_path_data(element.get("d", ""))
    except RecursionError:
        raise MediaError(f"{path.name} is nested too deeply; save it as plain SVG.") from None
    except (ParseError, DefusedXmlException, ValueError, LookupError) as fault:
        reason = str(fault).rstrip(".")
        raise MediaError(f"{path.name} cannot be read as an SVG file: {reason}.") from None
    return root


def _displayed(path: Path, root: Element, frame_size: Size) -> list[_Displayed]:
    """What is seen of the file, its view box fitted into the frame."""
    from xml.etree.ElementTree import tostring

    from svgelements import SVG, Length, Shape

    width, height = (root.attrib.pop(side, None) for side in ("width", "height"))
    if not root.get("viewBox"):
        sides = [
            Length(side).value(ppi=96.0, relative_length=100.0) if side else 100.0
            for side in (width, height)
        ]
        root.set("viewBox", "0 0 {} {}".format(*sides))
    try:
        parsed = SVG.parse(
            io.BytesIO(tostring(root)), width=frame_size.width, height=frame_size.height
        )
        found = [_Displayed(x) for x in parsed.elements() if isinstance(x, Shape)]
    except (ArithmeticError, ValueError, TypeError, AttributeError, LookupError, RecursionError):
        # The reader has no error of its own.
        raise MediaError(
            f"{path.name} cannot be read as an SVG file; save it as plain SVG."
        ) from None
    return [one for one in found if one.seen]


def _shape(contours: list[Contour], element: _Displayed, short: float) -> ShapeSource:
    first, *others = contours
    fill, stroke = element.fill, element.stroke
    width = element.stroke_width / short if stroke is not None else 0.0
    return ShapeSource(
        path=Setting(first.outline),
        closed=first.closed,
        further=tuple(FurtherContour(x.outline, x.closed) for x in others),
        filled=Setting(fill is not None),
        fill=Setting(fill or (1.0, 1.0, 1.0)),
        stroke=Setting(stroke or (0.0, 0.0, 0.0)),
        stroke_width=Setting(min(width, _WIDEST) if math.isfinite(width) else 0.0),
        cap=Setting(element.cap if element.cap in _CAPS else _CAPS[0]),
        join=Setting(element.join if element.join in _JOINS else _JOINS[0]),
        keeps_form=Setting(True),
    )


def _colour(colour: Any) -> tuple[float, ...] | None:
    """A colour, linear; None for none. A gradient or a pattern is black, as without one."""
    if colour is None or colour.value is None:
        return None
    encoded = np.array([[colour.red, colour.green, colour.blue]], np.float32) / np.float32(255.0)
    return tuple(float(x) for x in decode(encoded)[0])
