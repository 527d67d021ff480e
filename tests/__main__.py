"""Runs all tests, or those whose name holds a given word, on all cores; ends with the count.

python -m tests                  all
python -m tests lanes test_use   those whose full name (or path) holds one of the words
python -m tests --processes 1    one after the other, with what they print
"""

import argparse
import os
import sys

from tests.running.spread import run

if __name__ == "__main__":
    parser = argparse.ArgumentParser(prog="tests")
    parser.add_argument("words", nargs="*", help="run what holds one of these in its name")
    parser.add_argument("--processes", type=int, default=len(os.sched_getaffinity(0)))
    chosen = parser.parse_args()
    sys.exit(run([word.replace("/", ".") for word in chosen.words], max(1, chosen.processes)))
