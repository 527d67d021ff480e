"""Frames in the background: within the room there is, the nearest kept, and only what changed."""

import dataclasses
import itertools
import threading
import unittest
from collections.abc import Callable
from fractions import Fraction
from unittest import mock

from msgspec.structs import replace

from tests.core.design.wrinkles import FRAME, turning
from tests.core.render.test_render import Numbered
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import SlotSource, WordsSource
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.design.edits import grouping, lane_edits, layer_edits, time_edits
from wrinkle.core.jobs import Jobs, Urgency
from wrinkle.core.picture.image import Image, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render import compose
from wrinkle.core.render.frames import FINE, FrameViewer, Listener, Stage
from wrinkle.core.render.material import Filling, Material
from wrinkle.core.render.showing import Showing
from wrinkle.core.store import Store

SIZE = Size(27, 48)
BYTES = 27 * 48 * 4


class Counted(Numbered):
    """Counts its reads, and can be held up."""

    def __init__(self) -> None:
        super().__init__("counted", SIZE, 30, 90)
        self.read: list[int] = []
        self.gate = threading.Event()
        self.gate.set()
        self.meanwhile: Callable[[], None] = lambda: None

    def image(self, index: int, size: Size) -> Image:
        self.gate.wait(10)
        self.meanwhile()
        self.read.append(index)
        return super().image(index, size)


class Viewing(unittest.TestCase):
    def setUp(self) -> None:
        self.jobs = Jobs(2)
        self.addCleanup(self.jobs.stop)
        self.source = Counted()
        self.store = Store()
        self.came = threading.Condition()
        self.viewer = self.view()

    def view(self) -> FrameViewer:
        def ready(frame: int) -> None:
            with self.came:
                self.came.notify_all()

        return FrameViewer(self.jobs, self.store, Urgency.LOOKED_AT, Listener(ready))

    def showing(self, wrinkle, held: str = "") -> Showing:  # type: ignore[no-untyped-def]
        filling = Filling(self.source, Fraction(3, 2))
        slots = {"outgoing": filling, "incoming": filling}
        material = Material(slots, store=self.store)
        return Showing(wrinkle, material, SIZE, Quality.PREVIEW, held)

    def all_ready(self, viewer: FrameViewer | None = None) -> None:
        viewer = viewer or self.viewer
        with self.came:
            self.assertTrue(self.came.wait_for(lambda: viewer.all_ready, 20))

    def test_a_long_window_stays_within_the_budget_and_keeps_what_is_near(self) -> None:
        self.store.budget = 40 * BYTES
        long = replace(plain_cut(), lead=Fraction(30), tail=Fraction(30))
        frames = long.frames
        self.assertEqual(len(frames), 1800)
        self.viewer.ask(self.showing(long), frames, 100)
        self.all_ready()
        self.assertLessEqual(self.store.used, self.store.budget)
        kept = [n for n in frames if self.viewer.frame(n) is not None]
        self.assertEqual(kept, list(range(90, 110)))
        self.viewer.focus_on(-200)
        self.assertFalse(self.viewer.all_ready)
        self.all_ready()
        self.assertEqual([n for n in frames if self.viewer.is_ready(n)], list(range(-210, -190)))
        self.assertLessEqual(self.store.used, self.store.budget)

    def test_two_views_of_the_same_share_what_is_made(self) -> None:
        wrinkle = turning()
        self.viewer.ask(self.showing(wrinkle), wrinkle.frames, 0)
        self.all_ready()
        count = len(self.source.read)
        other = self.view()
        other.ask(self.showing(wrinkle), wrinkle.frames, 0)
        self.all_ready(other)
        self.assertEqual(len(self.source.read), count)
        self.assertIs(other.frame(3), self.viewer.frame(3))

    def test_what_lies_below_the_layer_that_is_changed_is_not_drawn_again(self) -> None:
        wrinkle = layer_edits.add_layer(plain_cut(), "Again", SlotSource("incoming"))
        wrinkle = layer_edits.add_layer(wrinkle, "Words", WordsSource("Kite"))
        words = SettingRef("words", "opacity")
        grouped = grouping.group_layers(wrinkle, [layer.id for layer in wrinkle.layers])
        # Both layers show the same picture of the clip, which is read once for each frame.
        large = [(0, "", 12), (0, "words", 0)]
        # Of drafts each layer is kept.
        drafts = [(1 << 16, "", 0)]
        cases = itertools.product((wrinkle, grouped), large + drafts)
        for shown, (draft, held, drawn_again) in cases:
            self.store.clear()
            with mock.patch.object(compose, "_DRAFT", draft):
                self.viewer.ask(self.showing(shown, held), range(12), 0)
                self.all_ready()
                self.source.read.clear()
                opacity = 50.0 if held else 60.0
                changed = lane_edits.set_value(shown, words, 0 * FRAME, opacity)
                self.viewer.ask(self.showing(changed, held), range(12), 0)
                self.all_ready()
            self.assertEqual(len(self.source.read), drawn_again, held)

    def test_whoever_looks_for_work_ranks_only_what_changed_since(self) -> None:
        viewer, showing = self.idle(), self.showing(turning(10.0))
        frames = showing.wrinkle.frames
        with mock.patch.object(Showing, "is_beside", return_value=False) as ranked:
            viewer.ask(showing, frames, 0)
            for _ in range(20):
                viewer.urgency()
            once = ranked.call_count
            self.assertLessEqual(once, 2 * len(frames))
            viewer.take()
            viewer.urgency()
            self.assertEqual(ranked.call_count, once)
            # Another frame is looked at: all are ranked anew, and it comes first.
            viewer.focus_on(5)
            self.assertEqual(viewer.urgency(), (Urgency.LOOKED_AT, Stage.FINE - 2.0))
            self.assertGreater(ranked.call_count, once)

    def test_pictures_of_older_moves_are_shown_but_never_after_newer_ones(self) -> None:
        viewer = self.idle()
        told: list[Callable[[], None]] = []
        with mock.patch.object(self.idle_jobs, "deliver", side_effect=told.append):
            for degrees in (10.0, 20.0, 30.0):
                viewer.ask(self.showing(turning(degrees)), (-1,), -1)
                viewer.take()()
        oldest, older, newest = told
        oldest()
        self.assertIsNotNone(viewer.frame(-1), "rather an older move than none")
        newest()
        newer = viewer.frame(-1)
        older()
        self.assertIs(viewer.frame(-1), newer)
        viewer.forget()
        older()
        self.assertIsNone(viewer.frame(-1), "it belongs to another document")

    def test_all_is_seen_roughly_before_it_is_fine_and_what_is_looked_at_first(self) -> None:
        size = Size(450, 800)
        showing = dataclasses.replace(self.showing(turning()), size=size)
        seen: list[tuple[int, Size]] = []

        def ready(frame: int) -> None:
            with self.came:
                found = self.viewer.frame(frame)
                assert found is not None
                seen.append((frame, found.size))
                self.came.notify_all()

        jobs = Jobs(1)
        self.addCleanup(jobs.stop)
        self.viewer = FrameViewer(jobs, self.store, Urgency.LOOKED_AT, Listener(ready))
        # Frames around the window come last of all.
        self.viewer.ask(showing, range(-2, 14), 2)
        self.all_ready()
        rough = Size(225, 400)
        inside = sorted((n for n in range(-2, 12) if n != 2), key=lambda n: (abs(n - 2), n))
        wanted = [(2, rough), (2, size)]
        wanted += [(n, rough) for n in inside] + [(n, size) for n in inside]
        self.assertEqual(seen[: len(wanted)], wanted)
        self.assertEqual({n for n, _ in seen[len(wanted) :]}, {12, 13})
        self.assertEqual(self.store.used_by_frames, 16 * 450 * 800 * 4, "rough ones are gone")

    def test_what_is_seen_elsewhere_comes_before_frames_that_only_playing_shows(self) -> None:
        viewer = self.idle()
        viewer.ask(self.showing(turning()), range(-5, 6), 0)
        first = viewer.urgency()
        assert first is not None
        self.assertEqual(first[0], Urgency.LOOKED_AT)
        viewer.take()
        while (found := viewer.urgency()) is not None and found[0] == Urgency.LOOKED_AT:
            viewer.take()
        rest = viewer.urgency()
        assert rest is not None
        self.assertGreater(rest[0], Urgency.SOURCES)
        # While it plays they are about to be seen, and in a place that is hidden nobody sees them.
        viewer.hurry(True)
        hurried = viewer.urgency()
        assert hurried is not None
        self.assertEqual(hurried[0], Urgency.LOOKED_AT)
        viewer.be_seen(False)
        hidden = viewer.urgency()
        assert hidden is not None
        self.assertGreater(hidden[0], Urgency.TILES)

    def test_a_rough_frame_that_comes_again_or_late_loses_no_picture(self) -> None:
        now = [100.0]
        viewer = self.idle(lambda: now[0])
        showing = dataclasses.replace(self.showing(turning()), size=Size(450, 800))
        self.store.budget = 4 * 450 * 800 * 4
        # The second one is dragged, and the third is the same again.
        for size in (Size(225, 400), Size(113, 200), Size(113, 200)):
            viewer.ask(showing, range(-12, 12), -1)
            viewer.take()()
            self.assertEqual(viewer.frame(-1).size, size)
        # There is room for few, and its plans are forgotten while others are nearer.
        now[0] += 0.1
        late = viewer.take()
        viewer.focus_on(11)
        late()
        self.assertEqual(viewer.frame(-1).size, Size(450, 800))

    def idle(self, clock: Callable[[], float] = lambda: 100.0) -> FrameViewer:
        """A viewer whose pieces the test makes itself."""
        self.idle_jobs = Jobs(1)
        self.addCleanup(self.idle_jobs.stop)
        with mock.patch.object(self.idle_jobs, "add"):
            return FrameViewer(self.idle_jobs, self.store, Urgency.LOOKED_AT, Listener(id), clock)

    def test_a_fine_picture_that_nobody_wants_any_more_is_given_up_between_its_layers(self) -> None:
        viewer = self.idle()
        wrinkle = layer_edits.add_layer(plain_cut(), "Again", SlotSource("incoming"))
        again = SettingRef(wrinkle.layers[-1].id, "rotation")
        wrinkle = lane_edits.set_value(wrinkle, again, 0 * FRAME, 9.0)
        wrinkle = time_edits.set_timing(wrinkle, again.layer, slide=FRAME)
        newer = replace(wrinkle, shutter_angle=90.0)
        for asked_anew in (False, True):
            viewer.ask(self.showing(wrinkle), (3,), 3)
            piece = viewer.take()
            self.source.read.clear()
            self.source.meanwhile = lambda: viewer.ask(self.showing(newer), (3,), 3)
            if not asked_anew:
                self.source.meanwhile = lambda: None
            piece()
            self.assertEqual(len(self.source.read), 1 if asked_anew else 2)
            self.assertEqual(viewer.is_ready(3), not asked_anew)
            self.store.clear()
        self.source.meanwhile = lambda: None
        viewer.take()()
        self.assertTrue(viewer.is_ready(3), "the newer one is made")

    def test_the_first_move_of_a_drag_asks_for_a_draft_alone(self) -> None:
        viewer = self.idle()
        showing = dataclasses.replace(self.showing(turning()), size=Size(450, 800))
        viewer.ask(showing, range(-12, 12), -1, None, True)
        viewer.take()()
        self.assertEqual(viewer.frame(-1).size, Size(113, 200))
        self.assertIsNone(viewer.urgency(), "all else waits until it stands still")

    def test_while_something_is_dragged_only_the_frame_that_is_looked_at_keeps_up(self) -> None:
        now = [100.0]
        viewer = self.idle(lambda: now[0])
        showing = dataclasses.replace(self.showing(turning()), size=Size(450, 800))
        viewer.ask(showing, range(-12, 12), -1)
        for _ in (Stage.ROUGH, Stage.FINE):
            self.assertLess(viewer.urgency()[1], 0.0)
            viewer.take()
        self.assertEqual(viewer.urgency()[1] % FINE, 1.0)
        now[0] += 0.02
        viewer.ask(showing, range(-12, 12), -1)
        self.assertLess(viewer.urgency()[1], 0.0)
        viewer.take()
        self.assertIsNone(viewer.urgency(), "all else waits until it stands still")
        self.assertAlmostEqual(viewer.rests_for(), 0.07)
        now[0] += 0.071
        self.assertEqual((viewer.urgency(), viewer.rests_for()), ((Urgency.LOOKED_AT, -1.0), None))
        fine = viewer.take()
        self.assertEqual((viewer.urgency(), viewer.rests_for()), (None, None), "it comes alone")
        with mock.patch.object(self.idle_jobs.strips, "map", side_effect=map) as spread:
            fine()
        self.assertTrue(spread.called, "nobody else works meanwhile: its strips are shared out")
        self.assertEqual(viewer.frame(-1).size, showing.size)
        self.assertEqual(viewer.urgency()[1] % FINE, 1.0)
