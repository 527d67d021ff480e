"""Rust: it creeps in, pits the picture, and lets it fall in flakes."""

from __future__ import annotations

import cv2
import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.sampling import Field
from wrinkle.core.motion.declaring import choice, number, seed
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.picture.arrival import level_at
from wrinkle.core.picture.corrosion import Corroded, Corrosion, corroded
from wrinkle.core.picture.image import Image, Light
from wrinkle.core.picture.relief import facing

_SHARP_HOLE, _SHARP_RUST, _STAIN = 0.006, 0.02, 0.16
"""How far a level goes from nothing to all, in parts of the time that the front runs."""
_SMALLER = 4
"""By how much what is soft is drawn smaller."""
_SHADES = (0.03, 0.11, 0.3, 0.62, 0.95, 1.25)
"""Of the two colours of rust, from its pits to its crust."""
_SHOWN_FIRST = 0.15


def rust(image: Image, values: Values, scene: Scene) -> Image:
    """What rust has left of the picture, with the rust on it: at 0 % all, at 100 % nothing."""
    share = values.number("eaten") / 100.0
    if share >= 1.0:
        return Image(np.zeros_like(image.pixels), image.light)
    fields = corroded(
        Corrosion(
            image.size,
            scene.middle,
            (scene.width, scene.height),
            max(round(values.number("spots")), 0),
            values.number("rim") / 100.0,
            values.number("plates"),
            round(values.number("seed")),
        )
    )
    short = min(scene.width, scene.height)
    lead = values.number("lead") / 100.0
    covered = _covered(fields, share, lead)
    away, hole = _fallen(fields, share, lead)
    there = cv2.subtract(1.0, hole)
    rusty = cv2.multiply(covered, there)
    depth = values.number("depth") / 100.0
    # A lip along each hole, lit by the hole's own edge.
    lip = cv2.addWeighted(away, 20.0, away, 0.0, 1.0)
    np.clip(lip, 0.0, 1.0, out=lip)
    lit = facing(cv2.GaussianBlur(there, (0, 0), max(0.0016 * short, 0.3)), short, 2.2)
    lit = cv2.addWeighted(lit, 1.5 * depth, lit, 0.0, 1.0)
    np.clip(lit, 0.35, 1.9, out=lit)
    lit *= np.float32(1.0) - np.float32(0.35) * lip * lip
    lit *= fields.shade
    ramp = _ramp(values)
    shadow = _shadow(there, short, depth)
    shadow *= hole
    shadow *= np.float32(0.75 * min(depth, 1.0))
    glow = _glow(values, fields, away, (rusty, hole), share, short)
    plain = cv2.subtract(there, rusty)
    # Planes of their own take half the time.
    *colours, alpha = cv2.split(image.pixels)
    rusty = rusty if image.opaque else cv2.multiply(rusty, alpha)
    shown = cv2.multiply(lit, rusty)
    for plane, own in enumerate(colours):
        cv2.multiply(own, plain, own)
        cv2.accumulateProduct(cv2.LUT(fields.tone, ramp[plane]), shown, own)
        if glow is not None:
            # Where there is no picture there is no rim of a hole in it.
            cv2.add(own, glow[plane] if image.opaque else cv2.multiply(glow[plane], alpha), own)
    left = cv2.add(plain, shadow)
    left = cv2.add(left if image.opaque else cv2.multiply(left, alpha), rusty)
    if glow is not None:
        # Light with nothing behind it could not be encoded: it covers a little.
        left = cv2.max(left, cv2.min(cv2.addWeighted(glow[0], 0.5, alpha, 0.0, 0.0), alpha))
    return Image(cv2.merge([*colours, left]), image.light)


def _covered(fields: Corroded, share: float, lead: float) -> Field:
    """How much of each place is rust, 0…1, fallen through or not."""
    run = min(1.0, (share / max(1.0 - lead, 1e-3)) ** 1.25)
    level = level_at(fields.coming, run) + 0.25 * min(max((share - 0.55) / 0.45, 0.0), 1.0)
    level -= _SHOWN_FIRST * (1.0 - min(1.0, share / 0.06))
    ahead = cv2.addWeighted(fields.comes, -1.0, fields.comes, 0.0, level)
    stain = cv2.addWeighted(ahead, 1.0 / _STAIN, ahead, 0.0, 0.35)
    np.clip(stain, 0.0, 1.0, out=stain)
    crust = cv2.addWeighted(ahead, 1.0 / _SHARP_RUST, ahead, 0.0, 0.0)
    np.clip(crust, 0.0, 1.0, out=crust)
    found = cv2.addWeighted(crust, 0.816, cv2.multiply(stain, stain), 0.204, 0.0)
    np.clip(found, 0.0, 1.0, out=found)
    covered: Field = found * np.float32(min(1.0, share / 0.02))
    return covered


def _fallen(fields: Corroded, share: float, lead: float) -> tuple[Field, Field]:
    """How long each place has been gone, below 0 before, and how much of it is a hole, 0…1."""
    begun = lead * 0.62
    run = max(0.0, (share - begun) / max(1.0 - begun, 1e-3))
    level = level_at(fields.going, min(1.0, (run / 0.93) ** 1.2))
    level += 0.12 * min(max((run - 0.9) / 0.085, 0.0), 1.0)
    level -= 0.12 * (1.0 - min(1.0, run / 0.05))
    away = cv2.addWeighted(fields.goes, -1.0, fields.goes, 0.0, level)
    hole = cv2.addWeighted(away, 1.0 / _SHARP_HOLE, away, 0.0, 0.5)
    np.clip(hole, 0.0, 1.0, out=hole)
    return away, hole


def _ramp(values: Values) -> Field:
    """The colours of 256 tones, ``(3, 256)``, linear: dark pits, body, light crust."""
    dark, light = (np.array(values.colour(key), np.float32) for key in ("colour", "crust"))
    places = np.linspace(0.0, 1.0, len(_SHADES))
    tones = np.linspace(0.0, 1.0, 256)
    strength = np.interp(tones, places, _SHADES)[:, None]
    share = np.clip((tones - 0.35) / 0.65, 0.0, 1.0)[:, None]
    ramp = (dark + (light - dark) * share) * strength
    return np.ascontiguousarray(ramp.T, np.float32)


def _shadow(there: Field, short: float, depth: float) -> Field:
    """What the plate shades of what lies behind it, 0…1; light comes from the upper left."""
    height, width = there.shape
    size = max(width // _SMALLER, 1), max(height // _SMALLER, 1)
    small = cv2.resize(there, size, interpolation=cv2.INTER_AREA)
    far = 0.016 * depth * short / _SMALLER
    small = cv2.GaussianBlur(small, (0, 0), max(0.5, 0.9 * far))
    away = np.array([[1.0, 0.0, far * 0.8], [0.0, 1.0, far * 1.1]])
    small = cv2.warpAffine(small, away, size, borderMode=cv2.BORDER_REPLICATE)
    found: Field = cv2.resize(small, (width, height), interpolation=cv2.INTER_LINEAR)
    return found


def _glow(
    values: Values, fields: Corroded, away: Field, parts: tuple[Field, Field], share: float,
    short: float,
) -> list[Field] | None:  # fmt: skip
    """The light of a thin rim about each hole, a plane for each colour."""
    amount = values.number("glow") / 100.0 * min(max((0.995 - share) / 0.065, 0.0), 1.0)
    if amount <= 0.0:
        return None
    rusty, hole = parts
    rim = cv2.addWeighted(away, 1.0 / 0.009, away, 0.0, 0.45)
    rim *= rim
    # Numbers that are hardly any take ten times as long.
    rim = cv2.exp(cv2.subtract(0.0, cv2.min(rim, 12.0)))
    rim *= cv2.addWeighted(fields.fine, 0.5, fields.fine, 0.0, 0.75)
    rim *= cv2.addWeighted(rusty, 1.0, hole, 0.35, 0.0)
    np.clip(rim, 0.0, 1.2, out=rim)
    height, width = rim.shape
    size = max(width // _SMALLER, 1), max(height // _SMALLER, 1)
    small = cv2.resize(rim, size, interpolation=cv2.INTER_AREA)
    small = cv2.GaussianBlur(small, (0, 0), max(0.012 * short / _SMALLER, 0.3))
    bloom = cv2.resize(small, (width, height), interpolation=cv2.INTER_LINEAR)
    bloom *= rusty
    colour = values.colour("ember")
    # The rim itself is hotter than what it lights: nearer to white.
    return [
        cv2.addWeighted(rim, amount * (0.2 + 0.9 * part), bloom, 0.72 * amount * part, 0.0)
        for part in colour
    ]


EFFECTS = (
    Effect(
        "rust",
        "Rust",
        "Rust creeps in from the rim and from spots, and the picture falls through it in flakes.",
        Family.REVEAL,
        Light.LINEAR,
        (
            number("eaten", "Eaten", "How far it has come; 100 leaves nothing.", 0.0, 0.0, 100.0),
            number("spots", "Spots", "Within the frame, from which it spreads.", 4.0, 0.0, 12.0,
                   Unit.NONE),
            number("rim", "Rim", "How soon it creeps in from the frame's rim.", 100.0, 0.0, 100.0),
            number("plates", "Flakes", "On the frame's short side.", 9.0, 3.0, 24.0, Unit.NONE),
            number("lead", "Lead", "How far rust runs ahead of the holes.", 30.0, 5.0, 60.0),
            number("depth", "Depth", "How thick the plate is.", 100.0, 0.0, 150.0),
            choice("colour", "Colour", "Of its body.", (0.5, 0.125, 0.022)),
            choice("crust", "Crust", "Where it is lightest.", (0.72, 0.36, 0.1)),
            number("glow", "Glow", "Of the rim about each hole.", 60.0, 0.0, 150.0),
            choice("ember", "Glow colour", "Of that rim.", (1.0, 0.34, 0.06)),
            seed(),
        ),
        rust,
        rests_by=("eaten",),
        starts_with={"eaten": 55.0},
        ends_with={"eaten": 100.0},
        words="decay corrode erode metal age flake",
    ),
)  # fmt: skip
