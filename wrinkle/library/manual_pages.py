"""The pages of the manual: Markdown that ships, with what it names put in when it is read.

A page names what can be done by its id in braces, such as ``{bench.split}``: whoever shows it says
what that is called and by which key it is done, so that no page has a key that was changed.
``{effects}`` is the list of all effects.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from pathlib import Path

import msgspec

from wrinkle.core.effects.registry import EFFECTS
from wrinkle.library import FOLDER

MANUAL = FOLDER / "manual"
NAMES = MANUAL / "names.json"
"""What all that can be done is called, with its usual keys; written by ``window_guides.manual``."""
IN_BRACES = re.compile(r"\{([a-z0-9_.\-]+)\}")
_TITLE = re.compile(r"^# (.+)$", re.MULTILINE)
_EFFECTS = "effects"


class Named(msgspec.Struct, frozen=True):
    """What something that can be done is called, and its keys."""

    label: str
    keys: tuple[str, ...] = ()

    @property
    def words(self) -> str:
        """In Markdown."""
        keys = f" (`{self.keys[0]}`)" if self.keys else ""
        return f"**{self.label}**{keys}"


@dataclass(frozen=True)
class Page:
    """A page.

    Attributes:
        key: short, such as ``lanes``.
        title: of it.
        text: in Markdown, with ids in braces.
    """

    key: str
    title: str
    text: str

    def written(self, named: Callable[[str], Named]) -> str:
        """In Markdown, with names and keys.

        Args:
            named: what an id stands for.
        """

        def put_in(found: re.Match[str]) -> str:
            return _effects() if found[1] == _EFFECTS else named(found[1]).words

        return IN_BRACES.sub(put_in, self.text)


@cache
def pages() -> tuple[Page, ...]:
    """All pages, in their order."""
    return tuple(_page(path) for path in sorted(MANUAL.glob("*.md")))


@cache
def usual_names() -> dict[str, Named]:
    """What can be done in the window, with its usual keys, by ids."""
    return msgspec.json.decode(NAMES.read_bytes(), type=dict[str, Named])


def _page(path: Path) -> Page:
    text = path.read_text(encoding="utf-8")
    title = _TITLE.search(text)
    return Page(path.stem.partition("-")[2], title[1] if title else path.stem, text)


def _effects() -> str:
    found = sorted(EFFECTS.values(), key=lambda effect: effect.label)
    return "\n".join(f"- **{effect.label}**: {effect.about}" for effect in found)
