"""A row for a setting, without a document: it shows a value, and tells what is wanted of it."""

import unittest
from fractions import Fraction

from PyQt6.QtTest import QTest

from tests.ui.window_case import LEFT, application, type_into
from wrinkle.core.design.document.setting import Jitter, Setting
from wrinkle.core.design.document.setting_specs import MASK_SETTINGS, SETTINGS
from wrinkle.core.motion.track import Keyframe, Track
from wrinkle.core.picture.image import Size
from wrinkle.ui.shared.jitter_row import JitterRow
from wrinkle.ui.shared.setting_row import SettingRow

FRAME_SIZE = Size(1080, 1920)


class Rows(unittest.TestCase):
    def setUp(self) -> None:
        application()
        self.told: list[object] = []

    def row(self, spec, setting: Setting) -> SettingRow:  # type: ignore[no-untyped-def]
        row = SettingRow(spec)
        self.addCleanup(row.deleteLater)
        row.tie.committed.connect(self.told.append)
        row.tie.formulaTyped.connect(lambda text: self.told.append(f"= {text}"))
        row.laneWanted.connect(self.told.append)
        row.jitterWanted.connect(self.told.append)
        row.show()
        row.show_setting(setting, Fraction(0), FRAME_SIZE)
        return row

    def test_what_is_typed_and_pressed_is_told_and_changes_nothing_by_itself(self) -> None:
        row = self.row(SETTINGS["rotation"], Setting(30.0))
        self.assertEqual(row.tie.text, "30°")
        type_into(row.field, "45*2")
        type_into(row.field, "=t*9")
        QTest.mouseClick(row.lane_button, LEFT)
        QTest.mouseClick(row.jitter_button, LEFT)
        self.assertEqual(self.told, [90.0, "= t*9", True, True])

    def test_a_lane_and_jitter_are_seen_and_lengths_in_pixels_too(self) -> None:
        track = Track((Keyframe(Fraction(0), 5.0),))
        moving = Setting(0.0, track, Jitter(Setting(1.0)))
        row = self.row(MASK_SETTINGS["feather"], moving)
        self.assertTrue(row.lane_button.isChecked() and row.jitter_button.isChecked())
        self.assertEqual((row.tie.text, row.pixels.text()), ("5 %", "54 px"))
        row.show_setting(Setting(2.0), Fraction(0), FRAME_SIZE)
        self.assertFalse(row.lane_button.isChecked() or row.jitter_button.isChecked())
        self.assertEqual(row.pixels.text(), "22 px")

    def test_a_jitter_tells_the_whole_of_what_it_would_be(self) -> None:
        faults: list[str] = []
        jitter = Jitter(Setting(3.0), rate=12.0)
        row = JitterRow("Position", jitter)
        self.addCleanup(row.deleteLater)
        row.committed.connect(self.told.append)
        row.faulted.connect(faults.append)
        row.show()
        type_into(row.fields["seed"], "7")
        type_into(row.fields["rate"], "999")
        row.stepped.click()
        self.assertEqual(self.told[0], Jitter(Setting(3.0), rate=12.0, seed=7))
        self.assertTrue(self.told[1].stepped)  # type: ignore[attr-defined]
        self.assertIn("rate of jitter must be within", faults[0])
        self.assertEqual(row.fields["rate"].value, 12.0)
