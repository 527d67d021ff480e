"""The tests mirror the package; checks against outside sources name them beside the check.

Nothing that they keep gets among a person's own data.
"""

import atexit
import os
import shutil
import tempfile

_OWN = tempfile.mkdtemp()
atexit.register(shutil.rmtree, _OWN, ignore_errors=True)
os.environ["XDG_DATA_HOME"] = os.environ["XDG_CONFIG_HOME"] = _OWN
