"""The tests mirror the package; checks against outside sources name them beside the check.

Nothing that they keep gets among a person's own data. Random draws are the same in every run, so
that a change is judged by itself; a search for new ones is asked for (WRINKLE_TEST_DRAWS).
"""

import atexit
import os
import shutil
import tempfile

from hypothesis import settings

settings.register_profile("repeatable", derandomize=True, database=None)
if "WRINKLE_TEST_DRAWS" not in os.environ:
    settings.load_profile("repeatable")

_OWN = tempfile.mkdtemp()
atexit.register(shutil.rmtree, _OWN, ignore_errors=True)
os.environ["XDG_DATA_HOME"] = os.environ["XDG_CONFIG_HOME"] = _OWN
