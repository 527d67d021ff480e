"""From a decoded picture to encoded 8-bit colours as they are to be seen.

The matrix is that of the file's tag; without one it is that of standard definition, BT.601, up to
1024×576, and BT.709 beyond (common practice). High dynamic range and wide colours are brought to
BT.709 colours: the curves are those of Rec. ITU-R BT.2100-2, tables 4 and 5, white is at 203 cd/m²
(BT.2408-7), brighter light is bent down by the EETF of BT.2390-11, section 5.4.1, for a source of
1000 cd/m², by the largest of the three channels.
"""

from __future__ import annotations

from enum import Enum
from functools import cache
from threading import local
from typing import Any

import av
import cv2
import numpy as np
from av.filter import Graph
from av.video.frame import VideoFrame
from av.video.reformatter import ColorRange, Colorspace, Interpolation, VideoReformatter
from numpy.typing import NDArray

from wrinkle.core.errors import MediaError
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.core.picture.transfer import encode_to_8bit
from wrinkle.media.orientation import Orientation

_UNTAGGED, _RGB, _BT2020 = 2, 0, 9
_UNTAGGED_RANGE = 0
_PQ, _HLG = 16, 18
"""ITU-T H.273: matrix coefficients, colour primaries and transfer characteristics."""
_SD_LONG, _SD_SHORT = 1024, 576
_WHITE, _PEAK, _PQ_PEAK = 203.0, 1000.0, 10_000.0
_CODES = 65_536

Floats = NDArray[np.float64]

_TO_709 = np.array(
    [(1.6605, -0.5876, -0.0728), (-0.1246, 1.1329, -0.0083), (-0.0182, -0.1006, 1.1187)], np.float32
)
"""Rec. ITU-R BT.2087-0, section 4: linear BT.2020 to linear BT.709."""
_LUMA_2020 = np.array([(0.2627, 0.6780, 0.0593)], np.float32)


class DynamicRange(Enum):
    """A transfer function of more than the usual range; or wide colours in the usual one."""

    PQ = "PQ"
    HLG = "HLG"
    WIDE = "BT.2020"


def dynamic_range(frame: VideoFrame) -> DynamicRange | None:
    """Whether a picture has to be brought to the usual range and colours; None where it has not."""
    if int(frame.color_trc) == _PQ:
        return DynamicRange.PQ
    if int(frame.color_trc) == _HLG:
        return DynamicRange.HLG
    return DynamicRange.WIDE if int(frame.color_primaries) == _BT2020 else None


def is_usual(frame: VideoFrame) -> bool:
    """Whether a picture stands as it is written: BT.709 in YUV of the limited range, and whole."""
    return (
        frame.format.name.startswith("yuv4")
        and int(frame.color_range) in (_UNTAGGED_RANGE, int(ColorRange.MPEG))
        and _matrix(frame) == int(Colorspace.ITU709)
        and dynamic_range(frame) is None
        and not frame.interlaced_frame
    )


def converted(frame: VideoFrame, size: Size, stands: Orientation) -> Bytes8:
    """A decoded picture upright and scaled: encoded ``(H, W, 3)``, or ``(H, W, 4)`` straight.

    Raises:
        MediaError: it cannot be converted.
    """
    target = Size(size.height, size.width) if stands.on_its_side else size
    has_alpha = any(component.is_alpha for component in frame.format.components)
    found = dynamic_range(frame)
    kind = ("rgba" if has_alpha else "rgb24") if found is None else "rgb48le"
    try:
        whole = _deinterlaced(frame) if frame.interlaced_frame else frame
        pixels: NDArray[Any] = _THREAD.own.reformat(
            whole,
            width=target.width,
            height=target.height,
            format=kind,
            src_colorspace=_matrix(frame),
            interpolation=Interpolation.AREA
            if target.width < frame.width
            else Interpolation.BICUBIC,
        ).to_ndarray()
    except (av.FFmpegError, ValueError) as fault:
        raise MediaError(f"A picture cannot be converted: {fault}.") from None
    return stands.upright(pixels if found is None else _usual(pixels, found))


def _matrix(frame: VideoFrame) -> int:
    space = int(frame.colorspace)
    if space not in (_UNTAGGED, _RGB):
        return space
    long, short = max(frame.width, frame.height), min(frame.width, frame.height)
    standard = long <= _SD_LONG and short <= _SD_SHORT
    return int(Colorspace.ITU601 if standard else Colorspace.ITU709)


class _OfThread(local):
    """A converter for each thread: it keeps what it has worked out for a kind of picture."""

    def __init__(self) -> None:
        self.own = VideoReformatter()


_THREAD = _OfThread()


def _deinterlaced(frame: VideoFrame) -> VideoFrame:
    """A picture whose lines are of two times, made from its first field alone.

    That needs no neighbours: any picture is the same from wherever one comes to it.
    """
    graph = Graph()
    source = graph.add_buffer(
        width=frame.width, height=frame.height, format=frame.format, time_base=frame.time_base
    )
    # Guided by edges, within one picture.
    filled, sink = graph.add("estdif", "mode=frame:deint=all"), graph.add("buffersink")
    source.link_to(filled)
    filled.link_to(sink)
    graph.configure()
    graph.push(frame)
    graph.push(None)
    done = graph.pull()
    if not isinstance(done, VideoFrame):
        raise ValueError("no picture came of its fields")
    return done


# High dynamic range


def _usual(codes: NDArray[np.uint16], found: DynamicRange) -> Bytes8:
    """16-bit codes ``(H, W, 3)`` as 8-bit sRGB."""
    if found is DynamicRange.WIDE:
        light = np.take(_display_light(), codes)
    elif found is DynamicRange.PQ:
        light = np.take(_pq_light(), codes)
        light *= np.take(_bent(), codes.max(axis=2))[..., None]
    else:
        scene = np.take(_hlg_scene(), codes)
        # The OOTF of BT.2100, table 5, for a display of 1000 cd/m²: a gamma of 1.2.
        seen = cv2.pow(np.maximum(cv2.transform(scene, _LUMA_2020), 1e-6), 0.2)
        light = scene * (seen.reshape(*scene.shape[:2], 1) * np.float32(_PEAK / _WHITE))
        brightest = light.max(axis=2) * np.float32(_WHITE)
        light *= np.take(_bent(), _pq_codes(brightest))[..., None]
    narrow = np.clip(cv2.transform(light.astype(np.float32), _TO_709), 0.0, 1.0)
    return encode_to_8bit(cv2.cvtColor(narrow, cv2.COLOR_RGB2RGBA))[..., :3]


def pq_to_light(code: Floats) -> Floats:
    """cd/m² of PQ values 0…1, in any shape. BT.2100-2, table 4, the EOTF."""
    root = np.power(np.clip(code, 0.0, 1.0), 32.0 / 2523.0)
    c1, c2, c3 = 3424.0 / 4096.0, 2413.0 / 128.0, 2392.0 / 128.0
    share = np.maximum(root - c1, 0.0) / (c2 - c3 * root)
    return np.asarray(_PQ_PEAK * np.power(share, 16384.0 / 2610.0))


def light_to_pq(light: Floats) -> Floats:
    """PQ values 0…1 of cd/m², in any shape. BT.2100-2, table 4, the inverse EOTF."""
    share = np.power(np.clip(light / _PQ_PEAK, 0.0, 1.0), 2610.0 / 16384.0)
    c1, c2, c3 = 3424.0 / 4096.0, 2413.0 / 128.0, 2392.0 / 128.0
    return np.asarray(np.power((c1 + c2 * share) / (1.0 + c3 * share), 2523.0 / 32.0))


def hlg_to_scene(code: Floats) -> Floats:
    """Scene light 0…1 of HLG values, in any shape. BT.2100-2, table 5, the inverse OETF."""
    a, b, c = 0.17883277, 0.28466892, 0.55991073
    bright = (np.exp((np.maximum(code, 0.5) - c) / a) + b) / 12.0
    return np.asarray(np.where(code <= 0.5, code * code / 3.0, bright))


def bent_light(light: Floats) -> Floats:
    """cd/m², in any shape, after the EETF of BT.2390: a display of 203 shows a source of 1000."""
    most = light_to_pq(np.asarray(_PEAK))
    value = np.minimum(light_to_pq(light) / most, 1.0)
    top = light_to_pq(np.asarray(_WHITE)) / most
    knee = 1.5 * top - 0.5
    t = np.maximum(value - knee, 0.0) / (1.0 - knee)
    curve = (
        (2.0 * t**3 - 3.0 * t**2 + 1.0) * knee
        + (t**3 - 2.0 * t**2 + t) * (1.0 - knee)
        + (3.0 * t**2 - 2.0 * t**3) * top
    )
    return pq_to_light(np.where(value < knee, value, curve) * most)


@cache
def _codes() -> Floats:
    return np.arange(_CODES) / (_CODES - 1.0)


@cache
def _pq_light() -> NDArray[np.float32]:
    return (pq_to_light(_codes()) / _WHITE).astype(np.float32)


@cache
def _hlg_scene() -> NDArray[np.float32]:
    return hlg_to_scene(_codes()).astype(np.float32)


@cache
def _display_light() -> NDArray[np.float32]:
    """Of BT.2020 in the usual range: the EOTF of BT.1886 with a black of 0."""
    return np.power(_codes(), 2.4).astype(np.float32)


@cache
def _bent() -> NDArray[np.float32]:
    """By how much light is dimmed whose brightest channel has a PQ code."""
    light = pq_to_light(_codes())
    share = bent_light(light) / np.maximum(light, 1e-9)
    share[0] = 1.0
    return share.astype(np.float32)


def _pq_codes(light: NDArray[np.float32]) -> NDArray[np.intp]:
    # PQ is even to the eye: over 1024 places straight lines are exact enough.
    places = np.linspace(0.0, 1.0, 1024)
    found = np.interp(light, pq_to_light(places), places)
    return np.asarray(found * (_CODES - 1), np.intp)
