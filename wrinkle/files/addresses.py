"""Addresses of other machines."""

from __future__ import annotations

MOST_PORT = 65_535


def parse_address(word: str) -> str:
    """An address as typed: ``HOST:PORT``.

    Raises:
        ValueError: it is none.
    """
    host, colon, port = word.strip().rpartition(":")
    host = host.removeprefix("tcp://")
    plain = host and not any(x.isspace() or x in "/@?#" for x in host)
    if not colon or not plain or not port.isdecimal() or not 0 < int(port) <= MOST_PORT:
        raise ValueError(f"'{word}' is no address of a machine; write HOST:PORT.")
    return f"{host}:{port}"


parse_address.__name__ = "HOST:PORT"
