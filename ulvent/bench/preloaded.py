"""The shipped faces, read before workers part, so that they share them; and what would be loaded
under someone's hand. Imported for that alone."""

from __future__ import annotations

import scipy.interpolate  # noqa: F401  freehand lines

from ulvent.shipped_faces import shipped_faces

for _ in shipped_faces():
    pass
