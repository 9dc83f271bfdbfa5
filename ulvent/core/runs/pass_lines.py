"""The lines of a pass: what it works on, seen from the machine's zero."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.base.fields import XY
from ulvent.core.layout import Layout
from ulvent.core.outlines import Outline, curve_of
from ulvent.core.prepare import Group
from ulvent.core.prepare.kerfs import Kerfs
from ulvent.core.recipe.lying import Lie, corner_shares
from ulvent.core.recipe.run_sheet import Filling, RunPass, RunSheet
from ulvent.core.recipe.tool_sheet import PLAIN
from ulvent.core.runs.nesting import LETTERING, Line, holes_turned
from ulvent.core.runs.raster_rows import filling_lines, refuse_many
from ulvent.core.shapes import Region, flat_contours
from ulvent.core.shapes.flat import outline_of
from ulvent.core.shapes.region import ring_area

_SHORT = 0.1
_CLEAR = 0.8
"""mm that lines for weeding keep from what is cut."""
_ARM = 3.0
"""mm from the middle of a mark to the ends of its lines."""


class Placing:
    """Where things lie seen from the machine's zero, mirrored where the sheet is."""

    def __init__(
        self, sheet: RunSheet, lie: Lie, keeps: bool, blank: Sequence[Points],
        groups: Sequence[Group],
    ) -> None:  # fmt: skip
        self._lie, self.blank = lie, blank
        corners = list(blank)
        if not corners:
            boxes = np.array([box for group in groups for box in group.bounds()]).reshape(-1, 2, 2)
            corners = list(boxes)
        points = np.concatenate(corners) if corners else np.zeros((1, 2))
        low, high = points.min(axis=0), points.max(axis=0)
        self._mirror = np.array([-1.0, 1.0]) if sheet.mirrored else np.ones(2)
        if sheet.mirrored:
            low, high = np.array([-high[0], low[1]]), np.array([-low[0], high[1]])
        self._zero = low + np.array(corner_shares(sheet.zero)) * (high - low) - np.array(sheet.at)
        self.box = (*(low - self._zero).tolist(), *(high - self._zero).tolist())
        self.marks = sheet.marks
        self.mirrored, self.keeps = sheet.mirrored, keeps
        self.weeding, self.weeding_apart = sheet.weeding, sheet.weeding_apart

    def to_piece(self, points: Points) -> Points:
        """From the machine's zero to the piece as it is designed, (k, 2) mm."""
        sheet = (points + self._zero) * self._mirror
        found: Points = sheet @ self._lie.back[:, :2].T + self._lie.back[:, 2]
        return found

    def from_piece(self, at: XY) -> Points:
        """The other way, (2,) mm."""
        matrix = self._lie.matrix
        found: Points = (matrix[:, :2] @ np.array(at) + matrix[:, 2]) * self._mirror - self._zero
        return found

    def laid(self, points: Points) -> Points:
        found: Points = points * self._mirror - self._zero
        # A ring keeps running the way it does: the material stays on the same side.
        return found[::-1] if self.mirrored else found


def placing_of(layout: Layout, sheet: RunSheet, groups: Sequence[Group]) -> Placing:
    """How a piece lies at the machine that follows a run sheet."""
    piece = layout.piece
    blank = [
        ring
        for curve in layout.blank
        for ring, _ in flat_contours(outline_of(curve).transformed(piece.lie.matrix))
    ]
    used = piece.tool_sheets[0] if piece.tool_sheets else PLAIN
    return Placing(sheet, piece.lie, used.use not in ("removed", "sunk"), blank, groups)


def pass_lines(recipe: RunPass, groups: Sequence[Group], place: Placing) -> list[Line]:
    """All lines of a pass that follows lines, with marks and a box for weeding where asked for."""
    lines = lines_of(groups, place, recipe.kerf)
    if any(works.what == "marks" for works in recipe.works):
        lines += _marks(place, 1 + max((line.unit for line in lines), default=-1))
    if place.weeding and recipe.tool == "blade" and lines:
        lines += _for_weeding(lines, place)
    return lines


def lines_of(groups: Sequence[Group], place: Placing, kerf: Kerfs) -> list[Line]:
    """All lines of groups; those of one outline are a unit.

    Closed ones have what they enclose, or are a hole of, on their left: outlines of letters and
    borders run so; guides and edges are turned so that those within others are holes of them.
    """
    found: list[Line] = []
    edges: list[Line] = []
    unit = 0
    for group in groups:
        keeps = place.keeps or group.key[0] not in LETTERING
        for text, outline in [*group.areas_with(kerf), *(("", one) for one in group.lines)]:
            name = f"“{text}” of {group.name}" if text else group.name
            found += [line._replace(keeps=keeps) for line in _laid(outline, place, unit, name)]
            unit += 1
        for curve in group.curves:
            edges += _laid(outline_of(curve_of(curve)), place, unit, group.name)
            unit += 1
    edges = holes_turned(edges)
    moved = [one.offset for one in kerf if one.edges and one.of is None]
    return [*found, *(_moved(edges, moved[-1]) if moved else edges)]


def _moved(edges: Sequence[Line], offset: float) -> Iterator[Line]:
    """Edges moved outward from what lies on their left; open ones stay."""
    for line in edges:
        if not line.closed:
            yield line
            continue
        hole = ring_area(line.points) < 0.0
        region = Region.of_rings([line.points]).offset(-offset if hole else offset)
        for ring in region.rings:
            yield line._replace(points=ring[::-1] if hole else ring)


def _laid(outline: Outline, place: Placing, unit: int, name: str) -> list[Line]:
    lines = (
        Line(_without_repeats(place.laid(points), closed), closed, unit, name)
        for points, closed in flat_contours(outline)
    )
    return [line for line in lines if len(line.points) > 1]


def _for_weeding(lines: Sequence[Line], place: Placing) -> list[Line]:
    """A box round what is cut, and lines across it that keep clear of that."""
    box = _box_round(lines, place.weeding)
    if not place.weeding_apart:
        return [box]
    rings = [line.points for line in lines if line.closed]
    # They end just within the box, which is cut last.
    whole = Region.of_rings([box.points]).offset(-_SHORT)
    film = whole.minus(Region.of_rings(rings).filled().offset(_CLEAR))
    refuse_many(film, place.weeding_apart, "run.weeding_apart")
    across = filling_lines(film, Filling(pitch=place.weeding_apart, overscan=0.0))
    strips = [
        Line(one.points, False, box.unit + 1 + index, "Line for weeding")
        for index, one in enumerate(across)
    ]
    return [*strips, box]


def _box_round(lines: Sequence[Line], margin: float) -> Line:
    """A box round lines, cut when all in it is: what is between comes off in one."""
    points = np.concatenate([line.points for line in lines])
    (x0, y0), (x1, y1) = points.min(axis=0) - margin, points.max(axis=0) + margin
    corners = np.array([[x0, y0], [x1, y0], [x1, y1], [x0, y1]])
    return Line(corners, True, 1 + max(line.unit for line in lines), "Box for weeding")


def _marks(place: Placing, unit: int) -> list[Line]:
    """Crosses outside three corners of the blank: from them it is seen how it lay.

    Where its zero is, a fourth is not needed: three tell which way round it was.
    """
    if not place.marks:
        return []
    x0, y0, x1, y1 = place.box
    out = place.marks
    middles = np.array([[x0 - out, y0 - out], [x1 + out, y0 - out], [x0 - out, y1 + out]])
    arms = np.array([[[-_ARM, 0.0], [_ARM, 0.0]], [[0.0, -_ARM], [0.0, _ARM]]])
    return [
        Line(middle + arm, False, unit + index, "Mark to lay it by again")
        for index, middle in enumerate(middles)
        for arm in arms
    ]


def _without_repeats(points: Points, closed: bool) -> Points:
    steps = np.abs(np.diff(points, axis=0, prepend=points[-1:] if closed else points[:1] - 1.0))
    kept: Points = points[steps.max(axis=1) > 0.0]
    return kept
