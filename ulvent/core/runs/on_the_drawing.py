"""What is done by hand on the drawing of a run: where a line begins, where a tab stands, and
what a pass works on."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal, NamedTuple

import numpy as np

from ulvent.core.base.arrays import Point, Points
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.fields import XY
from ulvent.core.base.trees import point_tree
from ulvent.core.curves.segments import as_point
from ulvent.core.layout import Layout
from ulvent.core.outlines import Polyline
from ulvent.core.prepare import Group
from ulvent.core.prepare.kerfs import works_on
from ulvent.core.recipe import RunPass, RunSheet, Tabs, Works
from ulvent.core.runs.nesting import Line
from ulvent.core.runs.pass_lines import Placing, lines_of, placing_of

NEAR = 10.0
"""mm: a place by hand is for the closed line that is nearest, if it is as near as this."""
_STEP = 0.25
_SAME = 4.0
"""mm: what is set so near to another takes its place."""

Does = Literal["begin", "tab", "work"]


def with_places(lines: Sequence[Line], recipe: RunPass, place: Placing) -> list[Line]:
    """Lines with the beginnings and tabs that were set by hand on them."""
    found = list(lines)
    tabs = recipe.tabs.at if recipe.tabs else ()
    if not recipe.begins and not tabs:
        return found
    nearest = _Nearest([line if line.closed else None for line in lines])
    for at in recipe.begins:
        if hit := nearest.to(place.from_piece(at)):
            found[hit.line] = found[hit.line]._replace(begins=hit.station)
    for at in tabs:
        if hit := nearest.to(place.from_piece(at)):
            line = found[hit.line]
            found[hit.line] = line._replace(tabs=(*line.tabs, hit.station))
    return found


def done_by_hand(
    layout: Layout, groups: Sequence[Group], sheet: RunSheet, name: str, does: Does,
    at: Point | None, was: Point | None = None,
) -> RunSheet:  # fmt: skip
    """A run sheet after something was done on its drawing, for the pass of an id.

    at
        mm from the machine's zero: a beginning or a tab is set there, or what lies there is worked
        on, or no longer; nothing: what was set is taken away
    was
        where the beginning or tab was that is pulled or taken away

    Raises
    ------
    PieceError
        When there is no such pass, or nothing lies there.
    """
    recipe = next((one for one in sheet.passes if one.id == name), None)
    if recipe is None:
        raise wrong_field("pass", f"there is no pass “{name}”")
    place = placing_of(layout, sheet, groups)
    if does == "work":
        changed = recipe.model_copy(update={"works": _toggled(recipe, groups, place, at)})
    else:
        old = recipe.begins if does == "begin" else (recipe.tabs or Tabs()).at
        if at is not None:
            mine = [group for group in groups if works_on(recipe.works, group.key, group.output)]
            lines = [line if line.closed else None for line in lines_of(mine, place, recipe.kerf)]
            hit = _Nearest(lines).to(np.array(at))
            if hit is None:
                raise wrong_field("at", "no closed line of this pass lies there")
            at = as_point(hit.at)
        places = _placed(old, _in_piece(place, was), _in_piece(place, at))
        if does == "begin":
            changed = recipe.model_copy(update={"begins": places})
        else:
            tabs = (recipe.tabs or Tabs(number=0)).model_copy(update={"at": places})
            changed = recipe.model_copy(update={"tabs": tabs})
    passes = [(changed if one is recipe else one).model_dump() for one in sheet.passes]
    return RunSheet.model_validate({**sheet.model_dump(), "passes": passes})


def _in_piece(place: Placing, at: Point | None) -> XY | None:
    if at is None:
        return None
    x, y = place.to_piece(np.array([at]))[0].round(4).tolist()
    return x, y


def _placed(old: Sequence[XY], was: XY | None, at: XY | None) -> tuple[XY, ...]:
    found = list(old)
    if was is not None and found:
        found.remove(min(found, key=lambda one: math.dist(one, was)))
    if at is not None:
        found = [one for one in found if math.dist(one, at) > _SAME]
        found.append(at)
    return tuple(found)


def _toggled(
    recipe: RunPass, groups: Sequence[Group], place: Placing, at: Point | None
) -> tuple[Works, ...]:
    """What a pass works on with the group that lies at a place, or without it, one by one."""
    lines: list[Line | None] = []
    whose: list[Group] = []
    for group in groups:
        mine = lines_of([group], place, ())
        lines += mine
        whose += [group] * len(mine)
    found = _Nearest(lines).to(np.array(at)) if at is not None else None
    if found is None:
        raise wrong_field("at", "nothing lies there that can be worked on")
    hit = whose[found.line]
    kept = [
        group
        for group in groups
        if works_on(recipe.works, group.key, group.output) != (group is hit)
    ]
    if not kept:
        raise wrong_field("works", "a pass works on something: switch it off instead")
    marks = tuple(one for one in recipe.works if one.what == "marks")
    return (*map(works_of, kept), *marks)


def works_of(group: Group) -> Works:
    """What a pass works on that works on a group alone."""
    return Works.model_validate({"what": group.key[0], "of": "".join(group.key[1:])})


class _Hit(NamedTuple):
    """A place on a line: which one, mm along it, and where, (2,) mm."""

    line: int
    station: float
    at: Points


class _Nearest:
    """Finds the line that is nearest to a place; lines that are none are left out."""

    def __init__(self, lines: Sequence[Line | None]) -> None:
        self._points: list[Points] = []
        self._stations: list[Points] = []
        self._whose: list[Points] = []
        for index, line in enumerate(lines):
            if line is None:
                continue
            walk = Polyline(line.points, line.closed).walk()
            stations = np.arange(0.0, walk.length, _STEP)
            self._points.append(walk.at(stations))
            self._stations.append(stations)
            self._whose.append(np.full(len(stations), index))
        self._tree = point_tree(np.concatenate(self._points)) if self._points else None

    def to(self, at: Points) -> _Hit | None:
        """What of the lines is nearest to a point (2,); none where none is near."""
        if self._tree is None:
            return None
        apart, index = self._tree.query(at)
        if apart > NEAR:
            return None
        stations, whose, points = map(np.concatenate, (self._stations, self._whose, self._points))
        return _Hit(int(whose[index]), float(stations[index]), points[index])
