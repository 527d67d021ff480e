"""How much an SVG file asks for, looked at before anything is worked out.

A few lines can ask for millions of shapes: by uses of uses, by transforms, by styles.
"""

from __future__ import annotations

import re
from typing import TYPE_CHECKING

from wrinkle.core.errors import InputError

if TYPE_CHECKING:
    from xml.etree.ElementTree import Element

MOST_ELEMENTS = 4_000
"""Elements with all uses written out; two hundred shapes can become layers."""
MOST_DATA = 400_000
"""Characters of path data and points, uses written out; a traced drawing has a hundred thousand."""
MOST_TRANSFORM = 2_000
"""Characters of one transform."""
MOST_STYLE = 50_000
"""Characters of all style sheets."""
_LONGEST_RULE, _MOST_COMMENTS = 2_000, 200
"""Characters without a bracket, and comments: the reader's time grows with their squares."""
DEEPEST = 100
"""Elements within each other."""
_LINKS = ("href", "{http://www.w3.org/1999/xlink}href")
_DATA = ("d", "points")


def check_extent(root: Element) -> None:
    """Refuses a file that asks for more than a drawing needs.

    Raises:
        InputError: says what there is too much of.
    """
    by_id = {x.get("id"): x for x in root.iter() if x.get("id")}
    style = transform = 0
    for element in root.iter():
        if isinstance(element.tag, str) and element.tag.endswith("}style"):
            style += len(element.text or "")
            _check_style(element.text or "")
        transform = max(transform, len(element.get("transform", "")))
    if style > MOST_STYLE:
        raise InputError(f"its style sheets have more than {MOST_STYLE} characters")
    if transform > MOST_TRANSFORM:
        raise InputError(f"a transform has more than {MOST_TRANSFORM} characters")
    elements = data = 0
    waiting = [(root, 1)]
    while waiting:
        element, depth = waiting.pop()
        elements += 1
        data += sum(len(element.get(key, "")) for key in _DATA)
        if elements > MOST_ELEMENTS or depth > DEEPEST:
            raise InputError(
                f"it has more than {MOST_ELEMENTS} elements, or they use each other too often"
            )
        if data > MOST_DATA:
            raise InputError(f"its paths have more than {MOST_DATA} characters")
        waiting += [(child, depth + 1) for child in element]
        target = next((by_id.get(link[1:]) for key in _LINKS if (link := element.get(key))), None)
        if target is not None:
            waiting.append((target, depth + 1))


def _check_style(text: str) -> None:
    """Refuses a style sheet that would take long to read.

    Raises:
        InputError: a rule is far too long, or there are far too many comments.
    """
    if max(map(len, re.split(r"[{}]", text)), default=0) > _LONGEST_RULE:
        raise InputError(f"a rule of its style sheets has more than {_LONGEST_RULE} characters")
    if text.count("/*") > _MOST_COMMENTS:
        raise InputError(f"its style sheets have more than {_MOST_COMMENTS} comments")
