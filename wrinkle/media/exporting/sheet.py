"""Every frame of the window on one contact sheet."""

from __future__ import annotations

import math
from contextlib import closing
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import numpy as np

from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture.contact_sheet import contact_sheet
from wrinkle.core.picture.image import Bytes8, Image
from wrinkle.core.render.showing import Showing
from wrinkle.media.exporting.export import Export, ExportChoices, rendered, window_frames
from wrinkle.media.still import write_png

_SHORT_SIDE = 180
MOST_FRAMES = 600
"""Twenty seconds at 30 a second; all of them are held at once."""


def write(path: Path, showing: Showing, choices: ExportChoices, jobs: Jobs, job: Job) -> int:
    """A PNG file; see ``Export``."""
    frames = window_frames(showing.wrinkle, choices)
    small = showing.size.scaled(Fraction(_SHORT_SIDE, min(showing.size)))
    if len(frames) > MOST_FRAMES:
        raise InputError(
            f"A contact sheet of {len(frames)} frames would be too large to look at; "
            f"{MOST_FRAMES} are the most."
        )
    columns = min(len(frames), max(1, math.isqrt(len(frames) * 2 * small.height // small.width)))
    pictures: list[Bytes8] = []
    with closing(rendered(replace(showing, size=small), frames, jobs, Image.to_bytes8)) as coming:
        for picture in coming:
            pictures.append(picture)
            job.report(len(pictures), len(frames))
    sheet = np.ascontiguousarray(contact_sheet(pictures, frames, columns))
    write_png(path, sheet, opaque=True)
    return len(frames)


EXPORT = Export("sheet", "Contact sheet as PNG", ".png", window_frames, write)
