"""Applies mends, and sets findings aside: each is one step of the wrinkle, or of the piece."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design.document.set_aside import About
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.set_aside_edits import count_again, set_aside
from wrinkle.core.errors import InputError
from wrinkle.core.examine.examined import mended_all
from wrinkle.core.examine.subjects import with_design
from wrinkle.core.measure.check import Mend
from wrinkle.core.measure.subject import Subject
from wrinkle.core.merging import merged
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.dressing import put_on
from wrinkle.ui.checks.item import Item
from wrinkle.ui.desk.examiner import WRINKLE
from wrinkle.ui.desk.parts import Mending

Designs = Mapping[str, Wrinkle]
"""Designs by the id of the cut, or of the open wrinkle."""


class Mender(QObject):
    """Works out mends in the background and applies them.

    Signals:
        came: a mend is worked out: the item, the mend, and the design or a sentence.
        workingChanged: something is worked out, or no longer.
    """

    came = pyqtSignal(object, object, object)
    workingChanged = pyqtSignal()

    def __init__(self, desk: Mending) -> None:
        super().__init__()
        self._desk = desk
        self._known: dict[tuple[int, str], tuple[Item, Wrinkle | str]] = {}
        self._pending: dict[tuple[int, str], Item] = {}
        self._working = 0
        self._in_work: list[Subject] = []
        # What is worked out for a document is nothing to the one that takes its place.
        desk.document.opened.connect(self.give_up)
        desk.piece.opened.connect(self.give_up)

    @property
    def working(self) -> bool:
        """Whether something is being worked out."""
        return self._working > 0

    def known(self, item: Item, mend: Mend) -> Wrinkle | str | None:
        """What a mend comes to: a design, or a sentence on why not; None while nobody knows."""
        found = self._known.get((id(item.finding), mend.key))
        return found[1] if found is not None else None

    def work_out(self, item: Item, mend: Mend) -> None:
        """Lets a mend be worked out, once; ``came`` tells of it."""
        key = (id(item.finding), mend.key)
        if key in self._pending:
            return
        self._pending[key] = item

        def done(result: Wrinkle | str) -> None:
            # The item is kept with it: its number must not become that of another one.
            self._pending.pop(key, None)
            self._known[key] = item, result
            self.came.emit(item, mend, result)

        self._work(mend.apply, [item.examined.subject], done, done)

    def keep_only(self, items: Iterable[Item]) -> None:
        """What was worked out for other findings belongs to another state."""
        there = {id(item.finding) for item in items}
        self._known = {key: found for key, found in self._known.items() if key[0] in there}

    def give_up(self) -> None:
        """What is being worked out is wanted no more."""
        for subject in self._in_work:
            subject.given_up.set()

    def apply(self, item: Item, mend: Mend) -> bool:
        """Puts a mend that is worked out into the wrinkle, or onto the cut."""
        design = self.known(item, mend)
        if not isinstance(design, Wrinkle):
            return False
        base = item.examined.subject.design
        return self._put(f"mend: {mend.label.lower()}", {item.key: base}, {item.key: design})

    def mend_all(self, items: Iterable[Item], then: Callable[[int], None]) -> None:
        """Mends all open findings of the check of some items, in one step.

        Args:
            items: those of one check.
            then: gets how many were mended.
        """
        subjects: dict[str, Subject] = {}
        label, check = "", ""
        for item in items:
            subjects.setdefault(item.key, item.examined.subject)
            label, check = item.check.label, item.finding.check

        def make() -> tuple[Designs, int]:
            designs: dict[str, Wrinkle] = {}
            count, why = 0, ""
            for key, subject in subjects.items():
                try:
                    designs[key], mended = mended_all(subject, check)
                    count += mended
                except InputError as fault:
                    why = str(fault)
            if not designs:
                raise InputError(why)
            return designs, count

        bases = {key: subject.design for key, subject in subjects.items()}

        def done(result: tuple[Designs, int]) -> None:
            designs, count = result
            if self._put(f"mend all: {label.lower()}", bases, designs):
                then(count)

        self._work(make, list(subjects.values()), done, self._desk.messages.faulted.emit)

    def set_aside(self, item: Item, reason: str) -> bool:
        """A finding does not count any more, on no cut that has this wrinkle."""
        about = item.finding.about
        return self._change_aside(item, lambda x: set_aside(x, about, reason), "set aside")

    def count_again(self, item: Item) -> bool:
        """A finding that was set aside counts again."""
        about: About = item.finding.about
        return self._change_aside(item, lambda design: count_again(design, about), "count again")

    def _change_aside(self, item: Item, change: Callable[[Wrinkle], Wrinkle], label: str) -> bool:
        design = item.examined.subject.design
        if item.key == WRINKLE:
            return self._desk.document.edit(label, change)
        alike = [
            clip.id
            for clip in self._desk.piece.state.clips[1:]
            if clip.entry is not None and clip.entry.wrinkle == design
        ]
        try:
            changed = change(design)
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            return False
        return self._put(label, dict.fromkeys(alike, design), dict.fromkeys(alike, changed))

    def _put(self, label: str, bases: Designs, designs: Designs) -> bool:
        """Puts what was worked out from some designs on what they are by now."""
        if WRINKLE in designs:
            return self._desk.document.edit_from(bases[WRINKLE], label, lambda _: designs[WRINKLE])

        def change(piece: Piece) -> Piece:
            for clip_id, design in designs.items():
                use = next((x.entry for x in piece.clips if x.id == clip_id), None)
                if use is None:
                    raise InputError(
                        f"“{label}” was worked out for a cut that is plain or gone by now; look "
                        "at the checks once more."
                    )
                rebased = merged(bases[clip_id], design, use.wrinkle)
                piece = put_on(piece, [clip_id], with_design(use, rebased))
            return piece

        return self._desk.piece.edit(label, change)

    def _work(
        self,
        make: Callable[[], object],
        subjects: list[Subject],
        done: Callable[..., None],
        failed: Callable[[str], None],
    ) -> None:
        self._working += 1
        self._in_work += subjects
        self.workingChanged.emit()

        def ended(then: Callable[[], None]) -> None:
            self._working -= 1
            for subject in subjects:
                self._in_work.remove(subject)
            if not any(subject.given_up.is_set() for subject in subjects):
                then()
            self.workingChanged.emit()

        self._desk.examiner.work(
            make,
            lambda result: ended(lambda: done(result)),
            lambda fault: ended(lambda: failed(fault)),
            lambda: ended(lambda: None),
        )
