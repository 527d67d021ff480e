"""What is examined, from a wrinkle on two clips or from a cut of a piece."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.slots import INCOMING, OUTGOING
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.measure.look import measured_size
from wrinkle.core.measure.subject import Around, Subject
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.film import Film, fitted
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.render.material import Material
from wrinkle.core.reuse.hearing import hearing
from wrinkle.core.reuse.use import Use, resolved, showing
from wrinkle.core.sound.heard import Mix
from wrinkle.core.synthesis.samples import sample_at
from wrinkle.core.time.rate import FrameRate


def use_subject(use: Use, carried: Material, size: Size, rate: FrameRate) -> Subject:
    """A use of a wrinkle on its clips, which run on plainly around it.

    Args:
        use: what is put on the cut.
        carried: what the wrinkle brings with it.
        size: of the frames that are written in the end.
        rate: of the frames.

    Raises:
        InputError: a cut lies outside its clip, or something chosen is not possible.
    """
    shown = showing(use, carried, size, rate, Quality.PREVIEW)

    def hears(design: Wrinkle) -> Mix:
        changed = replace(use, wrinkle=design)
        found = resolved(changed, rate)
        return hearing(changed, rate, _with_a_second(found.frames, rate), carried=carried.sounds)

    return Subject.of(
        shown,
        use.wrinkle,
        lambda design: resolved(replace(use, wrinkle=design), rate),
        hears=hears,
    )


def cut_subject(film: Film, clip_id: str) -> Subject:
    """The wrinkle on the cut into a clip, with the piece around it.

    Args:
        film: the piece in the size in which it is written in the end.
        clip_id: of the clip after the cut, on which there is a wrinkle.

    Raises:
        InputError: the wrinkle cannot be read, or something chosen is not possible.
        ValueError: there is no wrinkle on that cut.
    """
    piece, place = film.piece, film.piece.index(clip_id)
    before, clip = piece.clips[place - 1], piece.clips[place]
    use = clip.entry
    if use is None or place == 0:
        raise ValueError(clip_id)

    def plain(design: Wrinkle) -> Wrinkle:
        changed = with_design(use, design).at(piece.rate)
        return fitted(changed, {OUTGOING.key: before, INCOMING.key: clip})

    cut = piece.starts[place]
    around = Around(film.resized(measured_size(film.size)), cut)

    def hears(design: Wrinkle) -> Mix:
        changed = replace(clip, entry=with_design(use, design))
        clips = (*piece.clips[:place], changed, *piece.clips[place + 1 :])
        return replace(film, piece=piece.with_clips(*clips)).heard.from_(sample_at(piece.rate, cut))

    return Subject.of(film.cut(clip_id), use.wrinkle, plain, around, hears)


def _with_a_second(frames: range, rate: FrameRate) -> range:
    """Frames with as many around them as measuring loudness looks at, and more."""
    around = rate.frames_until(Fraction(1))
    return range(frames.start - around, frames.stop + around)


def with_design(use: PieceUse, design: Wrinkle) -> PieceUse:
    """A use with another design of its wrinkle."""
    return replace(use, bundle=Bundle(design, use.bundle.assets))


def dressed_cuts(piece: Piece) -> tuple[str, ...]:
    """The ids of the clips on whose cut there is a wrinkle, in running order."""
    return tuple(clip.id for clip in piece.clips[1:] if clip.entry is not None)
