"""What follows the picture is worked out before anybody presses."""

import threading
from unittest import mock

from tests.ui.cutlist.test_cutlist import PieceCase
from tests.ui.window_case import wait_for
from wrinkle.core.jobs import Urgency, WorkLine
from wrinkle.core.piece.running import windows
from wrinkle.core.sound.seen_motion import drawn_movement
from wrinkle.core.synthesis.samples import sample_at
from wrinkle.library import shipped


class Ahead(PieceCase):
    read_after = 20

    def settled(self) -> None:
        """Waits until how the picture moves was seen, and until all that was asked for is done."""
        wait_for(lambda: drawn_movement.cache_info().currsize > 0, "the picture was looked at")
        done: list[None] = []
        line = WorkLine(self.desk.workers.jobs, Urgency.WRITING, "", self.faults.append)
        self.addCleanup(line.close)
        line.put(lambda job: None, done.append)
        wait_for(lambda: bool(done), "nothing that is more urgent waits")

    def test_a_dressed_cut_and_the_bench_have_nothing_left_to_look_at_when_they_play(self) -> None:
        self.trimmed()
        drawn_movement.cache_clear()
        self.cutlist.dresser.put(shipped()["iris_zoom"], [self.piece.clips[1].id])
        self.settled()
        (window,) = windows(self.piece)
        film = self.cutlist.watch.film
        assert film is not None
        first = sample_at(self.piece.rate, window.first)

        def read() -> int:
            heard = self.cutlist.sound.heard
            assert heard is not None
            before = drawn_movement.cache_info().misses
            samples = heard.samples(first, sample_at(self.piece.rate, window.end) - first)
            self.assertGreater(float(abs(samples).max()), 0.01)
            return drawn_movement.cache_info().misses - before

        wait_for(lambda: read() == 0, "it is all there")
        self.window.places.go_to("bench")
        drawn_movement.cache_clear()
        self.desk.document.open(shipped()["clock_sweep"])
        self.settled()

    def test_who_presses_while_the_picture_is_looked_at_waits_for_nothing(self) -> None:
        gate = threading.Event()
        self.addCleanup(gate.set)
        self.window.places.go_to("bench")
        seen: list[int] = []
        self.desk.looking.playheadChanged.connect(lambda: seen.append(self.desk.looking.playhead))
        look = "wrinkle.core.sound.mixing.seen_movement"
        with mock.patch(look, side_effect=lambda *of: (gate.wait(), None)[1]):
            self.desk.document.open(shipped()["clock_sweep"])
            self.bench.transport.toggle()
            # Pictures follow the samples that the device has taken.
            wait_for(lambda: self.bench.sound.sounds and len(set(seen)) > 3, "it plays")
            gate.set()
            wait_for(lambda: any(abs(x.heard).max(initial=0.0) > 0.01 for x in self.devices),
                     "it has joined in")  # fmt: skip
            self.bench.transport.toggle()
