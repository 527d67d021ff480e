"""The window as a video, with the plain clips around it and the sounds of the wrinkle."""

from __future__ import annotations

from pathlib import Path

from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.render.showing import Showing
from wrinkle.core.synthesis.samples import sample_at
from wrinkle.media.exporting.export import ExportChoices, ExportKind, window_frames
from wrinkle.media.exporting.parts import part_of_showing
from wrinkle.media.output.output import Output, today, write_output


def write(path: Path, showing: Showing, choices: ExportChoices, jobs: Jobs, job: Job) -> int:
    """A file of the chosen rendition; see ``ExportKind``."""
    wrinkle = showing.wrinkle
    frames = window_frames(wrinkle, choices)
    mix = choices.heard(frames) if choices.heard is not None else None
    if mix is not None:
        mix = mix.from_(sample_at(wrinkle.frame_rate, frames.start)) if mix.parts else None
    shown, rate = part_of_showing(showing, choices.what), wrinkle.frame_rate
    output = Output(
        shown, frames, rate, choices.rendition, path, mix, choices.loudness, wrinkle.name, today()
    )
    return write_output(output, jobs, job)


EXPORT = ExportKind("video", "MP4 video", ".mp4", window_frames, write)
