"""The shipped faces, read before workers part, so that they share them. Imported for that alone."""

from __future__ import annotations

from ulvent.shipped_faces import shipped_faces

for _ in shipped_faces():
    pass
