"""What the checks find on wrinkles that are right, and on those that are not."""

import unittest

from tests.core.design.wrinkles import FRAME, turning
from wrinkle.core.design import archive, effect_edits, lane_edits
from wrinkle.core.design.setting_ref import SettingRef
from wrinkle.core.measure.registry import CHECKS, findings
from wrinkle.core.motion.track import CUT, IncomingHalf
from wrinkle.core.registering import by_key
from wrinkle.library import shipped

TURN = SettingRef("turn", "rotation")


class Checks(unittest.TestCase):
    def test_nothing_is_found_where_all_is_right(self) -> None:
        self.assertEqual(findings(turning()), [])
        for path in shipped().values():
            self.assertEqual(findings(archive.read(path).wrinkle), [], path.name)

    def test_a_lane_that_breaks_at_the_cut_is_named(self) -> None:
        own = lane_edits.set_incoming(turning(), TURN, IncomingHalf.OWN)
        (found,) = findings(lane_edits.set_value(own, TURN, CUT, 45.0))
        self.assertEqual((found.check, found.layer, found.address), ("seam", "turn", "rotation"))
        self.assertRegex(found.sentence, "^Rotation of Turn jumps.* at the cut.$")
        kinked = lane_edits.set_value(own, TURN, FRAME, 400.0)
        self.assertIn("changes its speed", findings(kinked)[0].sentence)

    def test_an_effect_that_lacks_something_is_named_while_it_is_on(self) -> None:
        wrinkle, use = effect_edits.add_effect(turning(), "turn", "lut")
        (found,) = findings(wrinkle)
        self.assertEqual(found.sentence, "LUT on Turn does nothing without a LUT.")
        off = effect_edits.change_effect(wrinkle, "turn", use, shown=False)
        self.assertEqual(findings(off), [])

    def test_what_is_declared_twice_is_an_error(self) -> None:
        with self.assertRaisesRegex(ValueError, "the check seam is declared twice"):
            by_key("check", [CHECKS["seam"], CHECKS["seam"]])
