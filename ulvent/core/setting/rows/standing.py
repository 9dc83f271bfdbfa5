"""What a lettering stands on."""

from __future__ import annotations

from dataclasses import dataclass

from ulvent.core.base.tolerances import GAP
from ulvent.core.curves import Curve


@dataclass(frozen=True)
class Standing:
    """What a lettering stands on, and how finely it is to be spaced there.

    keep_off
        whether no letter may stand across a corner
    centre
        of a growing spiral, mm; nothing for other guides
    shares
        of the band that the guide goes round: how wide it is at even stations from the guide's
        beginning to its end, as shares of its width at the front; nothing where it does not change
    shared
        whether other lettering stands on the guide
    points
        stations of a drawn guide's points, mm, where labels stand at them
    edges, blank
        the two edges that the guide lies between, and the outlines of the blank, where
        there are any: fits may keep inside of them
    within
        by how much a gap may miss what it is to be, mm
    fits_within
        how much room a fit may leave over, mm
    """

    guide: Curve
    keep_off: bool = False
    centre: tuple[float, float] | None = None
    shares: tuple[float, ...] = ()
    shared: bool = False
    points: tuple[float, ...] = ()
    edges: tuple[Curve, ...] = ()
    blank: tuple[Curve, ...] = ()
    within: float = GAP
    fits_within: float = 0.0
