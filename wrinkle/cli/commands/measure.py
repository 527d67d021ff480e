"""Measures every frame of a window."""

from __future__ import annotations

import argparse
import csv
import math
import sys
from pathlib import Path
from typing import TextIO

from wrinkle.cli.command import Command
from wrinkle.cli.output import take_output
from wrinkle.cli.subject_arguments import take_subjects


def takes(parser: argparse.ArgumentParser) -> None:
    """Wrinkles or pieces, and the table."""
    take_subjects(parser)
    take_output(parser, "F.csv", "--csv", required=False)


def run(arguments: argparse.Namespace) -> int:
    """Writes one row for each frame, with one column for each line of each trace."""
    if arguments.csv is None:
        _write(arguments, sys.stdout)
        return 0
    from wrinkle.files.targets import check_target
    from wrinkle.files.whole import whole_file

    given = [Path(name) for name in arguments.files]
    clips = [x for x in (arguments.outgoing, arguments.incoming) if x is not None]
    check_target(arguments.csv, [*given, *clips], arguments.overwrite)
    with whole_file(arguments.csv) as part, part.open("w", newline="", encoding="utf-8") as file:
        rows = _write(arguments, file)
    print(f"{arguments.csv}: {rows} frames")
    return 0


COMMAND = Command("measure", "measure every frame of wrinkles and of dressed cuts", takes, run)


def _write(arguments: argparse.Namespace, file: TextIO) -> int:
    from wrinkle.cli.subjects import measured, named_subjects
    from wrinkle.core.measure.traces import TRACES

    writer, rows = csv.writer(file), 0
    for named in named_subjects(arguments):
        subject = measured(named).subject
        columns: dict[str, list[float]] = {}
        for trace in TRACES.values():
            for line in trace.measure(subject):
                name = f"{trace.label} {line.label}".strip()
                columns[f"{name} ({trace.unit})"] = [float(x) for x in line.values]
        # Each has overlays of its own, and columns for them.
        writer.writerow(["file", "cut", "frame", "seconds", *columns])
        for number, frame in enumerate(subject.frames):
            values = [_shown(column[number]) for column in columns.values()]
            seconds = f"{float(subject.time(frame)):.6f}"
            writer.writerow([named.file, named.cut or "", frame, seconds, *values])
            rows += 1
    return rows


def _shown(value: float) -> str:
    return "" if math.isnan(value) else f"{value:.4f}"
