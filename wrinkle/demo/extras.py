"""What the demo has besides its eight clips: overlays, textures, drawings, LUTs, other shapes.

Everything is made up and drawn here; the same program always gives the same files.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
import skia

from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.core.picture.noise import Noise, noise_field
from wrinkle.core.time.rate import FrameRate
from wrinkle.demo.brushes import HEIGHT, WIDTH
from wrinkle.files.whole import write_whole
from wrinkle.media.video_file import write_video

_RATE = FrameRate(Fraction(30))
_OVERLAY_FRAMES = 72
OVERLAY_SIZE = Size(WIDTH // 3, HEIGHT // 3)
_LUT_SIDE = 17


def sea_fog(path: Path) -> None:
    """Grey fog on black that is densest in the middle of its time; soft enough to be small."""
    write_video(path, fog_frames(), OVERLAY_SIZE, _RATE)


def ink(path: Path) -> None:
    """Ink that spreads on white from a few drops until nearly all is dark."""
    write_video(path, ink_frames(), OVERLAY_SIZE, _RATE)


def sailcloth(path: Path) -> None:
    """A light weave, seamless to the eye."""
    width, height = WIDTH // 2, HEIGHT // 2
    rows, columns = np.mgrid[0:height, 0:width].astype(np.float32)
    over = (np.floor(rows / 6) + np.floor(columns / 6)) % 2
    threads = np.where(over > 0, np.sin(rows * math.pi / 6), np.sin(columns * math.pi / 6))
    grain = noise_field(Noise((9.0, 3.0), 3.0, seed=11), Size(width, height))
    slubs = noise_field(Noise((260.0, 7.0), 2.0, seed=12), Size(width, height))
    grey = 214 + 13 * np.abs(threads) + 16 * grain + 22 * slubs
    _write_picture(path, _bytes(grey[..., None] - np.array((0.0, 5.0, 14.0), np.float32)))


def strokes(path: Path) -> None:
    """Three brush strokes as lines of an SVG file."""
    path_data = (
        ("upper", "M90 420C300 300 420 560 640 430S900 330 1000 400", 250),
        ("middle", "M120 980C330 870 470 1120 690 990S900 900 980 960", 300),
        ("lower", "M100 1520C320 1420 520 1640 740 1510S940 1450 1000 1500", 260),
    )
    lines = "\n".join(
        f'  <path id="{name}" d="{data}" stroke-width="{width}"/>'
        for name, data, width in path_data
    )
    write_whole(
        path,
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDTH} {HEIGHT}">\n'
        f'<g fill="none" stroke="#ffffff" stroke-linecap="round" stroke-linejoin="round">\n'
        f"{lines}\n</g>\n</svg>\n".encode(),
    )


def kite_fish(path: Path) -> None:
    """A kite in the form of a fish, on nothing."""
    surface = skia.Surface(900, 600)
    canvas = surface.getCanvas()
    body = skia.Path()
    body.moveTo(60, 300)
    body.cubicTo(200, 90, 520, 100, 660, 290)
    body.lineTo(850, 130)
    body.lineTo(800, 300)
    body.lineTo(850, 470)
    body.lineTo(660, 310)
    body.cubicTo(520, 500, 200, 510, 60, 300)
    body.close()
    canvas.drawPath(body, skia.Paint(Color=0xFFD9862F, AntiAlias=True))
    canvas.save()
    canvas.clipPath(body, True)
    for row in range(7):
        for column in range(14):
            spot = (150 + column * 58 + row % 2 * 29, 90 + row * 70)
            ring = skia.Paint(AntiAlias=True, Style=skia.Paint.kStroke_Style, StrokeWidth=9)
            ring.setColor(0xFF1F7470 if (row + column) % 3 else 0xFFF2E6C8)
            canvas.drawCircle(*spot, 30, ring)
    canvas.restore()
    rim = skia.Paint(Color=0xFF5A2E14, AntiAlias=True, Style=skia.Paint.kStroke_Style)
    rim.setStrokeWidth(10)
    canvas.drawPath(body, rim)
    canvas.drawCircle(175, 265, 34, skia.Paint(Color=0xFFF7F2E4, AntiAlias=True))
    canvas.drawCircle(168, 265, 17, skia.Paint(Color=0xFF20160F, AntiAlias=True))
    premultiplied = surface.toarray(colorType=skia.kRGBA_8888_ColorType)
    _write_picture(path, premultiplied)


def cold_morning(path: Path) -> None:
    """A LUT: blue shadows, pale lights, less colour."""
    _write_lut(path, "Cold morning", _cold)


def late_gold(path: Path) -> None:
    """A LUT: warm lights, deep soft shadows."""
    _write_lut(path, "Late gold", _gold)


EXTRAS: dict[str, Callable[[Path], None]] = {
    "sea_fog.mp4": sea_fog,
    "ink.mp4": ink,
    "sailcloth.png": sailcloth,
    "strokes.svg": strokes,
    "kite_fish.png": kite_fish,
}


def fog_frames() -> Iterator[Bytes8]:
    """The pictures of the fog, RGB ``(640, 360, 3)``."""
    rows = np.linspace(0.0, 1.0, OVERLAY_SIZE.height, dtype=np.float32)[:, None]
    for number in range(_OVERLAY_FRAMES):
        t = number / (_OVERLAY_FRAMES - 1)
        dense = math.sin(math.pi * t) ** 1.5
        middle = (OVERLAY_SIZE.width * (0.2 + 0.9 * t), OVERLAY_SIZE.height / 2)
        wisps = noise_field(Noise((170.0, 90.0), 5.0, 2.0 * t, seed=21), OVERLAY_SIZE, middle)
        bank = noise_field(Noise((420.0, 300.0), 2.0, t, seed=22), OVERLAY_SIZE, middle)
        grey = 265 * dense * (0.62 + 0.75 * bank + 0.55 * wisps + 0.12 * rows)
        yield np.repeat(_bytes(grey)[..., None], 3, axis=2)


def ink_frames() -> Iterator[Bytes8]:
    """The pictures of the ink, RGB ``(640, 360, 3)``."""
    size = OVERLAY_SIZE
    rows, columns = np.mgrid[0 : size.height, 0 : size.width].astype(np.float32)
    edge = noise_field(Noise((70.0, 70.0), 6.0, 0.3, seed=31), size)
    wash = noise_field(Noise((160.0, 160.0), 4.0, 0.8, seed=32), size)
    drops = ((0.5, 0.45, 0.0, 1.0), (0.25, 0.7, 0.16, 0.8), (0.78, 0.25, 0.24, 0.75))
    field = np.full((size.height, size.width), 1e9, np.float32)
    for x, y, start, pace in drops:
        away = np.hypot(columns - x * size.width, rows - y * size.height)
        # When the ink arrives there, in parts of the clip.
        field = np.minimum(field, start + away / (pace * 560.0))
    arrives = field * (1.0 + 0.5 * edge) + 0.05 * edge
    for number in range(_OVERLAY_FRAMES):
        t = 1.15 * number / (_OVERLAY_FRAMES - 1)
        wet = np.clip((t - arrives) / 0.035, 0.0, 1.0)
        rim = np.exp(-(((t - arrives) / 0.02) ** 2))
        grey = 250 - 226 * wet * (0.86 + 0.22 * wash) - 18 * rim
        dark = _bytes(grey)
        yield np.stack([dark, dark, np.maximum(dark, 34)], axis=2)


def _bytes(grey: np.ndarray) -> Bytes8:
    whole: Bytes8 = np.clip(np.rint(grey), 0, 255).astype(np.uint8)
    return whole


def _write_picture(path: Path, pixels: Bytes8) -> None:
    """RGB, or RGBA with straight alpha as Skia gives it where it is opaque, as a PNG file."""
    order = cv2.COLOR_RGBA2BGRA if pixels.shape[2] == 4 else cv2.COLOR_RGB2BGR
    _, content = cv2.imencode(".png", cv2.cvtColor(pixels, order))
    write_whole(path, content.tobytes())


def _cold(colour: np.ndarray) -> np.ndarray:
    grey = colour @ np.array([0.2126, 0.7152, 0.0722])
    pale = grey[..., None] + (colour - grey[..., None]) * 0.72
    lifted = 0.04 + 0.93 * pale
    return np.asarray(lifted + (1.0 - grey[..., None]) * np.array([-0.02, 0.005, 0.05]))


def _gold(colour: np.ndarray) -> np.ndarray:
    curved = colour * colour * (3.0 - 2.0 * colour) * 0.4 + colour * 0.6
    grey = curved @ np.array([0.2126, 0.7152, 0.0722])
    return np.asarray(curved + grey[..., None] * np.array([0.07, 0.025, -0.075]))


def _write_lut(path: Path, title: str, look: Callable[[np.ndarray], np.ndarray]) -> None:
    """A three-dimensional LUT; red runs fastest, as the format wants it."""
    steps = np.linspace(0.0, 1.0, _LUT_SIDE)
    blue, green, red = np.meshgrid(steps, steps, steps, indexing="ij")
    table = np.clip(look(np.stack([red, green, blue], axis=-1)), 0.0, 1.0).reshape(-1, 3)
    lines = "\n".join(" ".join(f"{value:.6f}" for value in row) for row in table)
    write_whole(path, f'TITLE "{title}"\nLUT_3D_SIZE {_LUT_SIDE}\n{lines}\n'.encode())
