"""How what belongs to a place, or to a document, is reached from elsewhere."""

from __future__ import annotations

from collections.abc import Mapping

from wrinkle.ui.actions.action import HeldKey
from wrinkle.ui.dialogs.finder import Owners
from wrinkle.ui.files.document_file import DocumentFile
from wrinkle.ui.frame.shown_places import ShownPlaces
from wrinkle.ui.place import PlaceKind, WorksOn
from wrinkle.ui.places import PLACES


def owners_of(places: ShownPlaces, files: Mapping[WorksOn, DocumentFile]) -> Owners:
    """How what belongs to a place, or to a document, is reached."""

    def home(owner: object) -> PlaceKind | None:
        """The first place in which it is live; None for what is live in all."""
        for kind in PLACES.values():
            place = places.place(kind.key)
            if owner is place or owner is files[place.works_on]:
                return kind
        return None

    def elsewhere(owner: object) -> PlaceKind | None:
        """None where it can be done here."""
        return None if owner in (None, places.shown, files[places.works_on]) else home(owner)

    def name(owner: object) -> str:
        found = elsewhere(owner)
        return f"the {found.name}" if found is not None else ""

    def place(owner: object) -> str:
        found = home(owner) if owner is not None else None
        return found.name if found is not None else ""

    def show(owner: object) -> None:
        found = elsewhere(owner)
        if found is not None:
            places.go_to(found.key)

    def live_in(owner: object) -> set[str]:
        """The keys of the places in which it can be live."""
        every = {kind.key: places.place(kind.key) for kind in PLACES.values()}
        # What a place works on may be the other document as well, as in the Checks.
        return {key for key, place in every.items()
                if owner is None or owner is place or owner in files.values()}  # fmt: skip

    def together(one: object, other: object) -> bool:
        two_files = one is not other and {one, other} <= set(files.values())
        return not two_files and bool(live_in(one) & live_in(other))

    def held() -> list[HeldKey]:
        return [x for kind in PLACES.values() for x in places.place(kind.key).held_keys()]

    return Owners(name, show, place, together, held)
