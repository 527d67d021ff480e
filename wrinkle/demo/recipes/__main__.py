"""Writes the shipped wrinkles that have a recipe."""

from __future__ import annotations

from wrinkle.core.design.coding import encode
from wrinkle.demo.recipes import breaks, light, overlays, reveals, rushes, turns
from wrinkle.library import FOLDER

_MODULES = (turns, light, reveals, overlays, rushes, breaks)
RECIPES = {name: made for module in _MODULES for name, made in module.RECIPES.items()}


def main() -> None:
    """Each into its folder."""
    for name, recipe in RECIPES.items():
        folder = FOLDER / "wrinkles" / name
        folder.mkdir(exist_ok=True)
        (folder / "wrinkle.json").write_bytes(encode(recipe()))


if __name__ == "__main__":
    main()
