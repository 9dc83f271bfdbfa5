"""Regions with holes, and what is done with them: union, difference, offset, few nodes.

Two representations, each for what it is good at. A `Region` is polygons, flattened so
finely (`DENSE`) that what is cut out of it needs no curve; everything that changes which
parts there are is done on regions, by Clipper2, which does not fail. An `Outline` is
curves with few nodes, for tools and files; `refitted` makes one of a region.
"""

from ulvent.core.shapes.arcs import Arc, arc_of
from ulvent.core.shapes.flat import flat_contours, outline_of
from ulvent.core.shapes.least_box import least_box
from ulvent.core.shapes.refit import refitted, refitted_each, refitted_lines
from ulvent.core.shapes.region import Region
from ulvent.core.shapes.within import area_within, with_laps

__all__ = [
    "Arc",
    "Region",
    "arc_of",
    "area_within",
    "flat_contours",
    "least_box",
    "outline_of",
    "refitted",
    "refitted_each",
    "refitted_lines",
    "with_laps",
]
