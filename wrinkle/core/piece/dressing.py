"""Wrinkles put on the cuts of a piece: on one, on all, shuffled, in alternating directions."""

from __future__ import annotations

import random
from collections.abc import Iterable, Sequence
from dataclasses import replace

from wrinkle.core.errors import InputError
from wrinkle.core.motion.direction import Direction
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.reuse.use import directions_of


def put_on(piece: Piece, clip_ids: Iterable[str], use: PieceUse | None) -> Piece:
    """A use, or none, on the cuts into some clips."""
    wanted = set(clip_ids)
    return piece.with_clips(*(replace(x, entry=use) if x.id in wanted else x for x in piece.clips))


def on_every(piece: Piece, use: PieceUse | None, step: int = 1) -> Piece:
    """A use on every cut, or on every so manieth, from the first; the others stay as they are."""
    return put_on(piece, (clip.id for clip in piece.clips[1::step]), use)


def shuffled(piece: Piece, uses: Sequence[PieceUse], seed: int) -> Piece:
    """Several uses on all cuts at random, never the same wrinkle twice in a row.

    Args:
        piece: what is dressed.
        uses: at least one.
        seed: the same one gives the same order.

    Raises:
        InputError: there is none to choose from.
    """
    if not uses:
        raise InputError("Choose some wrinkles to shuffle first.")
    dice = random.Random(seed)
    before: PieceUse | None = None
    clips = list(piece.clips[:1])
    for clip in piece.clips[1:]:
        others = [x for x in uses if before is None or x.wrinkle != before.wrinkle]
        before = dice.choice(others or list(uses))
        clips.append(replace(clip, entry=before))
    return piece.with_clips(*clips)


def alternating(piece: Piece) -> Piece:
    """Every other use goes the other way, of the two ways that its wrinkle offers first."""
    clips, odd = list(piece.clips[:1]), False
    for clip in piece.clips[1:]:
        use = clip.entry
        if use is not None:
            ways = [*directions_of(use.wrinkle), Direction.AS_MADE][:2]
            choices = replace(use.choices, direction=ways[odd and len(ways) > 1])
            clip, odd = replace(clip, entry=replace(use, choices=choices)), not odd
        clips.append(clip)
    return piece.with_clips(*clips)
