"""The demo's piece: the eight clips in their order, every cut dressed."""

from __future__ import annotations

from wrinkle.core.piece import dressing, edits
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.store import Store
from wrinkle.files.archive import read
from wrinkle.library import shipped
from wrinkle.library.samples import DEMO_CLIPS
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.pieces import read_source

_SPARE = 20
_DRESSED = {
    "box_kite": "passing_object",
    "tail": "speed_ramp",
    "porthole": "iris_zoom",
    "workshop": "torn_paper",
    "pier": "film_slip",
    "lighthouse": "impact",
    "finale": "ink_bloom",
}
"""What is on the cut into each clip."""


def kite_day() -> Piece:
    """The piece, with frames to spare on both sides of every clip."""
    store = Store()
    pool = ClipPool(store)
    media = [read_source(path, pool, store)[0] for path in DEMO_CLIPS.values()]
    size = media[0].size
    piece = edits.add_clips(Piece("Tidewind Kite Day"), 0, media)
    if size is not None:
        piece = Piece(piece.title, size.even, piece.rate, piece.clips)
    for clip in piece.clips:
        piece = edits.trim(piece, clip.id, _SPARE, -_SPARE)
        if clip.name in _DRESSED:
            use = PieceUse(read(shipped()[_DRESSED[clip.name]]))
            piece = dressing.put_on(piece, [clip.id], use)
    return piece
