"""What is heard of the shipped wrinkles: air that follows the picture, and strikes where it lands.

Told apart from the pictures, so that those of similar wrinkles stand beside each other. Levels are
by ear and by measure: the loudest 400 ms of each lie between -24.5 and -13 LUFS.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from fractions import Fraction

from msgspec.structs import replace

from wrinkle.core.design.dials import dial_edits
from wrinkle.core.design.document.driven import standing
from wrinkle.core.design.document.named_dials import SwitchDial
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sounds import MovedBy
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_edits, sound_edits
from wrinkle.core.motion.feels import FEELS
from wrinkle.core.motion.track import Keyframe, Track
from wrinkle.core.motion.values import Value
from wrinkle.core.synthesis.made_sounds import (
    AIR,
    CRACKLE,
    DROP,
    FLUTTER,
    HIT,
    HUSH,
    RISE,
    TICK,
)

PICTURE = "*"
"""In place of a layer's id: the whole picture as it is seen."""
_DIAL = "sound"
Lanes = Mapping[str, tuple[tuple[float, float], ...]]


@dataclass(frozen=True)
class S:
    """One sound.

    Attributes:
        made: which one.
        hit, length: in frames; without a length as long as it usually is.
        values: of settings that stand still.
        follows: the id of a layer, or ``PICTURE``; all layers where nothing is said.
        lanes: of settings that move: frames and values.
    """

    made: str
    hit: float = 0
    length: float = 0
    values: Mapping[str, Value] = field(default_factory=dict)
    follows: str = ""
    lanes: Lanes = field(default_factory=dict)


def s(
    made: str,
    hit: float = 0,
    length: float = 0,
    *,
    follows: str = "",
    lanes: Lanes | None = None,
    **values: Value,
) -> S:
    """One sound, in short."""
    return S(made, hit, length, values, follows, lanes or {})


def beats(made: str, hits: tuple[float, ...], length: float = 0, **values: Value) -> tuple[S, ...]:
    """The same sound several times, each with another chance."""
    seed = float(values.pop("seed", 1))  # type: ignore[arg-type]
    return tuple(S(made, hit, length, {**values, "seed": seed + n}) for n, hit in enumerate(hits))


SOUNDS: Mapping[str, tuple[S, ...]] = {
    # Turns: air round the head, lower the heavier it is.
    "half_turn": (
        s(AIR, level=-10.0, fall=4.0, lanes={"pan": ((-11, -60.0), (0, 0.0), (11, 60.0))}),
        s(HIT, 0, 12, level=-17.0, pitch=80.0),
    ),
    "full_turn": (
        s(AIR, level=-12.0, pitch=85.0, fall=3.0, high_cut=9_000.0,
          lanes={"pan": ((-11, 0.0), (-5, -70.0), (5, 70.0), (11, 0.0))}),
    ),
    "smooth_turn": (
        s(AIR, level=-11.0, fall=2.0, lanes={"pan": ((-9, -40.0), (9, 40.0))}),
    ),
    "card_flip": (
        s(AIR, level=-12.0, pitch=120.0, fall=3.0),
        s(FLUTTER, -3, 9, level=-18.0, pitch=160.0),
        s(TICK, 13, level=-19.0, pitch=70.0),
    ),
    "door": (
        s(AIR, level=-12.0, side=40.0, pitch=60.0, fall=2.0),
        s(TICK, -13, level=-13.0, pitch=60.0),
        s(CRACKLE, -6, 16, level=-20.0, pitch=50.0),
        s(HIT, 11, 16, level=-12.0, pitch=55.0),
    ),
    "page_turn": (
        s(FLUTTER, -4, 22, level=-8.0, pitch=120.0, low_cut=500.0),
        s(CRACKLE, -3, 16, level=-20.0, pitch=150.0),
        s(TICK, 12, level=-18.0, pitch=80.0),
    ),
    "fold": (
        s(AIR, level=-10.0, side=50.0, pitch=80.0, fall=3.0),
        s(HIT, 11, 14, level=-14.0, pitch=65.0),
        s(TICK, 11, level=-20.0, pitch=60.0),
    ),
    # Slides: to the side that they go to.
    "plain_push": (s(AIR, level=-11.0, side=60.0, fall=3.0),),
    "long_push": (
        s(AIR, level=-8.0, side=65.0, fall=5.0, pitch=110.0),
        s(TICK, 10, level=-20.0, pitch=55.0),
    ),
    "push_up": (
        s(AIR, level=-8.0, side=0.0, pitch=120.0, fall=5.0),
        s(HIT, 6, 10, level=-17.0, pitch=95.0),
    ),
    "bouncing_slide": (
        s(AIR, level=-15.0, side=0.0, pitch=110.0),
        s(HIT, 0, 12, level=-8.0, pitch=85.0),
        s(HIT, 8.8, 9, level=-15.0, pitch=105.0, seed=2.0),
        s(HIT, 13.2, 7, level=-21.0, pitch=120.0, seed=3.0),
    ),
    "passing_object": (
        s(AIR, -1, 20, level=-10.0, pitch=60.0, side=80.0, high_cut=5_000.0,
          follows="who-passes"),
        *beats(TICK, (-6, 5), level=-21.0, pitch=45.0),
    ),
    "photo_stack": (
        *(s(FLUTTER, hit - 3, 8, level=-14.0, pitch=110.0 + 8.0 * n, seed=1.0 + n)
          for n, hit in enumerate((-28, -17, -6))),
        *(s(HIT, hit, 8, level=-17.0 + 2.0 * n, pitch=120.0, seed=1.0 + n)
          for n, hit in enumerate((-28, -17, -6))),
        s(AIR, 7, 12, level=-16.0, side=0.0, pitch=90.0),
    ),
    "triple_slide": (
        s(AIR, level=-14.0, follows="panel-1", side=90.0),
        s(AIR, level=-14.0, follows="panel-2", side=90.0, seed=2.0),
        s(AIR, level=-14.0, follows="panel-3", side=90.0, seed=3.0),
        *beats(TICK, (-6, -2, 2), level=-15.0, pitch=75.0),
    ),
    "blinds": (
        s(AIR, level=-13.0, side=80.0, pitch=115.0),
        *(s(TICK, 2 * n, level=-21.0 + n, pitch=60.0 + 6.0 * n) for n in range(6)),
    ),
    "squeeze": (
        s(RISE, 0, 11, level=-17.0, pitch=150.0),
        s(AIR, level=-15.0, pitch=120.0),
        s(DROP, 0, 14, level=-16.0, pitch=220.0,
          lanes={"pitch": ((0, 260.0), (3, 150.0), (6, 230.0), (10, 180.0))}),
    ),
    # Zooms: all of it comes nearer.
    "zoom_through": (
        s(AIR, level=-9.0, side=0.0, pitch=90.0, fall=4.0),
        s(HIT, 5, 14, level=-15.0, pitch=70.0),
    ),
    "zoom_back": (
        s(AIR, level=-9.0, side=0.0, pitch=75.0, fall=7.0),
        s(HIT, 0, 16, level=-14.0, pitch=60.0),
    ),
    "punch_in": (
        s(HIT, 0, 12, level=-7.0, pitch=105.0),
        s(TICK, 0, level=-19.0, pitch=90.0),
    ),
    "impact": (
        s(RISE, 0, 6, level=-18.0, pitch=80.0),
        s(HIT, 0, 30, level=-4.0, pitch=50.0),
        s(HIT, 0, 10, level=-12.0, pitch=120.0, seed=2.0),
        s(CRACKLE, 1, 10, level=-19.0, pitch=120.0),
    ),
    "speed_ramp": (
        s(RISE, 0, 15, level=-14.0, pitch=120.0),
        s(AIR, level=-12.0, side=0.0, pitch=110.0, fall=4.0),
        s(HIT, 0, 12, level=-16.0, pitch=90.0),
    ),
    "iris": (
        s(AIR, level=-15.0, follows="opening", side=0.0, pitch=80.0),
        s(RISE, 0, 9, level=-22.0, pitch=70.0),
    ),
    "iris_zoom": (
        s(AIR, level=-10.0, follows=PICTURE, side=0.0, fall=5.0),
        s(HIT, 0, 20, level=-14.0, pitch=70.0),
        s(TICK, -12, level=-22.0, pitch=90.0),
    ),
    "lens_rush": (
        s(HIT, -11, 8, level=-17.0, pitch=120.0, seed=2.0),
        s(HIT, -7, 8, level=-15.0, pitch=135.0, seed=3.0),
        s(HIT, -3, 8, level=-13.0, pitch=150.0, seed=4.0),
        s(RISE, 0, 11, level=-16.0),
        s(HIT, 0, 20, level=-7.0, pitch=75.0),
        s(AIR, level=-15.0, side=0.0),
    ),
    "skew_kick": (
        s(HIT, 0, 16, level=-6.0, pitch=90.0),
        s(TICK, 0, level=-17.0, pitch=80.0),
        s(AIR, level=-18.0, side=0.0, pitch=130.0),
    ),
    "stutter": (
        *(s(TICK, first, level=-19.0 + n, pitch=60.0 + 9.0 * n)
          for n, first in enumerate((-16, -12, -8, -5, -3, -1))),
        s(RISE, 0, 12, level=-20.0, pitch=90.0),
        s(HIT, 0, 14, level=-9.0, pitch=110.0),
    ),
    "spiral_in": (
        s(AIR, -9, 26, level=-10.0, follows="coming", fall=6.0, pitch=90.0,
          lanes={"pan": ((-20, -50.0), (-13, 50.0), (-7, -40.0), (-1, 0.0))}),
        s(HIT, 0, 22, level=-7.0, pitch=70.0),
        s(TICK, 0, level=-20.0, pitch=45.0),
    ),
    "porthole": (
        s(AIR, 0, 34, level=-14.0, pitch=80.0, follows="shutter", side=0.0),
        s(HIT, 0, level=-8.0),
        s(TICK, 0, level=-13.0, pitch=70.0),
    ),
    # Wipes: what it is made of.
    "bar_sweep": (
        s(AIR, 0, 24, level=-16.0, follows="edge", side=60.0, pitch=140.0, low_cut=400.0),
        s(TICK, 11, level=-25.0, pitch=150.0),
    ),
    "clock_sweep": (
        *beats(TICK, (-15, -5, 0, 5, 15), level=-11.0, pitch=85.0),
        s(AIR, level=-15.0, follows=PICTURE, side=0.0, pitch=70.0, high_cut=3_000.0),
    ),
    "corner_split": (
        s(TICK, -9, level=-13.0, pitch=120.0),
        s(CRACKLE, -8, 6, level=-20.0, pitch=150.0),
        s(AIR, 1, 24, level=-9.0, side=0.0, pitch=85.0),
        s(HIT, 0, 14, level=-10.0, pitch=100.0),
    ),
    "luma_melt": (
        s(AIR, level=-11.0, pitch=60.0, side=0.0, high_cut=2_500.0),
        s(CRACKLE, -9, 20, level=-21.0, pitch=200.0, low_cut=2_000.0),
    ),
    "rust_creep": (
        s(CRACKLE, -10, 60, level=-5.0, pitch=60.0, seed=5.0),
        s(FLUTTER, 6, 40, level=-18.0, pitch=50.0),
        s(HIT, -22, 40, level=-12.0, pitch=45.0),
    ),
    "brush_strokes": (
        s(FLUTTER, -14, 9, level=-13.0, pitch=140.0, pan=-40.0, low_cut=500.0),
        s(FLUTTER, -7, 9, level=-12.0, pitch=120.0, pan=40.0, low_cut=500.0, seed=2.0),
        s(FLUTTER, 1, 9, level=-11.0, pitch=105.0, pan=-40.0, low_cut=500.0, seed=3.0),
        s(FLUTTER, 8, 9, level=-12.0, pitch=115.0, pan=40.0, low_cut=500.0, seed=4.0),
        s(CRACKLE, -16, 34, level=-22.0, pitch=130.0),
        s(AIR, 1, 24, level=-15.0, side=0.0, pitch=70.0, high_cut=4_000.0),
    ),
    "torn_paper": (
        s(CRACKLE, -4, 26, level=-8.0, pitch=150.0, low_cut=700.0, seed=3.0),
        s(FLUTTER, -11, 10, level=-14.0, pitch=150.0, low_cut=600.0),
        s(FLUTTER, 2, 14, level=-11.0, pitch=105.0, seed=2.0),
        s(AIR, 8, 14, level=-15.0, side=60.0, pitch=110.0),
    ),
    "ink_bloom": (
        s(DROP, -21, 10, level=-15.0, pitch=180.0),
        s(CRACKLE, -18, 40, level=-23.0, pitch=80.0, high_cut=5_000.0),
        s(AIR, level=-19.0, pitch=50.0, side=0.0, high_cut=1_500.0),
    ),
    "light_burn": (
        s(AIR, level=-11.0, pitch=60.0, side=0.0, high_cut=3_000.0),
        s(CRACKLE, -7, 20, level=-16.0, pitch=90.0, seed=3.0),
        s(HIT, 0, 24, level=-12.0, pitch=55.0),
    ),
    "soft_dissolve": (
        s(AIR, follows=PICTURE, level=-8.0, pitch=55.0, side=0.0, high_cut=2_500.0),
        s(HUSH, 0, 24, level=-9.0),
    ),
    "dip_to_colour": (
        s(HIT, 0, 40, level=-6.0, pitch=45.0, high_cut=900.0),
        s(HUSH, 0, 20, level=-3.0),
        s(AIR, follows=PICTURE, level=-18.0, pitch=45.0, side=0.0, high_cut=1_500.0),
    ),
    "letters_window": (
        s(HIT, -29, 16, level=-13.0, pitch=75.0),
        s(RISE, 4, 14, level=-13.0, pitch=90.0),
        s(AIR, 5, 14, level=-11.0, side=0.0, pitch=85.0, follows=PICTURE),
        s(HIT, 8, 18, level=-12.0, pitch=60.0, seed=2.0),
    ),
    # Light: it swells, and the clips make room.
    "bright_haze": (
        s(RISE, 0, 12, level=-12.0, pitch=60.0, high_cut=3_500.0),
        s(AIR, level=-12.0, pitch=70.0, side=0.0, high_cut=5_000.0),
        s(HUSH, 0, 20, level=-5.0),
    ),
    "look_back": (
        s(HIT, 0, 26, level=-6.0, pitch=60.0),
        s(RISE, 0, 6, level=-12.0, pitch=140.0),
        s(HUSH, 4, 24, level=-8.0),
    ),
    "colour_pulse": (
        s(RISE, 0, 9, level=-17.0, pitch=80.0),
        s(HIT, 0, 22, level=-8.0, pitch=60.0, seed=2.0),
    ),
    # Broken signals.
    "signal_slip": (
        s(CRACKLE, 0, 7, level=-8.0, pitch=170.0, seed=2.0),
        *beats(TICK, (0, 2, 4), level=-10.0, pitch=115.0),
        s(AIR, 3, 6, level=-12.0, side=60.0, pitch=200.0, low_cut=1_500.0),
    ),
    "broken_title": (
        s(CRACKLE, -13, 16, level=-10.0),
        s(TICK, -5, level=-12.0),
        s(FLUTTER, -3, 9, level=-14.0, pitch=150.0),
        s(DROP, 3, 18, level=-10.0),
    ),
    "smeared_blocks": (
        s(CRACKLE, 0, 26, level=-9.0, pitch=60.0, seed=7.0),
        *beats(TICK, (-9, -6, -4, -1, 1, 3, 6, 8), level=-17.0, pitch=130.0),
        s(AIR, 0, 26, level=-14.0, pitch=60.0, side=0.0, high_cut=3_000.0),
    ),
    "tape_noise": (
        s(CRACKLE, -4, 26, level=-9.0, pitch=130.0),
        s(AIR, 1, 22, level=-14.0, side=0.0, pitch=140.0, low_cut=1_200.0),
        s(FLUTTER, -2, 12, level=-14.0, pitch=70.0),
        s(TICK, 7, level=-16.0, pitch=75.0),
    ),
    "film_slip": (
        *(s(TICK, n, level=-16.0 + abs(n) * -0.5, pitch=80.0, seed=20.0 + n)
          for n in (-7, -5, -3, -2, -1, 0, 1, 2, 4, 6, 9)),
        s(FLUTTER, 0, 18, level=-11.0, pitch=95.0),
        s(CRACKLE, -3, 10, level=-13.0, pitch=70.0),
        s(HIT, 10, 10, level=-18.0, pitch=80.0),
    ),
    # Weather and water.
    "sea_fog": (
        s(AIR, follows="fog", level=-7.0, pitch=45.0, side=0.0, high_cut=1_200.0,
          lanes={"pan": ((-19, -50.0), (19, 50.0))}),
        s(HIT, 0, 36, level=-15.0, pitch=40.0, high_cut=400.0),
    ),
    "liquid_title": (
        s(AIR, -4, 27, level=-16.0, follows="light", side=80.0, pitch=75.0, high_cut=6_000.0),
        s(DROP, -8, 22, level=-19.0, pitch=120.0),
        s(RISE, 4, 12, level=-22.0, pitch=150.0, low_cut=800.0),
    ),
    "two_weathers": (
        s(AIR, -6, 30, level=-11.0, pitch=50.0, side=0.0, high_cut=2_500.0,
          lanes={"pan": ((-19, -30.0), (0, 30.0), (19, -20.0))}),
        s(HIT, -28, 20, level=-13.0, pitch=60.0),
        s(HIT, 0, 20, level=-10.0, pitch=75.0, seed=2.0),
    ),
}  # fmt: skip
"""By the folder of each wrinkle."""


def sounded(wrinkle: Wrinkle, sounds: tuple[S, ...]) -> Wrinkle:
    """A wrinkle with these sounds alone, and a switch for all of them."""
    dials = tuple(dial for dial in wrinkle.dials if dial.id != _DIAL)
    wrinkle = replace(wrinkle, sounds=(), dials=standing(dials, wrinkle.layers))
    for sound in sounds:
        wrinkle, _ = _added(wrinkle, sound)
    every = tuple(x.id for x in wrinkle.sounds)
    wrinkle, dial = dial_edits.offer(wrinkle, every[0], "heard")
    for other in every[1:]:
        wrinkle = dial_edits.add_drive(wrinkle, dial, other, "heard")
    made = next(x for x in wrinkle.dials if x.id == dial)
    assert isinstance(made, SwitchDial)
    about = "Whether the sounds of the wrinkle are heard."
    named = replace(made, id=_DIAL, name="Sound", about=about)
    return replace(wrinkle, dials=(*wrinkle.dials[:-1], named))


def _added(wrinkle: Wrinkle, sound: S) -> tuple[Wrinkle, str]:
    rate = wrinkle.frame_rate
    wrinkle, new = sound_edits.add_sound(wrinkle, sound.made)
    hit = Fraction(sound.hit).limit_denominator(1000) / rate.per_second
    wrinkle = sound_edits.change_sound(wrinkle, new, hit=hit)
    values = dict(sound.values)
    if sound.length:
        values["length"] = float(Fraction(sound.length) / rate.per_second)
    wrinkle = sound_edits.rest_at(wrinkle, new, **values)
    if sound.follows == PICTURE:
        wrinkle = sound_edits.follow(wrinkle, new, MovedBy.PICTURE)
    elif sound.follows:
        wrinkle = sound_edits.follow(wrinkle, new, MovedBy.LAYER, sound.follows)
    for key, pins in sound.lanes.items():
        keys = (
            Keyframe(Fraction(at).limit_denominator(1000) / rate.per_second, value, FEELS["gentle"])
            for at, value in pins
        )
        ref = SettingRef(new, key)
        wrinkle = lane_edits.with_track(wrinkle, ref, Track(tuple(keys)))
    return wrinkle, new
