"""All of what is shown, or a part: what the wrinkle adds, or where its incoming clip shows."""

from __future__ import annotations

from dataclasses import replace
from enum import Enum
from fractions import Fraction

from msgspec.structs import replace as replaced

from wrinkle.core.design.document.slots import INCOMING, shows_given
from wrinkle.core.design.document.sources import TreatmentSource
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.errors import InputError
from wrinkle.core.picture.solid import Solid
from wrinkle.core.piece.film import Film
from wrinkle.core.render.material import Filling
from wrinkle.core.render.showing import Showing
from wrinkle.media.output.output import NumberedPictures
from wrinkle.media.output.parts import IncomingMatte, Overlay

_MIDDLE = Fraction(12 * 3600)
_PAIR = 2


class What(Enum):
    """What of the pictures is written."""

    ALL = "all"
    OVERLAY = "overlay"
    MATTE = "matte"


def part_of_showing(showing: Showing, what: What) -> NumberedPictures:
    """A wrinkle on its clips, or a part of it."""
    if what is What.ALL:
        return showing
    if what is What.OVERLAY:
        own = showing.wrinkle
        plain = replaced(plain_cut(), frame_rate=own.frame_rate, lead=own.lead, tail=own.tail)
        return Overlay(showing, replace(showing, wrinkle=plain))
    return IncomingMatte(*(_with_incoming(showing, grey) for grey in (1.0, 0.0)))


def part_of_film(film: Film, what: What) -> NumberedPictures:
    """A piece, or a part of it.

    Raises:
        InputError: a matte is asked for of a piece with more than one cut.
    """
    if what is What.ALL:
        return film
    piece = film.piece
    if what is What.OVERLAY:
        bare = piece.with_clips(*(replace(clip, entry=None) for clip in piece.clips))
        return Overlay(film, replace(film, piece=bare))
    if len(piece.clips) != _PAIR:
        raise InputError(
            "A matte is that of one wrinkle; choose the wrinkle on the Bench, and not the piece."
        )
    going, coming = piece.clips
    found = []
    for grey in (1.0, 0.0):
        solid = Solid(f"grey {grey:g}", grey, film.size)
        name = f":{grey:g}"
        other = replace(coming, media=replace(coming.media, path=name))
        found.append(
            replace(
                film,
                piece=piece.with_clips(going, other),
                sources={**film.sources, name: solid},
            )
        )
    return IncomingMatte(*found)


def held_clips(wrinkle: Wrinkle) -> tuple[str, ...]:
    """The layers whose clips cannot be split off: the overlay holds their pictures as they are.

    A clip that is moved, cut or treated is seen so in the overlay, on those very clips.
    """
    found = []
    for layer in wrinkle.layers:
        treats = isinstance(layer.source, TreatmentSource)
        moved = bool(layer.lanes()) or bool(layer.effects) or bool(layer.masks)
        if treats or (shows_given(layer.source) and (moved or layer.matte is not None)):
            found.append(layer.name)
    return tuple(found)


def _with_incoming(showing: Showing, grey: float) -> Showing:
    solid = Solid(f"grey {grey:g}", grey, showing.size)
    slots = {**showing.material.slots, INCOMING.key: Filling(solid, _MIDDLE)}
    return replace(showing, material=replace(showing.material, slots=slots))
