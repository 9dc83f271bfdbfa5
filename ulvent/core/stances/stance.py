"""What Ulvent knows of one stance, that is how letters stand on a curve: one record each.

Everything that differs from stance to stance is here, so that nothing else tells them apart.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ulvent.core.base.arrays import Floats
from ulvent.core.curves import Curve, Frames
from ulvent.core.faces import Cluster, Face
from ulvent.core.outlines import Outline
from ulvent.core.stances.poses import Poses, on_baseline

Extents = Callable[[Face, tuple[Cluster, ...]], Floats]
Posing = Callable[[Frames, Face, tuple[Cluster, ...], Floats], Poses]
Bending = Callable[[list[Outline], Floats, Curve], list[Outline]]


@dataclass(frozen=True, eq=False)
class Stance:
    """One way in which letters stand on a curve.

    name, label
        as recipes name it, and as a person chooses it
    side_by_side
        whether letters stand on the baseline beside each other, as on a line: then their touch
        line lies on the guide, gaps are as designed or evened, and labels and lines can use it
    extents
        (n,) font units of the guide that each letter takes up; none: the face's advances
    posing
        from the frames at the letters' middles and (n,) mm per font unit to how they stand
    bending
        outlines that follow the curve, given (n, 2, 3) maps from each to (station, height), mm;
        none: letters keep their shape
    """

    name: str
    label: str
    rank: float
    side_by_side: bool = True
    extents: Extents | None = None
    posing: Posing = lambda frames, _face, _clusters, _scales: on_baseline(frames)
    bending: Bending | None = None


@dataclass(frozen=True, eq=False)
class LabelStance:
    """One way in which straight labels stand on a curve.

    posing
        from the frames at the labels' middles, and (n,) half a capital's height and half the
        label's length, mm, to unit vectors to the right and up, and the labels' middles, (n, 2)
    on_line
        whether labels stand along the guide, so that they can follow it, or run into each other
    """

    name: str
    label: str
    rank: float
    posing: Callable[[Frames, Floats, Floats], tuple[Floats, Floats, Floats]]
    on_line: bool = False
