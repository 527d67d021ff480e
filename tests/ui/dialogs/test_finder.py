"""Whatever can be done is found by its words, says its key and why not now, and is done."""

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from tests.ui.window_case import WindowCase
from wrinkle.ui.dialogs.finder import CommandFinder


class Finding(WindowCase):
    def find(self, words: str) -> CommandFinder:
        self.act("help.find")
        (finder,) = self.window.findChildren(CommandFinder)
        QTest.keyClicks(finder.field, words)
        return finder

    def rows(self, finder: CommandFinder) -> list[list[str]]:
        found = (finder.list.topLevelItem(n) for n in range(finder.list.topLevelItemCount()))
        return [[row.text(column) for column in range(3)] for row in found]

    def test_every_action_is_listed_with_what_it_does(self) -> None:
        finder = self.find("")
        listed = len(self.rows(finder))
        self.assertEqual(listed, len(self.window.menus.actions) - 1, "all but the search itself")
        for entry in self.window.menus.entries:
            self.assertRegex(entry.action.says, r"^[A-Z].*\.$", entry.action.id)
        finder.close()

    def test_words_narrow_the_list_and_return_does_it(self) -> None:
        before = len(self.desk.document.state.layers)
        finder = self.find("split here")
        self.assertEqual(self.rows(finder)[0], ["Split here", "S", "Layer menu"])
        QTest.keyClick(finder.field, Qt.Key.Key_Return)
        self.assertFalse(finder.isVisible())
        self.assertEqual(len(self.desk.document.state.layers), before + 1)

    def test_what_cannot_be_done_now_says_why_and_is_not_done(self) -> None:
        before = self.desk.document.state
        finder = self.find("reverse pins")
        self.assertIn("Not now: Select a pin first", finder.about.text())
        QTest.keyClick(finder.field, Qt.Key.Key_Return)
        self.assertTrue(finder.isVisible())
        self.assertEqual(self.desk.document.state, before)
        QTest.keyClicks(finder.field, " xyz")
        self.assertEqual(self.rows(finder), [])
        self.assertIn("Nothing is called so", finder.about.text())
        finder.close()
        self.act("bench.reverse-pins")
        self.assertIn("Select a pin first", self.window.status.said)

    def test_what_belongs_elsewhere_leads_there(self) -> None:
        finder = self.find("all cuts of the piece")
        self.assertEqual(self.rows(finder)[0][2], "the Checks")
        QTest.keyClick(finder.field, Qt.Key.Key_Return)
        self.assertIs(self.window.places.shown, self.window.places.place("checks"))
        self.assertEqual(self.window.places.shown.works_on.value, "piece")
