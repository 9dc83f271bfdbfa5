"""Stitches: outlines and strokes in, thread out, without files and without an interface."""

from ulvent.core.stitches.cloths import CLOTHS, Cloth
from ulvent.core.stitches.embroidery import Embroidery, Sewn, sewn

__all__ = ["CLOTHS", "Cloth", "Embroidery", "Sewn", "sewn"]
