"""What is kept with an open document and is no part of it, and the picture that tells it apart."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from contextlib import suppress
from fractions import Fraction
from pathlib import Path
from typing import Any, Protocol

import cv2
import msgspec
from PyQt6.QtCore import QObject, pyqtBoundSignal

from wrinkle.core.design.document.coding import decode, encode, from_json
from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size
from wrinkle.core.render.compose import PLAINLY
from wrinkle.core.render.frames import Shown
from wrinkle.ui.desk.kept_versions import KeptVersion
from wrinkle.ui.desk.looking import Looking
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.desk.tried_clips import TriedClips
from wrinkle.ui.desk.wrinkle_document import WrinkleDocument

_PICTURE_SIDE = 240


class Beside(Protocol):
    """What the keeper asks for a kind of document."""

    def changes(self) -> tuple[pyqtBoundSignal, ...]:
        """What tells that something else is to be kept."""

    def kept(self) -> dict[str, Any]:
        """What is kept, as plain values."""

    def restore(self, kept: Mapping[str, Any]) -> None:
        """Puts back what was kept, as far as it can be read."""

    def picture(self) -> Callable[[], bytes] | None:
        """Draws what is looked at as PNG, in any thread; None where there is nothing to see."""


class _KeptClip(msgspec.Struct, frozen=True):
    path: str
    cut: Fraction


class _KeptVersion(msgspec.Struct, frozen=True):
    word: str
    wrinkle: str


class _KeptView(msgspec.Struct, frozen=True):
    clips: dict[str, _KeptClip] = {}
    layer: str = ""
    playhead: int = 0
    versions: list[_KeptVersion] = []
    compared: int = -1


class WrinkleBeside(QObject):
    """The clips of the Bench, and what is looked at there."""

    def __init__(
        self,
        document: WrinkleDocument,
        tried: TriedClips,
        looking: Looking,
        shown: Callable[[Size], Shown],
    ) -> None:
        super().__init__()
        self._document, self._tried, self._looking = document, tried, looking
        self._shown = shown
        self._written: dict[KeptVersion, str] = {}
        """Versions as text: each is written once, however often the work is kept."""

    def changes(self) -> tuple[pyqtBoundSignal, ...]:
        """Other clips, other cuts of them, or other versions to compare with."""
        return (self._tried.changed, self._looking.kept.changed)

    def kept(self) -> dict[str, Any]:
        """The files by slot with their cuts, the selected layer, the playhead, the versions."""
        clips = {
            slot: _KeptClip(str(tried.path), tried.cut)
            for slot, tried in self._tried.clips.items()
            if tried.path is not None
        }
        looking, kept = self._looking, self._looking.kept
        self._written = {x: self._written.get(x) or _text_of(x) for x in kept.all}
        versions = [_KeptVersion(x.word, text) for x, text in self._written.items()]
        view = _KeptView(clips, looking.layer, looking.playhead, versions, kept.place)
        return {name: getattr(view, name) for name in view.__struct_fields__}

    def restore(self, kept: Mapping[str, Any]) -> None:
        """Tries the wrinkle on those clips again, and looks where it was looked."""
        view = _KeptView()
        with suppress(msgspec.ValidationError, ValueError):
            view = msgspec.convert(dict(kept), _KeptView, dec_hook=from_json)
        self._tried.begin(
            {slot: Path(clip.path) for slot, clip in view.clips.items()},
            {slot: clip.cut for slot, clip in view.clips.items()},
        )
        if any(layer.id == view.layer for layer in self._document.state.layers):
            self._looking.select_layer(view.layer)
        self._looking.set_playhead(view.playhead)
        self._restore_versions(view)

    def _restore_versions(self, view: _KeptView) -> None:
        kept = self._looking.kept
        kept.forget_all()
        for version in view.versions:
            with suppress(InputError):
                kept.keep(version.word, decode(version.wrinkle.encode()))
        if kept.all:
            kept.choose(min(view.compared, len(kept.all) - 1))

    def picture(self) -> Callable[[], bytes]:
        """The frame at the playhead."""
        size = self._document.frame_size
        shown = self._shown(size.within(_PICTURE_SIDE))
        frame = self._looking.playhead
        return lambda: _png(shown, frame)


class PieceBeside(QObject):
    """Nothing but a picture: what is looked at in a piece is chosen anew."""

    def __init__(self, document: PieceDocument) -> None:
        super().__init__()
        self._document = document

    def changes(self) -> tuple[pyqtBoundSignal, ...]:
        """Nothing else."""
        return ()

    def kept(self) -> dict[str, Any]:
        """Nothing."""
        return {}

    def restore(self, kept: Mapping[str, Any]) -> None:
        """Nothing is to be put back."""

    def picture(self) -> Callable[[], bytes] | None:
        """The first frame after the first cut."""
        piece = self._document.state
        if not piece.clips:
            return None
        size = piece.size.within(_PICTURE_SIDE)
        film, frame = self._document.media.film(piece, size), piece.starts[1]
        return lambda: _png(film, min(frame, piece.frame_count - 1))


def _text_of(version: KeptVersion) -> str:
    return encode(version.wrinkle).decode()


def _png(shown: Shown, frame: int) -> bytes:
    image = shown.drawn(frame, shown.plan(frame), PLAINLY)
    pixels = cv2.cvtColor(image.to_bytes8(), cv2.COLOR_RGBA2BGRA)
    return cv2.imencode(".png", pixels)[1].tobytes()
