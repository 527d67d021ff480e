"""How much a JSON text holds, before it becomes objects: each takes a hundred times its letters."""

from __future__ import annotations

from wrinkle.core.errors import DocumentError


def check_tokens(content: bytes, most: int) -> None:
    """Refuses a text with too many parts.

    Marks within texts count as well, which makes the count too high, and never too low.

    Args:
        content: JSON.
        most: how many values and names it may have.

    Raises:
        DocumentError: it has more.
    """
    if sum(content.count(mark) for mark in (b",", b":", b"[", b"{")) > most:
        raise DocumentError("it holds far too many values")
