"""Timelines: read, written back unchanged, and opened by the library that defines the format."""

import json
import tempfile
import unittest
from collections.abc import Callable, Iterator
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import opentimelineio as otio
from opentimelineio import schema
from opentimelineio.opentime import RationalTime, TimeRange

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.errors import InputError
from wrinkle.core.motion.direction import Direction
from wrinkle.core.picture.fit import Fit
from wrinkle.core.picture.image import Size
from wrinkle.core.piece import dressing, edits
from wrinkle.core.piece.document import Marker, Piece
from wrinkle.core.piece.media import STILL_LASTS, Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.reuse.use import Choices
from wrinkle.core.time.rate import FrameRate
from wrinkle.files.archive import read
from wrinkle.library import shipped
from wrinkle.library.samples import DEMO_CLIPS
from wrinkle.timeline.files import read_piece, write_piece
from wrinkle.timeline.piece_file import PieceFile

RATE = 24.0


def at(value: float, rate: float = RATE) -> RationalTime:
    return RationalTime(value, rate)


def span(start: float, length: float, rate: float = RATE) -> TimeRange:
    return TimeRange(at(start, rate), at(length, rate))


def clip(name: str = "a", start: float = 10, length: float = 20, rate: float = RATE) -> schema.Clip:
    reference = schema.ExternalReference(f"films/{name}.mov", span(0, 100, rate))
    return schema.Clip(name, reference, span(start, length, rate))


def nested(kind: type, *children: object) -> object:
    made = kind("nest")
    made.extend(children)
    return made


def with_(made: schema.Clip, **fields: object) -> schema.Clip:
    for name, value in fields.items():
        held = getattr(made, name)
        if name in ("effects", "markers"):
            held.extend(value)
        elif name == "metadata":
            held.update(value)
        else:
            setattr(made, name, value)
    return made


def crossing(lead: float = 4, tail: float = 6, **fields: object) -> schema.Transition:
    return schema.Transition("fade", "SMPTE_Dissolve", at(lead), at(tail), **fields)


def shapes() -> Iterator[tuple[str, Callable[[], list[object]]]]:
    """What a track may hold, by writers who know nothing of Wrinkle."""
    yield "nothing", lambda: []
    yield "one clip", lambda: [clip()]
    yield "two clips", lambda: [clip(), clip("b")]
    yield "a gap between", lambda: [clip(), schema.Gap(source_range=span(0, 9)), clip("b")]
    yield "a gap first", lambda: [schema.Gap("pause", source_range=span(0, 9)), clip()]
    yield "a gap of no length", lambda: [clip(), schema.Gap(), clip("b")]
    yield "a crossfade", lambda: [clip(), crossing(), clip("b")]
    yield "a crossfade on one side", lambda: [clip(), crossing(0, 6), clip("b")]
    yield "a transition of no length", lambda: [clip(), crossing(0, 0), clip("b")]
    yield "a transition at the start", lambda: [crossing(), clip()]
    yield "a transition at the end", lambda: [clip(), crossing()]
    yield "an unknown transition", lambda: [
        clip(), schema.Transition("star", "Custom_Transition", at(2), at(2), {"x": {"y": [1]}}),
        clip("b"),
    ]  # fmt: skip
    yield "a nested track", lambda: [clip(), nested(schema.Track, clip("b"), clip("c"))]
    yield "a nested stack", lambda: [nested(schema.Stack, clip("b"), clip("c")), clip()]
    yield (
        "a trimmed nest",
        lambda: [
            with_(nested(schema.Track, clip("b"), clip("c")), source_range=span(5, 25))  # type: ignore[arg-type]
        ],
    )
    yield (
        "deep nests",
        lambda: [
            nested(schema.Stack, nested(schema.Track, nested(schema.Stack, clip()), clip("b")))
        ],
    )
    yield "an empty nest", lambda: [schema.Stack("empty"), clip()]
    yield "a slowed clip", lambda: [with_(clip(), effects=[schema.LinearTimeWarp(time_scalar=0.5)])]
    yield (
        "a reversed clip",
        lambda: [with_(clip("a", 40), effects=[schema.LinearTimeWarp(time_scalar=-1)])],
    )
    yield (
        "a speed of nothing",
        lambda: [with_(clip(), effects=[schema.LinearTimeWarp(time_scalar=0)])],
    )
    yield (
        "a speed beyond reason",
        lambda: [with_(clip(), effects=[schema.LinearTimeWarp(time_scalar=1e6)])],
    )
    yield "a frozen clip", lambda: [with_(clip(), effects=[schema.FreezeFrame()])]
    yield (
        "effects of others",
        lambda: [with_(clip(), effects=[schema.Effect("halo", "Halo", {"strength": 3})])],
    )
    yield "markers on a clip", lambda: [with_(clip(), markers=[schema.Marker("beat", span(12, 1))])]
    yield "metadata of others", lambda: [with_(clip(), metadata={"them": {"deep": [1, None, "x"]}})]
    yield "a clip switched off", lambda: [with_(clip(), enabled=False), clip("b")]
    yield "no media", lambda: [schema.Clip("lost", schema.MissingReference(), span(0, 12))]
    yield "no reference at all", lambda: [schema.Clip("bare", None, span(0, 12))]
    yield (
        "a generator",
        lambda: [schema.Clip("bars", schema.GeneratorReference("bars", "Bars"), span(0, 12))],
    )
    yield (
        "numbered pictures",
        lambda: [
            schema.Clip(
                "seq", schema.ImageSequenceReference("shots/", "s", ".png", 1, 1, 24), span(0, 12)
            )
        ],
    )
    yield "rates mixed", lambda: [clip(), clip("b", 3, 50, 29.97), clip("c", 7, 9, 23.976)]
    yield "times in milliseconds", lambda: [clip("a", 400, 1500, 1000.0)]
    yield "a length unknown to all", lambda: [schema.Clip("odd", schema.ExternalReference("x.mov"))]
    yield "a range beyond its media", lambda: [clip("a", 90, 40)]
    yield "a range before its media", lambda: [clip("a", -5, 40)]
    yield (
        "media that begin at an hour",
        lambda: [
            schema.Clip("tc", schema.ExternalReference("tc.mov", span(86400, 100)), span(86410, 20))
        ],
    )
    yield (
        "odd addresses",
        lambda: [
            schema.Clip(
                "url", schema.ExternalReference("file:///films/a%20b%C3%A9.mov"), span(0, 9)
            ),
            schema.Clip("web", schema.ExternalReference("https://example.org/a.mov"), span(0, 9)),
        ],
    )
    yield "several media for a clip", lambda: [several()]


def every_kind() -> Iterator[object]:
    """All of these after one another."""
    for _, items in shapes():
        yield from items()


def several() -> schema.Clip:
    made = clip()
    small = schema.ExternalReference("small/a.mov", span(0, 100))
    made.set_media_references({"DEFAULT_MEDIA": made.media_reference, "small": small}, "small")
    return made


def timeline(items: list[object]) -> schema.Timeline:
    """A timeline by somebody else, with more in it than is shown."""
    made = schema.Timeline("theirs", global_start_time=at(86400))
    made.metadata["them"] = {"project": 7}
    sound = schema.Track("sound", kind=schema.TrackKind.Audio)
    sound.append(clip("voice"))
    shown = schema.Track("shown", kind=schema.TrackKind.Video)
    shown.extend(items)
    over = schema.Track("over", kind=schema.TrackKind.Video)
    over.append(clip("logo"))
    made.tracks.extend([sound, shown, over])
    made.tracks.markers.append(schema.Marker("start", span(24, 0)))
    return made


class Files(unittest.TestCase):
    def setUp(self) -> None:
        place = tempfile.TemporaryDirectory()
        self.addCleanup(place.cleanup)
        self.folder = Path(place.name)
        self.path = self.folder / "piece.otio"

    def kept(self, made: object) -> tuple[Piece, PieceFile]:
        otio.adapters.write_to_file(made, str(self.path))
        return read_piece(self.path)

    def test_what_others_wrote_is_written_back_as_it_was(self) -> None:
        number = 0
        for name, items in shapes():
            number += 1
            with self.subTest(name):
                piece, file = self.kept(timeline(items()))
                before = json.loads(self.path.read_text())
                write_piece(self.path, piece, file)
                self.assertEqual(json.loads(self.path.read_text()), before)
                self.assertIn("1 further video track", file.unseen)
                # What is changed elsewhere leaves it alone as well.
                longer = edits.add_clips(
                    piece, len(piece.clips), [Media("n.mov", "n", Fraction(1))]
                )
                write_piece(self.path, longer, file)
                after = json.loads(self.path.read_text())
                children = before["tracks"]["children"][1]["children"]
                kept = after["tracks"]["children"][1]["children"]
                self.assertEqual([x for x in kept if x in children], children)
                self.assertEqual(after["tracks"]["children"][2], before["tracks"]["children"][2])
        self.assertGreaterEqual(number, 30)

    def test_the_library_computes_the_ranges_that_are_shown(self) -> None:
        for name, items in shapes():
            piece, _ = self.kept(timeline(items()))
            track = otio.adapters.read_from_file(str(self.path)).tracks[1]
            if any(isinstance(x, schema.Transition) for x in track) or not len(track):
                continue
            lengths = [
                float(track.range_of_child(x).duration.to_seconds())
                for x in track
                if isinstance(x, schema.Clip)
                and not isinstance(x.media_reference, schema.MissingReference)
                and x.enabled and x.trimmed_range().duration.value > 0
            ] if "odd" not in [x.name for x in track] else []  # fmt: skip
            shown = [float(x.length) for x in piece.clips if x.media.path]
            if lengths and len(lengths) == len(shown) and name != "a speed beyond reason":
                for theirs, ours in zip(lengths, shown, strict=True):
                    self.assertAlmostEqual(theirs, ours, places=4, msg=name)
        piece, _ = self.kept(timeline([clip("tc", 30, 20)]))
        self.assertEqual((piece.clips[0].start, piece.rate.label), (Fraction(30, 24), "24"))

    def test_a_piece_of_ours_is_the_same_after_it_was_saved(self) -> None:
        piece = self.ours()
        write_piece(self.path, piece, PieceFile())
        again, file = read_piece(self.path)
        self.assertTrue(file.ours)
        self.assertEqual([*file.unseen], [])
        for before, after in zip(piece.clips, again.clips, strict=True):
            self.assertEqual(replace(after, id=before.id), before)
        self.assertEqual(replace(again, clips=()), replace(piece, clips=()))
        # Once more, with and without a change, and with the media in it.
        write_piece(self.path, again, file)
        self.assertEqual(read_piece(self.path)[0], again)
        shorter = edits.trim(again, again.clips[0].id, 2, 0)
        write_piece(self.path, shorter, file)
        self.assertEqual(read_piece(self.path)[0], shorter)
        bundle = self.folder / "piece.otioz"
        write_piece(bundle, again, file)
        packed, _ = read_piece(bundle)
        self.assertTrue(all(Path(x.media.path).is_file() for x in packed.clips))
        self.assertEqual(packed.starts, again.starts)

    def test_the_library_reads_what_was_written(self) -> None:
        piece = self.ours()
        write_piece(self.path, piece, PieceFile())
        found = otio.adapters.read_from_file(str(self.path))
        track = found.tracks[0]
        names = [(x.schema_name(), x.name) for x in track]
        self.assertEqual(names[:3], [
            ("Clip", "dunes"), ("Transition", "Half turn"), ("Clip", "box_kite")
        ])  # fmt: skip
        clips = [x for x in track if isinstance(x, schema.Clip)]
        # The library adds the lengths up by itself.
        starts = [track.range_of_child(x).start_time.value for x in clips]
        self.assertEqual(starts, [float(x) for x in piece.starts[:-1]])
        self.assertEqual(found.duration().value, piece.frame_count)
        turn = track[1]
        self.assertEqual((turn.in_offset.value, turn.out_offset.value), (9.0, 11.0))
        slow = clips[1].effects[0]
        self.assertEqual((slow.schema_name(), slow.time_scalar), ("LinearTimeWarp", -0.5))
        self.assertEqual(clips[2].effects[0].schema_name(), "FreezeFrame")
        self.assertEqual(found.tracks.markers[0].marked_range.start_time.value, 15.0)
        self.assertIn("Mine", found.metadata["wrinkle"]["wrinkles"])

    def ours(self) -> Piece:
        media = [
            Media(str(DEMO_CLIPS[x]), f"{x}.mp4", Fraction(5, 2), Size(720, 1280))
            for x in ("dunes", "box_kite", "tail", "pier")
        ]
        size = Size(720, 1280)
        piece = edits.add_clips(Piece("Day", size, FrameRate.of(30)), 0, media)
        for one in piece.clips:
            piece = edits.trim(piece, one.id, 12, -12)
        piece = edits.set_speed(piece, piece.clips[1].id, Fraction(1, 2), reverse=True)
        piece = edits.change(piece, piece.clips[2].id, frozen=True, fit=Fit.WHOLE, level=-6.0)
        turn = read(shipped()["half_turn"])
        choices = Choices(
            Fraction(3, 10), Fraction(11, 30), direction=Direction.LEFT_RIGHT, strength=80
        )
        mine = Bundle(_named(read(shipped()["ink_bloom"]), "Mine").wrinkle, _assets("ink_bloom"))
        piece = dressing.put_on(piece, [piece.clips[1].id], PieceUse(turn, choices))
        still = Media(str(self.picture()), "card.png", STILL_LASTS, Size(8, 8), still=True)
        filled = PieceUse(mine, fillings={"ink": still})
        piece = dressing.put_on(piece, [piece.clips[2].id, piece.clips[0].id], filled)
        piece = edits.add_clips(piece, 4, [still])
        return replace(piece, markers=(Marker(Fraction(1, 2), "beat"),))

    def picture(self) -> Path:
        import cv2
        import numpy as np

        path = self.folder / "card.png"
        path.write_bytes(cv2.imencode(".png", np.full((8, 8, 3), 90, np.uint8))[1].tobytes())
        return path

    def test_what_cannot_be_opened_is_one_sentence(self) -> None:
        for content, words in (
            (b"", "no timeline"),
            (b"{", "no timeline"),
            (b"\xff\xfe", "no text"),
            (clip().to_json_string().encode(), "no timeline, but a Clip"),
            (b'{"OTIO_SCHEMA": "Nobody.1"}', "no timeline"),
            (b"[" * 100_000, "no timeline"),
        ):
            self.path.write_bytes(content)
            with self.subTest(words), self.assertRaisesRegex(InputError, f"piece.otio .*{words}"):
                read_piece(self.path)
        bundle = self.folder / "b.otioz"
        bundle.write_bytes(b"PK nothing")
        with self.assertRaisesRegex(InputError, "b.otioz cannot be opened: it is damaged"):
            read_piece(bundle)
        with self.assertRaisesRegex(InputError, "there is no such file"):
            read_piece(self.folder / "none.otio")
        with self.assertRaisesRegex(InputError, "cannot be saved"):
            write_piece(self.folder / "none" / "x.otio", Piece(), PieceFile())
        # Times that are none.
        self.path.write_text(timeline([clip()]).to_json_string().replace("20.0", "1e300"))
        with self.assertRaisesRegex(InputError, "is no time"):
            read_piece(self.path)


def _named(bundle: Bundle, name: str) -> Bundle:
    from msgspec.structs import replace as replaced

    return Bundle(replaced(bundle.wrinkle, name=name), bundle.assets)


def _assets(name: str) -> dict[str, bytes]:
    return dict(read(shipped()[name]).assets)
