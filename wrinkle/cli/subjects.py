"""What the commands that measure are about: wrinkles on clips, and the dressed cuts of pieces."""

from __future__ import annotations

import argparse
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from wrinkle import library
from wrinkle.core.errors import MediaError
from wrinkle.core.examine.subjects import cut_subject, dressed_cuts, use_subject
from wrinkle.core.jobs import Jobs
from wrinkle.core.measure.subject import Subject
from wrinkle.core.picture import compiled
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Filling, default_cut
from wrinkle.core.reuse.use import Use, natural_size
from wrinkle.core.store import Store
from wrinkle.library.films import opened_film
from wrinkle.library.samples import SAMPLES
from wrinkle.media.assets import read_assets
from wrinkle.media.clip_pool import ClipPool
from wrinkle.timeline.piece_file import SUFFIXES


@dataclass(frozen=True)
class NamedSubject:
    """Something that is measured.

    Attributes:
        file: as it was typed.
        cut: which cut of a piece, counted from 1; 0 for a wrinkle.
        where: what it is, in words.
        subject: what is measured.
    """

    file: str
    cut: int
    where: str
    subject: Subject


def named_subjects(arguments: argparse.Namespace) -> Iterator[NamedSubject]:
    """All that the arguments name, one after the other.

    Raises:
        InputError: a file cannot be read, or something chosen is not possible.
    """
    compiled.load(library.compiled_folder())
    store = Store()
    pool = ClipPool(store)
    for word in arguments.files:
        if Path(word).suffix.lower() in SUFFIXES:
            yield from _cuts(word, pool, store)
        else:
            yield _wrinkle(word, arguments, pool, store)


def measured(named: NamedSubject) -> NamedSubject:
    """The same with every frame of its window measured, on all processors."""
    jobs = Jobs()
    survey = named.subject.survey
    try:
        for _ in jobs.in_order(survey.prepare, survey.frames):
            pass
    finally:
        jobs.stop()
    return named


def _wrinkle(
    word: str, arguments: argparse.Namespace, pool: ClipPool, store: Store
) -> NamedSubject:
    bundle = library.find(word)
    wrinkle = bundle.wrinkle
    fillings = {}
    for slot, path in (("outgoing", arguments.outgoing), ("incoming", arguments.incoming)):
        clip = pool.clip(path or SAMPLES[slot])
        fillings[slot] = Filling(clip, default_cut(slot, clip, wrinkle))
    use = Use(wrinkle, fillings)
    carried = read_assets(bundle.assets, store).material(library.fonts())
    subject = use_subject(use, carried, natural_size(use), wrinkle.frame_rate)
    return NamedSubject(word, 0, wrinkle.name, subject)


def _cuts(word: str, pool: ClipPool, store: Store) -> Iterator[NamedSubject]:
    from wrinkle.timeline.files import read_piece

    piece, _ = read_piece(Path(word))
    try:
        film = opened_film(piece, pool, store, Quality.PREVIEW)
    except MediaError as fault:
        raise MediaError(f"{word}: {fault}") from None
    for clip_id in dressed_cuts(piece):
        place = piece.index(clip_id)
        before, after = piece.clips[place - 1].name, piece.clips[place].name
        subject = cut_subject(film, clip_id)
        yield NamedSubject(word, place, f"cut {place}, {before} → {after}", subject)
