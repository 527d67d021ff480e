"""Pictures from files or bytes, and picture files out."""

from __future__ import annotations

import hashlib
import math
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np

from wrinkle.core.errors import MediaError
from wrinkle.core.picture.image import Bytes8, Image, Light, Pixels, Size, from_bytes8
from wrinkle.core.picture.transfer import decode
from wrinkle.core.store import Store
from wrinkle.files.whole import read_whole, write_whole
from wrinkle.media.native_messages import unheard
from wrinkle.media.picture_header import promised_size

LARGEST_PICTURE = 192 << 20
"""Bytes of a picture file; a photograph of 24 megapixels has 144 million as plain 16 bit TIFF."""
MOST_PIXELS = 64_000_000
"""Of a picture file; cameras have up to 60 million, and four bytes each are read at once."""
_COLOURS = 3
_WORKED_ON = 12_000_000
"""Pixels of a picture as it is worked on; a frame of 2160×3840 has 8 million."""


class Still:
    """A picture that is the same at every time, with its alpha.

    Only the file's bytes are held for good; the decoded picture is kept in the store.

    Args:
        name: for messages.
        content: the bytes of a PNG, JPEG, WebP or TIFF file.
        store: where decoded pictures are kept; by default one of its own.

    Raises:
        MediaError: the bytes are no such picture.
    """

    def __init__(self, name: str, content: bytes, store: Store | None = None) -> None:
        self.name = name
        self.identity = hashlib.sha256(content).hexdigest()
        self._content = content
        self._store = store if store is not None else Store()
        picture = _linear_picture(name, content)
        self._size, self._opaque = picture.size, picture.opaque
        self._store.keep_part((self.identity, picture.size), picture)

    @classmethod
    def read(cls, path: Path, store: Store | None = None) -> Still:
        """The picture in a file.

        Raises:
            MediaError: it cannot be opened or read.
        """
        try:
            return cls(path.name, read_whole(path, LARGEST_PICTURE), store)
        except FileNotFoundError:
            raise MediaError(f"{path.name} cannot be opened: there is no such file.") from None
        except OSError as fault:
            raise MediaError(f"{path.name} cannot be opened: {fault.strerror}.") from None

    @property
    def size(self) -> Size:
        """Width and height."""
        return self._size

    @property
    def has_alpha(self) -> bool:
        """Whether some of it is transparent."""
        return not self._opaque

    @property
    def duration(self) -> Fraction:
        """A picture lasts as long as it is looked at."""
        return Fraction(0)

    def index_at(self, seconds: Fraction) -> int:
        """There is one picture."""
        return 0

    def following(self, seconds: Fraction) -> tuple[int, float] | None:
        """There is no next one."""
        return None

    def image(self, index: int, size: Size) -> Image:
        """The picture scaled to ``size``, linear."""
        return self._store.made((self.identity, size), lambda: self._scaled(size))

    def _scaled(self, size: Size) -> Image:
        if size == self.size:
            return _linear_picture(self.name, self._content)
        whole = self.image(0, self.size)
        smaller = size.width < self.size.width
        interpolation = cv2.INTER_AREA if smaller else cv2.INTER_LINEAR
        pixels = cv2.resize(whole.pixels, tuple(size), interpolation=interpolation)
        return Image(pixels, Light.LINEAR, self._opaque)


def write_png(path: Path, premultiplied: Bytes8, opaque: bool) -> None:
    """Writes encoded 8-bit premultiplied RGBA ``(H, W, 4)`` as a PNG file, whole or not at all.

    Raises:
        MediaError: the place cannot be written to.
    """
    if opaque:
        pixels = cv2.cvtColor(premultiplied, cv2.COLOR_RGBA2BGR)
    else:
        alpha = premultiplied[..., 3:].astype(np.float32)
        straight = np.divide(
            premultiplied[..., :3] * np.float32(255.0),
            alpha,
            out=np.zeros((*premultiplied.shape[:2], 3), np.float32),
            where=alpha > 0.0,
        )
        colours = np.clip(np.rint(straight), 0, 255).astype(np.uint8)
        pixels = np.dstack((colours[..., ::-1], premultiplied[..., 3]))
    done, content = cv2.imencode(".png", pixels)
    if not done:
        raise MediaError(f"{path.name} cannot be made from this picture.")
    try:
        write_whole(path, content.tobytes())
    except OSError as fault:
        raise MediaError(
            f"{path.name} cannot be written: {fault.strerror}; choose another place."
        ) from None


def _linear_picture(name: str, content: bytes) -> Image:
    if not content:
        raise MediaError(f"{name} is empty; use a whole copy of it.")
    promised = promised_size(content)
    if promised is not None and promised.width * promised.height > MOST_PIXELS:
        raise MediaError(
            f"{name} has {promised.label} pixels; {MOST_PIXELS // 1_000_000} million are the most. "
            "Use a smaller picture."
        )
    found = _decoded(np.frombuffer(content, np.uint8)) if promised is not None else None
    if found is None or found.size == 0 or found.dtype not in (np.uint8, np.uint16):
        raise MediaError(f"{name} cannot be read as a picture; use a PNG, JPEG, WebP or TIFF file.")
    order = cv2.COLOR_BGR2RGB if found.shape[2] == 3 else cv2.COLOR_BGRA2RGBA
    pixels = cv2.cvtColor(_workable(found), order)
    return from_bytes8(pixels) if pixels.dtype == np.uint8 else _from_16_bit(pixels)


def _decoded(raw: Bytes8) -> Bytes8 | None:
    try:
        with unheard():
            found: Bytes8 | None = cv2.imdecode(raw, cv2.IMREAD_UNCHANGED)
        if found is not None and found.ndim == 2:
            found = cv2.cvtColor(found, cv2.COLOR_GRAY2BGR)
        elif found is not None and found.shape[2] == _COLOURS and _may_be_turned(raw):
            # This way of reading obeys the turning note that cameras leave in the file.
            with unheard():
                found = cv2.imdecode(raw, cv2.IMREAD_COLOR | cv2.IMREAD_ANYDEPTH)
    except cv2.error:
        return None
    return found


def _may_be_turned(raw: Bytes8) -> bool:
    """Whether there can be a note on how the camera was held: reading twice takes twice as long."""
    content = raw.tobytes()
    return content[:2] in (b"II", b"MM") or b"Exif" in content or b"eXIf" in content


def _workable(picture: Bytes8) -> Bytes8:
    """The picture, made smaller by a whole number where it is larger than any frame needs."""
    height, width = picture.shape[:2]
    factor = math.ceil(math.sqrt(height * width / _WORKED_ON))
    if factor <= 1:
        return picture
    size = max(1, width // factor), max(1, height // factor)
    smaller: Bytes8 = cv2.resize(picture, size, interpolation=cv2.INTER_AREA)
    return smaller


def _from_16_bit(pixels: Bytes8) -> Image:
    height, width, channels = pixels.shape
    values: Pixels = np.ones((height, width, 4), np.float32)
    values[..., :channels] = pixels * np.float32(1.0 / 65535.0)
    values[..., :3] = decode(np.ascontiguousarray(values[..., :3])) * values[..., 3:]
    return Image(values, Light.LINEAR, bool(values[..., 3].min() == 1.0))
