"""A piece with its files as a film: the one place where that is put together."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path
from types import MappingProxyType

from wrinkle import library
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.film import Film
from wrinkle.core.render.material import FrameSource, Material
from wrinkle.core.store import Store
from wrinkle.files.presence import is_there
from wrinkle.media.assets import read_assets
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.pieces import media_of, read_heard
from wrinkle.media.sound_file import SoundFile

NOWHERE: Mapping[str, Path] = MappingProxyType({})
_MOST_CARRIED = 100
"""Wrinkles whose assets are held; the first one is read again when it is wanted."""


class Projector:
    """Makes films; the assets of a wrinkle that is on many cuts are read once.

    Args:
        store: where parts of pictures are kept.
    """

    def __init__(self, store: Store) -> None:
        self._store = store
        self._carried: dict[int, tuple[Bundle, Material]] = {}

    def film(
        self,
        piece: Piece,
        sources: Mapping[str, FrameSource],
        size: Size | None = None,
        quality: Quality = Quality.PREVIEW,
    ) -> Film:
        """A piece as it is shown.

        Args:
            piece: what is shown.
            sources: the pictures of its files, by their path; what is not there is dark.
            size: of the pictures, by default that of the piece.
            quality: how closely they are rendered.
        """
        return Film(piece, sources, self.carried, self._store, size or piece.size, quality)

    def carried(self, bundle: Bundle) -> Material:
        """What a wrinkle brings with it.

        Raises:
            InputError: an asset cannot be read.
        """
        found = self._carried.get(id(bundle))
        if found is None:
            assets = read_assets(bundle.assets, self._store)
            # The bundle is kept with it: its number must not become that of another one.
            found = self._carried[id(bundle)] = bundle, assets.material(library.fonts())
            if len(self._carried) > _MOST_CARRIED:
                del self._carried[next(iter(self._carried))]
        return found[1]


def opened_film(
    piece: Piece,
    pool: ClipPool,
    store: Store,
    quality: Quality,
    without_missing: bool = False,
    elsewhere: Mapping[str, Path] = NOWHERE,
) -> Film:
    """A piece with all its files read.

    Args:
        piece: what is shown.
        pool, store: where clips and parts of pictures are kept.
        quality: how closely it is rendered.
        without_missing: whether files that are not there may be dark.
        elsewhere: where files lie that are not at their own paths.

    Raises:
        MediaError: one of them cannot be read.
    """
    read = {}
    for media in media_of(piece):
        place = elsewhere.get(media.path, Path(media.path))
        if is_there(place) or not without_missing:
            read[media.path] = read_heard(place, pool, store)[1]
    sources = {path: one for path, one in read.items() if not isinstance(one, SoundFile)}
    film = Projector(store).film(piece, sources, quality=quality)
    return replace(film, sounds={path: x for path, x in read.items() if isinstance(x, SoundFile)})
