"""The Collection on disk: shelves, names, broken files, several in one file, marks, tiles."""

import tempfile
import unittest
import zipfile
from fractions import Fraction
from pathlib import Path
from unittest import mock

import cv2
import numpy as np
from msgspec.structs import replace

from tests.core.design.wrinkles import turning
from tests.core.reuse.every_kind import Slanted
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import DocumentError
from wrinkle.core.jobs import Cancelled, Job
from wrinkle.core.render.material import Filling
from wrinkle.core.store import Store
from wrinkle.files import archive
from wrinkle.library import marks, tiles
from wrinkle.library.shelf import Shelved, Shelves, feels_of, read_many, write_many


def named(name: str, *tags: str) -> Wrinkle:
    return replace(turning(), name=name, tags=tags)


class OnDisk(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        for name in ("data", "state", "cache"):
            patch = mock.patch(f"platformdirs.user_{name}_path", return_value=self.folder / name)
            patch.start()
            self.addCleanup(patch.stop)
        self.shelves = Shelves()

    def own(self) -> list[Shelved]:
        return [one for one in self.shelves.all() if not one.shipped]

    def names(self) -> list[str]:
        return [one.key for one in self.own()]


class Shelving(OnDisk):
    def test_two_of_the_same_name_never_overwrite_each_other(self) -> None:
        self.shelves.keep(Bundle(named("Kite")))
        self.shelves.keep(Bundle(named("Kite", "turn")))
        self.shelves.keep(Bundle(named('A/B: "C"')), "Loud")
        self.assertEqual(self.names(), ["Kite 2.wrinkle", "Kite.wrinkle", "Loud/A-B- -C-.wrinkle"])
        first = next(one for one in self.own() if one.key == "Kite.wrinkle")
        self.shelves.rename(first, "Pier")
        self.shelves.duplicate(first if first.path.exists() else self.own()[1])
        self.assertEqual(
            self.names(),
            ["Kite 2.wrinkle", "Pier.wrinkle", "Pier copy.wrinkle", "Loud/A-B- -C-.wrinkle"],
        )
        names = {one.name for one in self.own()}
        self.assertEqual(names, {"Kite", "Pier", "Pier copy", 'A/B: "C"'})

    def test_what_was_deleted_comes_back_and_what_is_shipped_stays(self) -> None:
        path = self.shelves.keep(Bundle(named("Kite")))
        before = path.read_bytes()
        deleted = self.shelves.delete(self.own()[0])
        self.assertEqual(self.names(), [])
        self.shelves.keep(Bundle(named("Kite", "zoom")))
        self.assertEqual(self.shelves.bring_back(deleted, path).read_bytes(), before)
        self.assertEqual(self.names(), ["Kite.wrinkle", "Kite 2.wrinkle"])
        shipped = next(one for one in self.shelves.all() if one.shipped)
        for act in (self.shelves.delete, lambda one: self.shelves.rename(one, "Mine")):
            with self.assertRaisesRegex(DocumentError, "comes with Wrinkle and cannot be"):
                act(shipped)
        self.shelves.duplicate(shipped)
        self.assertEqual(len(self.own()), 3)

    def test_a_broken_file_is_shown_with_its_sentence_and_hinders_nothing(self) -> None:
        self.shelves.keep(Bundle(named("Kite")))
        (self.shelves.folder / "Torn.wrinkle").write_bytes(b"nothing")
        (self.shelves.folder / "Gone.wrinkle").symlink_to(self.folder / "nowhere")
        found = {one.key: one for one in self.own()}
        self.assertIsNotNone(found["Kite.wrinkle"].wrinkle)
        self.assertIn("Torn.wrinkle cannot be opened: it is damaged", found["Torn.wrinkle"].fault)
        self.assertIn("Gone.wrinkle cannot be opened", found["Gone.wrinkle"].fault)
        self.assertTrue(found["Torn.wrinkle"].matches("torn"))

    def test_only_what_changed_is_read_again(self) -> None:
        for name in ("Kite", "Pier"):
            self.shelves.keep(Bundle(named(name)))
        self.own()
        path = self.shelves.folder / "Pier.wrinkle"
        archive.write(path, Bundle(replace(named("Pier"), about="Now longer than before.")))
        with mock.patch("wrinkle.library.shelf.read_document", wraps=archive.read_document) as read:
            found = self.own()
        self.assertEqual([call.args[0] for call in read.call_args_list], [path])
        self.assertEqual(found[1].wrinkle and found[1].wrinkle.about, "Now longer than before.")

    def test_words_kinds_feels_and_lengths_find(self) -> None:
        turn = replace(named("Kite", "turn", "own tag"), about="For a loud cut.")
        slow = replace(named("Pier", "zoom"), lead=Fraction(1), tail=Fraction(1))
        for wrinkle in (turn, slow):
            self.shelves.keep(Bundle(wrinkle))
        found = {one.name: one for one in self.own()}
        self.assertEqual(feels_of(turn), ["rush"])
        for words, kind, names in (
            ("loud KITE", "", ["Kite"]),
            ("rush", "zoom", ["Pier"]),
            ("60 frames", "", ["Pier"]),
            ("long", "", ["Pier"]),
            ("medium", "turn", ["Kite"]),
            ("own tag", "", ["Kite"]),
            ("left and right", "glitch", []),
        ):
            told = [name for name, one in sorted(found.items()) if one.matches(words, kind)]
            self.assertEqual(told, names, (words, kind))

    def test_several_travel_in_one_file(self) -> None:
        for name in ("Kite", "Kite", "Pier"):
            self.shelves.keep(Bundle(named(name)))
        target = self.folder / "all.wrinkles.zip"
        self.assertEqual(write_many(target, self.own()), 3)
        other = Shelves(lambda: self.folder / "other")
        self.assertEqual(len(other.take_in(target, "From a friend")), 3)
        self.assertEqual(
            [one.shelf for one in other.all() if not one.shipped], ["From a friend"] * 3
        )
        for content, told in (
            (b"nothing", "it is damaged or holds no wrinkles"),
            (None, "holds no wrinkles"),
        ):
            if content is None:
                with zipfile.ZipFile(target, "w") as file:
                    file.writestr("a.txt", "else")
            else:
                target.write_bytes(content)
            with self.assertRaisesRegex(DocumentError, told):
                read_many(target)
        with zipfile.ZipFile(target, "w") as file:
            file.writestr("good.wrinkle", archive.packed(Bundle(named("Kite"))))
            file.writestr("bad.wrinkle", b"nothing")
        with self.assertRaisesRegex(DocumentError, "bad.wrinkle cannot be opened"):
            other.take_in(target)
        self.assertEqual(len([one for one in other.all() if not one.shipped]), 3)

    def test_marks_are_kept(self) -> None:
        marks.mark_favourite("Kite.wrinkle", True)
        marks.mark_used("Pier.wrinkle")
        found = marks.read_marks()
        self.assertEqual(found.favourites, {"Kite.wrinkle"})
        self.assertEqual(list(found.used), ["Pier.wrinkle"])
        self.assertEqual(marks.mark_favourite("Kite.wrinkle", False).favourites, frozenset())


class Tiles(OnDisk):
    def ground(self) -> tiles.Ground:
        return tiles.Ground({
            "outgoing": Filling(Slanted("a"), Fraction(1)),
            "incoming": Filling(Slanted("b", hue=0.3), Fraction(1)),
        })  # fmt: skip

    def strip(self, one: Shelved) -> list[np.ndarray]:
        return tiles.tile_strip(one, self.ground(), Store(), Job())

    def test_a_tile_is_kept_by_what_it_shows(self) -> None:
        path = self.shelves.keep(Bundle(named("Kite")))
        (one,) = self.own()
        made = self.strip(one)
        steps = tiles.steps_of(turning())
        self.assertEqual((len(made), made[0].shape), (len(steps), (150, 84, 3)))
        self.assertEqual((steps[3], steps[-4]), (-12, 11))
        with mock.patch("wrinkle.library.tiles.showing", side_effect=AssertionError):
            kept = self.strip(one)
            # JPEG changes levels a little, frames not at all.
            for before, after in zip(made, kept, strict=True):
                self.assertLess(float(np.abs(before.astype(float) - after).mean()), 3.0)
            archive.write(path, Bundle(replace(named("Kite"), shutter_angle=10.0)))
            with self.assertRaises(AssertionError):
                self.strip(self.own()[0])

    def test_a_damaged_tile_is_made_anew_and_nobody_waits_in_vain(self) -> None:
        self.shelves.keep(Bundle(named("Kite")))
        (one,) = self.own()
        made = self.strip(one)
        (kept,) = (self.folder / "cache" / "tiles").glob("*.jpg")
        for content in (b"nothing", cv2.imencode(".jpg", np.zeros((9, 9, 3)))[1].tobytes()):
            kept.write_bytes(content)
            self.assertEqual([x.tobytes() for x in self.strip(one)], [x.tobytes() for x in made])
        kept.unlink()
        job = Job()
        job.cancel()
        with self.assertRaises(Cancelled):
            tiles.tile_strip(one, self.ground(), Store(), job)
