"""The window as a video, with the plain clips around it and the sounds of the wrinkle."""

from __future__ import annotations

from contextlib import closing
from pathlib import Path

from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture.image import Image
from wrinkle.core.render.showing import Showing
from wrinkle.core.sound.heard import Heard
from wrinkle.core.sound.levelling import levelled
from wrinkle.core.synthesis.samples import sample_at
from wrinkle.media.exporting.export import Export, ExportChoices, rendered, window_frames
from wrinkle.media.video_file import check_video_size, write_video


def write(path: Path, showing: Showing, choices: ExportChoices, jobs: Jobs, job: Job) -> int:
    """An MP4 file with H.264; see ``Export``."""
    check_video_size(showing.size)
    frames = window_frames(showing.wrinkle, choices)
    first = sample_at(showing.wrinkle.frame_rate, frames.start)
    with closing(rendered(showing, frames, jobs, Image.to_bytes8)) as pictures:
        return write_video(
            path,
            pictures,
            showing.size,
            showing.wrinkle.frame_rate,
            lambda done: job.report(done, len(frames)),
            sound=_heard(choices, frames, first),
        )


def _heard(choices: ExportChoices, frames: range, first: int) -> Heard | None:
    """What is heard of the frames, from sample 0 on; None where nothing is."""
    mix = choices.heard(frames).from_(first) if choices.heard is not None else None
    if mix is None or not mix.parts:
        return None
    return mix if choices.loudness is None else levelled(mix, choices.loudness)[0]


EXPORT = Export("video", "MP4 video", ".mp4", window_frames, write, whole=True)
