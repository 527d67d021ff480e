"""Short clips that a wrinkle carries: played in a slot, and refused where they cannot be."""

import tempfile
import unittest
from fractions import Fraction
from pathlib import Path
from unittest import mock

import av
import numpy as np
from msgspec.structs import replace

from tests.core.reuse.every_kind import material
from tests.media.clips import numbered_picture, write_numbered
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.slots import Slot, Unfilled
from wrinkle.core.design.document.sources import SlotSource
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.design.edits import layer_edits
from wrinkle.core.errors import MediaError
from wrinkle.core.picture.image import Size
from wrinkle.core.reuse.use import Use, showing
from wrinkle.core.store import Store
from wrinkle.files import archive
from wrinkle.media.assets import Assets, read_assets

SIZE = Size(112, 96)


class StandIns(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.fog = write_numbered(self.folder / "fog.mp4", 40).read_bytes()

    def test_the_clip_plays_in_its_slot_against_the_cut(self) -> None:
        slot = Slot("fog", "Fog", stand_in="fog.mp4", stand_in_cut=Fraction(1, 2),
                    unfilled=Unfilled.STAND_IN)  # fmt: skip
        wrinkle = replace(plain_cut("Fog"), slots=(*plain_cut().slots, slot))
        wrinkle = layer_edits.add_layer(wrinkle, "Fog", SlotSource("fog"))
        path = self.folder / "fog.wrinkle"
        archive.write(path, Bundle(wrinkle, {"fog.mp4": self.fog}))
        bundle = archive.read(path)
        carried = read_assets(bundle.assets, Store()).material({})
        shown = showing(Use(bundle.wrinkle, material().slots), carried, SIZE, wrinkle.frame_rate)
        for frame in (-9, 0, 8):
            wanted = numbered_picture(15 + frame, *SIZE).astype(float)
            found = shown.image(frame).to_bytes8()[..., :3].astype(float)
            self.assertLess(float(np.abs(found - wanted).mean()), 4.0, frame)

    def test_what_cannot_stand_in_is_refused_by_name(self) -> None:
        old = self.folder / "old.mkv"
        with av.open(str(old), "w") as container:
            stream = container.add_stream("mpeg4", rate=30)
            stream.width, stream.height = SIZE
            for number in range(3):
                picture = av.VideoFrame.from_ndarray(numbered_picture(number, *SIZE), "rgb24")
                container.mux(stream.encode(picture))
            container.mux(stream.encode(None))
        for name, content, told in (
            ("old.mkv", old.read_bytes(), "old.mkv cannot stand in: it is mpeg4, and not H.264"),
            ("torn.mp4", b"nothing", "torn.mp4"),
        ):
            with self.subTest(name), self.assertRaisesRegex(MediaError, told):
                Assets().with_asset(name, content)
        with (
            mock.patch("wrinkle.media.stand_in.LARGEST_STAND_IN", 1000),
            self.assertRaisesRegex(MediaError, "fog.mp4 is too large for a stand-in"),
        ):
            Assets().with_asset("fog.mp4", self.fog)
