"""What can be done with the wrinkles on the shelf, and why not now."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Protocol

from wrinkle.ui.actions.action import Action
from wrinkle.ui.choosing.wrinkle_tiles import WrinkleTiles
from wrinkle.ui.collection.shelf_care import ShelfCare

IN_MORE = ("duplicate", "rename", "export", "compare", "delete")
"""Those that stand under the button *More*."""


class Doing(Protocol):
    """What the shelf itself does."""

    tiles: WrinkleTiles
    care: ShelfCare

    def seek(self) -> None:
        """Lets one type what is looked for."""

    def open(self) -> None:
        """Opens the selected wrinkle on the Bench."""

    def use_here(self) -> None:
        """Uses it on the clips of the Bench."""

    def use_elsewhere(self) -> None:
        """Uses it on other clips."""

    def show_board(self) -> object:
        """Shows it in its directions and strengths."""

    def compare(self) -> object:
        """Shows two side by side."""

    def take_in(self) -> None:
        """Asks for wrinkles to be kept."""

    def toggle_play(self) -> None:
        """All tiles move, or one."""

    @property
    def on_own_clips(self) -> bool:
        """Whether it is shown on the clips of the Bench."""

    @property
    def is_favourite(self) -> bool:
        """Whether the selected one is a favourite."""


def wrinkle_actions(shelf: Doing) -> Sequence[Action]:
    """All of them."""
    care, tiles = shelf.care, shelf.tiles

    def none() -> str:
        return "" if tiles.current is not None else "Select a wrinkle first."

    def none_readable() -> str:
        one = tiles.current
        broken = one is not None and one.wrinkle is None
        return none() or ("This wrinkle cannot be read; select another one." if broken else "")

    def none_of_own() -> str:
        one = tiles.current
        own = one is not None and not one.shipped
        return none() or ("" if own else "What ships stays as it is; duplicate it first.")

    def no_own_clips() -> str:
        bare = "Choose two clips on the Bench first, or use it on other clips, which asks for some."
        return none_readable() or ("" if shelf.on_own_clips else bare)

    def readable() -> int:
        return sum(one.wrinkle is not None for one in tiles.selected)

    def not_two() -> str:
        return "" if readable() == 2 else "Select two wrinkles to compare them."

    def not_several() -> str:
        return "" if readable() > 1 else "Select several wrinkles first."

    def nothing_gone() -> str:
        return "" if care.deleted else "Nothing was deleted."

    def favour() -> None:
        care.favour(not shelf.is_favourite)

    rows: list[tuple[str, str, Callable[[], object], str, int, str, str, Callable[[], str]]] = [
        ("find", "Find", shelf.seek, "Edit", 30, "Ctrl+F",
         "Searches by name, kind, feel, length or what it is for.", _always),
        ("open", "Open on the Bench", shelf.open, "File", 12, "",
         "Designs the selected wrinkle.", none_readable),
        ("here", "Use on the Bench's clips", shelf.use_here, "File", 40, "",
         "Tries the selected wrinkle on the clips of the Bench, and renders it.", no_own_clips),
        ("elsewhere", "Use on other clips…", shelf.use_elsewhere, "File", 40, "",
         "Tries the selected wrinkle on two other clips, and renders it.", none_readable),
        ("import", "Import…", shelf.take_in, "File", 14, "",
         "Keeps wrinkles from files among your own.", _always),
        ("export", "Export a copy…", care.ask_goal, "File", 14, "",
         "Writes the selected wrinkle to a file.", none_readable),
        ("many", "Export several…", care.ask_many, "File", 14, "",
         "Writes all selected wrinkles to one file.", not_several),
        ("duplicate", "Duplicate", care.duplicate, "Edit", 40, "",
         "Makes a wrinkle of your own of the selected one.", none_readable),
        ("rename", "Rename the wrinkle…", care.ask_name, "Edit", 40, "",
         "Gives the selected wrinkle another name.", lambda: none_of_own() or none_readable()),
        ("delete", "Delete the wrinkle", care.delete, "Edit", 40, "Del",
         "Takes the selected wrinkle away; it can be brought back.", none_of_own),
        ("back", "Bring back", care.bring_back, "Edit", 40, "",
         "Brings back what was deleted last.", nothing_gone),
        ("board", "Board: directions, strengths, dials…", shelf.show_board, "View", 30, "",
         "Shows the selected wrinkle in its directions and strengths, to take one.",
         none_readable),
        ("compare", "Compare the two that are selected…", shelf.compare, "View", 30, "",
         "Plays two wrinkles side by side, in step, with their difference.", not_two),
    ]  # fmt: skip
    return [
        Action(f"collection.{name}", label, act, menu, section, (key,) if key else (),
               says=says, why_not=why_not)
        for name, label, act, menu, section, key, says, why_not in rows
    ] + [
        Action("collection.favourite", "Favourite", favour, "Edit", 40, why_not=none,
               says="Marks the selected wrinkle as a favourite, or no longer.",
               checked=lambda: shelf.is_favourite, follows=(tiles.pointed, care.changed)),
        Action("collection.play", "Play all tiles, or the one that is pointed at",
               shelf.toggle_play, "View", 30, says="Lets all tiles move, or one alone.",
               checked=lambda: tiles.all_play),
    ]  # fmt: skip


def _always() -> str:
    return ""
