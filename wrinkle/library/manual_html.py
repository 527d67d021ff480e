"""The manual as HTML: a page for each, an index, and the pictures beside them."""

from __future__ import annotations

from collections.abc import Callable
from html import escape
from pathlib import Path

from markdown_it import MarkdownIt

from wrinkle.core.errors import InputError
from wrinkle.core.jobs import sentence_for
from wrinkle.files.whole import write_whole
from wrinkle.library.manual_pages import MANUAL, Named, Page, pages, usual_names

_INDEX = "index.html"
_STYLE = """
:root { color-scheme: light dark; }
body { margin: 2rem auto; max-width: 46rem; padding: 0 1rem; line-height: 1.55;
  font-family: "Open Sans", sans-serif; background: #F5F3EE; color: #2A2723; }
nav { margin-bottom: 2rem; border-bottom: 2px dashed #B3261E; padding-bottom: .5rem; }
a { color: #1A6661; } img { max-width: 100%; }
code { background: #E9E6DF; padding: 0 .3em; border-radius: 3px; }
table { border-collapse: collapse; } td, th { border: 1px solid #7C7566; padding: .3rem .6rem; }
@media (prefers-color-scheme: dark) {
  body { background: #1C1C1C; color: #E9E7E3; } code { background: #3A3A3A; }
  nav { border-color: #F07A70; } a { color: #5FBDB6; } }
"""


def manual_html(folder: Path) -> None:
    """Writes all pages into a folder, which is made where it is not there.

    Raises:
        InputError: it cannot be written.
    """
    back = f'<nav><a href="{_INDEX}">Manual</a></nav>\n'
    try:
        (folder / "pictures").mkdir(parents=True, exist_ok=True)
        for picture in sorted((MANUAL / "pictures").iterdir()):
            write_whole(folder / "pictures" / picture.name, picture.read_bytes())
        for page in pages():
            body = back + page_html(page, usual_names().__getitem__)
            write_whole(folder / f"{page.key}.html", _document(page.title, body))
        links = "".join(f'<li><a href="{x.key}.html">{escape(x.title)}</a></li>\n' for x in pages())
        write_whole(folder / _INDEX, _document("Wrinkle: manual", f"<ol>\n{links}</ol>"))
    except OSError as fault:
        raise InputError(sentence_for(fault, f"The manual cannot be written to {folder}")) from None


def page_html(page: Page, named: Callable[[str], Named]) -> str:
    """What stands between ``<body>`` and ``</body>`` of a page.

    Args:
        page: which one.
        named: what an id stands for.
    """
    markdown = MarkdownIt("commonmark", {"html": False}).enable("table")
    body: str = markdown.render(page.written(named))
    return body


def _document(title: str, body: str) -> bytes:
    return (
        f'<!DOCTYPE html>\n<html lang="en">\n<head><meta charset="utf-8">'
        f'<meta name="viewport" content="width=device-width">'
        f"<title>{escape(title)}</title>\n<style>{_STYLE}</style></head>\n"
        f"<body>\n{body}\n</body>\n</html>\n"
    ).encode()
