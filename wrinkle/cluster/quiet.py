"""Dask's own words go to those who build it: what a person is to know is said in our sentences."""

from __future__ import annotations

import logging
import warnings

SURROUNDINGS = {
    "DASK_LOGGING__DISTRIBUTED": "critical",
    "DASK_DISTRIBUTED__WORKER__PROFILE__ENABLED": "False",
}
"""Of processes that are started."""


def be_quiet() -> None:
    """Silences it in this process; it gives each of its loggers a level of its own."""
    for name in list(logging.root.manager.loggerDict):
        if name.partition(".")[0] == "distributed":
            logging.getLogger(name).setLevel(logging.CRITICAL)
    warnings.filterwarnings("ignore", module=r"distributed\.")
