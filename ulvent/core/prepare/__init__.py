"""Preparing: from letters as they stand to outlines and lines that a tool can follow."""

from ulvent.core.prepare.groups import (
    Group,
    file_groups,
    laid_lines,
    layer_names,
    layer_outputs,
    numbered,
    other_guides,
    output_of,
)
from ulvent.core.prepare.layers import Layer, Prepared
from ulvent.core.prepare.prepared import prepared
from ulvent.core.steps.bridge_search import Bridge
from ulvent.core.steps.cutout import Cutout

__all__ = [
    "Bridge",
    "Cutout",
    "Group",
    "Layer",
    "Prepared",
    "file_groups",
    "laid_lines",
    "layer_names",
    "layer_outputs",
    "numbered",
    "other_guides",
    "output_of",
    "prepared",
]
