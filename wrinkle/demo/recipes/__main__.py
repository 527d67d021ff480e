"""Writes the shipped wrinkles that have a recipe."""

from __future__ import annotations

from wrinkle.core.design.coding import encode
from wrinkle.demo.recipes import breaks, light, reveals, turns
from wrinkle.library import FOLDER

RECIPES = {**turns.RECIPES, **light.RECIPES, **reveals.RECIPES, **breaks.RECIPES}


def main() -> None:
    """Each into its folder."""
    for name, recipe in RECIPES.items():
        folder = FOLDER / "wrinkles" / name
        folder.mkdir(exist_ok=True)
        (folder / "wrinkle.json").write_bytes(encode(recipe()))


if __name__ == "__main__":
    main()
