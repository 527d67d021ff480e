"""A rendered picture as an encoder's frame, with all of its depth."""

from __future__ import annotations

import numpy as np
from av.video.frame import VideoFrame
from av.video.reformatter import ColorRange, Interpolation
from numpy.typing import NDArray

from wrinkle.core.picture.image import Image, Light
from wrinkle.media.output.colour import BT709, Colour, in_colour
from wrinkle.media.output.format import Alpha, Format

_BITS_8 = 8
_FULL, _FULL_OF_YUV = 65_535.0, 65_280.0
"""What is white in 16 bits; to FFmpeg's conversion to YUV it is 255 times 256."""
_CAREFULLY = Interpolation.BILINEAR | Interpolation.ACCURATE_RND | Interpolation.FULL_CHR_H_INP
"""Rounded to the nearest, and colours from all pixels that share one."""


def frame_of(
    image: Image, form: Format, pixels: str, depth: int, alpha: bool, colour: Colour = BT709
) -> VideoFrame:
    """A picture in a pixel format.

    Args:
        image: as it was rendered.
        form: what it is written in.
        pixels: FFmpeg's name of the pixel format.
        depth: bits of a colour.
        alpha: whether it keeps its alpha; else it lies over black.
        colour: what its values stand for.
    """
    image = in_colour(image, colour)
    if form.linear:
        return _linear(image, pixels, alpha)
    straight = alpha and form.alpha is Alpha.STRAIGHT and not image.opaque
    if depth == _BITS_8:
        content = _bytes(image, straight, alpha)
        frame = VideoFrame.from_ndarray(content, "rgba" if alpha else "rgb24")
    else:
        full = _FULL_OF_YUV if pixels.startswith("yuv") else _FULL
        words = np.rint(_channels(image, straight, alpha) * np.float32(full)).astype(np.uint16)
        frame = VideoFrame.from_ndarray(words, "rgba64le" if alpha else "rgb48le")
    return converted(frame, pixels, colour)


def converted(frame: VideoFrame, pixels: str, colour: Colour = BT709) -> VideoFrame:
    """A frame of RGB in a pixel format; brightness and colour are in the limited range."""
    if frame.format.name == pixels:
        return frame
    if pixels.startswith("yuv"):
        return frame.reformat(
            format=pixels,
            dst_colorspace=colour.matrix,
            dst_color_range=ColorRange.MPEG,
            interpolation=_CAREFULLY,
            threads=1,
        )
    return frame.reformat(format=pixels)


def _bytes(image: Image, straight: bool, alpha: bool) -> NDArray[np.uint8]:
    """Encoded 8-bit RGB ``(H, W, 3)``, or RGBA."""
    if straight:
        levels = np.rint(_channels(image, straight, alpha) * np.float32(255.0))
        return np.asarray(levels, np.uint8)
    content = image.to_bytes8()
    return np.ascontiguousarray(content if alpha else content[..., :3])


def _channels(image: Image, straight: bool, alpha: bool) -> NDArray[np.float32]:
    """Encoded RGB ``(H, W, 3)``, or RGBA, within 0…1."""
    found = np.clip(image.in_light(Light.ENCODED).pixels, 0.0, 1.0)
    if straight:
        cover = found[..., 3:]
        colours = np.divide(found[..., :3], cover, out=np.zeros_like(found[..., :3]),
                            where=cover > 0.0)  # fmt: skip
        found = np.concatenate([np.clip(colours, 0.0, 1.0), cover], axis=2)
    return np.ascontiguousarray(found if alpha else found[..., :3])


def _linear(image: Image, pixels: str, alpha: bool) -> VideoFrame:
    """Planes of floats: green, blue, red, and alpha."""
    found = image.in_light(Light.LINEAR).pixels
    height, width = found.shape[:2]
    frame = VideoFrame(width, height, pixels)
    order = (1, 2, 0, 3) if alpha else (1, 2, 0)
    for plane, channel in zip(frame.planes, order, strict=True):
        rows = np.zeros((height, plane.line_size // 4), np.float32)
        rows[:, :width] = found[..., channel]
        plane.update(rows.tobytes())
    return frame
