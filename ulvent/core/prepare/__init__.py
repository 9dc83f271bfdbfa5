"""Preparing: from letters as they stand to outlines and lines that a tool can follow."""

from ulvent.core.prepare.bridges import Bridge
from ulvent.core.prepare.cuts import unreached
from ulvent.core.prepare.layers import Layer, Letter, Prepared
from ulvent.core.prepare.prepared import prepared

__all__ = ["Bridge", "Layer", "Letter", "Prepared", "prepared", "unreached"]
