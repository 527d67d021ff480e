"""What can be done about the chosen finding: which mend, what it comes to, and the buttons."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QInputDialog, QPushButton, QWidget

from wrinkle.core.design.document.differences import difference_words
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.measure.check import Mend
from wrinkle.core.measure.checks.handles import SHORT
from wrinkle.core.piece.making_room import Room, make_room
from wrinkle.ui.checks.before_after import BeforeAfter
from wrinkle.ui.checks.item import Item
from wrinkle.ui.checks.mender import Mender
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.examiner import WRINKLE
from wrinkle.ui.shared.plain_text import tip
from wrinkle.ui.text_size import Extent, keep

_MOST_SET = 3
"""Settings that a mend sets and that are named."""


class MendBar(QWidget):
    """Shows a mend of the chosen finding beside the frame as it is, and does it.

    Args:
        desk: whose piece gets more room, and to whom it is told.
        mender: works mends out.
        pictures: where what a mend comes to is seen.
        measuring: whether some of what is examined is being measured: nothing is done meanwhile.
    """

    def __init__(
        self, desk: Desk, mender: Mender, pictures: BeforeAfter, measuring: Callable[[], bool]
    ) -> None:
        super().__init__()
        self._piece, self._messages = desk.piece, desk.messages
        self._mender, self._pictures, self._measuring = mender, pictures, measuring
        self._item: Item | None = None
        self.choice = QComboBox()
        self.choice.setAccessibleName("Which mend")
        self.mend_button = QPushButton("Mend")
        self.mend_button.setObjectName("main")
        self.all_button = QPushButton("Mend all of this kind")
        self.room_button = QPushButton("Make room")
        self.aside_button = QPushButton("Set aside…")
        keep(self.choice, Extent.LEAST_WIDTH, 220)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 6, 12, 6)
        row.setSpacing(8)
        for widget in (
            pictures.play_button, self.choice, self.mend_button, self.all_button, self.room_button,
        ):  # fmt: skip
            row.addWidget(widget)
        row.addStretch(1)
        row.addWidget(self.aside_button)
        self.choice.activated.connect(lambda index: self._show_mend())
        mender.came.connect(self._came)
        mender.workingChanged.connect(self.refresh)

    def show_item(self, item: Item | None) -> None:
        """Offers the mends of a finding."""
        self._item = item
        self.choice.clear()
        if item is not None:
            for mend in item.finding.mends:
                self.choice.addItem(mend.label, mend)
        self._show_mend()

    @property
    def mend_shown(self) -> Mend | None:
        """The mend that is shown beside the frame as it is."""
        found: Mend | None = self.choice.currentData()
        return found

    def _show_mend(self) -> None:
        """Shows what the chosen mend comes to; it is worked out first where nobody knows."""
        item, mend = self._item, self.mend_shown
        if item is None or mend is None:
            words = ""
            if item is not None and not item.reason:
                words = "This cannot be mended by itself: it takes a decision. " \
                    "Change it, or set it aside with a reason."  # fmt: skip
            self._pictures.show_mended(None, "", words)
        else:
            known = self._mender.known(item, mend)
            if known is None:
                self._pictures.show_mended(None, mend.label, "It is being worked out…")
                self._mender.work_out(item, mend)
            else:
                self._show_result(mend, known)
        self.refresh()

    def _came(self, item: Item, mend: Mend, result: Wrinkle | str) -> None:
        if item is self._item and mend is self.mend_shown:
            self._show_result(mend, result)
            self.refresh()

    def _show_result(self, mend: Mend, result: Wrinkle | str) -> None:
        if isinstance(result, str):
            self._pictures.show_mended(None, mend.label, result)
        else:
            after = f"After: {mend.label[0].lower()}{mend.label[1:]}"
            self._pictures.show_mended(result, after, self._sets(result))

    def _sets(self, design: Wrinkle) -> str:
        """What a mend sets, with its numbers."""
        if self._item is None:
            return ""
        words = difference_words(self._item.examined.subject.design, design)
        more = len(words) - _MOST_SET
        said = "; ".join(words[:_MOST_SET])
        return f"It sets {said}{f', and {more} more' if more > 0 else ''}." if said else ""

    def refresh(self) -> None:
        """Shows what can be done now: nothing can be pressed that does nothing."""
        item, mend = self._item, self.mend_shown
        known = self._mender.known(item, mend) if item is not None and mend is not None else None
        settled = not self._measuring()
        self.choice.setVisible(self.choice.count() > 0)
        self.mend_button.setEnabled(isinstance(known, Wrinkle) and settled)
        mendable = item is not None and bool(item.finding.mends) and not item.reason
        self.all_button.setEnabled(mendable and settled and not self._mender.working)
        self.aside_button.setEnabled(item is not None and settled)
        self.mend_button.setVisible(item is not None)
        self.all_button.setVisible(mendable)
        self.aside_button.setVisible(item is not None)
        aside = item is not None and bool(item.reason)
        self.aside_button.setText("Count it again" if aside else "Set aside…")
        room = self._room()
        self.room_button.setVisible(room is not None)
        if room is not None:
            self.room_button.setToolTip(tip(room.words(self._piece.state)))

    def _room(self) -> Room | None:
        """What it comes to, to trim the clips of the chosen cut, where that would help."""
        item = self._item
        if item is None or item.key == WRINKLE or item.finding.check != SHORT.key:
            return None
        try:
            return make_room(self._piece.state, [item.key])
        except InputError:
            return None

    # What can be done

    def make_room(self) -> None:
        """Trims the clips of the chosen cut by what their handles lack."""
        room, before = self._room(), self._piece.state
        if room is None or self._measuring():
            self._messages.faulted.emit("No handle is too short at what is chosen.")
            return
        self._piece.edit("make room", lambda piece: room.piece)
        self._messages.told.emit(room.words(before))

    def mend(self) -> None:
        """Does what is shown at the right."""
        item, mend = self._item, self.mend_shown
        if item is not None and mend is not None and not self._measuring():
            design = self._mender.known(item, mend)
            said = self._sets(design) if isinstance(design, Wrinkle) else ""
            if self._mender.apply(item, mend) and said:
                self._messages.told.emit(f"Mended. {said}")

    def mend_all(self, items: Sequence[Item]) -> None:
        """Mends all that is open of the chosen kind, each by its usual mend, in one step.

        Args:
            items: all that was found.
        """
        item = self._item
        if item is None or self._measuring():
            return
        alike = [x for x in items if x.finding.check == item.finding.check and not x.reason]
        self._mender.mend_all(alike, lambda count: self._messages.told.emit(f"{count} mended."))

    def ask_reason(self) -> None:
        """Asks why the chosen finding is wanted so, and sets it aside; or counts it again."""
        item = self._item
        if item is None or self._measuring():
            return
        if item.reason:
            self._mender.count_again(item)
            return
        reason, taken = QInputDialog.getText(
            self, "Set aside", "Why it is wanted so. Whoever uses the wrinkle reads this:"
        )
        if taken:
            self._mender.set_aside(item, reason)
