"""Colours read from tables: curves, solids of colours, and CIE Lab; see ``lut`` and ``lab``."""

from __future__ import annotations

import numpy as np

from wrinkle.core.picture.passes.compiling import Array, compiled, f32, held, inlined


@inlined
def _mix(matrix: Array, row: Array, first: Array, second: Array, third: Array) -> Array:
    return matrix[row, 0] * first + matrix[row, 1] * second + matrix[row, 2] * third


@inlined
def _cubed(value: Array) -> Array:
    near = (value - f32(4.0 / 29.0)) * f32(3.0 * (6.0 / 29.0) ** 2)
    return value * value * value if value > f32(6.0 / 29.0) else near


@compiled
def _find_entries(line: Array, steps: Array, entries: Array) -> None:
    for x in range(line.shape[0]):
        spot = held(line[x]) * steps
        entries[x] = np.int32(spot)
        line[x] = spot - f32(entries[x])


@compiled
def _look_up_line(line: Array, table: Array, entries: Array) -> None:
    """A line of values held within 0…1, by a table of even steps, in place.

    Its last entry stands twice. What is reckoned is kept apart from what is looked up, line by
    line: the processor reckons eight values at once, and looks up one.
    """
    _find_entries(line, f32(table.shape[0] - 2), entries)
    for x in range(line.shape[0]):
        # Unsigned places need no look whether they count from the end.
        place = np.uint64(np.uint32(entries[x]))
        low, high = table[place], table[place + np.uint64(1)]
        line[x] = low + (high - low) * line[x]


@compiled
def _look_up(row: Array, table: Array, entries: Array) -> None:
    """Three lines ``(3, W)``, each by the same table, in place."""
    for line in range(3):
        _look_up_line(row[line], table, entries)


@compiled
def _take_apart(colours: Array, row: Array) -> None:
    """A row of colours ``(W, 3)`` as three lines ``(3, W)``: the processor takes eight at once."""
    for x in range(colours.shape[0]):
        row[0, x], row[1, x], row[2, x] = colours[x, 0], colours[x, 1], colours[x, 2]


@compiled
def _put_together(row: Array, colours: Array) -> None:
    for x in range(colours.shape[0]):
        colours[x, 0], colours[x, 1], colours[x, 2] = row[0, x], row[1, x], row[2, x]


@compiled
def _to_roots(row: Array, decode: Array, matrix: Array, root: Array, entries: Array) -> None:
    """Encoded colours become the roots of their X, Y and Z, in place."""
    _look_up(row, decode, entries)
    for x in range(row.shape[1]):
        red, green, blue = row[0, x], row[1, x], row[2, x]
        row[0, x] = _mix(matrix, 0, red, green, blue)
        row[1, x] = _mix(matrix, 1, red, green, blue)
        row[2, x] = _mix(matrix, 2, red, green, blue)
    _look_up(row, root, entries)


@inlined
def _lab(fx: Array, fy: Array, fz: Array) -> Array:
    return fy * f32(116.0) - f32(16.0), (fx - fy) * f32(500.0), (fy - fz) * f32(200.0)


@compiled
def _find_corners(row: Array, size: Array, corners: Array, shares: Array) -> None:
    """Where the four corners of each colour's tetrahedron lie, and how much each counts.

    Args:
        row: three lines ``(3, W)``, held within 0…1.
        size: of a side of the table.
        corners: ``(4, W)`` int32, places in a table of three values each.
        shares: ``(4, W)`` float32.
    """
    last, highest = f32(size - 1), np.int32(size - 2)
    of_red, of_green, of_blue = np.int32(3 * size * size), np.int32(3 * size), np.int32(3)
    for x in range(row.shape[1]):
        red, green, blue = (
            held(row[0, x]) * last,
            held(row[1, x]) * last,
            held(row[2, x]) * last,
        )
        r, g, b = (
            min(np.int32(red), highest),
            min(np.int32(green), highest),
            min(np.int32(blue), highest),
        )
        red, green, blue = red - f32(r), green - f32(g), blue - f32(b)
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
        shares[0, x], shares[1, x] = f32(1.0) - most, most - between
        shares[2, x], shares[3, x] = between - least, least


@compiled
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


@compiled
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


@compiled
def through_levels(colours: Array, tables: Array) -> None:
    """Each channel of colours ``(H, W, 3)`` through its own table ``(3, N)``, in place."""
    row, entries = np.empty((3, colours.shape[1]), np.float32), np.empty(colours.shape[1], np.int32)
    for y in range(colours.shape[0]):
        _take_apart(colours[y], row)
        for channel in range(3):
            _look_up_line(row[channel], tables[channel], entries)
        _put_together(row, colours[y])


@compiled
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
            kept = kept if kept > f32(0.0) else f32(0.0)
            kept = kept if kept < most else most
            row[0, x], row[1, x], row[2, x] = red * kept, green * kept, blue * kept
        _put_together(row, colours[y])


@compiled
def to_lab(colours: Array, decode: Array, matrix: Array, root: Array, into: Array) -> None:
    """CIE Lab of encoded colours; see ``lab``. Both are ``(H, W, 3)`` float32."""
    row, entries = np.empty((3, colours.shape[1]), np.float32), np.empty(colours.shape[1], np.int32)
    for y in range(colours.shape[0]):
        _take_apart(colours[y], row)
        _to_roots(row, decode, matrix, root, entries)
        for x in range(colours.shape[1]):
            into[y, x, 0], into[y, x, 1], into[y, x, 2] = _lab(row[0, x], row[1, x], row[2, x])


@compiled
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
            whole = pixels[y, x, 3] if pixels[y, x, 3] > f32(0.0) else f32(1.0)
            row[0, x] = pixels[y, x, 0] / whole
            row[1, x] = pixels[y, x, 1] / whole
            row[2, x] = pixels[y, x, 2] / whole
        _to_roots(row, decode, to_xyz, root, entries)
        for x in range(width):
            light, a, b = _lab(row[0, x], row[1, x], row[2, x])
            share = light * f32(0.01)
            dark, bright = (f32(1.0) - share) * (f32(1.0) - share), share * share
            middle = f32(1.0) - dark - bright
            scale, shift = (
                _mix(scales, 0, dark, middle, bright),
                _mix(shifts, 0, dark, middle, bright),
            )
            light = light * scale + shift
            a = a * _mix(scales, 1, dark, middle, bright) + _mix(shifts, 1, dark, middle, bright)
            b = b * _mix(scales, 2, dark, middle, bright) + _mix(shifts, 2, dark, middle, bright)
            fy = (light + f32(16.0)) * f32(1.0 / 116.0)
            first = _cubed(fy + a * f32(1.0 / 500.0))
            second = _cubed(fy)
            third = _cubed(fy - b * f32(1.0 / 200.0))
            row[0, x] = _mix(from_xyz, 0, first, second, third)
            row[1, x] = _mix(from_xyz, 1, first, second, third)
            row[2, x] = _mix(from_xyz, 2, first, second, third)
        _look_up(row, encode, entries)
        for x in range(width):
            alpha = pixels[y, x, 3]
            for channel in range(3):
                into[y, x, channel] = row[channel, x] * alpha
            into[y, x, 3] = alpha
