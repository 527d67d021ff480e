"""Layers laid over each other, cut and lit; see ``compositing``, ``blending`` and ``exposure``."""

from __future__ import annotations

import numpy as np

from wrinkle.core.picture.channels import LEAST_ALPHA
from wrinkle.core.picture.passes.compiling import Array, compiled, f32, inlined, seen, spread_alpha
from wrinkle.core.picture.passes.curve import recode_row


@compiled
def over(front: Array, opacity: Array, back: Array, into: Array) -> None:
    """front · opacity + back · (1 − its alpha), premultiplied, ``(H, W, 4)`` float32."""
    for y in range(front.shape[0]):
        first, end = seen(front[y])
        _copy_row(back[y, :first], into[y, :first])
        _over_row(front[y, first:end], opacity, back[y, first:end], into[y, first:end])
        _copy_row(back[y, end:], into[y, end:])


@compiled
def lay_over(front: Array, opacity: Array, back: Array) -> None:
    """What ``over`` gives, into the back itself."""
    for y in range(front.shape[0]):
        first, end = seen(front[y])
        row = back[y, first:end]
        _over_row(front[y, first:end], opacity, row, row)


@compiled
def _over_row(front: Array, opacity: Array, back: Array, into: Array) -> None:
    for x in range(front.shape[0]):
        left = f32(1.0) - front[x, 3] * opacity
        for channel in range(4):
            into[x, channel] = back[x, channel] * left + front[x, channel] * opacity


@compiled
def encode_over(front: Array, opacity: Array, back: Array, into: Array) -> bool:
    """``recode`` of the front ``(H, W, 4)`` and ``over`` at once; gives what ``recode`` does."""
    curved = np.empty((front.shape[1], 4), np.float32)
    room = np.empty((2, front.shape[1], 4), np.float32)
    for y in range(front.shape[0]):
        first, end = seen(front[y])
        if not recode_row(front[y, first:end], True, room, curved[first:end]):
            return False
        _copy_row(back[y, :first], into[y, :first])
        _over_row(curved[first:end], opacity, back[y, first:end], into[y, first:end])
        _copy_row(back[y, end:], into[y, end:])
    return True


@compiled
def _copy_row(row: Array, into: Array) -> None:
    for x in range(row.shape[0]):
        for channel in range(4):
            # The sum with nothing, as where something is laid over: -0 becomes 0.
            into[x, channel] = row[x, channel] + f32(0.0)


@compiled
def atop(laid: Array, front: Array, back: Array, into: Array) -> None:
    """What is laid over a back is kept within it, premultiplied, ``(H, W, 4)`` float32."""
    for y in range(front.shape[0]):
        for x in range(front.shape[1]):
            bare, within = f32(1.0) - front[y, x, 3], back[y, x, 3]
            for channel in range(3):
                left = back[y, x, channel] * bare
                into[y, x, channel] = within * (laid[y, x, channel] - left) + left
            into[y, x, 3] = within


@compiled
def mix(front: Array, opacity: Array, back: Array, share: Array, into: Array) -> None:
    """front · opacity + back · (1 − share), of a share ``(H, W)``; pictures ``(H, W, 4)``."""
    for y in range(front.shape[0]):
        for x in range(front.shape[1]):
            left = f32(1.0) - share[y, x]
            for channel in range(4):
                into[y, x, channel] = front[y, x, channel] * opacity + back[y, x, channel] * left


@compiled
def cover(pixels: Array, share: Array, into: Array) -> None:
    """A share ``(H, W)`` of pixels ``(H, W, 4)``."""
    for y in range(share.shape[0]):
        for x in range(share.shape[1]):
            for channel in range(4):
                into[y, x, channel] = pixels[y, x, channel] * share[y, x]


@compiled
def tint(colour: Array, share: Array, into: Array) -> None:
    """A share ``(H, W)`` of one colour ``(4,)``, as ``(H, W, 4)``."""
    red, green, blue, alpha = colour[0], colour[1], colour[2], colour[3]
    for y in range(share.shape[0]):
        for x in range(share.shape[1]):
            part = share[y, x]
            into[y, x, 0], into[y, x, 1] = part * red, part * green
            into[y, x, 2], into[y, x, 3] = part * blue, part * alpha


@compiled
def undress(pixels: Array, into: Array) -> None:
    """The colours ``(H, W, 3)`` of premultiplied pixels ``(H, W, 4)``; black without any."""
    for y in range(pixels.shape[0]):
        for x in range(pixels.shape[1]):
            alpha = pixels[y, x, 3]
            seen = alpha > LEAST_ALPHA
            for channel in range(3):
                into[y, x, channel] = pixels[y, x, channel] / alpha if seen else f32(0.0)


@compiled
def dress(colours: Array, pixels: Array, into: Array) -> None:
    """Other colours ``(H, W, 3)`` for premultiplied pixels ``(H, W, 4)``, whose alpha stays."""
    for y in range(pixels.shape[0]):
        for x in range(pixels.shape[1]):
            alpha = pixels[y, x, 3]
            for channel in range(3):
                into[y, x, channel] = colours[y, x, channel] * alpha
            into[y, x, 3] = alpha


@compiled
def brighten(pixels: Array, factor: Array, largest: Array, into: Array) -> None:
    """Colours times a factor, at most a largest value; alpha stays, ``(H, W, 4)``."""
    for y in range(pixels.shape[0]):
        for x in range(pixels.shape[1]):
            for channel in range(3):
                lit = pixels[y, x, channel] * factor
                into[y, x, channel] = lit if lit < largest else largest
            into[y, x, 3] = pixels[y, x, 3]


@compiled
def add_covered(total: Array, pixels: Array, share: Array) -> None:
    """Adds a share ``(H, W)`` of pixels to a total, ``(H, W, 4)``, in place."""
    for y in range(share.shape[0]):
        for x in range(share.shape[1]):
            for channel in range(4):
                total[y, x, channel] += pixels[y, x, channel] * share[y, x]


@inlined
def _above(value: Array, least: Array) -> Array:
    return value if value > least else f32(0.0)


@compiled
def hold(pixels: Array, least: Array, into: Array) -> None:
    """Values of ``least`` or less become 0, colours at most alpha, ``(H, W, 4)`` float32."""
    width = pixels.shape[1] * 4
    room = np.empty((pixels.shape[1], 4), np.float32)
    for y in range(pixels.shape[0]):
        spread_alpha(pixels[y], room)
        line, held = pixels[y].reshape(width), into[y].reshape(width)
        _hold_line(line, room.reshape(width), f32(1.0), least, held)


@compiled
def _hold_line(line: Array, alpha: Array, opacity: Array, least: Array, into: Array) -> None:
    for x in range(line.shape[0]):
        into[x] = min(_above(line[x] * opacity, least), _above(alpha[x] * opacity, least))


@compiled
def product(
    front: Array, opacity: Array, back: Array, screened: bool, least: Array, into: Array
) -> None:
    """Screen or multiply, premultiplied ``(H, W, 4)`` float32, of what ``hold`` makes of both.

    Args:
        front: what is above, of which ``opacity`` is seen.
        back: what is below.
        screened: whether they are screened; else they are multiplied.
        least: as for ``hold``.
        into: what comes of it.
    """
    width = front.shape[1] * 4
    alpha = np.empty((2, front.shape[1], 4), np.float32)
    # Lines of their own: of rows that are taken out of a table the compiler takes no eight at once.
    above, below = alpha[0].reshape(width), alpha[1].reshape(width)
    one, other = np.empty(width, np.float32), np.empty(width, np.float32)
    for y in range(front.shape[0]):
        spread_alpha(front[y], alpha[0])
        spread_alpha(back[y], alpha[1])
        _hold_line(front[y].reshape(width), above, opacity, least, one)
        _hold_line(back[y].reshape(width), below, f32(1.0), least, other)
        if screened:
            _screen_line(one, other, into[y].reshape(width))
        else:
            _multiply_line(one, above, opacity, other, below, least, into[y].reshape(width))


@compiled
def _screen_line(one: Array, other: Array, into: Array) -> None:
    for x in range(one.shape[0]):
        into[x] = one[x] + other[x] - one[x] * other[x]


@compiled
def _multiply_line(
    one: Array,
    above: Array,
    opacity: Array,
    other: Array,
    below: Array,
    least: Array,
    into: Array,
) -> None:
    for x in range(one.shape[0]):
        first, second = _above(above[x] * opacity, least), _above(below[x], least)
        apart = one[x] * (f32(1.0) - second) + other[x] * (f32(1.0) - first)
        into[x] = apart + one[x] * other[x]
