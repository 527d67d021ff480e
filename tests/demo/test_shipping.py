"""What ships ready drawn is what the program draws."""

import json
import tempfile
import unittest
from collections.abc import Iterator
from itertools import islice
from pathlib import Path

import av
import numpy as np

from recipes.stand_ins import CARRIED
from wrinkle.demo.clips import FULL_SIZE, draw_scene, drawing_sum
from wrinkle.demo.extras import fog_frames, ink_frames
from wrinkle.demo.kite_day import kite_day
from wrinkle.demo.scenes import SCENES
from wrinkle.demo.shipping import SUMS, drawings
from wrinkle.library import FOLDER
from wrinkle.library.samples import DEMO, DEMO_CLIPS, DEMO_PIECE
from wrinkle.media.clip import Clip
from wrinkle.timeline.piece_file import PieceFile
from wrinkle.timeline.writing import timeline_of

MOST_BYTES = 1_500_000
NEAR = 6.0
"""Levels of mean difference: grain has 1.8, fine cloth in a small file 4.6; scenes differ by 40."""


def pictures(path: Path, step: int, first: int = 0) -> Iterator[np.ndarray]:
    """Every so manieth picture of a file from one on, RGB."""
    with av.open(str(path)) as container:
        for frame in islice(container.decode(video=0), first, None, step):
            yield frame.to_ndarray(format="rgb24").astype(int)


class Shipping(unittest.TestCase):
    def test_each_clip_of_the_demo_is_a_small_file_of_what_is_drawn(self) -> None:
        self.assertEqual(list(DEMO_CLIPS), list(SCENES))
        known = json.loads(SUMS.read_text())
        for place, (name, path) in enumerate(DEMO_CLIPS.items()):
            with self.subTest(name):
                self.assertLess(path.stat().st_size, MOST_BYTES)
                clip = Clip(path)
                self.addCleanup(clip.close)
                self.assertEqual((clip.size, clip.facts.frame_count), (FULL_SIZE, 96))
                self.assertEqual(drawing_sum(name), known[name], "the scene has changed")
                number = 8 * (place % 4)
                shown = next(pictures(path, 1, number))
                drawn = draw_scene(name, number / 30.0, FULL_SIZE)
                self.assertLess(float(np.abs(shown - drawn).mean()), NEAR)

    def test_every_other_file_is_there_and_is_what_is_drawn(self) -> None:
        for path in drawings():
            self.assertTrue(0 < path.stat().st_size < MOST_BYTES, path.name)
        for name, drawn in (("sea_fog.mp4", fog_frames()), ("ink.mp4", ink_frames())):
            wanted = islice(drawn, 0, None, 12)
            for shown, picture in zip(pictures(DEMO / name, 12), wanted, strict=True):
                self.assertLess(float(np.abs(shown - picture).mean()), NEAR, name)

    def test_the_piece_is_what_is_made_of_the_clips(self) -> None:
        made = timeline_of(kite_day(), PieceFile(), DEMO)
        self.assertEqual(made.to_json_string(indent=2), DEMO_PIECE.read_text())

    def test_what_wrinkles_carry_is_what_is_drawn(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            for name, draw in CARRIED.items():
                kept = FOLDER / "wrinkles" / name
                with self.subTest(name):
                    if kept.suffix != ".mp4":
                        draw(Path(folder) / kept.name)
                        self.assertEqual((Path(folder) / kept.name).read_bytes(), kept.read_bytes())
                    else:
                        frames = fog_frames() if kept.stem == "fog" else ink_frames()
                        drawn = islice(frames, 0, None, 24)
                        for shown, wanted in zip(pictures(kept, 24), drawn, strict=True):
                            self.assertLess(float(np.abs(shown - wanted).mean()), NEAR)
