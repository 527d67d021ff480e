"""What a wrinkle carries with it: pictures, sounds and colour tables, read from their bytes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

from wrinkle.core.picture.faces import Fonts
from wrinkle.core.picture.lut import Lut, parse_cube
from wrinkle.core.render.material import FrameSource, Material
from wrinkle.core.store import Store
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.fillings import SOUNDS
from wrinkle.media.sound_file import SoundFile
from wrinkle.media.stand_in import CLIPS, stand_in_clip, stand_in_sound
from wrinkle.media.still import LARGEST_PICTURE, Still

CUBE = ".cube"
LARGEST_ASSET = LARGEST_PICTURE
"""Bytes of a picture or a table."""


@dataclass(frozen=True)
class Assets:
    """Pictures, short clips, sounds and colour tables by their names.

    Attributes:
        store: where decoded pictures are kept.
    """

    pictures: Mapping[str, FrameSource] = field(default_factory=dict)
    luts: Mapping[str, Lut] = field(default_factory=dict)
    sounds: Mapping[str, SoundFile] = field(default_factory=dict)
    store: Store = field(default_factory=Store)

    @cached_property
    def pool(self) -> ClipPool:
        """The short clips that are open."""
        return ClipPool(self.store)

    def with_asset(self, name: str, content: bytes) -> Assets:
        """One more asset.

        Raises:
            InputError: it is no picture, clip, sound or table that can be read; names it.
        """
        if name.lower().endswith(CUBE):
            luts = {**self.luts, name: parse_cube(name, content)}
            return replace(self, luts=luts)
        if name.lower().endswith(SOUNDS):
            sounds = {**self.sounds, name: stand_in_sound(name, content, self.store)}
            return replace(self, sounds=sounds)
        picture: FrameSource
        if name.lower().endswith(CLIPS):
            picture = stand_in_clip(name, content, self.pool)
        else:
            picture = Still(name, content, self.store)
        return replace(self, pictures={**self.pictures, name: picture})

    @property
    def heard(self) -> dict[str, object]:
        """All of them that may be heard: sounds, and clips that have one."""
        return {**self.pictures, **self.sounds}

    def material(self, fonts: Fonts) -> Material:
        """What a wrinkle brings with it, before anything fills its slots."""
        return Material({}, self.pictures, self.luts, self.heard, fonts, self.store)


def read_assets(contents: Mapping[str, bytes], store: Store) -> Assets:
    """All assets of a wrinkle.

    Raises:
        InputError: one of them cannot be read; names it.
    """
    found = Assets(store=store)
    for name, content in contents.items():
        found = found.with_asset(name, content)
    return found
