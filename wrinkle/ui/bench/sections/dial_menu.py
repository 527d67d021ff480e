"""What can be done about dials for one setting, as a menu."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QMenu, QWidget

from wrinkle.core.design.dials import dial_edits
from wrinkle.core.design.document.driven import drivers_of
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.ui.desk.parts import Designing


def dial_menu(desk: Designing, layer: str, key: str, parent: QWidget) -> QMenu:
    """Offers a setting as a dial of its own, puts it on another dial, or takes it off.

    Args:
        desk: whose wrinkle it is.
        layer: the id of the layer, or ``WRINKLE``.
        key: the address of the setting.
        parent: of the menu.
    """
    menu = QMenu(parent)
    menu.aboutToHide.connect(menu.deleteLater)
    wrinkle = desk.document.state

    def add(label: str, step: str, change: Callable[[Wrinkle], Wrinkle]) -> None:
        action = menu.addAction(label.replace("&", "&&"))
        if action is not None:
            action.triggered.connect(lambda: desk.document.edit(step, change))

    driving = drivers_of(wrinkle.dials, layer, key)
    if not driving:
        offer = partial(offered, layer=layer, key=key)
        add("Offer it as a dial of its own", "dial", offer)
    for dial in wrinkle.dials:
        on = [x.drive for x in driving if x.dial is dial]
        if on:
            index = dial.drives.index(on[0])
            off = partial(dial_edits.remove_drive, dial_id=dial.id, index=index)
            add(f"Take it off the dial '{dial.name}'", "setting off a dial", off)
            continue
        more = partial(dial_edits.add_drive, dial_id=dial.id, layer=layer, key=key)
        try:
            more(wrinkle)
        except InputError:
            # A dial that cannot drive it is not offered.
            continue
        add(f"Let the dial '{dial.name}' drive it too", "setting on a dial", more)
    return menu


def offered(wrinkle: Wrinkle, layer: str, key: str) -> Wrinkle:
    """The wrinkle with a dial of its own for a setting; ``layer`` and ``key`` as for ``dial_menu``.

    Raises:
        InputError: no dial can drive it.
    """
    return dial_edits.offer(wrinkle, layer, key)[0]
