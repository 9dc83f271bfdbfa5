"""Stitches: outlines and strokes in, thread out, without files and without an interface."""

from ulvent.core.stitches.cloths import CLOTHS, Cloth
from ulvent.core.stitches.sewing import Embroidery, Sewn, sewn

__all__ = ["CLOTHS", "Cloth", "Embroidery", "Sewn", "sewn"]
