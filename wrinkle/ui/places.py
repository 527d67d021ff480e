"""The places of the window in the order in which the bar names them. A new one is one more here."""

from __future__ import annotations

from wrinkle.core.registering import Registry
from wrinkle.ui.bench import bench
from wrinkle.ui.checks import checks
from wrinkle.ui.collection import collection
from wrinkle.ui.cutlist import cutlist
from wrinkle.ui.place import PlaceKind, to_come

_EXPORT = to_come(
    "export",
    "Export",
    "Here the piece, one wrinkle, a matte or an overlay will be written to files, one after the "
    "other.",
)
PLACES: Registry[PlaceKind] = Registry(
    "place", (cutlist.PLACE, bench.PLACE, collection.PLACE, checks.PLACE, _EXPORT)
)
FIRST_SHOWN = bench.PLACE.key
