"""Tells what a file is."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import Any

from wrinkle.cli.command import Command
from wrinkle.core.design.archive import SUFFIX, read
from wrinkle.core.design.document import Wrinkle
from wrinkle.core.measure.registry import findings

_PICTURES = (".png", ".jpg", ".jpeg", ".webp", ".tif", ".tiff")


def takes(parser: argparse.ArgumentParser) -> None:
    """A file, and whether it is told as JSON."""
    parser.add_argument("file", type=Path)
    parser.add_argument("--json", action="store_true", help="as JSON")


def run(arguments: argparse.Namespace) -> int:
    """Prints what a file is."""
    facts = _facts(arguments.file)
    if arguments.json:
        print(json.dumps(facts, indent=2, ensure_ascii=False))
        return 0
    for key, value in facts.items():
        shown = ", ".join(map(str, value)) if isinstance(value, list) else value
        print(f"{key.replace('_', ' ')}: {shown}")
    return 0


COMMAND = Command("inspect", "tell what a wrinkle, a clip or a picture is", takes, run)


def _facts(path: Path) -> dict[str, Any]:
    if path.suffix.lower() == SUFFIX or path.is_dir():
        return _wrinkle_facts(read(path).wrinkle)
    if path.suffix.lower() in _PICTURES:
        return _picture_facts(path)
    return _clip_facts(path)


def _picture_facts(path: Path) -> dict[str, Any]:
    from wrinkle.media.still import Still

    picture = Still.read(path)
    return {"kind": "picture", "size": picture.size.label, "alpha": picture.has_alpha}


def _clip_facts(path: Path) -> dict[str, Any]:
    from wrinkle.media.clip_file import read_index

    facts = read_index(path).facts
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
        "notes": list(facts.notes),
    }


def _wrinkle_facts(wrinkle: Wrinkle) -> dict[str, Any]:
    return {
        "kind": "wrinkle",
        "name": wrinkle.name,
        "about": wrinkle.about,
        "tags": list(wrinkle.tags),
        "rate": wrinkle.frame_rate.label,
        "lead_frames": -wrinkle.first_frame,
        "tail_frames": wrinkle.end_frame,
        "designed_at": wrinkle.reference_size.label,
        "shutter_angle": wrinkle.shutter_angle,
        "slots": [slot.label for slot in wrinkle.slots],
        "layers": [layer.name for layer in wrinkle.layers],
        "lanes": [f"{x.name} · {address}" for x in wrinkle.layers for address in x.lanes()],
        "findings": [found.sentence for found in findings(wrinkle)],
    }
