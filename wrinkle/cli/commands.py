"""What each command does."""

from __future__ import annotations

import argparse
import json
import sys
import time
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from wrinkle import library
from wrinkle.core.design.archive import SUFFIX, read
from wrinkle.core.design.document import Wrinkle
from wrinkle.core.errors import InputError, MediaError
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.compose import render
from wrinkle.core.render.material import Material
from wrinkle.media.clip import Clip
from wrinkle.media.still import Still, write_png
from wrinkle.media.wrinkle_video import (
    frames_with_surroundings,
    material_for,
    output_size,
    wrinkle_sheet,
    write_wrinkle_video,
)

_PICTURES = (".png", ".jpg", ".jpeg", ".webp", ".tif", ".tiff")


@dataclass(frozen=True)
class _Job:
    """A wrinkle with its clips, in the size and rate that were asked for."""

    wrinkle: Wrinkle
    material: Material
    size: Size


def list_wrinkles(arguments: argparse.Namespace) -> None:
    """Prints the names that ``render`` takes, one a line, with what each is."""
    for kind, found in (("shipped", library.shipped()), ("own", library.own())):
        for name, path in found.items():
            wrinkle = read(path).wrinkle
            count = len(wrinkle.frames)
            print(f"{name}\t{wrinkle.name}\t{count} frames at {wrinkle.frame_rate.label}\t{kind}")


def render_video(arguments: argparse.Namespace) -> None:
    """Writes the window, and the plain clips around it, as a video."""
    job = _job(arguments)
    total = len(frames_with_surroundings(job.wrinkle, arguments.seconds_around))
    started = time.monotonic()

    def progress(done: int) -> None:
        if sys.stderr.isatty():
            left = (time.monotonic() - started) / done * (total - done)
            print(f"\r{done} of {total} frames, {left:.0f} s left ", end="", file=sys.stderr)

    count = write_wrinkle_video(
        arguments.output, job.wrinkle, job.material, job.size, arguments.seconds_around, progress
    )
    if sys.stderr.isatty():
        print(file=sys.stderr)
    print(f"{arguments.output}: {count} frames, {job.size.label}, {job.wrinkle.frame_rate.label}")


def render_frame(arguments: argparse.Namespace) -> None:
    """Writes one frame as a picture."""
    job = _job(arguments)
    image = render(job.wrinkle, job.material, arguments.at, job.size, Quality.FINAL)
    write_png(arguments.output, image.to_bytes8(), image.opaque)
    print(f"{arguments.output}: frame {arguments.at}, {job.size.label}")


def render_sheet(arguments: argparse.Namespace) -> None:
    """Writes the contact sheet."""
    job = _job(arguments)
    sheet = wrinkle_sheet(job.wrinkle, job.material, job.size)
    write_png(arguments.output, sheet, opaque=True)
    print(f"{arguments.output}: {len(job.wrinkle.frames)} frames")


def inspect(arguments: argparse.Namespace) -> None:
    """Prints what a file is."""
    path: Path = arguments.file
    facts = _facts(path)
    if arguments.json:
        print(json.dumps(facts, indent=2, ensure_ascii=False))
        return
    for key, value in facts.items():
        shown = ", ".join(map(str, value)) if isinstance(value, list) else value
        print(f"{key.replace('_', ' ')}: {shown}")


def _facts(path: Path) -> dict[str, Any]:
    if path.suffix.lower() == SUFFIX or path.is_dir():
        return _wrinkle_facts(read(path).wrinkle)
    if path.suffix.lower() in _PICTURES:
        picture = Still.read(path)
        return {"kind": "picture", "size": picture.size.label, "alpha": picture.has_alpha}
    clip = Clip(path)
    facts = clip.facts
    return {
        "kind": "clip",
        "size": facts.size.label,
        "rate": facts.rate.label,
        "frames": facts.frame_count,
        "seconds": round(float(facts.duration), 6),
        "codec": facts.codec,
        "variable_rate": facts.variable_rate,
        "sound": facts.has_sound,
        "rotation": facts.rotation,
    }


def _wrinkle_facts(wrinkle: Wrinkle) -> dict[str, Any]:
    rate = wrinkle.frame_rate
    return {
        "kind": "wrinkle",
        "name": wrinkle.name,
        "about": wrinkle.about,
        "tags": list(wrinkle.tags),
        "rate": rate.label,
        "lead_frames": -wrinkle.first_frame,
        "tail_frames": wrinkle.end_frame,
        "designed_at": wrinkle.reference_size.label,
        "shutter_angle": wrinkle.shutter_angle,
        "slots": [slot.label for slot in wrinkle.slots],
        "layers": [layer.name for layer in wrinkle.layers],
        "lanes": [f"{x.name} · {key}" for x in wrinkle.layers for key in x.lanes()],
    }


def _job(arguments: argparse.Namespace) -> _Job:
    bundle = library.find(arguments.wrinkle)
    clips = {"outgoing": Clip(arguments.outgoing), "incoming": Clip(arguments.incoming)}
    wanted = {slot.key for slot in bundle.wrinkle.slots} - set(clips)
    for slot, path in arguments.clip:
        if slot not in wanted:
            raise InputError(
                f"{bundle.wrinkle.name} has no further slot '{slot}'; it has "
                f"{', '.join(sorted(wanted)) or 'none'}."
            )
        clips[slot] = Clip(path)
    missing = sorted(wanted - set(clips))
    if missing:
        raise InputError(f"The slot '{missing[0]}' is empty; add --clip {missing[0]}=CLIP.")
    cuts = {
        slot: cut
        for slot, cut in (
            ("outgoing", arguments.cut_outgoing),
            ("incoming", arguments.cut_incoming),
        )
        if cut is not None
    }
    if not arguments.output.parent.is_dir():
        raise MediaError(
            f"{arguments.output} cannot be written: the folder {arguments.output.parent} does "
            "not exist; make it first."
        )
    rate = arguments.rate or clips["outgoing"].facts.rate
    wrinkle = replace(bundle.wrinkle, frame_rate=rate)
    material = material_for(bundle, dict(clips), cuts)
    return _Job(wrinkle, material, arguments.size or output_size(material))
