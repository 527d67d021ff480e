"""Colour decisions from .cdl, .ccc and .cc files.

Source: ASC Color Decision List, release 1.2: a ColorCorrection holds an SOPNode (Slope, Offset,
Power: three numbers each) and a SatNode (Saturation); what is missing leaves the picture as it is.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from pathlib import Path
from xml.etree.ElementTree import Element, ParseError

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from wrinkle.core.errors import InputError
from wrinkle.files.whole import read_whole

CDL_SUFFIXES = (".cdl", ".ccc", ".cc")
_LARGEST = 1 << 20
"""Bytes of a file; a decision has some hundreds."""
_MOST = 1_000
"""Decisions in a file."""

Triple = tuple[float, float, float]


@dataclass(frozen=True)
class ColourDecision:
    """One decision.

    Attributes:
        name: its id, or its number where it has none.
        slope, offset, power: for red, green and blue.
        saturation: 1 leaves it.
    """

    name: str
    slope: Triple = (1.0, 1.0, 1.0)
    offset: Triple = (0.0, 0.0, 0.0)
    power: Triple = (1.0, 1.0, 1.0)
    saturation: float = 1.0


def read_decisions(path: Path) -> list[ColourDecision]:
    """The decisions of a file, at least one.

    Raises:
        InputError: the file cannot be opened or holds none, or a number in it is none; names it.
    """
    try:
        root = fromstring(read_whole(path, _LARGEST))
    except OSError as fault:
        raise InputError(f"{path.name} cannot be opened: {fault.strerror}.") from None
    except InputError:
        raise
    except (ParseError, DefusedXmlException, ValueError, LookupError):
        raise InputError(f"{path.name} is no list of colour decisions: it is not XML.") from None
    corrections = [one for one in root.iter() if _kind(one) == "ColorCorrection"]
    if not corrections:
        raise InputError(f"{path.name} holds no colour decision; use another .cdl, .ccc or .cc.")
    if len(corrections) > _MOST or any(
        _kind(x) == "ColorCorrection" for c in corrections for x in c
    ):
        raise InputError(f"{path.name} holds decisions within decisions, or more than {_MOST}.")
    return [_decision(path.name, n, one) for n, one in enumerate(corrections, 1)]


def _decision(file: str, number: int, correction: Element) -> ColourDecision:
    # Spaces of names differ between writers; the nodes do not.
    found = {_kind(one): one.text or "" for one in correction.iter()}
    name = correction.get("id") or f"decision {number}"

    def numbers(node: str, count: int) -> list[float] | None:
        if node not in found:
            return None
        try:
            read = [float(word) for word in found[node].split()]
        except ValueError:
            read = []
        if len(read) != count or not all(map(math.isfinite, read)):
            raise InputError(f"'{name}' in {file} has no {count} numbers as its {node}.")
        return read

    def triple(node: str, neutral: float) -> Triple:
        red, green, blue = numbers(node, 3) or (neutral,) * 3
        return red, green, blue

    (saturation,) = numbers("Saturation", 1) or (1.0,)
    return ColourDecision(
        name, triple("Slope", 1.0), triple("Offset", 0.0), triple("Power", 1.0), saturation
    )


def _kind(node: Element) -> str:
    return str(node.tag).rpartition("}")[2]
