"""The places of the window in the order in which the bar names them. A new one is one more here."""

from __future__ import annotations

from wrinkle.core.registering import Registry
from wrinkle.ui.bench import bench
from wrinkle.ui.checks import checks
from wrinkle.ui.collection import collection
from wrinkle.ui.cutlist import cutlist
from wrinkle.ui.export import export
from wrinkle.ui.place import PlaceKind

PLACES: Registry[PlaceKind] = Registry(
    "place", (cutlist.PLACE, bench.PLACE, collection.PLACE, checks.PLACE, export.PLACE)
)
FIRST_SHOWN = bench.PLACE.key
