"""Colour tools: what their values make of one colour, encoded and without its alpha."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from functools import partial

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.effects.effect import Effect, Family, HueDisc, Scene, Tool, Values
from wrinkle.core.effects.recolouring import of_colours
from wrinkle.core.effects.sampling import Field, blurred
from wrinkle.core.motion.declaring import choice, length, number
from wrinkle.core.motion.setting_spec import SettingSpec, Unit
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.channels import LUMA, luma, mixed, threefold
from wrinkle.core.picture.grading import Balance, ColourMix, Operation, Other, ThroughTable, scaled
from wrinkle.core.picture.image import Image, Light
from wrinkle.core.picture.lut import Lut

_LEAST_GAMMA = 0.1
# Nothing is shown as bright as this; powers of powers would end beyond any number.
_BRIGHTEST = np.float32(64.0)
_ALL_HUES = 180.0
_WAYS = ("low", "middle", "high")


def lift_gamma_gain(values: Values, table: Lut | None) -> Sequence[Operation]:
    """((gain · (c + lift · (1 - c))) ^ (1 / gamma)), for each channel. Common practice."""
    lift = np.array(values.colour("lift")) * 2.0 - 1.0
    gamma = np.array(values.colour("gamma")) * 2.0
    gain = np.array(values.colour("gain")) * 2.0
    return scaled(gain * (1.0 - lift), gain * lift), *_power(1.0 / np.maximum(gamma, _LEAST_GAMMA))


def slope_offset_power(values: Values, table: Lut | None) -> Sequence[Operation]:
    """ASC CDL: (c · slope + offset) ^ power, then saturation about Rec. 709 luma."""
    slope = np.array(values.colour("slope")) * 2.0
    offset = np.array(values.colour("offset")) * 2.0 - 1.0
    power = np.maximum(np.array(values.colour("power")) * 2.0, 0.01)
    saturated = _saturated(values.number("saturation") / 100.0)
    return scaled(slope, offset), _HELD, *_power(power), saturated, _HELD


def three_way(colours: Field, values: Values) -> Field:
    """Lows, middles and highs pushed towards a hue each, as much as the amount says.

    The three weights of a colour add up to 1: (1 - luma)², luma², and what is left.
    """
    bright = np.clip(luma(colours), 0.0, 1.0)
    low, high = np.square(np.float32(1.0) - bright), np.square(bright)
    pushes = [
        _hue_push(values.number(f"{name}_hue")) * values.number(f"{name}_amount") / 200.0
        for name in _WAYS
    ]
    weights = cv2.merge((low, np.float32(1.0) - low - high, high))
    return np.asarray(colours + mixed(weights, np.stack(pushes, axis=1)), np.float32)


def white_balance(values: Values, table: Lut | None) -> Sequence[Operation]:
    """Warmer or colder along blue and yellow, and along green and magenta; luma is kept."""
    warm, tint = values.number("temperature") / 100.0, values.number("tint") / 100.0
    factors = np.maximum(
        (1.0 + 0.35 * warm + 0.12 * tint, 1.0 - 0.25 * tint, 1.0 - 0.35 * warm + 0.12 * tint), 0.05
    )
    return (Balance(factors),)


def tone(values: Values, table: Lut | None) -> Sequence[Operation]:
    """Contrast about a pivot, then shadows, highlights, blacks and whites, each on its range.

    50 doubles or halves the contrast. With light l and dark d = 1 - l the ranges weigh d⁶, 4·l·d³,
    4·d·l³ and l⁶; an amount of 100 adds half its weight.
    """
    contrast = 2.0 ** (values.number("contrast") / 50.0)
    contrasted = scaled(contrast, values.number("pivot") / 100.0 * (1.0 - contrast))
    amounts = {key: values.number(key) for key in ("blacks", "shadows", "highlights", "whites")}
    if not any(amounts.values()):
        return (contrasted,)
    return contrasted, Other(partial(_ranges, amounts))


def _ranges(amounts: Mapping[str, float], colours: Field) -> Field:
    light: Field = np.clip(luma(colours), 0.0, 1.0)
    dark: Field = np.float32(1.0) - light
    light3, dark3 = light * light * light, dark * dark * dark
    shift = np.float32(amounts["blacks"] / 200.0) * dark3 * dark3
    shift += np.float32(amounts["shadows"] / 50.0) * light * dark3
    shift += np.float32(amounts["highlights"] / 50.0) * dark * light3
    shift += np.float32(amounts["whites"] / 200.0) * light3 * light3
    return np.asarray(colours + threefold(shift), np.float32)


def saturation(values: Values, table: Lut | None) -> Sequence[Operation]:
    """Away from grey or towards it; vibrance spares what is colourful already."""
    factor = values.number("saturation") / 100.0
    vibrance = np.float32(values.number("vibrance") / 100.0)
    if not vibrance:
        return (_saturated(factor),)
    return (Other(partial(_vibrant, np.float32(factor), vibrance)),)


def _vibrant(factor: np.float32, vibrance: np.float32, colours: Field) -> Field:
    grey = threefold(luma(colours))
    red, green, blue = cv2.split(_held(colours))
    most = cv2.max(cv2.max(red, green), blue)
    spread = most - cv2.min(cv2.min(red, green), blue)
    one = np.float32(1.0)
    spared: Field = factor * (one + vibrance * (one - spread))
    return np.asarray(grey + (colours - grey) * threefold(spared), np.float32)


def hue_shift(colours: Field, values: Values) -> Field:
    """Hue turned, saturation and lightness scaled, within a range of hues or for all."""
    clipped = np.clip(colours, 0.0, 1.0)
    hue, bright, strong = cv2.split(cv2.cvtColor(clipped, cv2.COLOR_RGB2HLS))
    reach = values.number("range")
    # OpenCV takes hues up to 720 degrees.
    turned = hue + np.float32(values.number("hue") % 360.0)
    stronger = np.clip(strong * np.float32(1.0 + values.number("saturation") / 100.0), 0.0, 1.0)
    light = np.float32(values.number("lightness") / 100.0)
    room = np.float32(1.0) - bright if light > 0.0 else bright
    changed = cv2.merge((turned, np.clip(bright + light * room, 0.0, 1.0), stronger))
    changed = cv2.cvtColor(changed, cv2.COLOR_HLS2RGB)
    if reach >= _ALL_HUES:
        return np.asarray(changed, np.float32)
    around = np.float32(values.number("around") + _ALL_HUES)
    apart = np.abs((hue - around) % np.float32(360.0) - np.float32(_ALL_HUES))
    soft = max(0.25 * reach, 3.6)
    # What has no colour has no hue either.
    share = np.clip((reach - apart) / np.float32(soft) + np.float32(0.5), 0.0, 1.0)
    share *= np.clip(strong * np.float32(8.0), 0.0, 1.0)
    return np.asarray(clipped + (changed - clipped) * threefold(share), np.float32)


def tone_map(colours: Field, values: Values) -> Field:
    """Brightness becomes a way from a dark colour over a middle one to a light one."""
    bright = np.clip(luma(colours), 0.0, 1.0)
    dark, middle, light = (values.encoded(k) for k in ("dark", "middle", "light"))
    amount = values.number("amount") / 100.0
    if values.on("three"):
        at = np.float32(min(max(values.number("balance") / 100.0, 0.01), 0.99))
        below = np.minimum(bright / at, np.float32(1.0))
        above = np.maximum((bright - at) / (np.float32(1.0) - at), np.float32(0.0))
        ways = cv2.merge((below, above))
        columns = np.stack((middle - dark, light - middle), axis=1)
    else:
        ways, columns = bright, (light - dark)[:, None]
    mapped = mixed(ways, columns * amount, dark * amount)
    return np.asarray(colours * np.float32(1.0 - amount) + mapped, np.float32)


def black_and_white(values: Values, table: Lut | None) -> Sequence[Operation]:
    """A mix of the channels as grey."""
    weights = np.array([values.number(k) for k in ("red", "green", "blue")]) / 100.0
    amount = values.number("amount") / 100.0
    return (ColourMix((1.0 - amount) * np.eye(3) + amount * np.tile(weights, (3, 1))),)


def invert(values: Values, table: Lut | None) -> Sequence[Operation]:
    """1 - c, as much as the amount says."""
    amount = values.number("amount") / 100.0
    return (scaled(1.0 - 2.0 * amount, amount),)


def lut(values: Values, table: Lut | None) -> Sequence[Operation]:
    """The colours through a table, as much as the amount says."""
    return () if table is None else (ThroughTable(table, values.number("amount") / 100.0),)


def sharpen(image: Image, values: Values, scene: Scene) -> Image:
    """Unsharp mask: what a blur takes away is added, above a threshold."""
    sigma = max(values.number("radius") * scene.unit / 2.0, 0.05)
    fine = image.pixels - blurred(image.pixels, sigma, scene.cover)
    threshold = np.float32(values.number("threshold") / 100.0)
    if threshold > 0.0:
        fine = np.sign(fine) * np.maximum(np.abs(fine) - threshold, 0.0)
    pixels = image.pixels + fine * np.float32(values.number("amount") / 100.0)
    top = np.maximum(image.pixels, image.pixels[..., 3:])
    pixels = np.clip(pixels, 0.0, top)
    pixels[..., 3] = image.pixels[..., 3]
    return Image(pixels.astype(np.float32), image.light, image.opaque)


def _by(function: Callable[[Field, Values], Field]) -> Tool:
    """A tool that is one function of colours and values."""

    def tool(values: Values, table: Lut | None) -> Sequence[Operation]:
        return (Other(lambda colours: function(colours, values)),)

    return tool


def _hue_push(degrees: float) -> NDArray[np.float64]:
    """The direction of a hue about grey, with no luma of its own."""
    turn = math.radians(degrees)
    push = np.array([math.cos(turn - 2.0 * math.pi * k / 3.0) for k in range(3)])
    return np.asarray(push - push @ LUMA, np.float64)


def _saturated(factor: float) -> ColourMix:
    """Away from luma by a factor."""
    return ColourMix(factor * np.eye(3) + (1.0 - factor) * np.tile(LUMA.astype(np.float64), (3, 1)))


def _held(colours: Field) -> Field:
    return np.clip(colours, 0.0, 1.0)


_HELD = Other(_held, 2.0)


def _power(exponents: NDArray[np.float64]) -> Sequence[Operation]:
    """Each channel to a power of its own; held above 0, where powers end, and within sight."""
    return () if (exponents == 1.0).all() else (Other(partial(_raised, exponents), 20.0),)


def _raised(exponents: NDArray[np.float64], colours: Field) -> Field:
    held = np.clip(colours, np.float32(0.0), _BRIGHTEST)
    planes = [
        np.power(plane, np.float32(exponent)) if exponent != 1.0 else plane
        for plane, exponent in zip(cv2.split(held), exponents, strict=True)
    ]
    raised: Field = np.minimum(cv2.merge(planes), _BRIGHTEST)
    return raised


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
    tool: Tool,
    rests_by: tuple[str, ...] = (),
    starts_with: dict[str, Value] | None = None,
    words: str = "",
) -> Effect:
    return Effect(
        key,
        label,
        about,
        Family.COLOUR,
        Light.ENCODED,
        settings,
        of_colours(tool),
        rests_by,
        starts_with or {},
        words,
        tool=tool,
    )


EFFECTS = (
    _tool("tone", "Tone", "Contrast, highlights, shadows, whites and blacks.", (
        _percent("contrast", "Contrast", "About the pivot; 50 doubles it."),
        _percent("pivot", "Pivot", "The level that contrast leaves.", 0.0, 100.0, 50.0),
        _percent("highlights", "Highlights", "The light tones."),
        _percent("shadows", "Shadows", "The dark tones."),
        _percent("whites", "Whites", "The very lightest."),
        _percent("blacks", "Blacks", "The very darkest."),
    ), tone, ("contrast", "highlights", "shadows", "whites", "blacks"),
        {"contrast": 20.0}, "grade curve levels"),
    _tool("saturation", "Saturation", "More colour or less.", (
        _percent("saturation", "Saturation", "0 is grey.", 0.0, 400.0, 100.0),
        _percent("vibrance", "Vibrance", "Spares what is colourful already."),
    ), saturation, (), {"saturation": 140.0}, "vibrance colourful grey"),
    _tool("lift_gamma_gain", "Lift/gamma/gain", "Shadows, middles and lights of each channel.", (
        _half("lift", "Lift", "Raises or lowers the shadows."),
        _half("gamma", "Gamma", "Raises or lowers the middles."),
        _half("gain", "Gain", "Scales the lights."),
    ), lift_gamma_gain, (), {"gain": (0.55, 0.5, 0.45)}, "grade wheels"),
    replace(_tool("cdl", "Slope/offset/power", "The colour decision of the ASC CDL.", (
        _half("slope", "Slope", "Scales; grey is 1."),
        _half("offset", "Offset", "Adds; grey is 0."),
        _half("power", "Power", "Bends; grey is 1."),
        _percent("saturation", "Saturation", "About luma.", 0.0, 400.0, 100.0),
    ), slope_offset_power, (), {"slope": (0.55, 0.5, 0.48)}, "asc cdl grade"),
        reads_decisions=True),
    replace(_tool("three_way", "Three-way balance", "Lows, middles and highs each towards a hue.",
          (*_way("low"), *_way("middle"), *_way("high")), _by(three_way),
          ("low_amount", "middle_amount", "high_amount"),
          {"low_hue": 200.0, "low_amount": 30.0, "high_hue": 40.0, "high_amount": 30.0},
          "grade split tone wheels teal"),
        pads=tuple(HueDisc(name.title(), f"{name}_hue", f"{name}_amount") for name in _WAYS)),
    _tool("white_balance", "White balance", "Warmer or colder.", (
        _percent("temperature", "Temperature", "Above 0 is warmer."),
        _percent("tint", "Tint", "Above 0 towards magenta."),
    ), white_balance, (), {"temperature": 30.0}, "warm cold temperature"),
    replace(_tool("hue_shift", "Hue shift", "Turns hues, all of them or a range.", (
        number("hue", "Hue", "By how much hues are turned.", 0.0, -3600.0, 3600.0, Unit.DEGREES),
        _percent("saturation", "Saturation", "Of the hues in range."),
        _percent("lightness", "Lightness", "Of the hues in range."),
        number("around", "Around", "The middle of the range.", 0.0, -3600.0, 3600.0, Unit.DEGREES),
        number("range", "Range", "On either side; 180 is all.", 180.0, 1.0, 180.0, Unit.DEGREES),
    ), _by(hue_shift), ("hue", "saturation", "lightness"), {"hue": 60.0}, "recolour"),
        hue_range=("around", "range")),
    replace(_tool("tone_map", "Tone map", "Two or three colours from dark to light.", (
        _percent("amount", "Amount", "How much of it.", 0.0, 100.0),
        choice("dark", "Dark", "Of the shadows.", (0.02, 0.02, 0.06)),
        choice("middle", "Middle", "Of the middle tones.", (0.35, 0.12, 0.10)),
        choice("light", "Light", "Of the lights.", (1.0, 0.86, 0.62)),
        choice("three", "Three colours", "With the middle one.", True),
        _percent("balance", "Balance", "Where the middle colour lies.", 0.0, 100.0, 50.0),
    ), _by(tone_map), ("amount",), {"amount": 100.0}, "duotone tritone palette"),
        palette=("dark", "middle", "light")),
    _tool("black_and_white", "Black and white", "A mix of the channels as grey.", (
        _percent("amount", "Amount", "How much of it.", 0.0, 100.0),
        _percent("red", "Red", "Of the mix.", -200.0, 300.0, 21.26),
        _percent("green", "Green", "Of the mix.", -200.0, 300.0, 71.52),
        _percent("blue", "Blue", "Of the mix.", -200.0, 300.0, 7.22),
    ), black_and_white, ("amount",), {"amount": 100.0}, "grey monochrome"),
    _tool("invert", "Invert", "The negative.", (
        _percent("amount", "Amount", "How much of it.", 0.0, 100.0),
    ), invert, (), {"amount": 100.0}, "negative"),
    replace(_tool("lut", "LUT", "A look from a .cube file.", (
        _percent("amount", "Amount", "How much of it.", 0.0, 100.0),
    ), lut, (), {"amount": 100.0}, "cube grade film look table"),
        needs_lut=True),
    Effect("sharpen", "Sharpen", "Brings fine detail out.", Family.COLOUR, Light.ENCODED, (
        _percent("amount", "Amount", "How much is added.", 0.0, 1000.0),
        length("radius", "Radius", "Of the detail.", 0.4, 0.02, 50.0, 0.1),
        _percent("threshold", "Threshold", "Less than this stays as it is.", 0.0, 100.0),
    ), sharpen, ("amount",), {"amount": 100.0}, "detail crisp unsharp"),
)  # fmt: skip
