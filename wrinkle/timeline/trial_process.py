"""Reads timelines with the library, one after the other, and answers whether it could.

Started as a program of its own, which a fault in the library may end: it knows nothing of Wrinkle.
A text comes as its length in eight bytes and itself; the answer is one byte.
"""

import resource
import sys

_MOST_MEMORY = 2 << 30
LENGTH, READ, REFUSED = 8, b"y", b"n"


def main() -> None:
    """Answers until nothing more comes."""
    from opentimelineio._otio import SerializableObject

    resource.setrlimit(resource.RLIMIT_AS, (_MOST_MEMORY, _MOST_MEMORY))
    asked, told = sys.stdin.buffer, sys.stdout.buffer
    while head := asked.read(LENGTH):
        text = asked.read(int.from_bytes(head, "big"))
        try:
            SerializableObject.from_json_string(text.decode())
        except Exception:  # noqa: BLE001 - the library has many errors, with no common kind
            told.write(REFUSED)
        else:
            told.write(READ)
        told.flush()


if __name__ == "__main__":
    main()
