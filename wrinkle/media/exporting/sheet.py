"""Every frame of the window on one contact sheet."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from pathlib import Path

from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.render.showing import Showing
from wrinkle.media.exporting.export import ExportChoices, ExportKind, window_frames
from wrinkle.media.output.formats import FORMATS
from wrinkle.media.output.output import Output, write_output
from wrinkle.media.output.rendition import Rendition
from wrinkle.media.output.sheet import SHORT_SIDE


def write(path: Path, showing: Showing, choices: ExportChoices, jobs: Jobs, job: Job) -> int:
    """A PNG file; see ``ExportKind``."""
    frames = window_frames(showing.wrinkle, choices)
    share = Fraction(SHORT_SIDE, min(showing.size))
    if choices.width:
        share = min(Fraction(choices.width, showing.size.width), Fraction(1))
    shown = replace(showing, size=showing.size.scaled(share))
    rate = showing.wrinkle.frame_rate
    return write_output(Output(shown, frames, rate, Rendition(FORMATS["sheet"]), path), jobs, job)


EXPORT = ExportKind("sheet", "Contact sheet as PNG", ".png", window_frames, write)
