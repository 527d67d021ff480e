"""How the states of an open wrinkle are kept beside the program."""

from __future__ import annotations

from contextlib import suppress
from functools import partial

import msgspec

from wrinkle.core.design.document.coding import decode, encode
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import DocumentError
from wrinkle.library.autosaves import Get, Put


class WrinkleCodec:
    """A wrinkle as its file holds it; the bytes of all that was ever carried are its rest."""

    key = "wrinkle"

    def title(self, state: Wrinkle) -> str:
        """Its name."""
        return state.name

    def encode(self, state: Wrinkle, put: Put) -> bytes:
        """The text of its file."""
        return encode(state)

    def decode(self, content: bytes, get: Get) -> Wrinkle:
        """The wrinkle in such a text."""
        return decode(content)

    def encode_rest(self, rest: dict[str, bytes], put: Put) -> dict[str, str]:
        """The parts of the assets by the name of each."""
        return {name: put(one, partial(bytes, one)) for name, one in rest.items()}

    def decode_rest(self, found: object, get: Get) -> dict[str, bytes]:
        """The assets that are still there."""
        assets = {}
        for name, part in msgspec.convert(found, dict[str, str]).items():
            with suppress(OSError):
                assets[name] = get(part)
        return assets

    def check(self, state: Wrinkle, rest: dict[str, bytes]) -> None:
        """Its assets must be there.

        Raises:
            DocumentError: one is missing.
        """
        missing = [name for name in state.assets() if name not in rest]
        if missing:
            raise DocumentError(f"{missing[0]} is missing from it")
