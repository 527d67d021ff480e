"""Pixels as Qt's images."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtGui import QImage
from PyQt6.sip import voidptr

from wrinkle.core.picture.image import Bytes8, Image
from wrinkle.core.render.frames import ScreenFrame, screen_frame


def wrapped(frame: ScreenFrame) -> QImage:
    """A frame as Qt's picture, which shares its memory and keeps it alive."""
    height, width = frame.pixels.shape[:2]
    opaque, bare = QImage.Format.Format_RGB32, QImage.Format.Format_ARGB32_Premultiplied
    layout = opaque if frame.opaque else bare
    pixels = frame.pixels
    # Qt lets go of the pixels when the last copy of the picture is gone.
    picture: QImage = QImage(  # type: ignore[call-overload]
        voidptr(pixels.ctypes.data),
        width,
        height,
        pixels.strides[0],
        layout,
        cleanupFunction=_let_go,
        cleanupInfo=pixels,
    )
    return picture


def _let_go(pixels: object) -> None:
    """The reference that was held is dropped by the call itself."""


def to_qimage(image: Image) -> QImage:
    """The image for the screen; it owns its memory."""
    return wrapped(screen_frame(image)).copy()


def qimage_of(pixels: Bytes8) -> QImage:
    """A Qt picture of RGB bytes ``(H, W, 3)``, with bytes of its own."""
    height, width = pixels.shape[:2]
    content = np.ascontiguousarray(pixels)
    return QImage(content.tobytes(), width, height, 3 * width, QImage.Format.Format_RGB888).copy()


def pixels_of(picture: QImage) -> Bytes8:
    """The pixels of a picture as RGB ``(H, W, 3)``, over black where it is clear."""
    plain = picture.convertToFormat(QImage.Format.Format_RGB32)
    bits = plain.constBits()
    if bits is None:
        return np.zeros((0, 0, 3), np.uint8)
    stride, height, width = plain.bytesPerLine(), plain.height(), plain.width()
    rows = np.frombuffer(bits.asstring(stride * height), np.uint8).reshape(height, stride)
    return np.ascontiguousarray(rows[:, : 4 * width].reshape(height, width, 4)[..., 2::-1])


def brightness_shares(picture: QImage, steps: int = 48) -> NDArray[np.float64]:
    """How often each brightness ``(N,)`` occurs in a picture, the commonest being 1."""
    small = picture.scaled(64, 64).convertToFormat(QImage.Format.Format_Grayscale8)
    bits = small.constBits()
    if bits is None:
        return np.zeros(steps)
    grey = np.frombuffer(bits.asstring(small.sizeInBytes()), np.uint8)
    counts, _ = np.histogram(grey, bins=steps, range=(0, 256))
    return np.sqrt(counts / max(int(counts.max()), 1))
