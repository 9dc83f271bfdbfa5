"""Lettering fitted to curves, as outlines ready for a tool."""

import os

# Arrays are many and small here: the threads of one product of matrices would only wait for one
# another, and keep other tasks from the cores. It must be said before NumPy is imported.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
