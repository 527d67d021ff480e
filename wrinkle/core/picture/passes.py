"""Whole passes over a picture in one loop, compiled by Numba; ``compiled`` loads them.

Each does what its twin in NumPy does, in the same order of the same float32 steps, so that both
give the same bytes.
"""

from __future__ import annotations

from typing import Any

import numba
import numpy as np

from wrinkle.core.picture import srgb_powers as srgb
from wrinkle.core.picture.channels import LEAST_ALPHA

Array = Any
"""Numba's arrays carry no types that mypy knows."""

_compiled: Any = numba.njit(nogil=True, cache=True, error_model="numpy", boundscheck=False)
_inlined: Any = numba.njit(nogil=True, inline="always", error_model="numpy")

_f = np.float32


@_inlined
def _polynomial(u: Array, coefficients: Array) -> Array:
    found = coefficients[len(coefficients) - 1]
    for power in range(len(coefficients) - 2, -1, -1):
        found = found * u + coefficients[power]
    return found


@_inlined
def _encoded(value: Array) -> Array:
    size = abs(value)
    far = size > _f(1.0)
    u = np.sqrt(np.sqrt(size * _f(0.0625) if far else size))
    curved = _polynomial(u, srgb.ENCODING) * (srgb.ENCODED_FAR if far else _f(1.0))
    curved = curved - srgb.ENCODED_LESS
    found = curved if size > srgb.ENCODED_KNEE else size * srgb.ENCODED_SLOPE
    return -found if value < _f(0.0) else found


@_inlined
def _decoded(value: Array) -> Array:
    size = abs(value)
    y = size * srgb.DECODED_SCALE + srgb.DECODED_MORE
    far = y > _f(1.0)
    u = np.sqrt(np.sqrt(y * _f(0.0625) if far else y))
    curved = _polynomial(u, srgb.DECODING) * (srgb.DECODED_FAR if far else _f(1.0))
    curved = y * y * curved
    found = curved if size > srgb.DECODED_KNEE else size * srgb.DECODED_SLOPE
    return -found if value < _f(0.0) else found


@_compiled
def _encode_line(line: Array) -> None:
    for x in range(line.shape[0]):
        line[x] = _encoded(line[x])


@_compiled
def _decode_line(line: Array) -> None:
    for x in range(line.shape[0]):
        line[x] = _decoded(line[x])


@_compiled
def _within(line: Array) -> bool:
    """Whether all of a line of float32 is within ±16; of its bits, taken eight at once."""
    largest = np.int32(0)
    bits = line.view(np.int32)
    for x in range(line.shape[0]):
        largest = max(largest, bits[x] & np.int32(0x7FFFFFFF))
    return bool(largest <= np.int32(0x41800000))


@_compiled
def _recode_row(row: Array, encode: bool, into: Array) -> bool:
    """A row ``(W, 4)`` of premultiplied pixels through the curve; false where it is too far."""
    bare = False
    for x in range(row.shape[0]):
        alpha = row[x, 3]
        bare = bare or alpha != _f(1.0)
        into[x, 0] = _straight(row[x, 0], alpha)
        into[x, 1] = _straight(row[x, 1], alpha)
        into[x, 2] = _straight(row[x, 2], alpha)
        into[x, 3] = _f(1.0)
    line = into.reshape(into.shape[0] * 4)
    if not _within(line):
        return False
    if encode:
        _encode_line(line)
    else:
        _decode_line(line)
    if bare:
        for x in range(row.shape[0]):
            for channel in range(4):
                into[x, channel] *= row[x, 3]
    return True


@_inlined
def _straight(value: Array, alpha: Array) -> Array:
    # Most pictures are opaque: a division costs as much as all the rest.
    if alpha == _f(1.0):
        return value
    return value / alpha if alpha > LEAST_ALPHA else _f(0.0)


@_inlined
def _held(value: Array) -> Array:
    held = value if value > _f(0.0) else _f(0.0)
    return held if held < _f(1.0) else _f(1.0)


@_inlined
def _mix(matrix: Array, row: Array, first: Array, second: Array, third: Array) -> Array:
    return matrix[row, 0] * first + matrix[row, 1] * second + matrix[row, 2] * third


@_inlined
def _cubed(value: Array) -> Array:
    near = (value - _f(4.0 / 29.0)) * _f(3.0 * (6.0 / 29.0) ** 2)
    return value * value * value if value > _f(6.0 / 29.0) else near


@_compiled
def _find_entries(line: Array, steps: Array, entries: Array) -> None:
    for x in range(line.shape[0]):
        spot = _held(line[x]) * steps
        entries[x] = np.int32(spot)
        line[x] = spot - _f(entries[x])


@_compiled
def _look_up_line(line: Array, table: Array, entries: Array) -> None:
    """A line of values held within 0…1, by a table of even steps, in place.

    Its last entry stands twice. What is reckoned is kept apart from what is looked up, line by
    line: the processor reckons eight values at once, and looks up one.
    """
    _find_entries(line, _f(table.shape[0] - 2), entries)
    for x in range(line.shape[0]):
        # Unsigned places need no look whether they count from the end.
        place = np.uint64(np.uint32(entries[x]))
        low, high = table[place], table[place + np.uint64(1)]
        line[x] = low + (high - low) * line[x]


@_compiled
def _look_up(row: Array, table: Array, entries: Array) -> None:
    """Three lines ``(3, W)``, each by the same table, in place."""
    for line in range(3):
        _look_up_line(row[line], table, entries)


@_compiled
def _take_apart(colours: Array, row: Array) -> None:
    """A row of colours ``(W, 3)`` as three lines ``(3, W)``: the processor takes eight at once."""
    for x in range(colours.shape[0]):
        row[0, x], row[1, x], row[2, x] = colours[x, 0], colours[x, 1], colours[x, 2]


@_compiled
def _put_together(row: Array, colours: Array) -> None:
    for x in range(colours.shape[0]):
        colours[x, 0], colours[x, 1], colours[x, 2] = row[0, x], row[1, x], row[2, x]


@_compiled
def _to_roots(row: Array, decode: Array, matrix: Array, root: Array, entries: Array) -> None:
    """Encoded colours become the roots of their X, Y and Z, in place."""
    _look_up(row, decode, entries)
    for x in range(row.shape[1]):
        red, green, blue = row[0, x], row[1, x], row[2, x]
        row[0, x] = _mix(matrix, 0, red, green, blue)
        row[1, x] = _mix(matrix, 1, red, green, blue)
        row[2, x] = _mix(matrix, 2, red, green, blue)
    _look_up(row, root, entries)


@_inlined
def _lab(fx: Array, fy: Array, fz: Array) -> Array:
    return fy * _f(116.0) - _f(16.0), (fx - fy) * _f(500.0), (fy - fz) * _f(200.0)


@_compiled
def recode(pixels: Array, encode: bool, into: Array) -> bool:
    """The sRGB curve, or its inverse, on the colours of premultiplied pixels ``(H, W, 4)``.

    Returns:
        Whether all is written; not where a colour is beyond ±16.
    """
    near = True
    for y in range(pixels.shape[0]):
        first, end = _seen(pixels[y])
        into[y, :first], into[y, end:] = _f(0.0), _f(0.0)
        near = near and _recode_row(pixels[y, first:end], encode, into[y, first:end])
    return near


@_compiled
def to_levels(pixels: Array, into: Array) -> None:
    """The levels 0…255 of values ``(H, W, 4)`` held within 0…1, rounded half up, as uint8."""
    width = pixels.shape[1] * 4
    for y in range(pixels.shape[0]):
        line, levels = pixels[y].reshape(width), into[y].reshape(width)
        for x in range(width):
            levels[x] = np.uint8(np.int32(_held(line[x]) * _f(255.0) + _f(0.5)))


@_compiled
def from_levels(levels: Array, table: Array, into: Array) -> None:
    """Opaque pixels ``(H, W, 4)`` of RGB levels ``(H, W, 3)`` uint8, each by a table of 256."""
    for y in range(levels.shape[0]):
        for x in range(levels.shape[1]):
            for channel in range(3):
                into[y, x, channel] = table[levels[y, x, channel]]
            into[y, x, 3] = _f(1.0)


@_compiled
def over(front: Array, opacity: Array, back: Array, into: Array) -> None:
    """front · opacity + back · (1 − its alpha), premultiplied, ``(H, W, 4)`` float32."""
    for y in range(front.shape[0]):
        first, end = _seen(front[y])
        _copy_row(back[y, :first], into[y, :first])
        _over_row(front[y, first:end], opacity, back[y, first:end], into[y, first:end])
        _copy_row(back[y, end:], into[y, end:])


@_compiled
def _over_row(front: Array, opacity: Array, back: Array, into: Array) -> None:
    for x in range(front.shape[0]):
        left = _f(1.0) - front[x, 3] * opacity
        for channel in range(4):
            into[x, channel] = back[x, channel] * left + front[x, channel] * opacity


@_compiled
def encode_over(front: Array, opacity: Array, back: Array, into: Array) -> bool:
    """``recode`` of the front ``(H, W, 4)`` and ``over`` at once; gives what ``recode`` does."""
    curved = np.empty((front.shape[1], 4), np.float32)
    for y in range(front.shape[0]):
        first, end = _seen(front[y])
        if not _recode_row(front[y, first:end], True, curved[first:end]):
            return False
        _copy_row(back[y, :first], into[y, :first])
        _over_row(curved[first:end], opacity, back[y, first:end], into[y, first:end])
        _copy_row(back[y, end:], into[y, end:])
    return True


@_compiled
def _copy_row(row: Array, into: Array) -> None:
    for x in range(row.shape[0]):
        for channel in range(4):
            # The sum with nothing, as where something is laid over: -0 becomes 0.
            into[x, channel] = row[x, channel] + _f(0.0)


@_compiled
def _seen(row: Array) -> Array:
    """Where what is seen of a row ``(W, 4)`` begins, and ends: many layers cover a part."""
    first, end = 0, row.shape[0]
    while first < end and row[first, 3] == _f(0.0):
        first += 1
    while end > first and row[end - 1, 3] == _f(0.0):
        end -= 1
    return first, end


@_compiled
def atop(laid: Array, front: Array, back: Array, into: Array) -> None:
    """What is laid over a back is kept within it, premultiplied, ``(H, W, 4)`` float32."""
    for y in range(front.shape[0]):
        for x in range(front.shape[1]):
            bare, within = _f(1.0) - front[y, x, 3], back[y, x, 3]
            for channel in range(3):
                left = back[y, x, channel] * bare
                into[y, x, channel] = within * (laid[y, x, channel] - left) + left
            into[y, x, 3] = within


@_compiled
def mix(front: Array, opacity: Array, back: Array, share: Array, into: Array) -> None:
    """front · opacity + back · (1 − share), of a share ``(H, W)``; pictures ``(H, W, 4)``."""
    for y in range(front.shape[0]):
        for x in range(front.shape[1]):
            left = _f(1.0) - share[y, x]
            for channel in range(4):
                into[y, x, channel] = front[y, x, channel] * opacity + back[y, x, channel] * left


@_compiled
def cover(pixels: Array, share: Array, into: Array) -> None:
    """A share ``(H, W)`` of pixels ``(H, W, 4)``."""
    for y in range(share.shape[0]):
        for x in range(share.shape[1]):
            for channel in range(4):
                into[y, x, channel] = pixels[y, x, channel] * share[y, x]


@_compiled
def brighten(pixels: Array, factor: Array, largest: Array, into: Array) -> None:
    """Colours times a factor, at most a largest value; alpha stays, ``(H, W, 4)``."""
    for y in range(pixels.shape[0]):
        for x in range(pixels.shape[1]):
            for channel in range(3):
                lit = pixels[y, x, channel] * factor
                into[y, x, channel] = lit if lit < largest else largest
            into[y, x, 3] = pixels[y, x, 3]


@_compiled
def add_covered(total: Array, pixels: Array, share: Array) -> None:
    """Adds a share ``(H, W)`` of pixels to a total, ``(H, W, 4)``, in place."""
    for y in range(share.shape[0]):
        for x in range(share.shape[1]):
            for channel in range(4):
                total[y, x, channel] += pixels[y, x, channel] * share[y, x]


@_inlined
def _above(value: Array, least: Array) -> Array:
    return value if value > least else _f(0.0)


@_compiled
def hold(pixels: Array, least: Array, into: Array) -> None:
    """Values of ``least`` or less become 0, colours at most alpha, ``(H, W, 4)`` float32."""
    for y in range(pixels.shape[0]):
        for x in range(pixels.shape[1]):
            most = _above(pixels[y, x, 3], least)
            for channel in range(4):
                into[y, x, channel] = min(_above(pixels[y, x, channel], least), most)


@_compiled
def product(front: Array, back: Array, screened: bool, least: Array, into: Array) -> None:
    """Both as ``hold`` leaves them, screened or multiplied, premultiplied ``(H, W, 4)`` float32."""
    for y in range(front.shape[0]):
        for x in range(front.shape[1]):
            above, below = _above(front[y, x, 3], least), _above(back[y, x, 3], least)
            for channel in range(4):
                one = min(_above(front[y, x, channel], least), above)
                other = min(_above(back[y, x, channel], least), below)
                if screened:
                    into[y, x, channel] = one + other - one * other
                else:
                    apart = one * (_f(1.0) - below) + other * (_f(1.0) - above)
                    into[y, x, channel] = apart + one * other


@_compiled
def _find_corners(row: Array, size: Array, corners: Array, shares: Array) -> None:
    """Where the four corners of each colour's tetrahedron lie, and how much each counts.

    Args:
        row: three lines ``(3, W)``, held within 0…1.
        size: of a side of the table.
        corners: ``(4, W)`` int32, places in a table of three values each.
        shares: ``(4, W)`` float32.
    """
    last, highest = _f(size - 1), np.int32(size - 2)
    of_red, of_green, of_blue = np.int32(3 * size * size), np.int32(3 * size), np.int32(3)
    for x in range(row.shape[1]):
        red, green, blue = (
            _held(row[0, x]) * last,
            _held(row[1, x]) * last,
            _held(row[2, x]) * last,
        )
        r, g, b = (
            min(np.int32(red), highest),
            min(np.int32(green), highest),
            min(np.int32(blue), highest),
        )
        red, green, blue = red - _f(r), green - _f(g), blue - _f(b)
        most, least = max(max(red, green), blue), min(min(red, green), blue)
        between = max(min(red, green), min(max(red, green), blue))
        # From the black corner of a cell to its white one, along the channels by their size. Of
        # equal parts either may come first: the corner between them has no weight.
        first = of_red if red == most else (of_green if green == most else of_blue)
        left_out = of_blue if blue == least else (of_green if green == least else of_red)
        black = r * of_red + g * of_green + b * of_blue
        white = black + of_red + of_green + of_blue
        corners[0, x], corners[1, x] = black, black + first
        corners[2, x], corners[3, x] = white - left_out, white
        shares[0, x], shares[1, x] = _f(1.0) - most, most - between
        shares[2, x], shares[3, x] = between - least, least


@_compiled
def _mix_corners(flat: Array, corners: Array, shares: Array, into: Array) -> None:
    for x in range(corners.shape[1]):
        first, second = np.uint64(np.uint32(corners[0, x])), np.uint64(np.uint32(corners[1, x]))
        third, fourth = np.uint64(np.uint32(corners[2, x])), np.uint64(np.uint32(corners[3, x]))
        one, two, three, four = shares[0, x], shares[1, x], shares[2, x], shares[3, x]
        for channel in range(3):
            c = np.uint64(channel)
            into[x, channel] = (
                flat[first + c] * one
                + flat[second + c] * two
                + flat[third + c] * three
                + flat[fourth + c] * four
            )


@_compiled
def through_solid(places: Array, table: Array, into: Array) -> None:
    """Reads a colour table by tetrahedra.

    Args:
        places: ``(H, W, 3)`` float32, of 0…1 from the first to the last entry; held within them.
        table: ``(N, N, N, 3)`` float32, by red, green and blue.
        into: ``(H, W, 3)`` float32.
    """
    width, size, flat = places.shape[1], table.shape[0], table.reshape(-1)
    row = np.empty((3, width), np.float32)
    corners, shares = np.empty((4, width), np.int32), np.empty((4, width), np.float32)
    for y in range(places.shape[0]):
        _take_apart(places[y], row)
        _find_corners(row, size, corners, shares)
        _mix_corners(flat, corners, shares, into[y])


@_compiled
def through_levels(colours: Array, tables: Array) -> None:
    """Each channel of colours ``(H, W, 3)`` through its own table ``(3, N)``, in place."""
    row, entries = np.empty((3, colours.shape[1]), np.float32), np.empty(colours.shape[1], np.int32)
    for y in range(colours.shape[0]):
        _take_apart(colours[y], row)
        for channel in range(3):
            _look_up_line(row[channel], tables[channel], entries)
        _put_together(row, colours[y])


@_compiled
def balance(colours: Array, factors: Array, weights: Array, least: Array, most: Array) -> None:
    """Scales each channel of colours ``(H, W, 3)``, then all so that their luma stays, in place."""
    row = np.empty((3, colours.shape[1]), np.float32)
    for y in range(colours.shape[0]):
        _take_apart(colours[y], row)
        for x in range(row.shape[1]):
            red, green, blue = row[0, x], row[1, x], row[2, x]
            before = red * weights[0] + green * weights[1] + blue * weights[2]
            red, green, blue = red * factors[0], green * factors[1], blue * factors[2]
            after = red * weights[0] + green * weights[1] + blue * weights[2]
            kept = before / (after if after > least else least)
            kept = kept if kept > _f(0.0) else _f(0.0)
            kept = kept if kept < most else most
            row[0, x], row[1, x], row[2, x] = red * kept, green * kept, blue * kept
        _put_together(row, colours[y])


@_compiled
def to_lab(colours: Array, decode: Array, matrix: Array, root: Array, into: Array) -> None:
    """CIE Lab of encoded colours; see ``lab``. Both are ``(H, W, 3)`` float32."""
    row, entries = np.empty((3, colours.shape[1]), np.float32), np.empty(colours.shape[1], np.int32)
    for y in range(colours.shape[0]):
        _take_apart(colours[y], row)
        _to_roots(row, decode, matrix, root, entries)
        for x in range(colours.shape[1]):
            into[y, x, 0], into[y, x, 1], into[y, x, 2] = _lab(row[0, x], row[1, x], row[2, x])


@_compiled
def shift_lab(
    pixels: Array,
    decode: Array,
    to_xyz: Array,
    root: Array,
    scales: Array,
    shifts: Array,
    from_xyz: Array,
    encode: Array,
    into: Array,
) -> None:
    """Lab of premultiplied pixels ``(H, W, 4)`` scaled and shifted by tones; see ``lab``."""
    width = pixels.shape[1]
    row, entries = np.empty((3, width), np.float32), np.empty(width, np.int32)
    for y in range(pixels.shape[0]):
        for x in range(width):
            whole = pixels[y, x, 3] if pixels[y, x, 3] > _f(0.0) else _f(1.0)
            row[0, x] = pixels[y, x, 0] / whole
            row[1, x] = pixels[y, x, 1] / whole
            row[2, x] = pixels[y, x, 2] / whole
        _to_roots(row, decode, to_xyz, root, entries)
        for x in range(width):
            light, a, b = _lab(row[0, x], row[1, x], row[2, x])
            share = light * _f(0.01)
            dark, bright = (_f(1.0) - share) * (_f(1.0) - share), share * share
            middle = _f(1.0) - dark - bright
            scale, shift = (
                _mix(scales, 0, dark, middle, bright),
                _mix(shifts, 0, dark, middle, bright),
            )
            light = light * scale + shift
            a = a * _mix(scales, 1, dark, middle, bright) + _mix(shifts, 1, dark, middle, bright)
            b = b * _mix(scales, 2, dark, middle, bright) + _mix(shifts, 2, dark, middle, bright)
            fy = (light + _f(16.0)) * _f(1.0 / 116.0)
            first = _cubed(fy + a * _f(1.0 / 500.0))
            second = _cubed(fy)
            third = _cubed(fy - b * _f(1.0 / 200.0))
            row[0, x] = _mix(from_xyz, 0, first, second, third)
            row[1, x] = _mix(from_xyz, 1, first, second, third)
            row[2, x] = _mix(from_xyz, 2, first, second, third)
        _look_up(row, encode, entries)
        for x in range(width):
            alpha = pixels[y, x, 3]
            for channel in range(3):
                into[y, x, channel] = row[channel, x] * alpha
            into[y, x, 3] = alpha


def compile_all() -> None:
    """Compiles every pass for the arrays it is used with, or takes it from the cache."""
    one = np.zeros((1, 1, 4), np.float32)
    table = np.zeros(2, np.float32)
    flat = np.zeros((1, 1), np.float32)
    recode(one, True, one.copy())
    levels = np.zeros((1, 1, 4), np.uint8)
    to_levels(one, levels)
    from_levels(levels[..., :3].copy(), np.zeros(256, np.float32), one.copy())
    over(one, _f(1.0), one, one.copy())
    encode_over(one, _f(1.0), one, one.copy())
    atop(one, one, one, one.copy())
    product(one, one, True, _f(0.0), one.copy())
    mix(one, _f(1.0), one, flat, one.copy())
    cover(one, flat, one.copy())
    brighten(one, _f(1.0), _f(1.0), one.copy())
    add_covered(one, one, flat)
    hold(one, _f(0.0), one.copy())
    colours, matrix = np.zeros((1, 1, 3), np.float32), np.eye(3, dtype=np.float32)
    through_solid(colours, np.zeros((2, 2, 2, 3), np.float32), colours.copy())
    through_levels(colours, np.zeros((3, 2), np.float32))
    balance(colours, matrix[0], matrix[0], _f(1.0), _f(1.0))
    to_lab(colours, table, matrix, table, colours.copy())
    shift_lab(one, table, matrix, table, matrix, matrix, matrix, table, one.copy())
