"""What a wrinkle carries with it: pictures and colour tables, read from their bytes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from wrinkle.core.picture.lut import Lut, parse_cube
from wrinkle.core.render.material import FrameSource
from wrinkle.media.still import Still

CUBE = ".cube"


@dataclass(frozen=True)
class Assets:
    """Pictures and colour tables by their names."""

    pictures: Mapping[str, FrameSource] = field(default_factory=dict)
    luts: Mapping[str, Lut] = field(default_factory=dict)

    def with_asset(self, name: str, content: bytes) -> Assets:
        """One more asset.

        Raises:
            InputError: it can be read neither as a picture nor as a table; names it.
        """
        if name.lower().endswith(CUBE):
            return Assets(self.pictures, {**self.luts, name: parse_cube(name, content)})
        return Assets({**self.pictures, name: Still(name, content)}, self.luts)


def read_assets(contents: Mapping[str, bytes]) -> Assets:
    """All assets of a wrinkle.

    Raises:
        InputError: one of them cannot be read; names it.
    """
    found = Assets()
    for name, content in contents.items():
        found = found.with_asset(name, content)
    return found
