"""Places that have nothing to show yet say what to do next, and do it at a press."""

from unittest import mock

from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog

from tests.ui.window_case import LEFT, WindowCase, demo_clip, settle, wait_for
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.edits import lane_edits
from wrinkle.library.samples import DEMO_PIECE


class EmptyPlaces(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.with_own_data()

    def test_the_cut_list_takes_clips_or_shows_the_demo_and_is_a_piece_of_its_own(self) -> None:
        self.window.places.go_to("cutlist")
        place, piece = self.window.places.place("cutlist"), self.desk.piece
        self.assertTrue(place.nothing.isVisible())
        clip = str(demo_clip("tail"))
        with mock.patch.object(QFileDialog, "getOpenFileNames", return_value=([clip], "")):
            QTest.mouseClick(place.nothing.buttons[0], LEFT)
        wait_for(lambda: len(piece.state.clips) == 1, "the clip")
        self.assertFalse(place.nothing.isVisible())
        self.act("edit.undo")
        self.assertTrue(place.nothing.isVisible())
        piece.mark_saved()
        content = DEMO_PIECE.read_bytes()
        QTest.mouseClick(place.nothing.buttons[2], LEFT)
        wait_for(lambda: len(piece.state.clips) == 8, "the demo")
        self.assertIsNone(piece.path, "it is not saved over what ships")
        self.assertEqual(DEMO_PIECE.read_bytes(), content)

    def test_export_leads_to_where_clips_come_from(self) -> None:
        self.desk.tried.show({})
        self.window.places.go_to("export")
        place = self.window.places.place("export")
        wait_for(place.nothing.isVisible, "what to do is said")
        self.assertFalse(place.add_button.isVisible(), "it would do nothing")
        QTest.mouseClick(place.nothing.buttons[1], LEFT)
        self.assertIs(self.window.places.shown, self.bench)
        self.desk.tried.begin({"outgoing": demo_clip("box_kite"), "incoming": demo_clip("pier")})
        wait_for(lambda: len(self.desk.tried.clips) == 2, "the clips")
        self.window.places.go_to("export")
        wait_for(place.add_button.isVisible, "there is something to write")
        self.assertFalse(place.nothing.isVisible())

    def test_a_layer_that_does_not_move_is_set_in_motion_by_a_press(self) -> None:
        empty = self.bench.timeline.empty
        self.desk.looking.select_layer("outgoing")
        settle()
        self.assertTrue(empty.isVisible())
        QTest.mouseClick(empty.buttons[2], LEFT)
        track = lane_edits.track_of(self.desk.document.state, SettingRef("outgoing", "rotation"))
        self.assertGreater(len(track.keys), 1)
        self.assertEqual([row.full_name for row in self.bench.timeline.rows], ["Rotation"])
        self.assertFalse(empty.isVisible())
        self.assertEqual(self.faults, [])
