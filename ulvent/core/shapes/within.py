"""The area of a blank: what lies within its outlines."""

from __future__ import annotations

from collections.abc import Sequence

from ulvent.core.base.arrays import Matrices
from ulvent.core.curves import Curve
from ulvent.core.shapes.region import Region


def area_within(outlines: Sequence[Curve]) -> Region:
    """What the first outline holds, without those that lie in it, and with those apart from it.

    Empty where there is none.
    """
    if not outlines:
        return Region()
    area, *others = (Region.inside(curve) for curve in outlines)
    apart = [one for one in others if not area.contains(one.rings[0][:1]).all()]
    holes = [one for one in others if one not in apart]
    return Region.joined([area.minus(Region.joined(holes)) if holes else area, *apart])


def with_laps(area: Region, lap: Matrices, back: Matrices) -> Region:
    """An area together with itself as its next lap and the one before lie, (2, 3) maps."""
    return Region.joined([area, area.transformed(lap), area.transformed(back)])
