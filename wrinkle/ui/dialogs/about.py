"""What Wrinkle is."""

from __future__ import annotations

from PyQt6.QtWidgets import QMessageBox, QWidget

from wrinkle import __version__


def show_about(over: QWidget) -> None:
    """Version, purpose and licence in a box of its own."""
    box = QMessageBox(over)
    box.setWindowTitle("About Wrinkle")
    box.setText(
        f"<b>Wrinkle {__version__}</b><br>Design transitions once, use them on every cut."
        "<br><br>Licence: GPL-3.0-or-later. Fonts: Open Sans, Apache-2.0; "
        "Anton, Alegreya and Kalam, SIL OFL 1.1."
    )
    box.open()
