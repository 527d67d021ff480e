"""Documents of any kind: steps, gestures, refusals, and one undo over all of them."""

import unittest
from dataclasses import dataclass, replace

from tests.ui.window_case import application
from wrinkle.core.errors import InputError
from wrinkle.ui.desk.editing import Editing, StepOrder
from wrinkle.ui.desk.messages import Messages

Numbers = tuple[int, ...]


@dataclass(frozen=True)
class Pair:
    shutter: int = 180
    scale: int = 100


def refuse(state: Numbers) -> Numbers:
    raise InputError("That number is taken.")


class Documents(unittest.TestCase):
    def setUp(self) -> None:
        application()
        self.steps, self.messages = StepOrder(), Messages()
        self.faults: list[str] = []
        self.messages.faulted.connect(self.faults.append)
        self.one: Editing[Numbers] = Editing((), self.steps, self.messages)
        self.other: Editing[str] = Editing("", self.steps, self.messages)

    def add(self, number: int) -> bool:
        return self.one.edit(f"add {number}", lambda state: (*state, number))

    def test_a_gesture_is_one_step_or_none(self) -> None:
        seen: list[Numbers] = []
        self.one.changed.connect(lambda: seen.append(self.one.state))
        for number in range(3):
            self.one.preview(lambda state, n=number: (*state, n))
        self.assertEqual((self.one.committed, self.one.unsaved), ((), False))
        self.assertTrue(self.one.edit("drag"))
        self.assertFalse(self.one.edit("nothing is previewed"))
        self.assertEqual(seen, [(0,), (1,), (2,), (2,)])
        self.one.preview(lambda state: (9,))
        self.one.abandon()
        self.assertEqual((self.one.state, self.steps.undo_label), ((2,), "drag"))
        self.steps.undo()
        self.assertEqual((self.one.state, self.steps.undo_label), ((), None))

    def test_a_refused_change_is_told_and_nothing_else(self) -> None:
        self.add(1)
        self.assertFalse(self.one.edit("no", refuse))
        self.assertFalse(self.one.preview(refuse))
        self.assertEqual((self.one.state, self.faults), ((1,), ["That number is taken."] * 2))

    def test_what_was_worked_out_late_keeps_what_was_edited_meanwhile(self) -> None:
        pair: Editing[Pair] = Editing(Pair(), self.steps, self.messages)
        base = pair.state
        pair.edit("meanwhile", lambda x: replace(x, shutter=33))
        self.assertTrue(pair.edit_from(base, "late", lambda x: replace(x, scale=120)))
        self.assertEqual(pair.state, Pair(33, 120))
        self.assertFalse(pair.edit_from(base, "later", lambda x: replace(x, shutter=90)))
        self.assertEqual((pair.state, pair.undo_label), (Pair(33, 120), "late"))
        self.assertIn("“later” was worked out on an older state", self.faults[-1])

    def test_undo_ends_where_a_document_was_opened(self) -> None:
        self.add(1)
        self.other.edit("name", lambda state: "kite")
        self.steps.restart()
        self.assertIsNone(self.steps.undo_label)
        self.steps.undo()
        self.assertEqual((self.one.state, self.other.state), ((1,), "kite"))

    def test_undo_takes_back_what_was_done_last_in_whichever_document(self) -> None:
        self.add(1)
        self.other.edit("name", lambda state: "kite")
        self.add(2)
        labels = []
        while self.steps.undo_label:
            labels.append(self.steps.undo_label)
            self.steps.undo()
        self.assertEqual(labels, ["add 2", "name", "add 1"])
        self.assertEqual((self.one.state, self.other.state), ((), ""))
        for _ in range(3):
            self.steps.redo()
        self.assertEqual((self.one.state, self.other.state), ((1, 2), "kite"))
        self.assertIsNone(self.steps.redo_label)

    def test_what_was_taken_back_is_gone_once_something_else_is_done_anywhere(self) -> None:
        self.add(1)
        self.steps.undo()
        self.other.edit("name", lambda state: "kite")
        self.assertIsNone(self.steps.redo_label)
        self.steps.redo()
        self.assertEqual(self.one.state, ())

    def test_what_is_done_together_is_taken_back_together(self) -> None:
        with self.steps.together():
            self.add(1)
            self.other.edit("add 1", lambda state: "kite")
        self.steps.undo()
        self.assertEqual((self.one.state, self.other.state), ((), ""))
        self.steps.redo()
        self.assertEqual((self.one.state, self.other.state), ((1,), "kite"))

    def test_another_document_begins_saved_and_without_a_past(self) -> None:
        self.add(1)
        self.assertTrue(self.one.unsaved)
        self.one.mark_saved()
        self.assertFalse(self.one.unsaved)
        self.one.begin((7,))
        self.assertEqual((self.one.state, self.one.unsaved), ((7,), False))
        self.assertIsNone(self.steps.undo_label)
