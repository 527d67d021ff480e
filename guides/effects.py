"""Writes docs/effects.md from the declarations, and a picture of each effect on a demo scene.

.venv/bin/python -m guides.effects
"""

from __future__ import annotations

from pathlib import Path

import cv2
import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.registry import EFFECTS
from wrinkle.core.motion.setting_spec import ChoiceSpec, CurveSpec, SettingSpec
from wrinkle.core.motion.values import Value, discrete, parts
from wrinkle.core.picture.image import Image, Size, from_bytes8
from wrinkle.core.picture.lut import parse_cube
from wrinkle.demo.clips import draw_scene
from wrinkle.demo.extras import late_gold
from wrinkle.files.whole import write_whole

_DOCS = Path(__file__).parents[1] / "docs"
_SIZE = Size(180, 320)
_SCENE, _OTHER = ("pier", 1.0), ("lighthouse", 1.2)


def guide() -> str:
    """The text of docs/effects.md."""
    lines = [
        "# Effects",
        "",
        "Written from the declarations in `wrinkle/core/effects/` by",
        "`python -m guides.effects`; a test holds the two together. Each effect is",
        "skipped at its rest values. Lengths are per cent of the frame's short side. The pictures",
        "show the values with which an effect is added.",
        "",
        "A layer's effects stand in its card. *Add effect* opens the list: point at one to see it",
        "move, mark favourites so that they stand first. Pull an effect by its name to change the",
        "order, *On* switches it, *Costs* measures the chain on the frame at the playhead, *Looks*",
        "keeps and applies chains with their colour tables. The Collection shows all looks moving",
        "on the selected layer, and uses, renames, deletes, saves and reads them. Hold E to see",
        "the picture without effects; *Split* (Shift+E) draws a line with the picture before them",
        "at its left. Hues are set on discs and strips, a tone map takes the palette of a clip,",
        "LUTs are chosen by look from a folder, and slope/offset/power reads .cdl, .ccc and .cc",
        "files. Neighbouring colour tools lose nothing that lies outside black and white between",
        "them; long chains are read from one table where it is within 1/1023 of the tools.",
        "",
    ]
    for family in Family:
        lines += [f"## {family.value}", ""]
        for one in EFFECTS.values():
            if one.family is family:
                lines += _entry(one)
    return "\n".join(lines)


def pictures(folder: Path) -> None:
    """Draws every effect on a demo scene, as JPEG files in ``folder``."""
    folder.mkdir(parents=True, exist_ok=True)
    ground, other = (from_bytes8(draw_scene(name, time, _SIZE)) for name, time in (_SCENE, _OTHER))
    table_file = folder / "late_gold.cube"
    late_gold(table_file)
    table = parse_cube(table_file.name, table_file.read_bytes())
    table_file.unlink()
    scene = Scene.whole(_SIZE, time=0.1, frame=3, lut=table, other=other)
    for one in EFFECTS.values():
        values = Values({**one.neutral(), **one.starts_with})
        _write(folder / f"{one.key}.jpg", one.applied(ground, values, scene))


def _entry(one: Effect) -> list[str]:
    lines = [f"### {one.label}", "", f"![{one.label}](effects/{one.key}.jpg)", "", one.about, ""]
    lines += ["| Setting | Rest | Range | |", "|---|---|---|---|"]
    for spec in one.settings:
        lines.append(
            f"| {spec.label} | {_written(spec, spec.neutral)} | {_range(spec)} | {spec.about} |"
        )
    return [*lines, ""]


def _range(spec: SettingSpec) -> str:
    if isinstance(spec, ChoiceSpec):
        return ", ".join(spec.choices)
    if isinstance(spec, CurveSpec):
        return "a curve"
    if not spec.numeric:
        return spec.takes
    factor = spec.unit.shown_factor
    return f"{spec.low * factor:g} … {spec.high * factor:g}{spec.unit.suffix}"


def _written(spec: SettingSpec, value: Value) -> str:
    if isinstance(spec, CurveSpec):
        return "straight"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if discrete(value):
        return str(value)
    factor = spec.unit.shown_factor
    return ", ".join(f"{part * factor:g}" for part in parts(value)) + spec.unit.suffix


def _write(path: Path, image: Image) -> None:
    """Over mid grey, where the effect has made it transparent."""
    pixels = image.to_bytes8().astype(float)
    flat = pixels[..., :3] + 119.0 * (1.0 - pixels[..., 3:] / 255.0)
    content = cv2.imencode(
        ".jpg", flat[..., ::-1].round().astype(np.uint8), [cv2.IMWRITE_JPEG_QUALITY, 85]
    )[1]
    write_whole(path, content.tobytes())


if __name__ == "__main__":
    write_whole(_DOCS / "effects.md", guide().encode())
    pictures(_DOCS / "effects")
