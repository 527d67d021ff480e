"""Timed work, run on demand: ``python -m benchmarks.motion``. Never part of the tests."""
