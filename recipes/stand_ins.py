"""Draws what the shipped wrinkles carry: small clips that stand in for a slot, and LUTs.

Apart from the recipes: another encoder gives other bytes for the same pictures.
"""

from __future__ import annotations

from wrinkle.demo.extras import cold_morning, late_gold, sea_fog
from wrinkle.library import FOLDER

CARRIED = {
    "sea_fog/assets/fog.mp4": sea_fog,
    "bright_haze/assets/late_gold.cube": late_gold,
    "two_weathers/assets/cold_morning.cube": cold_morning,
    "two_weathers/assets/late_gold.cube": late_gold,
}


def main() -> None:
    """Each into the folder of its wrinkle."""
    for name, draw in CARRIED.items():
        path = FOLDER / "wrinkles" / name
        path.parent.mkdir(parents=True, exist_ok=True)
        draw(path)


if __name__ == "__main__":
    main()
