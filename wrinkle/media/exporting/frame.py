"""One frame as a picture."""

from __future__ import annotations

from pathlib import Path

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.render.showing import Showing
from wrinkle.media.exporting.export import ExportChoices, ExportKind
from wrinkle.media.still import write_png


def only(wrinkle: Wrinkle, choices: ExportChoices) -> range:
    """The chosen frame."""
    return range(choices.frame, choices.frame + 1)


def write(path: Path, showing: Showing, choices: ExportChoices, jobs: Jobs, job: Job) -> int:
    """A PNG file; see ``ExportKind``."""
    picture = showing.image(choices.frame)
    write_png(path, picture.to_bytes8(), picture.opaque)
    job.report(1, 1)
    return 1


EXPORT = ExportKind("frame", "One frame as PNG", ".png", only, write)
