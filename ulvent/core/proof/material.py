"""The piece as material: what of the sheet stays, what falls out, and every part of it.

There are two ways of using a sheet. Where the letters are kept, each piece that is cut out
is a part. Where they are removed, the sheet stays, and whatever of it no longer hangs
together with its edge falls out with them.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from ulvent.core.base.arrays import Point
from ulvent.core.base.tolerances import JOINT
from ulvent.core.prepare import Layer
from ulvent.core.shapes import Region
from ulvent.core.shapes.scattered import reaching_out

MARGIN = 0.1
"""Of the lettering's size: a sheet that is not given is so much larger on each side."""


@dataclass(frozen=True, eq=False)
class Part:
    """One part of the material, mm.

    number
        from 1, the largest first
    holds
        whether it stays: a part of the sheet that has lost the edge does not
    """

    number: int
    region: Region
    area: float
    holds: bool

    @cached_property
    def at(self) -> Point:
        """A point inside of it."""
        return self.region.some_point()


@dataclass(frozen=True, eq=False)
class Material:
    """What stays of a sheet, part by part, and what is taken out of it."""

    use: Literal["kept", "removed"]
    sheet: Region
    stays: Region
    parts: tuple[Part, ...]

    @cached_property
    def falls(self) -> Region:
        """What is taken out."""
        return self.sheet.minus(self.stays)

    @property
    def loose(self) -> tuple[Part, ...]:
        """Parts that fall out though they are no letter."""
        return tuple(part for part in self.parts if not part.holds)


def sheet_of(layers: tuple[Layer, ...], blank: Region) -> Region:
    """The blank; without one, a sheet that the lettering stands free in."""
    if not blank.is_empty:
        return blank
    area = Region.joined(layer.area for layer in layers)
    x0, y0, x1, y1 = area.bounds
    margin = MARGIN * max(x1 - x0, y1 - y0, 1.0)
    return Region.box((x0 - margin, y0 - margin, x1 + margin, y1 + margin))


def material(layers: tuple[Layer, ...], blank: Region, use: Literal["kept", "removed"]) -> Material:
    """A sheet from which layers are cut. Layers whose shapes had lettering taken out are
    what is kept in both ways.
    """
    area = Region.joined(layer.area for layer in layers)
    inverse = any(layer.inverse for layer in layers)
    if use == "kept" or inverse:
        sheet = sheet_of(layers, blank)
        parts = _numbered([(part, True) for part in area.parts])
        if inverse:
            parts = _numbered(_held_by_the_largest(area))
        return Material("kept", sheet, area, parts)
    sheet = sheet_of(layers, blank)
    stays = sheet.minus(area)
    held = reaching_out(stays.parts, sheet.offset(-_EDGE)).tolist()
    parts = _numbered(list(zip(stays.parts, held, strict=True)))
    return Material("removed", sheet, stays, parts)


_EDGE = 1e-3


def _held_by_the_largest(area: Region) -> list[tuple[Region, bool]]:
    parts = area.parts
    largest = max((part.area for part in parts), default=0.0)
    return [(part, part.area >= largest - JOINT) for part in parts]


def _numbered(parts: list[tuple[Region, bool]]) -> tuple[Part, ...]:
    ranked = sorted(parts, key=lambda pair: -pair[0].area)
    return tuple(
        Part(number, region, region.area, holds) for number, (region, holds) in enumerate(ranked, 1)
    )
