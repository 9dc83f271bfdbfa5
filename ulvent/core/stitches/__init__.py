"""Stitches: outlines and strokes in, thread out, without files and without an interface."""

from ulvent.core.stitches.cloths import CLOTHS, THREADS, Cloth
from ulvent.core.stitches.embroidery import Colour, Embroidery, Sewn, sewn
from ulvent.core.stitches.thread import Thread, What

__all__ = ["CLOTHS", "THREADS", "Cloth", "Colour", "Embroidery", "Sewn", "Thread", "What", "sewn"]
