"""Wrinkle: design reusable transitions between clips and use them on every cut.

``core`` computes, ``media`` reads and writes files, ``library`` holds what ships, ``ui`` is the
window, ``cli`` the same work without a window, ``demo`` the made-up demo piece.
"""

import os

# Read by OpenCV when it is loaded: what is odd in a picture file is said in our own words.
os.environ["OPENCV_LOG_LEVEL"] = "SILENT"
# Read by the linear algebra of NumPy and SciPy when they are loaded: its own threads go on turning
# for a while after each product, and take a processor from those who draw.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

__version__ = "0.1.0"
