"""Reads changed files for a while and tells of each that does harm.

A worker reads; whoever waits for it ends it after five seconds of the processor's time with a case,
or a minute by the clock, so that a busy machine finds nothing of its own. Harm is an exception that
is no ``InputError``, a stall, an end of the process, or more than 1 GiB of memory. Each case
is made from the name of its reader, the seed and its number alone: ``--only svg --seed 3 --case 9``
reads it again in this process, with the traceback.
"""

from __future__ import annotations

import argparse
import multiprocessing
import os
import random
import resource
import sys
import tempfile
import time
import traceback
from contextlib import suppress
from multiprocessing.connection import Connection
from pathlib import Path

from fuzz.readers import Reader, readers
from wrinkle.core.errors import InputError

LONGEST, MOST_MIB = 5.0, 1024
_AT_MOST = 60.0
"""Seconds by the clock, for what waits and does nothing."""
_TOLD_AT_MOST = 20


def content_of(reader: Reader, seed: int, case: int) -> tuple[str, bytes]:
    """The ending and the content of a case."""
    dice = random.Random(f"{reader.name} {seed} {case}")
    ending, sample = dice.choice(reader.samples)
    content = sample
    for _ in range(dice.choice((1, 1, 2))):
        try:
            content = reader.change(content, dice)
        except Exception:  # noqa: BLE001
            # What was changed once can be too broken to be changed again in the same way.
            break
    return ending, content


def read_case(reader: Reader, seed: int, case: int, folder: Path) -> str:
    """What became of a case: ``read``, ``refused``, or a traceback."""
    ending, content = content_of(reader, seed, case)
    path = folder / f"case{ending}"
    path.write_bytes(content)
    try:
        reader.read(path)
    except InputError as fault:
        return "refused" if "\n" not in str(fault) else "a sentence of several lines"
    except Exception:  # noqa: BLE001 - that is what is looked for
        return traceback.format_exc()
    return "read"


def _work(reader: Reader, seed: int, first: int, told: Connection) -> None:
    with tempfile.TemporaryDirectory() as name:
        case = first
        while True:
            became = read_case(reader, seed, case, Path(name))
            most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss >> 10
            told.send((case, became, most))
            case += 1


def _spent(worker: multiprocessing.Process) -> float:
    """Seconds of the processor that a worker took so far; 0 where the system does not say."""
    with suppress(OSError, IndexError, ValueError):
        fields = Path(f"/proc/{worker.pid}/stat").read_text().rpartition(")")[2].split()
        return (int(fields[11]) + int(fields[12])) / os.sysconf("SC_CLK_TCK")
    return 0.0


def _answers(worker: multiprocessing.Process, here: Connection) -> bool:
    """Waits for what became of a case; gives whether it came in time."""
    began, spent = time.monotonic(), _spent(worker)
    while not here.poll(1.0):
        if _spent(worker) - spent > LONGEST or time.monotonic() - began > _AT_MOST:
            return False
    return True


def search(reader: Reader, seed: int, seconds: float) -> int:
    """Reads cases of one reader for a while; gives how many did harm."""
    end, case, harm, refused = time.monotonic() + seconds, 0, 0, 0
    while time.monotonic() < end and harm < _TOLD_AT_MOST:
        here, there = multiprocessing.Pipe(duplex=False)
        worker = multiprocessing.Process(
            target=_work, args=(reader, seed, case, there), daemon=True
        )
        worker.start()
        there.close()
        least = None
        while time.monotonic() < end:
            became = f"takes more than {LONGEST:g} s"
            try:
                if _answers(worker, here):
                    case, became, most = here.recv()
                    least = most if least is None else least
                    if most - least > MOST_MIB:
                        became = f"takes {most - least} MiB"
            except EOFError:
                became = "ended the process"
            refused += became == "refused"
            if became not in ("read", "refused"):
                harm += 1
                print(f"{reader.name}, case {case}: {became}", flush=True)
            case += 1
            if not became.startswith(("read", "refused", "Traceback", "a sentence")):
                break
        worker.kill()
        worker.join()
    print(f"{reader.name}: {case} cases, {refused} refused, {harm} did harm", flush=True)
    return harm


def main() -> int:
    """Gives 0 when nothing did harm."""
    given = argparse.ArgumentParser(prog="./run fuzz", description=__doc__)
    given.add_argument("--seconds", type=float, default=60.0, help="for each reader")
    given.add_argument("--seed", type=int, default=1)
    given.add_argument("--only", action="append", help="the name of a reader")
    given.add_argument("--case", type=int, help="reads one case again")
    asked = given.parse_args()
    found = [x for x in readers() if not asked.only or x.name in asked.only]
    if asked.case is not None:
        with tempfile.TemporaryDirectory() as folder:
            start = time.monotonic()
            became = read_case(found[0], asked.seed, asked.case, Path(folder))
            print(f"{became} after {time.monotonic() - start:.1f} s")
        return 0
    return 1 if sum(search(reader, asked.seed, asked.seconds) for reader in found) else 0


if __name__ == "__main__":
    sys.exit(main())
