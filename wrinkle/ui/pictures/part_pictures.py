"""Pictures of parts of a wrinkle at the playhead, made in the background."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Urgency, WorkLine
from wrinkle.core.render.frames import ScreenFrame, screen_frame
from wrinkle.core.render.showing import Showing
from wrinkle.ui.desk.parts import Working
from wrinkle.ui.shared.qimages import wrapped

Parting = Callable[[Wrinkle], Wrinkle]
"""Gives the wrinkle of which only a part is left."""


class PartPictures(QObject):
    """The newest picture of each part that was asked for.

    Args:
        desk: who makes them, and who is told what nobody foresaw.
        urgency: against other work.
        parent: the owner.

    Signals:
        came: the name of a part whose picture is another one now.
    """

    came = pyqtSignal(str)

    def __init__(
        self,
        desk: Working,
        urgency: Urgency,
        parent: QObject | None = None,
    ) -> None:
        super().__init__(parent)
        self._store = desk.workers.store
        what = "A part of the wrinkle cannot be shown"
        self._line = WorkLine(desk.workers.jobs, urgency, what, desk.messages.faulted.emit)
        self._made: dict[str, ScreenFrame] = {}
        self._asked: tuple[Showing, frozenset[str], int] | None = None
        self._number = 0

    def ask(self, showing: Showing, parts: Mapping[str, Parting], frame: int) -> None:
        """Asks for parts by their names; what was asked before and has not begun is dropped.

        The same asked once more does nothing: a name stands for one part.
        """
        asked = showing, frozenset(parts), frame
        if asked == self._asked:
            return
        self._asked = asked
        self._number += 1
        self._line.drop()
        self._made = {x: made for x, made in self._made.items() if x in parts}
        for name, part in parts.items():
            self._put(self._number, showing, name, part, frame)

    def forget(self) -> None:
        """Nothing is asked for any more, and no picture is shown."""
        if self._asked is not None:
            self._asked = None
            self._number += 1
            self._line.drop()
            self._made.clear()

    def picture(self, name: str) -> QImage | None:
        """The newest picture of a part; None until it has one, and where it has none."""
        found = self._made.get(name)
        return wrapped(found) if found is not None else None

    def close(self) -> None:
        """Nothing more is made."""
        self._line.close()

    def _put(self, number: int, showing: Showing, name: str, part: Parting, frame: int) -> None:
        def make(job: object) -> ScreenFrame | None:
            try:
                wrinkle = part(showing.wrinkle)
            except KeyError:
                # What is shown for comparison may have no such layer.
                return None
            shown = replace(showing, wrinkle=wrinkle, held="")
            plan = shown.plan(frame)
            found = self._store.frame(plan)
            if isinstance(found, ScreenFrame):
                return found
            try:
                picture = screen_frame(shown.drawn(frame, plan))
            except InputError:
                # The result says what is wrong with a clip.
                return None
            self._store.keep_frame(plan, picture)
            return picture

        def take(picture: ScreenFrame | None) -> None:
            if number != self._number or picture is self._made.get(name):
                return
            if picture is None:
                del self._made[name]
            else:
                self._made[name] = picture
            self.came.emit(name)

        self._line.put(make, take)
