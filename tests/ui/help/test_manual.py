"""The manual names nothing that the program does not have, and opens on what has the focus."""

import ast
import re
import unittest
from pathlib import Path

from PyQt6.QtCore import QEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from tests.ui.window_case import WindowCase, settle
from window_guides.manual import LARGEST, PICTURES
from wrinkle.core.design.document.setting_specs import PLACEMENT_SETTINGS
from wrinkle.core.effects.registry import EFFECTS
from wrinkle.library.manual_pages import IN_BRACES, MANUAL, Named, pages, usual_names
from wrinkle.ui.help.manual_window import ManualWindow
from wrinkle.ui.help.steps import STEPS
from wrinkle.ui.places import PLACES

ROOT = Path(__file__).parents[3]
_BOLD = re.compile(r"\*\*([^*]+)\*\*")
_LEADS = re.compile(r"^\*\*[^*]+\*\*|^- \*\*[^*]+\*\*:", re.MULTILINE)
"""Bold words at the beginning of a paragraph are its heading."""
_PICTURE = re.compile(r"!\[[^\]]*\]\(pictures/([a-z]+)\.jpg\)")


def words_in_the_window() -> set[str]:
    """Every text that stands in the window's code."""
    found = set()
    for path in (ROOT / "wrinkle" / "ui").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Constant) and isinstance(node.value, str):
                found.add(node.value)
    found |= {spec.label for spec in PLACEMENT_SETTINGS.values()}
    return found | {kind.name for kind in PLACES.values()}


class Pages(unittest.TestCase):
    def test_no_name_in_them_is_one_that_the_program_does_not_have(self) -> None:
        there = words_in_the_window()
        for page in pages():
            for bold in _BOLD.findall(_LEADS.sub("", page.text)):
                # Of a way through menus each word; an arrow at an end belongs to a button.
                for word in re.split(r"(?<=\S) ▸ (?=\S)", bold):
                    with self.subTest(page=page.key, word=word):
                        self.assertTrue({word, f"{word}…"} & there)

    def test_each_picture_is_there_and_small_and_none_is_left_over(self) -> None:
        shown = {name for page in pages() for name in _PICTURE.findall(page.text)}
        there = {path.stem: path.stat().st_size for path in (MANUAL / "pictures").iterdir()}
        self.assertEqual(shown, set(there))
        self.assertEqual(shown, set(PICTURES))
        self.assertLess(max(there.values()), LARGEST)

    def test_all_effects_are_listed(self) -> None:
        page = next(x for x in pages() if x.key == "effects")
        written = page.written(usual_names().__getitem__)
        for effect in EFFECTS.values():
            self.assertIn(f"**{effect.label}**", written)


class InTheWindow(WindowCase):
    def manual(self) -> ManualWindow:
        found = self.window.findChildren(ManualWindow)
        self.assertTrue(found)
        return found[-1]

    def test_the_names_that_ship_are_those_of_the_window(self) -> None:
        now = {
            entry.action.id: Named(entry.action.label.removesuffix("…"), entry.action.keys)
            for entry in self.window.menus.entries
        }
        self.assertEqual(now, usual_names(), "python -m window_guides.manual names")
        texts = [page.text for page in pages()]
        texts += [part.words for step in STEPS for part in step.parts]
        for text in texts:
            for name in IN_BRACES.findall(text):
                if name != "effects":
                    self.assertIn(name, now)

    def test_it_opens_on_what_has_the_focus_and_is_searched(self) -> None:
        self.desk.looking.select_layer("turn")
        for widget, page in (
            (self.bench.timeline.rows[0].canvas, "lanes"),
            (self.bench.result, "bench"),
            (self.bench.stack.cards[0].eye, "layers"),
        ):
            widget.setFocus()
            self.act("help.manual")
            self.assertEqual(self.manual().page, page)
        self.assertEqual(len(self.window.findChildren(ManualWindow)), 1, "it turns its page")
        self.manual().close()
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
        self.window.places.go_to("checks")
        self.window.places.place("checks").setFocus()
        self.act("help.manual")
        manual = self.manual()
        self.assertEqual(manual.page, "checks")
        QTest.keyClicks(manual.search, "edge cover")
        settle()
        self.assertEqual(manual.page, "layers")
        self.assertEqual(manual.sheet.textCursor().selectedText().lower(), "edge")
        self.assertNotIn("{", manual.sheet.toPlainText())

    def test_a_changed_key_stands_in_it(self) -> None:
        self.window.menus.set_keys({"bench.split": ("Ctrl+J",)})
        self.act("help.manual")
        manual = self.manual()
        manual.show_page("layers")
        self.assertIn("Split here (Ctrl+J)", manual.sheet.toPlainText())
