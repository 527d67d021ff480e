"""Wrinkles in the Collection: found, seen moving, tried, used, looked after, and on the board."""

from pathlib import Path
from unittest import mock

import numpy as np
from msgspec.structs import replace
from PyQt6.QtCore import QEvent, QItemSelectionModel, QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDragEnterEvent, QDropEvent, QImage, QMouseEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QMenu

from tests.ui.window_case import LEFT, WindowCase, type_into, wait_for
from wrinkle.core.design.dials import dial_edits
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.dials import How
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import effect_edits, wrinkle_edits
from wrinkle.core.motion.direction import Direction
from wrinkle.core.picture.image import Size
from wrinkle.core.reuse.use import AS_MADE
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.core.time.rate import FrameRate
from wrinkle.files import archive
from wrinkle.library import own_folder, shipped
from wrinkle.media.clip import Clip
from wrinkle.media.video_file import write_video
from wrinkle.ui.bench.sections.layer_row import LayerRow
from wrinkle.ui.choosing.board import BoardDialog
from wrinkle.ui.choosing.compare import Compared, CompareDialog
from wrinkle.ui.pictures.sound_player import SoundPlayer
from wrinkle.ui.use.use_dialog import UseDialog

WIDE = Size(192, 108)


def slanted(path: Path, number: int, direction: Direction) -> Path:
    """A clip of 16:9 at 60 pictures a second, whose corners differ, mirrored or not."""
    x = np.linspace(0.0, 1.0, WIDE.width)[None, :]
    y = np.linspace(0.0, 1.0, WIDE.height)[:, None]
    picture = np.zeros((WIDE.height, WIDE.width, 3), np.uint8)
    picture[..., number] = 40 + 200 * x
    picture[..., 2] = 30 + 180 * x * y
    if direction is Direction.LEFT_RIGHT:
        picture = np.ascontiguousarray(picture[:, ::-1])
    write_video(path, iter([picture] * 120), WIDE, FrameRate.of(60))
    return path


class ShelfCase(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.with_own_data()
        two = {name: shipped()[name] for name in ("plain_push", "smooth_turn")}
        few = mock.patch("wrinkle.library.shipped", return_value=two)
        few.start()
        self.addCleanup(few.stop)
        cache = mock.patch("platformdirs.user_cache_path", return_value=self.folder / "cache")
        cache.start()
        self.addCleanup(cache.stop)
        self.page = self.window.places.place("collection").wrinkles

    def keep(self, name: str, *tags: str, shelf: str = "") -> Path:
        wrinkle = replace(self.desk.document.state, name=name, tags=tags)
        folder = own_folder() / shelf
        folder.mkdir(parents=True, exist_ok=True)
        archive.write(folder / f"{name}.wrinkle", Bundle(wrinkle))
        return folder / f"{name}.wrinkle"

    def listed(self) -> list[str]:
        return [one.name for one in self.page.tiles.found]

    def go(self) -> None:
        self.window.places.go_to("collection")

    def settle(self) -> None:
        wait_for(
            lambda: not self.page.strips.waiting and self.page.panel.renderer.all_ready,
            "all tiles",
        )


class Shelf(ShelfCase):
    def test_they_are_found_seen_and_watched(self) -> None:
        self.keep("Kite", "turn")
        self.keep("Pier", "zoom", shelf="Loud")
        (own_folder() / "Torn.wrinkle").write_bytes(b"nothing")
        self.go()
        self.assertEqual(self.listed(), ["Kite", "Torn", "Pier", "Smooth turn", "Plain push"])
        fault = self.page.strips.fault(self.page.tiles.found[1])
        self.assertIn("Torn.wrinkle cannot be opened", fault)
        for widget, wanted in (("zoom", ["Pier"]), ("slide", ["Plain push"]), ("", 5)):
            self.page.kind.setCurrentIndex(self.page.kind.findData(widget))
            self.page.kind.activated.emit(0)
            found = self.listed()
            self.assertEqual(found if isinstance(wanted, list) else len(found), wanted)
        type_into(self.page.search, "loud")
        self.assertEqual(self.listed(), ["Pier"])
        type_into(self.page.search, "nothing of the kind")
        self.assertIn("No wrinkle is found by 'nothing of the kind'", self.page.empty.words.text())
        self.assertEqual(self.page.panel.name.text(), "No wrinkle is found")
        self.assertFalse(self.page.panel.open.isVisible() or self.page.panel.here.isVisible())
        QTest.mouseClick(self.page.empty.buttons[0], LEFT)
        self.assertEqual((len(self.listed()), self.page.search.text()), (5, ""))
        self.settle()
        strip = self.page.strips.strip(self.page.tiles.found[0])
        self.assertGreater(len({bytes(x.constBits().asarray(x.sizeInBytes())) for x in strip}), 8)
        self.keep("Late")
        wait_for(lambda: "Late" in self.listed(), "what was put there")

    def test_nothing_is_grey_at_first(self) -> None:
        strips, tiles = self.page.strips, self.page.tiles
        # Nothing is made: what ships is there with the first paint all the same.
        with mock.patch.object(strips, "_line"), mock.patch.object(strips, "_soon"):
            self.go()
            self.assertEqual(self.listed(), ["Smooth turn", "Plain push"])
            strips.forget()
            for one in tiles.found:
                self.assertGreater(len(strips.strip(one)), 10)
            self.assertTrue(strips.waiting)
        # Columns fill the place: they do not fit once more, and no strip is left.
        view, gap = tiles.viewport(), 2 * tiles.spacing()
        assert view is not None
        for least in (96, 132, 200):
            width = tiles.shared_out(least)
            columns = (view.width() - gap) // (width + gap)
            self.assertGreaterEqual(width, least)
            self.assertLess(view.width() - gap - columns * (width + gap), columns + 1)

    def test_they_are_looked_after(self) -> None:
        self.keep("Kite", "turn")
        self.go()
        page = self.page
        self.assertEqual(page.tiles.current.key, "Kite.wrinkle")
        page.care.duplicate()
        self.assertEqual(page.tiles.current.name, "Kite copy")
        page.care.rename("Dragon")
        self.assertEqual(page.tiles.current.name, "Dragon")
        page.care.put_on("Quiet")
        self.assertEqual(page.tiles.current.shelf, "Quiet")
        page.care.favour(True)
        page.shelf.setCurrentIndex(page.shelf.findData("favourites"))
        page.shelf.activated.emit(0)
        self.assertEqual(self.listed(), ["Dragon"])
        page.shelf.setCurrentIndex(0)
        page.shelf.activated.emit(0)
        page.care.delete()
        self.assertEqual(self.listed(), ["Kite", "Smooth turn", "Plain push"])
        page.back_button.click()
        self.assertEqual(page.tiles.current.name, "Dragon")
        page.care.export_to(self.folder / "out")
        self.assertEqual(archive.read(self.folder / "out.wrinkle").wrinkle.name, "Dragon")
        page.care.take_in([self.folder / "out.wrinkle", self.folder / "none.wrinkle"])
        self.assertIn("none.wrinkle cannot be opened: there is no such file", self.faults[-1])
        page.tiles.selectAll()
        page.care.export_many_to(self.folder / "all")
        self.assertTrue((self.folder / "all.wrinkles.zip").exists())
        page.tiles.point_at("shipped/smooth_turn")
        page.care.delete()
        self.assertIn("comes with Wrinkle and cannot be deleted", self.faults[-1])
        self.act("collection.rename")
        self.assertIn("What ships stays as it is", self.window.status.said)

    def test_one_is_opened_on_the_bench_with_what_was_chosen(self) -> None:
        path = self.keep("Kite")
        self.go()
        box = self.page.panel.controls.direction
        box.setCurrentIndex(box.findData(Direction.LEFT_RIGHT))
        box.activated.emit(box.currentIndex())
        self.page.panel.open.click()
        self.assertEqual(self.desk.document.path, path)
        self.assertIs(self.desk.trial.choices.direction, Direction.LEFT_RIGHT)
        self.assertIs(self.window.places.currentWidget(), self.bench)
        self.go()
        self.page.tiles.point_at("shipped/plain_push")
        QTest.keyClick(self.page.tiles, Qt.Key.Key_Return)
        self.assertEqual(
            (self.desk.document.state.name, self.desk.document.path), ("Plain push", None)
        )
        self.page.shelf.setCurrentIndex(self.page.shelf.findData("last used"))
        self.go()
        self.assertEqual(self.listed(), ["Plain push", "Kite"])

    def test_a_tile_dropped_on_the_result_is_tried_there(self) -> None:
        mime = QMimeData()
        mime.setUrls([QUrl.fromLocalFile(str(self.keep("Kite")))])
        event = QDropEvent(
            QPointF(20, 20), Qt.DropAction.CopyAction, mime, LEFT, Qt.KeyboardModifier.NoModifier
        )
        clips = dict(self.desk.tried.clips)
        self.bench.result.dropEvent(event)
        self.assertEqual((self.desk.document.state.name, self.desk.document.path), ("Kite", None))
        self.assertEqual(dict(self.desk.tried.clips), clips)

    def test_the_board_shows_directions_and_strengths_and_one_is_taken(self) -> None:
        wrinkle = wrinkle_edits.set_directions(
            self.desk.document.state,
            {Direction.AS_MADE: "clockwise", Direction.LEFT_RIGHT: "counter-clockwise"},
        )
        wrinkle = dial_edits.offer(wrinkle, "turn", "rotation")[0]
        own_folder().mkdir(parents=True)
        archive.write(own_folder() / "Kite.wrinkle", Bundle(replace(wrinkle, name="Kite")))
        self.go()
        wait_for(lambda: self.page.panel.use() is not None, "the clips")
        board = self.page.show_board()
        assert board is not None
        labels = {cell.label for cell in board.view.cells}
        self.assertEqual(len(labels), 10)
        self.assertIn("counter-clockwise, 150 %", labels)
        index = next(
            n for n, cell in enumerate(board.view.cells) if cell.label == "counter-clockwise, 75 %"
        )
        QTest.mouseClick(board.view, LEFT, pos=board.view.area(index).center().toPoint())
        choices = self.page.panel.choices
        self.assertEqual((choices.direction, choices.strength), (Direction.LEFT_RIGHT, 75.0))
        board.along.setCurrentIndex(1)
        board.along.activated.emit(1)
        self.assertEqual(len(board.view.cells), 9)
        self.assertIn("Rotation 150 %", [cell.label for cell in board.view.cells])
        wait_for(lambda: board.view.all_ready, "the board")
        self.assertIsNone(board.sound.heard)
        board.along.setCurrentIndex(0)
        board.along.activated.emit(0)
        board.view.hear.click()
        loud = []
        for label in ("clockwise, 50 %", "clockwise, 100 %"):
            (index,) = [n for n, cell in enumerate(board.view.cells) if cell.label == label]
            # Whatever is pointed at is heard.
            spot = board.view.area(index).center()
            none = Qt.MouseButton.NoButton
            keys = Qt.KeyboardModifier.NoModifier
            board.view.mouseMoveEvent(QMouseEvent(QEvent.Type.MouseMove, spot, none, none, keys))
            self.assertEqual(board.view.marked, index)
            heard = board.sound.heard
            assert heard is not None
            loud.append(float(np.abs(heard.samples(-SAMPLE_RATE, 2 * SAMPLE_RATE)).max()))
        # Half of the strength is 6 dB less.
        self.assertAlmostEqual(loud[0] / loud[1], 0.5, delta=0.03)
        board.close()

    def test_two_are_compared_with_their_difference(self) -> None:
        self.keep("Kite")
        self.go()
        wait_for(lambda: self.page.panel.use() is not None, "the clips")
        self.assertIsNone(self.page.compare())
        self.assertIn("Select two wrinkles", self.faults[-1])
        model, select = self.page.tiles.model(), self.page.tiles.selectionModel()
        for row, one in enumerate(self.page.tiles.found):
            if one.name in ("Kite", "Plain push"):
                select.select(model.index(row), QItemSelectionModel.SelectionFlag.Select)
        self.draw_all()
        dialog = self.page.compare()
        assert dialog is not None
        wait_for(lambda: dialog.all_ready, "both")
        self.assertIsNone(dialog.sound.heard)
        names = [dialog.hears.itemText(n) for n in range(3)]
        for n, name in enumerate(names[1:], 1):
            dialog.hears.setCurrentIndex(n)
            dialog.hears.activated.emit(n)
            self.assertIsNotNone(dialog.sound.heard, name)
        apart = dialog.difference(-2)
        same = CompareDialog(
            *[Compared("Kite", *self.page.panel.use_of(self.page.tiles.found[0], AS_MADE))] * 2,
            self.desk.workers,
            SoundPlayer(self.desk.output(), self.desk.sound),
        )
        wait_for(lambda: same.all_ready, "both of one")
        levels = [brightest(x) for x in (apart, same.difference(-2))]
        self.assertGreater(levels[0], 100)
        self.assertEqual(levels[1], 0)
        dialog.close()
        same.close()

    def test_clips_dropped_on_the_shelf_fill_the_selected_wrinkle(self) -> None:
        """From a saved wrinkle to a video: choose it, drop two clips, render."""
        self.keep("Kite")
        self.go()
        mime = QMimeData()
        paths = [slanted(self.folder / f"{n}.mp4", n, Direction.AS_MADE) for n in (0, 1)]
        mime.setUrls([QUrl.fromLocalFile(str(path)) for path in paths])
        self.page.dropEvent(
            QDropEvent(
                QPointF(9, 9), Qt.DropAction.CopyAction, mime, LEFT, Qt.KeyboardModifier.NoModifier
            )
        )
        (dialog,) = self.window.findChildren(UseDialog)
        wait_for(dialog.render_button.isEnabled, "both clips")
        self.assertEqual(dialog.windowTitle(), "Use Kite on other clips")
        dialog.render_to(self.folder / "out.mp4")
        wait_for(lambda: "is written" in dialog.message.text(), "the video")
        dialog.close()

    def test_a_wrinkle_is_kept_in_the_collection_without_a_question(self) -> None:
        for _ in range(2):
            self.act("file.keep")
        self.assertEqual(self.desk.document.path, own_folder() / "Smooth turn 2.wrinkle")
        self.assertFalse(self.desk.document.unsaved)
        self.go()
        self.assertEqual(self.listed()[:2], ["Smooth turn", "Smooth turn"])

    def test_what_is_dragged_over_a_place_for_a_moment_leads_there(self) -> None:
        self.go()
        mime = QMimeData()
        mime.setUrls([QUrl.fromLocalFile("/nowhere/kite.wrinkle")])
        word = self.window.head.bar.places["bench"]
        word.dragEnterEvent(
            QDragEnterEvent(
                QPoint(5, 5), Qt.DropAction.CopyAction, mime, LEFT, Qt.KeyboardModifier.NoModifier
            )
        )
        wait_for(lambda: self.window.places.currentWidget() is self.bench, "the Bench")

    def test_the_board_of_the_bench_is_tried_there(self) -> None:
        self.act("bench.board")
        board = self.window.findChild(BoardDialog)
        assert board is not None
        self.assertEqual(len(board.view.cells), 12)
        wait_for(board.view.hasFocus, "the keys of the board")
        QTest.keyClick(board.view, Qt.Key.Key_Right)
        QTest.keyClick(board.view, Qt.Key.Key_Right)
        QTest.keyClick(board.view, Qt.Key.Key_Return)
        self.assertEqual(self.desk.trial.choices, board.view.cells[1].choices)
        board.close()


def brightest(picture: QImage | None) -> int:
    assert picture is not None
    bits = picture.constBits()
    assert bits is not None
    return max(bytes(bits.asarray(picture.sizeInBytes())))


class FromTheBenchToAVideo(ShelfCase):
    """The whole way: offer, mirror, save, find, try, use on another pair, render, read back."""

    def offered(self) -> Wrinkle:
        """Two settings on one dial, offered in the window; two directions; a kind; saved."""
        self.desk.document.edit("glow", lambda w: effect_edits.add_effect(w, "turn", "glow")[0])
        self.desk.looking.select_layer("turn")
        card = next(card for card in self.bench.stack.cards if card.unfolded)
        for key, words in (("rotation", "of its own"), ("amount", "drive it too")):
            rows = card.findChildren(LayerRow)
            row = next(row for row in rows if row.ref.address.name == key)
            QTest.mouseClick(row.dial_button, LEFT)
            # Where there is nothing to choose, it is done at once.
            for menu in (x for x in row.findChildren(QMenu) if x.isVisible()):
                next(x for x in menu.actions() if words in x.text()).trigger()
                menu.close()
        self.desk.document.edit("kinds", lambda w: wrinkle_edits.describe(w, "", ["glitch"]))
        ways = {Direction.AS_MADE: "clockwise", Direction.LEFT_RIGHT: "counter-clockwise"}
        self.desk.document.edit("ways", lambda w: wrinkle_edits.set_directions(w, ways))
        own_folder().mkdir(parents=True)
        self.assertTrue(self.desk.document.save(own_folder() / "Loud.wrinkle"))
        return self.desk.document.state

    def test_offered_saved_found_tried_and_rendered_on_another_pair(self) -> None:
        (dial,) = self.offered().dials
        self.assertEqual([drive.how for drive in dial.drives], [How.TIMES, How.TIMES])
        self.go()
        self.page.kind.setCurrentIndex(self.page.kind.findData("glitch"))
        self.page.kind.activated.emit(0)
        self.assertEqual(self.listed(), ["Smooth turn"])
        controls = self.page.panel.controls
        type_into(controls.dials[dial.id].field, "50")
        videos = []
        for direction in (Direction.AS_MADE, Direction.LEFT_RIGHT):
            pair = [
                slanted(self.folder / f"{x}-{direction.value}.mp4", x, direction) for x in (0, 1)
            ]
            box = controls.direction
            box.setCurrentIndex(box.findData(direction))
            box.activated.emit(box.currentIndex())
            self.page.panel.elsewhere.click()
            dialog = self.window.findChildren(UseDialog)[-1]
            self.assertEqual(dialog.controls.choices.dials, {dial.id: 50.0})
            mime = QMimeData()
            mime.setUrls([QUrl.fromLocalFile(str(path)) for path in pair])
            for n, path in enumerate(pair):
                dialog.set_clip(("outgoing", "incoming")[n], path)
            wait_for(dialog.render_button.isEnabled, "both clips")
            dialog.around.committed.emit(0.0)
            target = self.folder / f"{direction.value}.mp4"
            dialog.render_to(target)
            wait_for(lambda d=dialog: "is written" in d.message.text(), "the video")
            dialog.close()
            videos.append(Clip(target))
            self.addCleanup(videos[-1].close)
        for video in videos:
            facts = video.facts
            self.assertEqual((facts.size, facts.rate.label, facts.frame_count), (WIDE, "60", 48))
        for frame in (14, 23, 24, 33):
            plain, turned = (x.image(frame, WIDE).to_bytes8()[..., :3] for x in videos)
            apart = np.abs(plain[:, ::-1].astype(float) - turned).mean()
            self.assertLess(apart, 4.0, f"frame {frame}, through two encodings")
            self.assertGreater(np.abs(plain.astype(float) - turned).mean(), 4.0 * apart)
