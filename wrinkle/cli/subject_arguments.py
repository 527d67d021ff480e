"""What the commands that measure take."""

from __future__ import annotations

import argparse
from pathlib import Path


def take_subjects(parser: argparse.ArgumentParser) -> None:
    """Wrinkles or pieces, and the clips that wrinkles are tried on."""
    parser.add_argument(
        "files", nargs="+", metavar="FILE",
        help="a wrinkle, the name of a shipped or own one, or a timeline",
    )  # fmt: skip
    for slot, side in (("outgoing", "before"), ("incoming", "after")):
        parser.add_argument(
            f"--{slot}", type=Path, metavar="CLIP",
            help=f"the clip {side} the cut of wrinkles; by default one that ships",
        )  # fmt: skip
