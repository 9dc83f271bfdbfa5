"""A cutout: what is cut out by itself, mostly a letter."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache

import numpy as np

from ulvent.core.base.arrays import Floats
from ulvent.core.base.linked import joined_groups
from ulvent.core.base.tolerances import JOINT
from ulvent.core.outlines import Outline, Polyline
from ulvent.core.shapes import Region, flat_contours
from ulvent.core.shapes.near_pairs import near_pairs


@dataclass(frozen=True, eq=False)
class Cutout:
    """What is cut out by itself as it stands: one letter, letters that are one, a bar.

    place
        in the words of its lettering, −1 where it is none of them
    lettering
        whose it is; empty for a bar, or what is made of several letterings
    height
        of a capital, mm; zero for what is no letter
    outline
        its own curves; none where it has been worked on
    local
        from the letter's upright frame at true size to where it stands, for rigid letters
    shape, scale
        the letter's outline in font units, and mm per unit
    ticks
        whether it is ticks of a dial
    """

    area: Region
    lettering: str = ""
    place: int = -1
    text: str = ""
    height: float = 0.0
    outline: Outline | None = None
    local: Floats | None = None
    shape: Outline | None = None
    scale: float = 1.0
    ticks: bool = False


@dataclass(frozen=True, eq=False)
class SingleLine:
    """Single lines as they stand: as face or dial has them, or, worked on, dense.

    lettering, ticks
        whose they are; whether they are ticks of a dial
    """

    lettering: str
    outline: Outline | None = None
    line: Polyline | None = None
    ticks: bool = False

    @property
    def dense(self) -> list[Polyline]:
        """The same as dense lines, mm."""
        if self.outline is not None:
            return list(flat_contours(self.outline))
        return [self.line] if self.line is not None else []


def merged(cutouts: list[Cutout], belong: Callable[[Region], bool]) -> list[Cutout]:
    """Cutouts made one wherever what they have in common says so."""

    @cache
    def larger(index: int) -> Region:
        """What only touches has something in common once it is a little larger."""
        return cutouts[index].area.offset(JOINT)

    seams: list[tuple[int, int, Region]] = []
    for one, two in near_pairs([cutout.area.rings for cutout in cutouts], 2.0 * JOINT).tolist():
        common = larger(one).meet(larger(two))
        if not common.is_empty and belong(common):
            seams.append((one, two, common))
    if not seams:
        return cutouts
    ones, twos = np.array([seam[:2] for seam in seams]).T
    group_of = joined_groups(ones, twos, len(cutouts))
    return [
        made_one(
            [cutouts[index] for index in np.flatnonzero(group_of == group)],
            [seam for one, _, seam in seams if group_of[one] == group],
        )
        for group in dict.fromkeys(group_of.tolist())
    ]


def made_one(cutouts: list[Cutout], seams: list[Region]) -> Cutout:
    """Several cutouts as one, held together by their seams too where they only touch."""
    first = cutouts[0]
    if len(cutouts) == 1:
        return first
    names = {cutout.lettering for cutout in cutouts}
    heights = [cutout.height for cutout in cutouts if cutout.height > 0.0]
    thin = [seam.offset(JOINT) for seam in seams if seam.offset(-2.0 * JOINT).is_empty]
    return Cutout(
        Region.joined([*(cutout.area for cutout in cutouts), *thin]),
        names.pop() if len(names) == 1 else "",
        text="".join(cutout.text for cutout in cutouts),
        height=min(heights, default=0.0),
    )
