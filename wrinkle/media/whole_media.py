"""Files of pictures and sound out, whole or not at all; what hinders that is told in a sentence."""

from __future__ import annotations

import errno
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import av

from wrinkle.core.errors import MediaError
from wrinkle.files.whole import whole_file


@contextmanager
def whole_media(path: Path) -> Iterator[Path]:
    """Gives the place of an unfinished file; without an exception it becomes the one at ``path``.

    Raises:
        MediaError: it cannot be written; says what to do.
    """
    try:
        with whole_file(path) as unfinished:
            yield unfinished
    except (av.FFmpegError, OSError) as fault:
        full = fault.errno == errno.ENOSPC
        way_out = "make room, or choose another place" if full else "choose another place"
        raise MediaError(f"{path.name} cannot be written: {fault.strerror}; {way_out}.") from None
