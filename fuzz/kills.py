"""Ends a busy program at random moments, and looks at what is left: ``python -m fuzz.kills``.

At most two seconds of edits may be lost, all files must be whole, and no process and no unfinished
file may be left.
"""

from __future__ import annotations

import argparse
import os
import random
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from fuzz.busy import EACH, TURN
from tests.media.clips import write_numbered
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.files import archive
from wrinkle.library.autosaves import left_work
from wrinkle.library.kept_wrinkle import WrinkleCodec
from wrinkle.media.clip import Clip

SIGNALS = (signal.SIGTERM, signal.SIGHUP, signal.SIGKILL)
MOST_LOST = 2.0
_CODEC = WrinkleCodec()
_ENDS_WITHIN = 300.0
"""Seconds; what hangs is told, and a machine that is much too busy is not."""


def kill_once(dice: random.Random, clip: Path, most_lost: float = MOST_LOST) -> list[str]:
    """Starts the program, ends it, and tells what is wrong.

    Args:
        dice: when and how it is ended.
        clip: that it works on.
        most_lost: how many seconds of edits may be lost by a kill.
    """
    wrong = []
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        sent = dice.choice(SIGNALS)
        words = [sys.executable, "-m", "fuzz.busy", name, str(clip)]
        with subprocess.Popen(
            words,
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            text=True,
            start_new_session=True,
            env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
        ) as busy:
            if busy.stdout is None:
                raise OSError("the program has no output")
            done, end = int(busy.stdout.readline()), time.monotonic() + dice.uniform(0.05, 3.5)
            while time.monotonic() < end:
                done = int(busy.stdout.readline())
            busy.send_signal(sent)
            rest, _ = busy.communicate(timeout=_ENDS_WITHIN)
            done = int((rest.split() or [done])[-1])
        try:
            os.killpg(busy.pid, 0)
            wrong.append("a process is left")
        except ProcessLookupError:
            pass
        kept = max(_kept(folder, wrong))
        lost = (done - kept) * EACH / 1e3
        if lost > (most_lost if sent is signal.SIGKILL else EACH / 1e3):
            wrong.append(f"{lost:.1f} s of edits are lost")
        video = folder / "out.mp4"
        if video.exists() and Clip(video).facts.notes:
            wrong.append("the video is not whole")
        wrong += [f"{path.name} is left" for path in folder.rglob("*.part")]
        return [f"{sent.name} after edit {done}: {one}" for one in wrong]


def _kept(folder: Path, wrong: list[str]) -> list[float]:
    """The last edit in the file, and in the kept work."""
    found = [0.0]
    file = folder / "work.wrinkle"
    if file.exists():
        found.append(_turned(archive.read(file).wrinkle))
    left = left_work(folder / "kept")
    if len(left) > 1:
        wrong.append(f"{len(left)} pieces of work are left")
    found += [_turned(work.read(_CODEC).history.current) for work in left]
    return found


def _turned(wrinkle: Wrinkle) -> float:
    found = TURN.of(wrinkle).rest
    return found if isinstance(found, float) else 0.0


def main() -> int:
    """Gives 0 when nothing went wrong."""
    given = argparse.ArgumentParser(prog="python -m fuzz.kills", description=__doc__)
    given.add_argument("--times", type=int, default=50)
    given.add_argument("--seed", type=int, default=1)
    asked = given.parse_args()
    dice, wrong = random.Random(asked.seed), 0
    with tempfile.TemporaryDirectory() as folder:
        clip = write_numbered(Path(folder) / "clip.mp4", 60)
        for _ in range(asked.times):
            found = kill_once(dice, clip)
            wrong += len(found)
            for one in found:
                print(one, flush=True)
    print(f"ended {asked.times} times, {wrong} things went wrong")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
