"""What is heard of what the arguments of a command name."""

from __future__ import annotations

import sys
from fractions import Fraction
from pathlib import Path

from wrinkle import library
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.reuse.hearing import hearing, in_slots
from wrinkle.core.reuse.use import Use
from wrinkle.core.sound.heard import Heard
from wrinkle.core.sound.hears import Hears
from wrinkle.core.sound.levelling import levelled
from wrinkle.core.sound.loudness import Loudness, measured
from wrinkle.core.sound.mixing import WrinkleSounds
from wrinkle.core.store import Store
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.library.films import opened_film
from wrinkle.media.assets import read_assets
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.pieces import paths_of
from wrinkle.timeline.files import read_piece
from wrinkle.timeline.piece_file import SUFFIXES

_NEAR = 0.2
"""LU by which it may be softer than was asked for before that is said."""


def heard_by_name(name: str, sound: str) -> tuple[Heard, float | None, list[Path]]:
    """What is heard of a piece, or of a wrinkle by itself.

    Args:
        name: a timeline, or a wrinkle as it is found.
        sound: what of it is heard, as typed.

    Returns:
        What is heard, how loud it says that it is made, and the files that are read.

    Raises:
        InputError: there is nothing of that name, or it cannot be read.
    """
    if Path(name).suffix.lower() in SUFFIXES:
        piece, _ = read_piece(Path(name))
        store = Store()
        film = opened_film(piece, ClipPool(store), store, Quality.FINAL)
        return film.heard_as(Hears(sound)), piece.loudness, paths_of(piece)
    bundle = library.find(name)
    wrinkle, carried = bundle.wrinkle, read_assets(bundle.assets, Store()).heard
    span = WrinkleSounds(wrinkle, in_slots(wrinkle, {}, carried)).span
    rate = wrinkle.frame_rate
    first = min(wrinkle.first_frame, rate.frame_at(Fraction(span.start, SAMPLE_RATE)))
    end = max(wrinkle.end_frame, rate.frames_until(Fraction(span.stop, SAMPLE_RATE)))
    mix = hearing(Use(wrinkle, {}), rate, range(first, end), Hears(sound), carried)
    return mix, None, []


def made_loud(heard: Heard, target: float | None) -> tuple[Heard, Loudness]:
    """As loud as is asked for, and how loud that is; says where it cannot be."""
    if target is None:
        return heard, measured(heard)
    found, loud = levelled(heard, target)
    if abs(loud.integrated - target) > _NEAR:
        print(
            f"It comes to {loud.integrated:.1f} LUFS and not to {target:g}: it is silent, or its "
            "peaks do not let it be louder.",
            file=sys.stderr,
        )
    return found, loud
