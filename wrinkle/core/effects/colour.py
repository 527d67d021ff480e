"""Colour tools. Each is a function of one colour, on encoded colours without their alpha."""

from __future__ import annotations

import math
from collections.abc import Callable

import cv2
import numpy as np

from wrinkle.core.effects.effect import Apply, Effect, Family, Scene, Values, choice, length, number
from wrinkle.core.effects.reveal import LUMA, straight
from wrinkle.core.effects.sampling import Field, blurred
from wrinkle.core.motion.setting_spec import SettingSpec, Unit
from wrinkle.core.picture.image import Image, Light
from wrinkle.core.picture.lut import looked_up

Tool = Callable[[Field, Values], Field]
_FLOOR = 1e-6


def of_colours(tool: Tool) -> Apply:
    """An effect's function from a tool that takes colours ``(H, W, 3)`` and gives new ones."""

    def apply(image: Image, values: Values, scene: Scene) -> Image:
        colours = tool(straight(image), values)
        pixels = np.empty_like(image.pixels)
        pixels[..., :3] = colours
        if not image.opaque:
            pixels[..., :3] *= image.pixels[..., 3:]
        pixels[..., 3] = image.pixels[..., 3]
        return Image(pixels, image.light, image.opaque)

    return apply


def lift_gamma_gain(colours: Field, values: Values) -> Field:
    """((gain · (c + lift · (1 - c))) ^ (1 / gamma)), for each channel. Common practice."""
    lift = np.array(values.colour("lift"), np.float32) * 2.0 - 1.0
    gamma = np.array(values.colour("gamma"), np.float32) * 2.0
    gain = np.array(values.colour("gain"), np.float32) * 2.0
    lifted = gain * (colours + lift * (1.0 - colours))
    exponent = 1.0 / np.maximum(gamma, 0.01)
    return np.asarray(np.power(np.maximum(lifted, 0.0), exponent), np.float32)


def slope_offset_power(colours: Field, values: Values) -> Field:
    """ASC CDL: (c · slope + offset) ^ power, then saturation about Rec. 709 luma."""
    slope = np.array(values.colour("slope"), np.float32) * 2.0
    offset = np.array(values.colour("offset"), np.float32) * 2.0 - 1.0
    power = np.maximum(np.array(values.colour("power"), np.float32) * 2.0, 0.01)
    graded = np.power(np.clip(colours * slope + offset, 0.0, 1.0), power)
    grey = (graded @ LUMA)[..., None]
    saturated = grey + (graded - grey) * np.float32(values.number("saturation") / 100.0)
    return np.asarray(np.clip(saturated, 0.0, 1.0), np.float32)


def three_way(colours: Field, values: Values) -> Field:
    """Lows, middles and highs pushed towards a hue each, as much as the amount says."""
    luma = np.clip(colours @ LUMA, 0.0, 1.0)[..., None]
    low = (1.0 - luma) ** 2
    high = luma**2
    weights = {"low": low, "middle": 1.0 - low - high, "high": high}
    result = colours
    for name, weight in weights.items():
        amount = values.number(f"{name}_amount") / 100.0
        if amount:
            push = _hue_push(values.number(f"{name}_hue")) * np.float32(amount * 0.5)
            result = result + weight * push
    return np.asarray(np.maximum(result, 0.0), np.float32)


def white_balance(colours: Field, values: Values) -> Field:
    """Warmer or colder along blue and yellow, and along green and magenta; luma is kept."""
    warm, tint = values.number("temperature") / 100.0, values.number("tint") / 100.0
    factors = np.array(
        [1.0 + 0.35 * warm + 0.12 * tint, 1.0 - 0.25 * tint, 1.0 - 0.35 * warm + 0.12 * tint],
        np.float32,
    )
    balanced = colours * np.maximum(factors, 0.05)
    before, after = colours @ LUMA, balanced @ LUMA
    kept = balanced * (before / np.maximum(after, _FLOOR))[..., None]
    return np.asarray(kept, np.float32)


def tone(colours: Field, values: Values) -> Field:
    """Contrast about a pivot, then shadows, highlights, blacks and whites, each on its range."""
    contrast = 2.0 ** (values.number("contrast") / 50.0)
    pivot = np.float32(values.number("pivot") / 100.0)
    result = (colours - pivot) * np.float32(contrast) + pivot
    luma = np.clip(result @ LUMA, 0.0, 1.0)[..., None]
    for name, weight in (
        ("blacks", (1.0 - luma) ** 6),
        ("shadows", 4.0 * luma * (1.0 - luma) ** 3),
        ("highlights", 4.0 * (1.0 - luma) * luma**3),
        ("whites", luma**6),
    ):
        result = result + np.float32(values.number(name) / 100.0 * 0.5) * weight
    return np.asarray(np.maximum(result, 0.0), np.float32)


def saturation(colours: Field, values: Values) -> Field:
    """Away from grey or towards it; vibrance spares what is colourful already."""
    grey = (colours @ LUMA)[..., None]
    factor = np.float32(values.number("saturation") / 100.0)
    vibrance = values.number("vibrance") / 100.0
    if vibrance:
        spread = np.ptp(np.clip(colours, 0.0, 1.0), axis=2)[..., None]
        factor = factor * (1.0 + np.float32(vibrance) * (1.0 - spread))
    return np.asarray(np.maximum(grey + (colours - grey) * factor, 0.0), np.float32)


def hue_shift(colours: Field, values: Values) -> Field:
    """Hue turned, saturation and lightness scaled, within a range of hues or for all."""
    clipped = np.clip(colours, 0.0, 1.0).astype(np.float32)
    hls = cv2.cvtColor(np.ascontiguousarray(clipped), cv2.COLOR_RGB2HLS)
    hue = hls[..., 0] / 360.0
    reach = values.number("range") / 360.0
    share: Field | np.float32 = np.float32(1.0)
    if reach < 0.5:
        apart = np.abs((hue - values.number("around") / 360.0 + 0.5) % 1.0 - 0.5)
        soft = max(0.25 * reach, 0.01)
        # What has no colour has no hue either.
        share = np.clip((reach - apart) / soft + 0.5, 0.0, 1.0) * np.clip(hls[..., 2] * 8, 0, 1)
    turned = hls.copy()
    turned[..., 0] = (hls[..., 0] + np.float32(values.number("hue"))) % 360.0
    turned[..., 2] = np.clip(hls[..., 2] * (1.0 + values.number("saturation") / 100.0), 0.0, 1.0)
    light = values.number("lightness") / 100.0
    up = 1.0 - hls[..., 1] if light > 0.0 else hls[..., 1]
    turned[..., 1] = np.clip(hls[..., 1] + light * up, 0.0, 1.0)
    shifted = cv2.cvtColor(turned, cv2.COLOR_HLS2RGB)
    if isinstance(share, np.floating):
        return np.asarray(shifted, np.float32)
    mixed: Field = clipped + (shifted - clipped) * share[..., None].astype(np.float32)
    return mixed


def tone_map(colours: Field, values: Values) -> Field:
    """Brightness becomes a way from a dark colour over a middle one to a light one."""
    luma = np.clip(colours @ LUMA, 0.0, 1.0)[..., None]
    dark, middle, light = (values.encoded(k) for k in ("dark", "middle", "light"))
    if values.on("three"):
        at = np.float32(min(max(values.number("balance") / 100.0, 0.01), 0.99))
        lower = dark + (middle - dark) * np.minimum(luma / at, 1.0)
        mapped = lower + (light - middle) * np.maximum((luma - at) / (1.0 - at), 0.0)
    else:
        mapped = dark + (light - dark) * luma
    return np.asarray(colours + (mapped - colours) * (values.number("amount") / 100.0), np.float32)


def black_and_white(colours: Field, values: Values) -> Field:
    """A mix of the channels as grey."""
    parts = np.array([values.number(k) for k in ("red", "green", "blue")], np.float32) / 100.0
    grey = np.maximum(colours @ parts, 0.0)[..., None]
    amount = np.float32(values.number("amount") / 100.0)
    return np.asarray(colours + (grey - colours) * amount, np.float32)


def invert(colours: Field, values: Values) -> Field:
    """1 - c, as much as the amount says."""
    amount = np.float32(values.number("amount") / 100.0)
    clipped = np.clip(colours, 0.0, 1.0)
    return np.asarray(colours + (1.0 - clipped - colours) * amount, np.float32)


def lut(image: Image, values: Values, scene: Scene) -> Image:
    """The colours through a table, as much as the amount says."""
    if scene.lut is None:
        return image
    amount = np.float32(values.number("amount") / 100.0)
    colours = straight(image)
    graded = looked_up(scene.lut, colours, scene.preview)
    pixels = image.pixels.copy()
    pixels[..., :3] = (colours + (graded - colours) * amount) * image.pixels[..., 3:]
    return Image(pixels, image.light, image.opaque)


def sharpen(image: Image, values: Values, scene: Scene) -> Image:
    """Unsharp mask: what a blur takes away is added, above a threshold."""
    sigma = min(max(values.number("radius") * scene.unit / 2.0, 0.05), 4.0 * max(image.size))
    fine = image.pixels - blurred(image.pixels, sigma, scene.cover)
    threshold = np.float32(values.number("threshold") / 100.0)
    if threshold > 0.0:
        fine = np.sign(fine) * np.maximum(np.abs(fine) - threshold, 0.0)
    pixels = image.pixels + fine * np.float32(values.number("amount") / 100.0)
    top = np.maximum(image.pixels, image.pixels[..., 3:])
    pixels = np.clip(pixels, 0.0, top)
    pixels[..., 3] = image.pixels[..., 3]
    return Image(pixels.astype(np.float32), image.light, image.opaque)


def _hue_push(degrees: float) -> Field:
    """The direction of a hue about grey, with no luma of its own."""
    turn = math.radians(degrees)
    push = np.array([math.cos(turn - 2.0 * math.pi * k / 3.0) for k in range(3)], np.float32)
    return np.asarray(push - push @ LUMA, np.float32)


def _half(key: str, label: str, about: str) -> SettingSpec:
    """A colour whose middle grey changes nothing."""
    return choice(key, label, about, (0.5, 0.5, 0.5))


def _percent(key: str, label: str, about: str, low: float = -100.0, high: float = 100.0,
             neutral: float = 0.0) -> SettingSpec:  # fmt: skip
    return number(key, label, about, neutral, low, high)


def _way(name: str) -> tuple[SettingSpec, SettingSpec]:
    return (
        number(f"{name}_hue", f"{name.title()} hue", "Towards which colour.", 0.0, -3600.0, 3600.0,
               Unit.DEGREES),
        _percent(f"{name}_amount", f"{name.title()} amount", "How far.", 0.0, 200.0),
    )  # fmt: skip


def _tool(
    key: str,
    label: str,
    about: str,
    settings: tuple[SettingSpec, ...],
    apply: Apply,
    rests_by: tuple[str, ...] = (),
    starts_with: dict[str, float | bool | tuple[float, ...]] | None = None,
    words: str = "",
) -> Effect:
    return Effect(
        key,
        label,
        about,
        Family.COLOUR,
        Light.ENCODED,
        settings,
        apply,
        rests_by,
        starts_with or {},
        words,
    )


EFFECTS = (
    _tool("tone", "Tone", "Contrast, highlights, shadows, whites and blacks.", (
        _percent("contrast", "Contrast", "About the pivot; 50 doubles it."),
        _percent("pivot", "Pivot", "The level that contrast leaves.", 0.0, 100.0, 50.0),
        _percent("highlights", "Highlights", "The light tones."),
        _percent("shadows", "Shadows", "The dark tones."),
        _percent("whites", "Whites", "The very lightest."),
        _percent("blacks", "Blacks", "The very darkest."),
    ), of_colours(tone), ("contrast", "highlights", "shadows", "whites", "blacks"),
        {"contrast": 20.0}, "grade curve levels"),
    _tool("saturation", "Saturation", "More colour or less.", (
        _percent("saturation", "Saturation", "0 is grey.", 0.0, 400.0, 100.0),
        _percent("vibrance", "Vibrance", "Spares what is colourful already."),
    ), of_colours(saturation), (), {"saturation": 140.0}, "vibrance colourful grey"),
    _tool("lift_gamma_gain", "Lift/gamma/gain", "Shadows, middles and lights of each channel.", (
        _half("lift", "Lift", "Raises or lowers the shadows."),
        _half("gamma", "Gamma", "Raises or lowers the middles."),
        _half("gain", "Gain", "Scales the lights."),
    ), of_colours(lift_gamma_gain), (), {"gain": (0.55, 0.5, 0.45)}, "grade wheels"),
    _tool("cdl", "Slope/offset/power", "The colour decision of the ASC CDL.", (
        _half("slope", "Slope", "Scales; grey is 1."),
        _half("offset", "Offset", "Adds; grey is 0."),
        _half("power", "Power", "Bends; grey is 1."),
        _percent("saturation", "Saturation", "About luma.", 0.0, 400.0, 100.0),
    ), of_colours(slope_offset_power), (), {"slope": (0.55, 0.5, 0.48)}, "asc cdl grade"),
    _tool("three_way", "Three-way balance", "Lows, middles and highs each towards a hue.",
          (*_way("low"), *_way("middle"), *_way("high")), of_colours(three_way),
          ("low_amount", "middle_amount", "high_amount"),
          {"low_hue": 200.0, "low_amount": 30.0, "high_hue": 40.0, "high_amount": 30.0},
          "grade split tone wheels teal"),
    _tool("white_balance", "White balance", "Warmer or colder.", (
        _percent("temperature", "Temperature", "Above 0 is warmer."),
        _percent("tint", "Tint", "Above 0 towards magenta."),
    ), of_colours(white_balance), (), {"temperature": 30.0}, "warm cold temperature"),
    _tool("hue_shift", "Hue shift", "Turns hues, all of them or a range.", (
        number("hue", "Hue", "By how much hues are turned.", 0.0, -3600.0, 3600.0, Unit.DEGREES),
        _percent("saturation", "Saturation", "Of the hues in range."),
        _percent("lightness", "Lightness", "Of the hues in range."),
        number("around", "Around", "The middle of the range.", 0.0, -3600.0, 3600.0, Unit.DEGREES),
        number("range", "Range", "On either side; 180 is all.", 180.0, 1.0, 180.0, Unit.DEGREES),
    ), of_colours(hue_shift), ("hue", "saturation", "lightness"), {"hue": 60.0}, "recolour"),
    _tool("tone_map", "Tone map", "Two or three colours from dark to light.", (
        _percent("amount", "Amount", "How much of it.", 0.0, 100.0),
        choice("dark", "Dark", "Of the shadows.", (0.02, 0.02, 0.06)),
        choice("middle", "Middle", "Of the middle tones.", (0.35, 0.12, 0.10)),
        choice("light", "Light", "Of the lights.", (1.0, 0.86, 0.62)),
        choice("three", "Three colours", "With the middle one.", True),
        _percent("balance", "Balance", "Where the middle colour lies.", 0.0, 100.0, 50.0),
    ), of_colours(tone_map), ("amount",), {"amount": 100.0}, "duotone tritone palette"),
    _tool("black_and_white", "Black and white", "A mix of the channels as grey.", (
        _percent("amount", "Amount", "How much of it.", 0.0, 100.0),
        _percent("red", "Red", "Of the mix.", -200.0, 300.0, 21.26),
        _percent("green", "Green", "Of the mix.", -200.0, 300.0, 71.52),
        _percent("blue", "Blue", "Of the mix.", -200.0, 300.0, 7.22),
    ), of_colours(black_and_white), ("amount",), {"amount": 100.0}, "grey monochrome"),
    _tool("invert", "Invert", "The negative.", (
        _percent("amount", "Amount", "How much of it.", 0.0, 100.0),
    ), of_colours(invert), (), {"amount": 100.0}, "negative"),
    Effect("lut", "LUT", "A look from a .cube file.", Family.COLOUR, Light.ENCODED, (
        _percent("amount", "Amount", "How much of it.", 0.0, 100.0),
    ), lut, starts_with={"amount": 100.0}, words="cube grade film look table", needs_lut=True),
    _tool("sharpen", "Sharpen", "Brings fine detail out.", (
        _percent("amount", "Amount", "How much is added.", 0.0, 1000.0),
        length("radius", "Radius", "Of the detail.", 0.4, 0.02, 50.0, 0.1),
        _percent("threshold", "Threshold", "Less than this stays as it is.", 0.0, 100.0),
    ), sharpen, ("amount",), {"amount": 100.0}, "detail crisp unsharp"),
)  # fmt: skip
