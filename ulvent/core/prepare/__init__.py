"""Preparing: from letters as they stand to outlines and lines that a tool can follow."""

from ulvent.core.prepare.bridges import Bridge
from ulvent.core.prepare.prepared import Layer, Letter, Prepared, prepared, unreached

__all__ = ["Bridge", "Layer", "Letter", "Prepared", "prepared", "unreached"]
