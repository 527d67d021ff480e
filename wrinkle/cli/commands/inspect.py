"""Tells what a file is."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import Any

from wrinkle import library
from wrinkle.cli.command import Command
from wrinkle.core.design.document.slots import GIVEN, Slot
from wrinkle.core.design.document.sounds import WrinkleSound
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.measure.registry import findings
from wrinkle.core.motion.values import parts
from wrinkle.core.reuse.use import directions_of
from wrinkle.files.archive import SUFFIX
from wrinkle.files.presence import is_folder, is_there
from wrinkle.media.fillings import PICTURES, SOUNDS

_LISTENED_TO = 1_200.0
"""Seconds."""


def takes(parser: argparse.ArgumentParser) -> None:
    """A file or a name, and whether it is told as JSON."""
    parser.add_argument("file", help="a file, or the name of a shipped or own wrinkle")
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


COMMAND = Command("inspect", "tell what a wrinkle, a clip, a picture or a sound is", takes, run)


def _facts(word: str) -> dict[str, Any]:
    path = Path(word)
    if path.suffix.lower() == SUFFIX or is_folder(path) or not (is_there(path) or path.suffix):
        return _wrinkle_facts(library.find(word).wrinkle)
    if path.suffix.lower() in PICTURES:
        return _picture_facts(path)
    if path.suffix.lower() in SOUNDS:
        return _sound_facts(path)
    return _clip_facts(path)


def _picture_facts(path: Path) -> dict[str, Any]:
    from wrinkle.media.still import Still

    picture = Still.read(path)
    return {"kind": "picture", "size": picture.size.label, "alpha": picture.has_alpha}


def _sound_facts(path: Path) -> dict[str, Any]:
    """What a file of sound is, and what listening to it tells."""
    from wrinkle.core.sound.beats import beats_of
    from wrinkle.core.sound.heard import Mix, MixPart
    from wrinkle.core.sound.loudness import measured
    from wrinkle.core.sound.onsets import strongest
    from wrinkle.core.synthesis.samples import SAMPLE_RATE
    from wrinkle.media.sound_file import SoundFile

    file = SoundFile.read(path)
    sound = file.sound()
    assert sound is not None
    count = round(min(float(file.duration), _LISTENED_TO) * SAMPLE_RATE)
    loud = measured(Mix((MixPart(sound, 0, range(count)),), range(count)))
    return {
        "kind": "sound",
        "seconds": round(float(file.duration), 6),
        "sounds": file.sounds,
        "loudness": f"{loud.integrated:.1f} LUFS",
        "range": f"{loud.range:.1f} LU",
        "peak": f"{loud.peak:.1f} dBTP",
        "hit": round(strongest(sound, count) / SAMPLE_RATE, 4),
        "beats_a_minute": round(beats_of(sound, count).tempo, 1),
    }


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
        "sounds": facts.sounds,
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
        "first_frame": wrinkle.first_frame,
        "end_frame": wrinkle.end_frame,
        "lead_frames": -wrinkle.first_frame,
        "tail_frames": wrinkle.end_frame,
        "designed_at": wrinkle.reference_size.label,
        "shutter_angle": wrinkle.shutter_angle,
        "slots": [_slot_words(slot) for slot in wrinkle.slots],
        "dials": [f"{x.name}: {x.kind}, {x.span()}" for x in wrinkle.dials],
        "directions": [f"{x.value} ({name})" for x, name in directions_of(wrinkle).items()],
        "layers": [layer.name for layer in wrinkle.layers],
        "sounds": [_sound_words(x) for x in wrinkle.sounds],
        "lanes": [f"{x.name} · {address}" for x in wrinkle.owners for address in x.lanes()],
        "findings": [found.sentence for found in findings(wrinkle)],
    }


def _sound_words(sound: WrinkleSound) -> str:
    level = parts(sound.level.at(sound.hit))[0]
    return f"{sound.made or sound.slot} at {float(sound.hit):+.3f} s, {level:g} dB"


def _slot_words(slot: Slot) -> str:
    if slot.key in GIVEN:
        return slot.label
    return f"{slot.key}: {slot.label}, {slot.kind}, when empty {slot.unfilled.value}"
