"""Effects of light: exposure, flash, glow, flicker."""

from __future__ import annotations

from fractions import Fraction

import cv2
import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.sampling import blurred, halved
from wrinkle.core.motion.declaring import choice, length, number, seed
from wrinkle.core.motion.jitter import jitter_at
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.picture.blending import BlendMode, blend
from wrinkle.core.picture.channels import largest, mixed
from wrinkle.core.picture.compositing import covered
from wrinkle.core.picture.exposure import brightened
from wrinkle.core.picture.image import Image, Light, filled

_OCTAVES = 5


def exposure(image: Image, values: Values, scene: Scene) -> Image:
    """Light times 2 to the power of the stops, then a lift of the blacks."""
    return brightened(image, 2.0 ** values.number("stops"))


def flash(image: Image, values: Values, scene: Scene) -> Image:
    """A colour laid over the picture, as much as there is picture."""
    colour = filled(image.size, values.encoded("colour"), Light.ENCODED)
    mode = BlendMode(values.choice("blend"))
    return blend(colour, image, mode, values.number("amount") / 100.0, within=True)


def flicker(image: Image, values: Values, scene: Scene) -> Image:
    """Exposure that trembles: seeded values, so many a second."""
    rate, stops = values.number("rate"), values.number("amount")
    time = Fraction(scene.time).limit_denominator(10**6)
    away = jitter_at(time, rate, 0.0, round(values.number("seed")), 0, values.on("stepped"))
    return brightened(image, 2.0 ** (stops * away))


def glow(image: Image, values: Values, scene: Scene) -> Image:
    """What is brighter than a threshold, blurred at several widths and added as light.

    Each width is twice the one before; the threshold has a soft knee. The blur runs at half size,
    so that small highlights are not lost before they are cut off.
    """
    height, width = image.pixels.shape[:2]
    threshold = values.number("threshold") / 100.0
    knee = max(values.number("knee") / 100.0 * max(threshold, 0.05), 1e-4)
    bright = halved(image).pixels
    luma = largest(bright)
    over = np.clip(luma - threshold + knee, 0.0, 2.0 * knee)
    kept = np.maximum(luma - threshold, over * over / (4.0 * knee))
    share = kept / np.maximum(luma, 1e-6)
    lit = bright[..., :3] * share[..., None]
    widest = max(values.number("radius") * scene.unit / 2.0 / 2.0, 0.05)
    total = np.zeros_like(lit)
    for octave in range(_OCTAVES):
        total += blurred(lit, widest / 2.0**octave, scene.cover, scene.preview)
    tint = np.array(values.colour("tint")) * (values.number("amount") / 100.0 / _OCTAVES)
    # Four channels, of which the last adds nothing to alpha.
    light = mixed(total, np.vstack([np.diag(tint), np.zeros(3)]))
    added = cv2.resize(light, (width, height), interpolation=cv2.INTER_LINEAR)
    hold = values.number("hold") / 100.0
    if hold > 0.0:
        # Holding back: where the picture is bright already, less is added.
        bright_here = np.clip(largest(image.pixels), 0.0, 1.0)
        added = covered(added, np.float32(1.0) - np.float32(hold) * bright_here)
    if not image.opaque:
        added = covered(added, image.pixels[..., 3])
    return Image(cv2.add(image.pixels, added), image.light, image.opaque)


EFFECTS = (
    Effect(
        "exposure",
        "Exposure",
        "Brighter or darker, in stops of light.",
        Family.LIGHT,
        Light.LINEAR,
        (number("stops", "Stops", "One doubles the light.", 0.0, -20.0, 20.0, Unit.STOPS, 0.1),),
        exposure,
        starts_with={"stops": 1.0},
        words="bright dark light ramp",
    ),
    Effect(
        "flash",
        "Flash",
        "Lays a colour over everything for an instant.",
        Family.LIGHT,
        Light.ENCODED,
        (
            number("amount", "Amount", "How much of the colour.", 0.0, 0.0, 100.0),
            choice("colour", "Colour", "Of the flash.", (1.0, 1.0, 1.0)),
            choice("blend", "Blend", "How it meets the picture.", BlendMode.NORMAL.value,
                   *(mode.value for mode in BlendMode)),
        ),
        flash,
        rests_by=("amount",),
        starts_with={"amount": 60.0},
        words="white pop blink burst",
        jumps=True,
    ),
    Effect(
        "glow",
        "Glow",
        "Lights spread into what is around them.",
        Family.LIGHT,
        Light.LINEAR,
        (
            number("amount", "Amount", "How much light is added.", 0.0, 0.0, 1000.0),
            number("threshold", "Threshold", "Only what is brighter glows.", 40.0, 0.0, 400.0),
            number("knee", "Knee", "How softly the threshold sets in.", 50.0, 0.0, 100.0),
            length("radius", "Radius", "How far the widest part reaches.", 20.0, 0.0, 400.0, 1.0),
            choice("tint", "Tint", "The colour of the added light.", (1.0, 1.0, 1.0)),
            number("hold", "Hold back", "Less is added where it is bright.", 0.0, 0.0, 100.0),
        ),
        glow,
        rests_by=("amount",),
        starts_with={"amount": 150.0},
        words="bloom haze halo bright dream",
    ),
    Effect(
        "flicker",
        "Flicker",
        "The light trembles at random.",
        Family.LIGHT,
        Light.LINEAR,
        (
            number("amount", "Amount", "How many stops at most.", 0.0, 0.0, 10.0, Unit.STOPS, 0.1),
            number("rate", "Rate", "New values in a second.", 12.0, 0.1, 240.0, Unit.PER_SECOND),
            choice("stepped", "Stepped", "Jumps instead of gliding.", False),
            seed(),
        ),
        flicker,
        rests_by=("amount",),
        starts_with={"amount": 1.0},
        words="strobe lamp unstable random",
        timed=True,
        jumps=True,
    ),
)  # fmt: skip
