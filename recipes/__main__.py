"""Writes the shipped wrinkles that have a recipe, and the looks that come from them."""

from __future__ import annotations

from recipes import (
    breaks,
    drawn,
    everyday,
    light,
    objects,
    overlays,
    reveals,
    rushes,
    titles,
    turns,
)
from recipes.sounds import SOUNDS, sounded
from wrinkle.core.design.document.coding import encode
from wrinkle.core.design.document.looks import encode_looks
from wrinkle.files import archive
from wrinkle.library import FOLDER
from wrinkle.library.looks import shipped_looks

_MODULES = (everyday, objects, turns, light, reveals, overlays, rushes, breaks, titles, drawn)
RECIPES = {name: made for module in _MODULES for name, made in module.RECIPES.items()}


def main() -> None:
    """Each into its folder."""
    for name, sounds in SOUNDS.items():
        folder = FOLDER / "wrinkles" / name
        folder.mkdir(exist_ok=True)
        # The first two were made by hand on the Bench; they have sounds from here all the same.
        made = RECIPES[name]() if name in RECIPES else archive.read(folder).wrinkle
        (folder / "wrinkle.json").write_bytes(encode(sounded(made, sounds)))
    found = {look.name: look for look in (*shipped_looks(), *light.looks())}
    path = FOLDER / "looks.json"
    path.write_bytes(encode_looks(sorted(found.values(), key=lambda look: look.name)))


if __name__ == "__main__":
    main()
