"""A wrinkle with the files that it carries."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from wrinkle.core.design.document.wrinkle import Wrinkle


@dataclass(frozen=True)
class Bundle:
    """A wrinkle with the files that it carries.

    Attributes:
        wrinkle: the document.
        assets: the bytes of each asset by its name.
    """

    wrinkle: Wrinkle
    assets: Mapping[str, bytes] = field(default_factory=dict)
