"""Writes docs/wrinkles.md from the shipped wrinkles, and a strip of pictures of each.

.venv/bin/python -m guides.wrinkles
"""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.kinds import KINDS, main_kind
from wrinkle.core.design.document.slots import GIVEN
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Filling
from wrinkle.core.reuse.use import Use, directions_of, showing
from wrinkle.core.store import Store
from wrinkle.files import archive
from wrinkle.files.whole import write_whole
from wrinkle.library import fonts, shipped
from wrinkle.library.samples import SAMPLES
from wrinkle.media.assets import read_assets
from wrinkle.media.clip_pool import ClipPool

_DOCS = Path(__file__).parents[1] / "docs"
_SIZE = Size(90, 160)
_CUT = Fraction(1)
_PLACES = (-0.75, -0.45, -0.2, -0.05, 0.0, 0.12, 0.3, 0.6)
"""Of the pictures in a strip, as parts of lead and tail: close around the cut, where it happens."""
_QUALITY = 82
LARGEST = 48_000
"""Bytes of a strip."""


def guide() -> str:
    """The text of docs/wrinkles.md."""
    wrinkles = {name: archive.read(path).wrinkle for name, path in shipped().items()}
    lines = [
        "# The wrinkles that ship",
        "",
        "Written from `wrinkle/library/wrinkles/` by `python -m guides.wrinkles`; a",
        f"test holds the two together. {len(wrinkles)} stand in the Collection, each at rest at",
        "both ends of its window, so that it fits between any two clips, in any shape, size and",
        "frame rate. The recipes that made them, with the window's own edits, are in",
        "`recipes/`.",
        "The pictures show eight frames on the two small clips that ship.",
        "",
    ]
    kinds = [*KINDS, ""]
    of_kind = {
        kind: sorted((x for x in wrinkles.items() if main_kind(x[1].tags) == kind), key=_by_name)
        for kind in kinds
    }
    lines += ["| Kind | Wrinkle | When |", "|---|---|---|"]
    for kind, found in of_kind.items():
        lines += [f"| {kind} | {wrinkle.name} | {_when(wrinkle)} |" for _, wrinkle in found]
    for kind, found in of_kind.items():
        if found:
            lines += ["", f"## {kind.capitalize()}", ""]
        for name, wrinkle in found:
            lines += _entry(name, wrinkle)
    return "\n".join(lines)


def _by_name(pair: tuple[str, Wrinkle]) -> str:
    return pair[1].name.casefold()


def _when(wrinkle: Wrinkle) -> str:
    """For what it is: what its description ends with."""
    return wrinkle.about.rpartition("; ")[2].rstrip(".")


def pictures(folder: Path) -> None:
    """Draws the strip of every wrinkle, as JPEG files in ``folder``."""
    folder.mkdir(parents=True, exist_ok=True)
    store = Store()
    pool = ClipPool(store)
    fillings = {slot: Filling(pool.clip(path), _CUT) for slot, path in SAMPLES.items()}
    for name, path in shipped().items():
        strip = _strip(archive.read(path), fillings, store)
        quality = [cv2.IMWRITE_JPEG_QUALITY, _QUALITY]
        write_whole(folder / f"{name}.jpg", cv2.imencode(".jpg", strip, quality)[1].tobytes())


def _strip(bundle: Bundle, fillings: dict[str, Filling], store: Store) -> np.ndarray:
    """Blue, green, red ``(H, 8 W, 3)``."""
    wrinkle = bundle.wrinkle
    carried = read_assets(bundle.assets, store).material(fonts())
    use = Use(wrinkle, fillings)
    shown = showing(use, carried, _SIZE, wrinkle.frame_rate, Quality.FINAL)
    lead, tail = -wrinkle.first_frame, wrinkle.end_frame
    frames = [round(place * (lead if place < 0 else tail)) for place in _PLACES]
    pixels = [shown.image(frame).to_bytes8()[..., :3] for frame in frames]
    return np.concatenate(pixels, axis=1)[..., ::-1]


def _entry(name: str, wrinkle: Wrinkle) -> list[str]:
    ways = ", ".join(directions_of(wrinkle).values())
    slots = [f"{slot.label} ({slot.about})" for slot in wrinkle.slots if slot.key not in GIVEN]
    lead, tail = -wrinkle.first_frame, wrinkle.end_frame
    lines = [
        *(f"### {wrinkle.name}", "", f"![{wrinkle.name}](wrinkles/{name}.jpg)", ""),
        *(wrinkle.about, ""),
        f"`{name}` · {', '.join(wrinkle.tags)} · {lead} frames before the cut and {tail} after it",
        *(f"at {wrinkle.frame_rate.label} frames a second · directions: {ways}", ""),
    ]
    heard = dict.fromkeys(sound.made for sound in wrinkle.sounds)
    lines += [f"Heard: {', '.join(heard)}.", ""] if heard else []
    lines += [f"Slots besides the two clips: {'; '.join(slots)}.", ""] if slots else []
    lines += ["| Dial | | |", "|---|---|---|"]
    lines += [f"| {dial.name} | {dial.kind} | {dial.about} |" for dial in wrinkle.dials]
    return [*lines, ""]


if __name__ == "__main__":
    write_whole(_DOCS / "wrinkles.md", guide().encode())
    pictures(_DOCS / "wrinkles")
