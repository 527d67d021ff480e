"""What is dragged out is a file, what is dropped in is opened, the wheel changes sizes."""

from pathlib import Path

from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDragEnterEvent, QDropEvent, QWheelEvent
from PyQt6.QtWidgets import QApplication, QWidget

from tests.ui.window_case import LEFT, WindowCase, settle, wait_for
from wrinkle.files.archive import read
from wrinkle.library import shipped
from wrinkle.ui import text_size
from wrinkle.ui.shared.drops import paths_of

NONE, CTRL = Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ControlModifier


class Dropping(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.with_own_data()

    def tearDown(self) -> None:
        text_size.choose(self.app, text_size.AS_DRAWN)
        self.window.apply_look()

    def dropped(self, widget: QWidget, path: Path) -> bool:
        """Drags a file over a widget and lets it go; gives whether it could be."""
        mime = QMimeData()
        mime.setUrls([QUrl.fromLocalFile(str(path))])
        action = Qt.DropAction.CopyAction
        enter = QDragEnterEvent(QPoint(9, 9), action, mime, LEFT, NONE)
        enter.ignore()
        QApplication.sendEvent(widget, enter)
        if enter.isAccepted():
            QApplication.sendEvent(widget, QDropEvent(QPointF(9, 9), action, mime, LEFT, NONE))
        return enter.isAccepted()

    def test_a_wrinkle_is_opened_wherever_it_is_dropped(self) -> None:
        path = self.folder / "mine.wrinkle"
        self.assertTrue(self.desk.document.save(path))
        for place in ("checks", "export", "collection"):
            with self.subTest(place=place):
                self.desk.document.start_new()
                self.window.places.go_to(place)
                self.assertTrue(self.dropped(self.window, path))
                self.assertEqual(self.desk.document.path, path)
                self.assertEqual(self.window.places.shown_key, "bench")
        other = self.folder / "notes.txt"
        other.write_text("words")
        self.assertFalse(self.dropped(self.window, other))

    def test_a_tile_is_a_file_for_others_and_itself_for_the_window(self) -> None:
        self.window.places.go_to("collection")
        tiles = self.window.places.place("collection").wrinkles.tiles
        wait_for(lambda: bool(tiles.found), "the tiles")
        tiles.point_at(next(x.key for x in tiles.found if x.path == shipped()["half_turn"]))
        mime = tiles.model().mimeData([tiles.currentIndex()])
        (url,) = mime.urls()
        handed_out = Path(url.toLocalFile())
        self.assertEqual(handed_out.suffix, ".wrinkle")
        self.assertEqual(read(handed_out).wrinkle.name, "Half turn")
        self.assertEqual(paths_of(mime), [shipped()["half_turn"]])

    def wheel(self, widget: QWidget, up: bool) -> None:
        spot = QPointF(widget.rect().center())
        event = QWheelEvent(
            spot, QPointF(widget.mapToGlobal(spot.toPoint())),
            QPoint(), QPoint(0, 120 if up else -120),
            Qt.MouseButton.NoButton, CTRL, Qt.ScrollPhase.NoScrollPhase, False,
        )  # fmt: skip
        QApplication.sendEvent(widget, event)
        settle()

    def test_ctrl_with_the_wheel_changes_text_lanes_and_tiles(self) -> None:
        before = QApplication.font().pixelSize()
        self.wheel(self.window, True)
        self.assertEqual(QApplication.font().pixelSize(), round(before * 1.1))
        self.assertIn("110 %", self.window.status.said)
        self.desk.looking.select_layer("turn")
        canvas = self.bench.timeline.rows[0].canvas
        high = canvas.height()
        self.wheel(self.bench.timeline.lanes_view.viewport(), True)
        self.assertEqual(canvas.height(), high + 20)
        self.window.places.go_to("collection")
        tiles = self.window.places.place("collection").wrinkles.tiles
        side = tiles.side
        self.wheel(tiles.viewport(), False)
        self.assertLess(tiles.side, side)
