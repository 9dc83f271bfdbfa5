"""From a run sheet to what each tool does: tracks in order, their lengths and times."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Bounds, Floats, Points, box_round, united
from ulvent.core.base.at_work import at_work
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.outputs import OUTPUTS
from ulvent.core.base.tools import TOOLS, Tool
from ulvent.core.layout import Layout
from ulvent.core.prepare import Group
from ulvent.core.prepare.kerfs import works_on
from ulvent.core.recipe import ToolSheet
from ulvent.core.recipe.run_sheet import RunPass, RunSheet, Tabs
from ulvent.core.runs.carved_tracks import carved_tracks
from ulvent.core.runs.few_moves import once_each
from ulvent.core.runs.leads import Leads
from ulvent.core.runs.line_starts import seen_backward
from ulvent.core.runs.nesting import Line
from ulvent.core.runs.on_the_drawing import with_places
from ulvent.core.runs.order import Followed, ordered
from ulvent.core.runs.pass_lines import Placing, lines_of, pass_lines, placing_of
from ulvent.core.runs.raster_rows import filling_lines, refuse_many
from ulvent.core.runs.relief import Strips, walls
from ulvent.core.runs.timing import USUAL, Motion, seconds_along, straight_seconds
from ulvent.core.runs.tracks import Track
from ulvent.core.runs.usual import plain_sheet, usual_sheet
from ulvent.core.runs.ways import between_tabs, levels, overcut, trailed
from ulvent.core.shapes import Region

MOST_LINES_ORDERED = 20_000


class Lasting(NamedTuple):
    """When a track is followed, seconds from the beginning of its pass.

    down, up
        when the tool is down, and when it has come to the end of the track
    end
        when it is ready to travel on
    """

    down: float
    up: float
    end: float


@dataclass(frozen=True, eq=False)
class PassRun:
    """What one pass does.

    number
        of the pass in the run sheet, from 1
    names, lines
        of its lines, in words, and they themselves as they were asked for; areas that are filled
        have none
    usual
        the tool sheet whose figures are usual for it
    """

    number: int
    recipe: RunPass
    usual: ToolSheet
    names: tuple[str, ...]
    lines: tuple[Line, ...]
    tracks: tuple[Track, ...]
    start: Points
    motion: Motion

    @property
    def tool(self) -> Tool:
        return TOOLS[self.recipe.tool]

    @property
    def title(self) -> str:
        return self.recipe.name or self.tool.title

    @property
    def colour(self) -> str:
        """Of its lines, `#rrggbb`."""
        return OUTPUTS[self.tool.output][2]

    @property
    def speed(self) -> float:
        """mm per second."""
        return self.recipe.speed or self.usual.speed or self.tool.speed

    @property
    def power(self) -> float:
        """Per cent."""
        return self.recipe.power or self.usual.power or self.tool.power

    @property
    def depth(self) -> float:
        """mm, of a tool that goes to a depth."""
        return (self.recipe.depth or self.usual.depth) if self.tool.way == "depth" else 0.0

    @property
    def clears(self) -> float:
        """mm across of a flat cutter; nothing of other tools."""
        return (self.recipe.carving.bit or self.tool.bit) if self.tool.areas == "cleared" else 0.0

    def relief(self, track: Track) -> Strips | None:
        """The walls that one of its tracks leaves, of a pointed cutter."""
        if self.tool.areas != "grooved":
            return None
        depths = track.depths if track.depths is not None else np.array([track.depth])
        depths = np.broadcast_to(depths, len(track.points))
        return walls(track.points, depths, self.recipe.carving.angle)

    @cached_property
    def bounds(self) -> Bounds | None:
        """Of all its tracks, mm from the machine's zero; none where it has none."""
        points = [track.points for track in self.tracks]
        return box_round(np.concatenate(points)) if points else None

    @cached_property
    def lengths(self) -> tuple[float, ...]:
        """mm of each track."""
        length = once_each(_length)
        return tuple(length(track.way) for track in self.tracks)

    @property
    def drawn(self) -> float:
        """mm with the tool down."""
        return sum(self.lengths)

    @cached_property
    def idle(self) -> float:
        """mm with the tool up, from the machine's zero on."""
        run_on = sum(track.row.before + track.row.after for track in self.tracks if track.row)
        return sum(self.travels) + run_on

    @cached_property
    def travels(self) -> tuple[float, ...]:
        """mm with the tool up before each track."""
        found, at = [], self.start
        for track in self.tracks:
            found.append(float(np.hypot(*(track.enters - at))))
            at = track.leaves
        return tuple(found)

    @cached_property
    def lasts(self) -> tuple[Lasting, ...]:
        """When each track is followed, by the model of `timing`."""
        motion = self.motion
        along = once_each(lambda points: seconds_along(points, self.speed, motion))
        found, now = [], 0.0
        for track, way, length in zip(self.tracks, self.travels, self.lengths, strict=True):
            # A beam goes on and off; whatever touches the sheet is lifted.
            lift = motion.lift if way > 0.0 and self.tool.way != "power" else 0.0
            row = track.row
            if row is not None and row.goes_on:
                down = now + way / self.speed
            else:
                down = now + straight_seconds(way, motion.travel, motion.acceleration) + lift
            if row is None:
                up = down + along(track.way)
                now = up + lift
            else:
                down += self._run_in(row.before, row.goes_on)
                up = down + length / self.speed
                now = up + self._run_in(row.after, row.is_followed)
            found.append(Lasting(down, up, now))
        return tuple(found)

    def _run_in(self, length: float, moves: bool) -> float:
        """Seconds to gather speed before a row, or to come to rest after it, over a length, mm."""
        if moves:
            return 0.0
        return 2.0 * length / self.speed if length else self.speed / 2.0 / self.motion.acceleration

    @property
    def seconds(self) -> float:
        """How long it takes."""
        return self.lasts[-1].end if self.lasts else 0.0


@dataclass(frozen=True, eq=False)
class Run:
    """All passes of a piece that run, in order, and the sheet they run on.

    blank
        its edges, mm from the machine's zero
    place
        how the piece lies, seen from the machine's zero
    """

    sheet: RunSheet
    passes: tuple[PassRun, ...]
    blank: tuple[Points, ...]
    place: Placing

    @property
    def working(self) -> tuple[PassRun, ...]:
        """The passes that do something."""
        return tuple(one for one in self.passes if one.tracks)

    @cached_property
    def bounds(self) -> Bounds:
        """Of all tracks, mm from the machine's zero."""
        boxes = [one.bounds for one in self.passes if one.bounds]
        return united(boxes) if boxes else (0.0, 0.0, 0.0, 0.0)

    @cached_property
    def frame(self) -> Bounds:
        """Of all tracks and the blank."""
        return united([self.bounds, *map(box_round, self.blank)])

    @property
    def takes(self) -> tuple[float, float]:
        """mm across and up that it takes of the sheet, blank and marks and all."""
        x0, y0, x1, y1 = self.frame
        return x1 - x0, y1 - y0

    @property
    def seconds(self) -> float:
        return sum(one.seconds for one in self.passes)

    def only(self, name: str) -> Run:
        """The run with one of its passes: by its number or its id.

        Raises
        ------
        PieceError
            When there is none.
        """
        for one in self.passes:
            if name.casefold() in (str(one.number), one.recipe.id.casefold()):
                return replace(self, passes=(one,))
        known = ", ".join(f"{one.number} ({one.title})" for one in self.passes) or "none"
        raise wrong_field("pass", f"there is no pass “{name}” that runs; there are: {known}")


def run_of(layout: Layout, groups: Sequence[Group], motion: Motion = USUAL) -> Run:
    """What the machine does for a piece: its run sheet, or the plain one.

    Raises
    ------
    PieceError
        Naming the pass that cannot be made.
    """
    sheet = layout.piece.run or plain_sheet(layout.piece, groups)
    place = placing_of(layout, sheet, groups)
    passes: list[PassRun] = []
    for number, recipe in enumerate(sheet.passes, 1):
        if recipe.on and not recipe.held:
            where = f"run.passes[{number - 1}]"
            with at_work(where, f"pass {number}", "fewer lines, or a larger pitch, would do"):
                usual = usual_sheet(layout.piece, recipe.tool)
                passes.append(_pass(number, recipe, usual, place, groups, motion, where))
    blank = tuple(map(place.laid, place.blank))
    return Run(sheet, tuple(passes), blank, place)


def _pass(
    number: int, recipe: RunPass, usual: ToolSheet, place: Placing, groups: Sequence[Group],
    motion: Motion, where: str,
) -> PassRun:  # fmt: skip
    chosen = [group for group in groups if works_on(recipe.works, group.key, group.output)]
    start = np.zeros(2)
    areas = TOOLS[recipe.tool].areas
    if areas == "filled":
        followed: tuple[Line, ...] = ()
        names, tracks = _filled(recipe, chosen, place, where)
    elif areas:
        followed = ()
        outlines = lines_of(chosen, place, recipe.kerf)
        names, tracks = carved_tracks(recipe, recipe.depth or usual.depth, outlines, where)
    else:
        lines = with_places(pass_lines(recipe, chosen, place), recipe, place)
        if len(lines) > MOST_LINES_ORDERED:
            reason = f"works on {len(lines)} lines; at most {MOST_LINES_ORDERED} are put in order"
            raise wrong_field(f"{where}.works", reason)
        order = ordered(lines, start)
        names = tuple(line.name for line in lines)
        followed = tuple(lines)
        depth = recipe.depth or usual.depth
        leads = Leads(lines, recipe.lead) if recipe.lead else None
        tracks = tuple(
            track for one in order for track in _tracks(recipe, depth, lines[one.index], one, leads)
        )
    return PassRun(number, recipe, usual, names, followed, tracks, start, motion)


def _tracks(
    recipe: RunPass, deepest: float, line: Line, one: Followed, leads: Leads | None
) -> list[Track]:
    """One line as often as it is followed, down to each depth."""
    tabs, sinks = recipe.tabs, TOOLS[recipe.tool].way == "depth"
    deepest = deepest if sinks else 0.0
    depths = levels(deepest, recipe.step)
    # Where tabs are as high as the cut is deep, they stand in every round.
    standing = tabs.height if tabs is not None and sinks and tabs.height else deepest
    full = tabs is None or standing < deepest
    whole = _followed(recipe, line, one, leads, between=None if full else tabs)
    apart = _followed(recipe, line, one, leads, between=tabs)
    return [
        Track(points, one.index, depth)
        for depth in depths * recipe.repeats
        for points in (whole if tabs is None or depth <= deepest - standing else apart)
    ]


def _followed(
    recipe: RunPass, line: Line, one: Followed, leads: Leads | None, between: Tabs | None
) -> list[Points]:
    """The stretches of a line that are followed with the tool down: all of it, or between tabs."""
    if not line.closed:
        points = line.points[::-1] if one.backward else line.points
        return [trailed(points, recipe.trail)]
    ring, station, left, stand = line.points, one.station, line.keeps, line.tabs
    # A cutter turns clockwise: it climbs where what stays is on its right.
    if recipe.tool == "router" and left == (recipe.milling == "climb"):
        ring, left = ring[::-1], not left
        turned = seen_backward(line.points)
        station, stand = turned - station, tuple(turned - one for one in stand)
    if between is not None:
        stretches = between_tabs(ring, station, between, stand)
        return [trailed(points, recipe.trail) for points in stretches]
    points = overcut(ring, station, recipe.overcut)
    if leads is not None:
        points = leads.led(points, -1.0 if left else 1.0)
    return [trailed(points, recipe.trail)]


def _length(way: Floats) -> float:
    return float(np.linalg.norm(np.diff(way, axis=0), axis=1).sum())


def _filled(
    recipe: RunPass, groups: Sequence[Group], place: Placing, where: str
) -> tuple[tuple[str, ...], tuple[Track, ...]]:
    outlines = lines_of(groups, place, recipe.kerf)
    area = Region.of_rings([line.points for line in outlines if line.closed])
    if area.is_empty:
        return (), ()
    refuse_many(area, recipe.filling.pitch, f"{where}.filling.pitch")
    lines = filling_lines(area, recipe.filling)
    names = tuple(dict.fromkeys(group.name for group in groups))
    once = [Track(one.points, 0, row=one.row) for one in lines]
    return names, tuple(once * recipe.repeats)
