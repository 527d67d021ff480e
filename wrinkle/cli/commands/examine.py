"""Tells what is wrong at cuts."""

from __future__ import annotations

import argparse
import json
from typing import Any

from wrinkle.cli.command import Command
from wrinkle.cli.subject_arguments import take_subjects


def takes(parser: argparse.ArgumentParser) -> None:
    """Wrinkles or pieces, and whether it is told as JSON."""
    take_subjects(parser)
    parser.add_argument("--json", action="store_true", help="as JSON")


def run(arguments: argparse.Namespace) -> int:
    """Prints what the checks find; gives 1 where something is open."""
    from wrinkle.cli.subjects import measured, named_subjects
    from wrinkle.core.examine.examined import Examined
    from wrinkle.core.measure.registry import CHECKS

    told: list[dict[str, Any]] = []
    for named in named_subjects(arguments):
        examined = Examined.of(measured(named).subject)
        found = [
            {
                "check": x.check,
                "sentence": x.sentence,
                "layer": x.layer,
                "setting": x.address,
                "frames": list(x.frames),
                "mends": [mend.label for mend in x.mends],
                "set_aside": examined.reason(x),
            }
            for x in examined.findings
        ]
        told.append({"file": named.file, "cut": named.cut, "where": named.where, "findings": found})
        if not arguments.json:
            print(f"{named.file}: {named.where}: {len(examined.open)} open")
            for x in examined.findings:
                reason = examined.reason(x)
                aside = f" Set aside: {reason}" if reason else ""
                print(f"  {CHECKS[x.check].label}. {x.sentence}{aside}")
    if arguments.json:
        print(json.dumps(told, indent=2, ensure_ascii=False))
    return int(any(not x["set_aside"] for one in told for x in one["findings"]))


COMMAND = Command("examine", "tell what is not right at the cut of wrinkles and pieces", takes, run)
