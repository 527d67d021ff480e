"""Where things stand in a lane and on the picture, without a window."""

import unittest
from fractions import Fraction

from PyQt6.QtCore import QPointF, QRectF

from tests.core.design.wrinkles import FRAME, turning
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.edits import lane_edits, layer_edits
from wrinkle.core.motion.easing import Bezier, Hold
from wrinkle.core.motion.track import Side
from wrinkle.core.picture.image import Size
from wrinkle.ui.bench.lanes.lane_geometry import LaneGeometry, value_range
from wrinkle.ui.bench.picture.picture_handles import Drag, Grip, PictureHandles
from wrinkle.ui.desk.looking import PinChoice
from wrinkle.ui.shared.frame_axis import FrameAxis

TURN = SettingRef("turn", "rotation")
AXIS = FrameAxis(-12, 12, 10.0, 480.0)


def lane(wrinkle=None) -> LaneGeometry:  # type: ignore[no-untyped-def]
    setting = TURN.of(wrinkle or turning())
    spec = TURN.spec(wrinkle or turning())
    low, high = value_range(setting, spec)
    return LaneGeometry(TURN, spec, setting, Fraction(30), AXIS, 76, low, high)


class Axis(unittest.TestCase):
    def test_frames_and_places_name_each_other(self) -> None:
        for frame in range(-12, 12):
            self.assertEqual(AXIS.frame_under(AXIS.x(frame) + 1), frame)
            self.assertAlmostEqual(AXIS.frame(AXIS.x(frame + 0.25)), frame + 0.25)
        self.assertEqual((AXIS.frame_under(-99), AXIS.frame_under(999)), (-12, 11))

    def test_numbers_have_room(self) -> None:
        for count in (1, 6, 24, 60, 600, 7200):
            axis = FrameAxis(-count, count, 0.0, 700.0)
            self.assertGreaterEqual(axis.label_step * axis.cell, 26)


class Lanes(unittest.TestCase):
    def test_numbers_and_heights_name_each_other(self) -> None:
        geometry = lane()
        for number in (-90.0, 0.0, 37.5, 90.0):
            self.assertAlmostEqual(geometry.number_at(geometry.y(number)), number)
        self.assertGreater(geometry.y(-90.0), geometry.y(90.0))

    def test_a_dragged_handle_gives_the_ease_that_shows_it_there(self) -> None:
        pin = PinChoice(TURN, 0, Side.OUTGOING)
        for number in (0, 1):
            goal = QPointF(AXIS.x(-5), lane().y(40.0))
            ease = lane().ease_with(pin, number, goal)
            bent = lane_edits.set_ease(turning(), TURN, 0, ease)
            spot = lane(bent).handles(pin)[number].spot
            self.assertAlmostEqual(spot.x(), goal.x(), delta=0.5)
            self.assertAlmostEqual(spot.y(), goal.y(), delta=0.1)
        outside = lane().ease_with(pin, 0, QPointF(-500, 0))
        self.assertEqual(outside.x1, 0.0)

    def test_an_even_pace_can_be_bent_a_hold_and_the_last_pin_cannot(self) -> None:
        pin, last = PinChoice(TURN, 0, Side.OUTGOING), PinChoice(TURN, 1, Side.OUTGOING)
        self.assertEqual(len(lane(lane_edits.set_ease(turning(), TURN, 0, Bezier(0, 0, 1, 1)))
                             .handles(pin)), 2)  # fmt: skip
        held = lane(lane_edits.set_ease(turning(), TURN, 0, Hold()))
        self.assertEqual(held.handles(pin), [])
        self.assertIsNone(held.ease_with(pin, 0, QPointF(0, 0)))
        self.assertEqual(lane().handles(last), [])

    def test_a_spot_on_the_curve_belongs_to_the_pin_before_it(self) -> None:
        geometry = lane()
        for frame, side in ((-6, Side.OUTGOING), (6, Side.INCOMING)):
            value = geometry.setting.at(frame * FRAME)
            found = geometry.pin_before(QPointF(AXIS.x(frame), geometry.y(value)))
            self.assertEqual(found, PinChoice(TURN, 0, side))
        self.assertIsNone(geometry.pin_before(QPointF(AXIS.x(-6), geometry.y(90.0))))

    def test_speeds_of_both_sides_are_drawn_on_one_scale(self) -> None:
        before, after = lane().speed_curves(0)
        self.assertAlmostEqual(before[-1].y(), after[0].y(), delta=0.01)
        self.assertAlmostEqual(before[0].y(), 38.0, delta=0.5)


class OnThePicture(unittest.TestCase):
    def handles(self, wrinkle, layer: str = "turn", frame: int = -6) -> PictureHandles:  # type: ignore[no-untyped-def]
        area = QRectF(100, 50, 108, 192)
        return PictureHandles(wrinkle, wrinkle.layer(layer), frame * FRAME, Size(1080, 1920), area)

    def test_the_unmoved_layer_has_the_frame_for_its_outline(self) -> None:
        corners = self.handles(turning(0.0)).corners()
        self.assertEqual((corners[0].x(), corners[0].y()), (100.0, 50.0))
        self.assertEqual((corners[2].x(), corners[2].y()), (208.0, 242.0))
        self.assertEqual(self.handles(turning(0.0)).path_pins(), [])

    def test_grips_are_found_where_they_are_drawn(self) -> None:
        handles = self.handles(turning(0.0))
        for spot, grip in (
            (handles.turn_handle(), Grip.TURN),
            (handles.corners()[3], Grip.SCALE),
            (handles.anchor() + QPointF(15, 15), Grip.MOVE),
        ):
            self.assertIs(handles.grasp(spot).grip, grip)
        self.assertIsNone(handles.grasp(QPointF(0, 0)))
        large = lane_edits.set_value(
            turning(0.0), SettingRef("turn", "scale"), FRAME, (300.0, 300.0)
        )
        for spot in (self.handles(large).turn_handle(), *self.handles(large).scale_handles()):
            self.assertTrue(self.handles(large).area.contains(spot), "within reach at any size")

    def test_a_child_of_a_turned_parent_follows_the_pointer(self) -> None:
        wrinkle = layer_edits.change_layer(turning(0.0), "outgoing", parent="turn")
        wrinkle = lane_edits.set_value(wrinkle, TURN, -6 * FRAME, 90.0)
        handles = self.handles(wrinkle, "outgoing")
        start = handles.anchor() + QPointF(15, 15)
        moved = handles.dragged(handles.grasp(start), start + QPointF(20, 11), Drag(free=True))
        after = self.handles(moved, "outgoing").anchor() - handles.anchor()
        self.assertAlmostEqual(after.x(), 20.0, delta=0.2)
        self.assertAlmostEqual(after.y(), 11.0, delta=0.2)

    def test_shift_turns_and_scales_in_whole_steps_and_moves_along_one_axis(self) -> None:
        wrinkle = lane_edits.drop_lane(turning(0.0), TURN, FRAME)
        handles = self.handles(wrinkle)
        anchor = handles.anchor()
        turned = handles.dragged(
            handles.grasp(handles.turn_handle()), anchor + QPointF(40, -100), Drag(stepped=True)
        )
        self.assertEqual(turned.layer("turn").placement.rotation.rest, 15.0)
        corner = handles.corners()[2]
        scaled = handles.dragged(
            handles.grasp(corner), anchor + (corner - anchor) * 1.23, Drag(stepped=True)
        )
        self.assertEqual(scaled.layer("turn").placement.scale.rest, (125.0, 125.0))
        start = anchor + QPointF(15, 15)
        moved = handles.dragged(
            handles.grasp(start), start + QPointF(30, 9), Drag(stepped=True, free=True)
        )
        x, y = moved.layer("turn").placement.position.rest
        self.assertAlmostEqual(x, 30 / 108, delta=1e-3)
        self.assertEqual(y, 0.0)
