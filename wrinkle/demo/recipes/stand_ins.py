"""Draws the small clips that stand in for what the shipped wrinkles leave open.

Apart from the recipes: another encoder gives other bytes for the same pictures.
"""

from __future__ import annotations

from wrinkle.demo.extras import small_fog, small_ink
from wrinkle.library import FOLDER

STAND_INS = {"ink_bloom/assets/ink.mp4": small_ink, "sea_fog/assets/fog.mp4": small_fog}


def main() -> None:
    """Each into the folder of its wrinkle."""
    for name, draw in STAND_INS.items():
        path = FOLDER / "wrinkles" / name
        path.parent.mkdir(parents=True, exist_ok=True)
        draw(path)


if __name__ == "__main__":
    main()
