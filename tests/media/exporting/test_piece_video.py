"""A piece as a video: frames that are a clip's own go by untouched, and who draws does not show."""

from dataclasses import replace
from fractions import Fraction
from pathlib import Path
from typing import Any
from unittest import mock

import av
import numpy as np
from av.video.reformatter import Colorspace

from tests.media.clips import Files, number_of, numbered_picture
from wrinkle import library
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture.image import Image, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.film import Film
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.store import Store
from wrinkle.core.time.rate import FrameRate
from wrinkle.library.films import opened_film
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.exporting.piece_video import film_output
from wrinkle.media.output.formats import FORMATS
from wrinkle.media.output.output import write_output
from wrinkle.media.output.rendition import Rendition

SIZE = Size(112, 96)
COUNT = 60


def write_tagged(path: Path, matrix: Colorspace = Colorspace.ITU709) -> Path:
    """A clip with numbers, whose colours are tagged; no two frames of it are the same."""
    with av.open(str(path), "w") as container:
        stream = container.add_stream("libx264", rate=30)
        stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv420p"
        stream.options = {"bf": "3", "g": "12", "crf": "12"}
        stream.codec_context.colorspace = matrix
        for number in range(COUNT):
            frame = av.VideoFrame.from_ndarray(numbered_picture(number, *SIZE), "rgb24")
            frame = frame.reformat(format="yuv420p", dst_colorspace=matrix)
            frame.pts = number
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
    return path


class PlainFrames(Files):
    def film(self, *clips: PieceClip) -> Film:
        pool = ClipPool(Store())
        self.addCleanup(pool.close)
        piece = Piece("Plain", SIZE, FrameRate.parse("30"), clips)
        return opened_film(piece, pool, Store(), Quality.FINAL)

    def clip(self, key: str, path: Path, **fields: object) -> PieceClip:
        media = Media(str(path), path.name, Fraction(2), SIZE)
        start, end = Fraction(1, 3), Fraction(4, 3)
        return PieceClip(key, key, media, start, end, **fields)  # type: ignore[arg-type]

    def test_a_clips_own_frames_are_those_that_would_be_drawn_and_are_not_touched(self) -> None:
        path = write_tagged(self.folder / "tagged.mp4")
        film = self.film(
            self.clip("as filmed", path),
            self.clip("fast", path, speed=Fraction(3, 2)),
            self.clip("back", path, reverse=True),
            self.clip("still", path, frozen=True),
            self.clip("dressed", path, entry=PieceUse(library.find("Half turn"))),
        )
        output = film_output(self.folder / "x.mp4", film)
        with av.open(str(path)) as container:
            own = [frame.to_ndarray() for frame in container.decode(video=0)]
        by = drawn = 0
        for number in output.frames:
            found = output.decoded(number)
            if film.is_costly(number):
                self.assertIsNone(found)
                drawn += 1
                continue
            by += 1
            seen = number_of(film.image(number).to_bytes8()[..., :3])
            np.testing.assert_array_equal(output.frame(number).to_ndarray(), own[seen])
        self.assertGreater(by, 90)
        self.assertGreater(drawn, 10)

    def test_what_would_look_otherwise_is_drawn(self) -> None:
        usual = write_tagged(self.folder / "usual.mp4")
        other = write_tagged(self.folder / "other.mp4", Colorspace.ITU601)
        for path, size, sent, by in (
            (usual, SIZE, "h264", True),
            (usual, SIZE, "prores422", True),
            (usual, SIZE, "ffv1", False),
            (usual, Size(56, 48), "h264", False),
            (other, SIZE, "h264", False),
        ):
            film = self.film(self.clip("one", path)).resized(size)
            form = FORMATS[sent]
            output = film_output(self.folder / f"x{form.suffix}", film, Rendition(form))
            drawn = replace(output, decoded=lambda number: None)
            calm = np.abs(
                output.frame(5).to_ndarray(format="rgb24").astype(int)
                - drawn.frame(5).to_ndarray(format="rgb24")
            )
            self.assertEqual(output.decoded(5) is not None and sent != "ffv1", by, (sent, size))
            # Its own picture and the one that is drawn differ by rounding alone.
            self.assertLess(calm.mean(), 1.5)

    def test_the_file_tells_the_numbers_in_order(self) -> None:
        path = write_tagged(self.folder / "tagged.mp4")
        film = self.film(self.clip("a", path), self.clip("b", path, reverse=True))
        out = self.folder / "out.mp4"
        jobs = Jobs(3)
        self.addCleanup(jobs.stop)
        self.assertEqual(write_output(film_output(out, film), jobs, Job()), 60)
        with av.open(str(out)) as container:
            found = [number_of(x.to_ndarray(format="rgb24")) for x in container.decode(video=0)]
        self.assertEqual(found, [*range(10, 40), *range(39, 9, -1)])

    def test_what_was_drawn_for_one_file_is_not_drawn_again_for_the_next(self) -> None:
        path = write_tagged(self.folder / "tagged.mp4")
        use = PieceUse(library.find("Half turn"))
        film = self.film(self.clip("a", path), self.clip("b", path, entry=use))
        jobs = Jobs(2)
        self.addCleanup(jobs.stop)
        drawn: list[int] = []
        real = Film.drawn

        def noted(self: Film, frame: int, *rest: Any) -> Image:
            drawn.append(frame)
            return real(self, frame, *rest)

        with mock.patch.object(Film, "drawn", noted):
            counts, packets = [], []
            for key, depth in (("ffv1", 8), ("ffv1", 8), ("h264", 8), ("ffv1", 10)):
                drawn.clear()
                out = self.folder / f"{len(counts)}{FORMATS[key].suffix}"
                kind = Rendition(FORMATS[key], depth)
                write_output(film_output(out, film, kind), jobs, Job())
                counts.append(sum(film.is_costly(x) for x in drawn))
                with av.open(str(out)) as container:
                    packets.append([bytes(x) for x in container.demux(video=0) if x.size])
        window = sum(map(film.is_costly, film.frames))
        # More than 8 bits are drawn anew: what is kept has no more.
        self.assertEqual(counts, [window, 0, 0, window])
        self.assertEqual(packets[0], packets[1])

    def test_bytes_do_not_depend_on_the_number_of_threads(self) -> None:
        path = write_tagged(self.folder / "tagged.mp4")
        use = PieceUse(library.find("Spiral in"))
        film = self.film(self.clip("a", path), self.clip("b", path, entry=use))
        kinds = Rendition(FORMATS["ffv1"], 16), Rendition(FORMATS["prores422"])
        for kind in kinds:
            packets = []
            for workers in (1, 2, 5):
                jobs = Jobs(workers)
                self.addCleanup(jobs.stop)
                film = replace(film, store=Store())
                out = self.folder / f"{workers}{kind.form.suffix}"
                write_output(film_output(out, film, kind), jobs, Job())
                with av.open(str(out)) as container:
                    packets.append([bytes(x) for x in container.demux() if x.size])
            self.assertGreater(len(packets[0]), 60)
            self.assertEqual(packets[0], packets[1])
            self.assertEqual(packets[0], packets[2])
