"""What is done on a worker. It gives plain values, whatever it meets."""

from __future__ import annotations

import os
import platform
import tempfile
from collections import OrderedDict
from collections.abc import Mapping
from contextlib import suppress
from pathlib import Path

import msgspec
from distributed import get_worker

from wrinkle import library
from wrinkle.cluster.order import Order, content_of, drawing_of
from wrinkle.cluster.packing import PackedFrame, pack
from wrinkle.cluster.versions import difference, versions
from wrinkle.core.errors import InputError
from wrinkle.core.picture import compiled
from wrinkle.core.store import DEFAULT_BUDGET, Store
from wrinkle.files.presence import is_file
from wrinkle.media.output.output import Output

RECEIVED = "WRINKLE_RECEIVED"
"""The variable that names the folder for received files, which workers of one machine share."""
_MOST_OPEN = 2


class Drawn(msgspec.Struct, frozen=True):
    """A range as it was drawn: its frames, or why there are none.

    Attributes:
        worker: its address.
        folder: where it puts files that it is sent; workers of one machine may share it.
        frames: packed, in order.
        lacks: files that it does not have: their paths.
        differs: in which versions it is another program, in words.
        fault: one sentence on what cannot be drawn.
    """

    worker: str
    folder: str = ""
    frames: tuple[PackedFrame, ...] = ()
    lacks: tuple[str, ...] = ()
    differs: str = ""
    fault: str = ""


_open: OrderedDict[str, Output] = OrderedDict()
_own_folder: list[tempfile.TemporaryDirectory[str]] = []


def draw(order: Order, asked: Mapping[str, str], first: int, end: int) -> Drawn:
    """Draws frames ``first`` up to ``end`` of an order for who has the versions ``asked``."""
    here = get_worker().address
    differs = difference(asked, versions())
    if differs:
        return Drawn(here, differs=differs)
    try:
        drawing = _open.get(order.key)
        if drawing is None:
            elsewhere = _received(order)
            lacks = tuple(path for path, place in elsewhere.items() if place is None)
            if lacks:
                return Drawn(here, f"{platform.node()}:{_folder()}", lacks=lacks)
            drawing = _opened(order, {path: x for path, x in elsewhere.items() if x is not None})
        return Drawn(here, frames=tuple(pack(drawing.frame(n)) for n in range(first, end)))
    except InputError as fault:
        return Drawn(here, fault=str(fault))


def _opened(order: Order, elsewhere: Mapping[str, Path]) -> Output:
    compiled.load(library.compiled_folder())
    drawing = _open[order.key] = drawing_of(order, elsewhere, Store(DEFAULT_BUDGET // 2))
    if len(_open) > _MOST_OPEN:
        _open.popitem(last=False)
    return drawing


def _received(order: Order) -> dict[str, Path | None]:
    """Where those files lie that are not at their own path with the content that is meant."""
    found: dict[str, Path | None] = {}
    for path, content in order.media:
        with suppress(InputError):
            if is_file(Path(path)) and content_of(Path(path)) == content:
                continue
        place = _place(content, path)
        found[path] = place if is_file(place) else None
    return found


def receive(content: str, path: str, offset: int, chunk: bytes, last: bool) -> None:
    """Takes a part of a file; it is there when all of it is."""
    goal = _place(content, path)
    part = goal.with_name(f".{os.getpid()}-{goal.name}")
    part.parent.mkdir(parents=True, exist_ok=True)
    with part.open("r+b" if offset else "wb") as file:
        file.seek(offset)
        file.write(chunk)
    if last:
        part.replace(goal)


def _place(content: str, path: str) -> Path:
    return _folder() / content / Path(path).name


def _folder() -> Path:
    shared = os.environ.get(RECEIVED)
    if shared:
        return Path(shared)
    if not _own_folder:
        _own_folder.append(tempfile.TemporaryDirectory(prefix="wrinkle-received-"))
    return Path(_own_folder[0].name)
