"""All that workers need, loaded once before they part, so that they share its memory.

Imported for that alone: the shipped faces are read, and what is imported late elsewhere is
imported here.
"""

from __future__ import annotations

import ulvent.core.prepare
import ulvent.core.proof
import ulvent.formats.out
import ulvent.formats.read
from ulvent.shipped_faces import shipped_faces
from ulvent.web import (
    begin_routes,
    drawer_routes,
    face_routes,
    live_answers,
    outline_routes,
    proof_routes,
    shelf_routes,
)

__all__ = [
    "begin_routes",
    "drawer_routes",
    "face_routes",
    "live_answers",
    "outline_routes",
    "proof_routes",
    "shelf_routes",
    "ulvent",
]

for _ in shipped_faces():
    pass
