"""Parts: the blank as a body, with its lettering raised, sunk or cut through.

A piece lies flat; `surface` carries what is set there to the face of the part, and `body`, `prisms`
and `made_solid` make closed meshes of it. No files and no interface here.
"""

from ulvent.core.solids.made_solid import MadeSolid, StandingLetter, StretchedLetter, solid_of
from ulvent.core.solids.materials import MATERIALS
from ulvent.core.solids.mesh import Mesh
from ulvent.core.solids.ring_sizes import ring_sizes

__all__ = [
    "MATERIALS",
    "MadeSolid",
    "Mesh",
    "StandingLetter",
    "StretchedLetter",
    "ring_sizes",
    "solid_of",
]
