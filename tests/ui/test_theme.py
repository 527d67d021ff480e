import unittest

from tests.ui.window_case import application
from wrinkle.ui.theme import CHALK, THEMES, Theme, unstyled


def luminance(code: str) -> float:
    """WCAG 2.2, the definition of relative luminance."""
    parts = [int(code[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    linear = [x / 12.92 if x <= 0.04045 else ((x + 0.055) / 1.055) ** 2.4 for x in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


def contrast(one: str, other: str) -> float:
    """WCAG 2.2, the definition of contrast ratio."""
    high, low = sorted((luminance(one), luminance(other)), reverse=True)
    return (high + 0.05) / (low + 0.05)


class Contrast(unittest.TestCase):
    def test_text_and_marks_can_be_read_in_all_themes(self) -> None:
        # WCAG 2.2, 1.4.3: text at least 4.5; 1.4.11: marks that carry meaning at least 3.
        self.assertAlmostEqual(contrast("#000000", "#FFFFFF"), 21.0, places=6)
        for theme in THEMES:
            for ink, grounds, least in (
                ("ink", ("ground", "panel", "field", "selected"), 4.5),
                ("quiet", ("ground", "panel", "field", "selected"), 4.5),
                ("seam", ("panel",), 4.5),
                ("outgoing_text", ("panel",), 4.5),
                ("incoming_text", ("panel",), 4.5),
                ("outgoing", ("panel",), 3.0),
                ("incoming", ("panel",), 3.0),
                ("edge", ("ground", "panel", "field"), 3.0),
                ("panel", ("seam", "ink"), 4.5),
            ):
                for ground in grounds:
                    with self.subTest(theme=theme.name, ink=ink, ground=ground):
                        self.assertGreaterEqual(self.between(theme, ink, ground), least)

    def test_fields_have_an_edge_on_a_selected_card_too(self) -> None:
        for theme in THEMES:
            with self.subTest(theme=theme.name):
                self.assertGreaterEqual(self.between(theme, "edge", "selected"), 2.95)

    def test_chalk_is_of_high_contrast(self) -> None:
        # WCAG 2.2, 1.4.6: text at least 7.
        for ink in ("ink", "quiet", "seam", "outgoing_text", "incoming_text"):
            for ground in ("ground", "panel", "field"):
                self.assertGreaterEqual(self.between(CHALK, ink, ground), 7.0)

    def between(self, theme: Theme, ink: str, ground: str) -> float:
        return contrast(getattr(theme, ink), getattr(theme, ground))


class Unstyled(unittest.TestCase):
    def test_the_style_is_back_at_the_end_also_where_the_making_failed(self) -> None:
        app = application()
        sheet = app.styleSheet()
        self.assertTrue(sheet)
        with self.assertRaises(ZeroDivisionError), unstyled():
            self.assertEqual(app.styleSheet(), "")
            raise ZeroDivisionError
        self.assertEqual(app.styleSheet(), sheet)
