"""All ways to write a wrinkle, by key. A new one is one more module in the list."""

from __future__ import annotations

from wrinkle.core.registering import by_key
from wrinkle.media.exporting import frame, sheet, video
from wrinkle.media.exporting.export import Export

EXPORTS: dict[str, Export] = by_key("export", (x.EXPORT for x in (video, frame, sheet)))
