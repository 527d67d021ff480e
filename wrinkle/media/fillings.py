"""What fills a slot, from a file: a clip, a picture that stands still, or a sound."""

from __future__ import annotations

from pathlib import Path

from wrinkle.core.design.document.slot_kinds import slot_kind
from wrinkle.core.design.document.slots import Slot
from wrinkle.core.errors import InputError, MediaError
from wrinkle.core.render.material import FrameSource
from wrinkle.core.store import Store
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.sound_file import SoundFile
from wrinkle.media.still import Still

PICTURES = (".png", ".jpg", ".jpeg", ".webp", ".tif", ".tiff")
SOUNDS = (".wav", ".flac", ".mp3", ".ogg", ".opus", ".oga", ".m4a", ".aac", ".aif", ".aiff", ".mka")
"""Endings of files that are heard and not seen."""


def read_sound(slot: Slot, path: Path, pool: ClipPool, store: Store) -> FrameSource | SoundFile:
    """What is heard in a slot for sound: a file of sound, or a video that has one.

    Raises:
        MediaError: the file cannot be read, or has no sound; names it.
    """
    if path.suffix.lower() in SOUNDS:
        return SoundFile.read(path, store)
    clip = pool.clip(path)
    if not clip.sounds:
        raise MediaError(f"{path.name} has no sound in it for the slot '{slot.label}'.")
    return clip


def read_filling(slot: Slot, path: Path, pool: ClipPool, store: Store) -> FrameSource:
    """The pictures in a file.

    Raises:
        InputError: the slot takes no pictures.
        MediaError: the file cannot be read; names it.
    """
    if not slot.moving:
        raise InputError(f"The slot '{slot.label}' takes {slot.kind}, and not {path.name}.")
    if slot_kind(slot.kind).still or path.suffix.lower() in PICTURES:
        return Still.read(path, store)
    return pool.clip(path)
