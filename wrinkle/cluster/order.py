"""What a range is drawn from, as plain values that go to another machine."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from hashlib import blake2b
from pathlib import Path

import msgspec

from wrinkle.core.errors import MediaError
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece.document import Piece
from wrinkle.core.store import Store
from wrinkle.files.presence import is_file
from wrinkle.library.films import opened_film
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.exporting.parts import What
from wrinkle.media.exporting.piece_video import film_output
from wrinkle.media.output.colour import COLOURS
from wrinkle.media.output.formats import FORMATS
from wrinkle.media.output.output import Output
from wrinkle.media.output.rendition import Rendition
from wrinkle.media.pieces import media_of
from wrinkle.timeline.files import piece_in, timeline_text

_CHUNK = 1 << 20


class Order(msgspec.Struct, frozen=True):
    """A piece and as what it is written.

    Attributes:
        timeline: as in a file.
        folder: to which the addresses in it are relative.
        media: the path of each file that is there, and what is in it.
        form, depth, alpha, colour: of the rendition.
        what: of the pictures.
    """

    timeline: bytes
    folder: str
    media: tuple[tuple[str, str], ...]
    form: str
    depth: int | None
    alpha: bool
    colour: str
    what: str

    @property
    def key(self) -> str:
        """What stands for it: equal orders have equal ones."""
        return blake2b(msgspec.msgpack.encode(self), digest_size=16).hexdigest()


def order_of(piece: Piece, rendition: Rendition, what: What = What.ALL) -> Order:
    """The order of a piece in the size and at the rate of what is written.

    Raises:
        MediaError: a file of it cannot be read, or the piece cannot be written as a timeline.
    """
    folder = Path.cwd()
    there = [x.path for x in media_of(piece) if is_file(Path(x.path))]
    media = tuple((path, content_of(Path(path))) for path in there)
    form = rendition.form.key
    text = timeline_text(piece, folder)
    return Order(
        text,
        str(folder),
        media,
        form,
        rendition.depth,
        rendition.alpha,
        rendition.colour.key,
        what.value,
    )


def content_of(path: Path) -> str:
    """What stands for the content of a file; read once for each state of it.

    Raises:
        MediaError: it cannot be read.
    """
    try:
        status = path.stat()
        return _content_of(path, status.st_size, status.st_mtime_ns)
    except OSError as fault:
        raise MediaError(f"{path.name} cannot be read: {fault.strerror}.") from None


@lru_cache(256)
def _content_of(path: Path, size: int, changed: int) -> str:
    found = blake2b(digest_size=20)
    with path.open("rb") as file:
        while chunk := file.read(_CHUNK):
            found.update(chunk)
    return found.hexdigest()


def drawing_of(order: Order, elsewhere: Mapping[str, Path], store: Store) -> Output:
    """Opens an order: what it gives frames of. It is never written there.

    Args:
        order: what is drawn.
        elsewhere: where files lie that are not at their own paths.
        store: where parts of pictures are kept.

    Raises:
        InputError: a file of it cannot be read.
    """
    piece = piece_in(order.timeline, Path(order.folder))
    pool = ClipPool(store)
    # What is not there on the machine that asks is dark on all of them.
    film = opened_film(piece, pool, store, Quality.FINAL, True, elsewhere)
    colour = COLOURS[order.colour]
    rendition = Rendition(FORMATS[order.form], order.depth, order.alpha, colour=colour)
    return film_output(Path(), film, rendition, what=What(order.what))
