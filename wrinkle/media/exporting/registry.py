"""All ways to write a wrinkle, by key. A new one is one more module in the list."""

from __future__ import annotations

from pathlib import Path

from wrinkle.core.errors import InputError
from wrinkle.core.registering import Registry
from wrinkle.media.exporting import frame, sheet, video
from wrinkle.media.exporting.export import Export

EXPORTS: Registry[Export] = Registry("export", (x.EXPORT for x in (video, frame, sheet)))


def export_for(path: Path) -> Export:
    """The way to write a whole window to a file of that name.

    Raises:
        InputError: there is none for its ending; names those that there are.
    """
    whole = {export.suffix: export for export in EXPORTS.values() if export.whole}
    if path.suffix.lower() not in whole:
        raise InputError(f"{path.name} has no ending that is written; use {' or '.join(whole)}.")
    return whole[path.suffix.lower()]
