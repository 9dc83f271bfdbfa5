"""A pass that carves areas: what its cutter does, area by area, one depth after another."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence

import numpy as np

from ulvent.core.base.arrays import Millimetres, Points
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.tools import TOOLS
from ulvent.core.outlines import Polyline
from ulvent.core.recipe.run_sheet import RunPass
from ulvent.core.runs.carving import Carved, clearings, grooves, stretches, with_level
from ulvent.core.runs.line_starts import seen_backward, stretch
from ulvent.core.runs.nesting import Line
from ulvent.core.runs.order import Followed, ordered
from ulvent.core.runs.tracks import Track
from ulvent.core.runs.ways import levels
from ulvent.core.shapes import Region

_NEAR = 0.01
MOST_ROUNDS = 4000
"""Of a flat cutter in all areas of a pass."""


def carved_tracks(
    recipe: RunPass, deepest: Millimetres, outlines: Sequence[Line], where: str
) -> tuple[tuple[str, ...], tuple[Track, ...]]:
    """The names of the areas that outlines enclose, and what is done to carve them.

    deepest
        mm; nothing: a pointed cutter goes as deep as it fits between the edges

    Raises
    ------
    PieceError
        Naming the pass's field, where nothing can be carved so.
    """
    tool, carving = TOOLS[recipe.tool], recipe.carving
    bit = carving.bit or tool.bit
    closed = [line for line in outlines if line.closed]
    areas = Region.of_rings([line.points for line in closed]).parts
    grooved = tool.areas == "grooved"
    if grooved:
        most = bit / 2.0 / math.tan(math.radians(carving.angle / 2.0))
        deepest = min(deepest or most, most)
        ways = [grooves(area, carving.angle, deepest) for area in areas]
    else:
        over = bit * carving.over / 100.0
        _refuse_many(areas, over, where)
        ways = [clearings(area, bit, over, carving.left, deepest) for area in areas]
    names = _names(areas, closed)
    every = [one for some in ways for one in some]
    lines = [
        Line(one.points, one.closed, unit, names[unit])
        for unit, some in enumerate(ways)
        for one in some
    ]
    start = np.zeros(2)
    order = ordered(lines, start) if grooved else _from_the_middle(lines, ways, start)
    tracks: list[Track] = []
    rounds = levels(deepest, recipe.step)
    for unit, some_of in itertools.groupby(order, key=lambda one: lines[one.index].unit):
        together = list(some_of)
        for _ in range(recipe.repeats):
            for above, level in itertools.pairwise((0.0, *rounds)):
                last = level == rounds[-1]
                for one in together:
                    done = _at_level(recipe, every[one.index], one, above, level, last)
                    tracks += [track._replace(line=unit) for track in done]
    return tuple(names), tuple(tracks)


def _at_level(
    recipe: RunPass, carved: Carved, one: Followed, above: Millimetres, level: Millimetres,
    last: bool,
) -> list[Track]:  # fmt: skip
    """What of a way is done in a round that goes from one level down to the next."""
    if carved.closed:
        # The edges of a floor are cut when it is reached; a floor is cleared level by level.
        if TOOLS[recipe.tool].areas == "grooved" and not last:
            return []
        ring, station = carved.points, one.station
        length = Polyline(ring, True).walk().length
        # Floors run with what stays on their right: a cutter that turns clockwise climbs.
        if recipe.milling == "conventional":
            ring, station = ring[::-1], seen_backward(ring) - station
        return [Track(stretch(ring, station, length), one.index, level)]
    points, depths = carved.points, carved.depths
    if one.backward:
        points, depths = points[::-1], depths[::-1]
    found = stretches(points, depths, above, above=True) if above else [(points, depths)]
    tracks = []
    for way, whole in found:
        places, deep = with_level(way, whole, level)
        deep = np.minimum(deep, level)
        tracks.append(Track(places, one.index, depth=float(deep.max()), depths=deep))
    return tracks


def _from_the_middle(
    lines: Sequence[Line], ways: Sequence[Sequence[Carved]], start: Points
) -> list[Followed]:
    """Areas with little way between them; in each, its rings as they were made, every one begun
    where it is nearest to the end of the one before."""
    ends = np.cumsum([len(some) for some in ways])
    filled = [unit for unit, some in enumerate(ways) if some]
    found: list[Followed] = []
    at = start
    for area in ordered([lines[ends[unit] - 1] for unit in filled], start):
        unit = filled[area.index]
        for index in range(ends[unit] - len(ways[unit]), ends[unit]):
            walk = Polyline(lines[index].points, True).walk()
            nearest = int(np.argmin(np.hypot(*(lines[index].points - at).T)))
            found.append(Followed(index, float(walk.along[nearest])))
            at = lines[index].points[nearest]
    return found


def _names(areas: Sequence[Region], outlines: Sequence[Line]) -> list[str]:
    """What each area is called: as the outline is whose begin lies in it."""
    begins = np.array([line.points[0] for line in outlines]).reshape(-1, 2)
    within = [area.filled().offset(_NEAR).contains(begins) for area in areas]
    return [outlines[int(np.argmax(one))].name for one in within]


def _refuse_many(areas: Sequence[Region], over: Millimetres, where: str) -> None:
    """Before any way is made: no circle in an area is larger in radius than twice its size over
    its edge."""
    rounds = sum(math.ceil(2.0 * area.area / area.perimeter / over) for area in areas)
    if rounds > MOST_ROUNDS:
        reason = f"makes up to {rounds} ways round; a larger bit, or ways farther apart, would do"
        raise wrong_field(f"{where}.carving.bit", reason)
