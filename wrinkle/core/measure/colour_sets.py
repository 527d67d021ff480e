"""Sets of colours that go together, chosen from the main colours of pictures."""

from __future__ import annotations

from itertools import combinations, permutations

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.transfer import decode

Rgb = tuple[int, int, int]
_MOST = 4
_LEAST_STEP = 10.0
"""Of lightness, from one tone to the next."""
_READ = 3.0
"""WCAG 2.2 asks for it between large words and what they stand on."""
_LUMINANCE = np.array([0.2126, 0.7152, 0.0722])
"""ITU-R BT.709, of linear red, green and blue."""


def tone_sets(colours: NDArray[np.uint8]) -> list[tuple[Rgb, Rgb, Rgb]]:
    """Threes from dark to light whose tones are well apart, the widest span first.

    Args:
        colours: encoded 8-bit RGB ``(N, 3)``.

    Returns:
        At most four; none where the colours are too much alike.
    """
    tones = [(lightness(x), _rgb(x)) for x in colours]
    found = []
    for three in combinations(sorted(tones), 3):
        steps = [three[1][0] - three[0][0], three[2][0] - three[1][0]]
        if min(steps) >= _LEAST_STEP:
            found.append((sum(steps), (three[0][1], three[1][1], three[2][1])))
    return [three for _, three in sorted(found, reverse=True)[:_MOST]]


def word_sets(colours: NDArray[np.uint8]) -> list[tuple[Rgb, Rgb]]:
    """Pairs of a fill and an outline with which words are read on anything, the clearest first.

    Args:
        colours: encoded 8-bit RGB ``(N, 3)``; white and black stand in where they are too much
            alike.

    Returns:
        At most four.
    """
    own = [_rgb(x) for x in colours]
    found = sorted(
        ((contrast(a, b), a, b) for a, b in permutations(own, 2) if contrast(a, b) >= _READ),
        reverse=True,
    )
    sets = [(a, b) for _, a, b in found]
    for one in own:
        sets.append(
            max(((one, x) for x in ((0, 0, 0), (255, 255, 255))), key=lambda x: contrast(*x))
        )
    return sets[:_MOST]


def contrast(one: Rgb, other: Rgb) -> float:
    """The contrast ratio of two encoded colours, 1 to 21 (WCAG 2.2)."""
    high, low = sorted((_luminance(one), _luminance(other)), reverse=True)
    return (high + 0.05) / (low + 0.05)


def lightness(colour: NDArray[np.uint8] | Rgb) -> float:
    """CIE L* of an encoded colour, 0 to 100 (CIE 15, the cube root and its linear foot)."""
    light = _luminance(_rgb(colour))
    if light > (6 / 29) ** 3:
        return float(116.0 * np.cbrt(light) - 16.0)
    return light * (29 / 3) ** 3


def _luminance(colour: Rgb) -> float:
    linear = decode(np.array([colour], np.float32) / np.float32(255.0))[0]
    return float(linear @ _LUMINANCE)


def _rgb(colour: NDArray[np.uint8] | Rgb) -> Rgb:
    red, green, blue = (int(x) for x in colour)
    return red, green, blue
