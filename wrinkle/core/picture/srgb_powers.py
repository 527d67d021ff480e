"""The powers in the sRGB transfer function as polynomials of a fourth root.

Square roots, products and sums are what a processor takes eight of at once, and each is rounded
in one way everywhere: NumPy and compiled passes give the same bytes. The coefficients, of rising
powers, are least in their largest relative error (1e-7; Lawson's weighted least squares) and give
exactly 1 for 1.
"""

from __future__ import annotations

from typing import Final

import numpy as np

_f = np.float32

FARTHEST: Final = _f(16.0)
"""Of the values they are good for; those from 1 are divided by it."""

ENCODING: Final = tuple(
    map(
        _f,
        (
            -0.0020608376, 0.09912464, 1.6457139, -1.9337974, 3.2415383,
            -4.310396, 4.0821567, -2.5546892, 0.9418152, -0.15440507,
        ),
    )
)  # fmt: skip
"""1.055 · x^(1/2.4) of u = x^(1/4), from u = 0.236 to 1."""
ENCODED_FAR: Final = _f(16.0 ** (1.0 / 2.4))
ENCODED_LESS: Final = _f(1.055) - _f(1.0)
"""What is taken off 1.055: the float beside 0.055 that leaves 1."""
ENCODED_KNEE, ENCODED_SLOPE = _f(0.0031308), _f(12.92)

DECODING: Final = tuple(
    map(
        _f,
        (
            -0.007353607, 0.19579269, 1.2457772, -0.83146983,
            0.67389834, -0.39313596, 0.13828969, -0.021798545,
        ),
    )
)  # fmt: skip
"""y^0.4 of u = y^(1/4), from u = 0.5 to 1; y² times it is y^2.4."""
DECODED_FAR: Final = _f(16.0**0.4)
DECODED_SCALE, DECODED_MORE = _f(1.0 / 1.055), _f(0.055 / 1.055)
DECODED_KNEE, DECODED_SLOPE = _f(0.04045), _f(1.0 / 12.92)
