"""The tests mirror the package; checks against outside sources name them beside the check.

Nothing that they keep gets among a person's own data. Random draws are the same in every run, so
that a change is judged by itself; a search for new ones is asked for (WRINKLE_TEST_DRAWS).
"""

import atexit
import os
import shutil
import tempfile

from hypothesis import HealthCheck, settings

import wrinkle  # noqa: F401 - before NumPy and OpenCV: it says how they are to run

# Being slow is no fault: the machine may be busy with other things.
settings.register_profile("patient", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.register_profile(
    "repeatable", settings.get_profile("patient"), derandomize=True, database=None
)
settings.load_profile("patient" if "WRINKLE_TEST_DRAWS" in os.environ else "repeatable")

_OWN = tempfile.mkdtemp()
atexit.register(shutil.rmtree, _OWN, ignore_errors=True)
for _kind in ("DATA", "CONFIG", "STATE"):
    os.environ[f"XDG_{_kind}_HOME"] = _OWN
