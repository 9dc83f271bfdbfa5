"""How much room lettering has, mm: along its guide, to its neighbours, to edges and other turns.

Positive is what is left, negative what is missing; a fit makes it nothing.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

import numpy as np

from ulvent.core.base.tolerances import JOINT
from ulvent.core.faces.sides import band_of
from ulvent.core.fits.insides import Edge, edge_toward, edges_of_blank, inside_by
from ulvent.core.fits.letter_samples import cubics_of
from ulvent.core.fits.turns_apart import beyond_turns
from ulvent.core.recipe import Fit, Lettering
from ulvent.core.setting import Setting, Standing, fit_window
from ulvent.core.setting.gaps.gap import GapMeter
from ulvent.core.setting.rows.arrange import usual_joint
from ulvent.core.setting.rows.targets import common_gap

Interval = tuple[float, float]


def along_guide(line: Setting, fit: Fit, shared: bool) -> float:
    """What a line leaves of its guide, or of the part that it is to fit.

    Where the guide is `shared` it keeps its place, and its nearer end counts.
    """
    if line.lettering.repeat is not None:
        return line.spare
    window = fit_window(line.lettering, line.guide, line.baseline)
    if window is None:
        return line.baseline.length - line.length - fit.margin
    begin, end = window
    if shared and fit.part is None:
        return 2.0 * min(line.start - begin - fit.margin, end - fit.margin - line.end)
    return end - begin - line.length - 2.0 * fit.margin


def to_close(line: Setting, fit: Fit) -> float:
    """What is left to be filled; on a ring, by how much the seam's gap is too wide."""
    if not line.baseline.closed or fit.part is not None or line.lettering.repeat is not None:
        return along_guide(line, fit, shared=False)
    lettering = line.lettering
    free = line.baseline.length - line.length - fit.margin
    white = white_over_seam(line, fit)
    if lettering.spacing == "font" or len(line.clusters) < 2:
        return free - white
    ends = np.array([len(line.clusters) - 1, 0])
    over_seam = tuple(line.clusters[end] for end in ends)
    meter = GapMeter(line.face, over_seam, line.scales[ends], line.bent)
    middles = line.middles[ends] + np.array([0.0, line.baseline.length - fit.margin])
    found = float(meter.on_curve(middles, line.baseline.frames(middles))[0])
    wanted = float(meter.on_straight(np.array([0.0, line.widths[ends[0]] + white]))[0])
    if lettering.spacing == "same" and fit.seam == "letter" and fit.mark is None:
        least = float(line.scales[ends].min())
        wanted = common_gap(line.face, band_of(*over_seam)) * least + lettering.tracking
    return found - wanted if math.isfinite(found) else free - white


def white_over_seam(line: Setting, fit: Fit) -> float:
    """What is added to the last letter's advance before the first one follows on a ring, mm."""
    lettering, face = line.lettering, line.face
    if fit.mark is not None:
        return usual_joint(lettering, face, beside_mark=True)
    if fit.seam == "word":
        # As in the words: what is added to a letter, a space, and what is added to that.
        return usual_joint(lettering, face, beside_mark=False) + lettering.tracking
    return lettering.tracking


def among_neighbours(lines: Sequence[Setting], others: Sequence[Setting], margin: float) -> float:
    """What is left between the lines and others that stand beside them on the same guide."""
    least = math.inf
    for index, line in enumerate(lines):
        for other in [*lines[index + 1 :], *others]:
            mine, its = line.lettering, other.lettering
            if mine.id != its.id and mine.guide == its.guide and _share_a_lane(line, other):
                least = min(least, _between(line, other) - margin)
    return least


def _share_a_lane(one: Setting, two: Setting) -> bool:
    (low, high), (least, most) = _lane(one), _lane(two)
    return min(high, most) - max(low, least) > JOINT


def _lane(line: Setting) -> Interval:
    """From where to where a line's capitals reach to the left of its guide, mm."""
    feet = line.baseline.distance
    if line.lettering.reading == "along":
        return feet, feet + line.capital
    return -feet - line.capital, -feet


def _between(one: Setting, two: Setting) -> float:
    """From one line to the other along their guide, the shorter way round a closed one."""
    (a, b), (c, d) = _on_guide(one), _on_guide(two)
    apart = abs((a + b) - (c + d)) / 2.0
    if one.guide.closed:
        apart = math.fmod(apart, one.guide.length)
        apart = min(apart, one.guide.length - apart)
    return apart - (b - a + d - c) / 2.0


def _on_guide(line: Setting) -> Interval:
    begin, end = line.baseline.foot(np.array([line.start, line.end])).tolist()
    if line.lettering.reading == "against":
        begin, end = line.guide.length - end, line.guide.length - begin
    return begin, end


def keeps_from_turns(lettering: Lettering, fit: Fit) -> bool:
    """Whether letters keep from those on other turns; on other laps they always do."""
    return "turns" in fit.within or lettering.laps is not None


def bounds_lacking(fit: Fit, standing: Standing) -> str:
    """That a fit keeps inside of what is not there, in words; nothing where it is."""
    if "blank" in fit.within and not standing.blank:
        return "there is no blank to keep inside of"
    if "edges" in fit.within and not standing.edges:
        return "this guide does not lie between two edges to keep inside of"
    return ""


def within_bounds(lines: Sequence[Setting], fit: Fit, standing: Standing) -> float:
    """What outlines leave beside the distance that they keep from edges and other turns."""
    rooms: list[float] = []
    if keeps_from_turns(lines[0].lettering, fit):
        rooms.append(beyond_turns(lines, fit.clear))
    edges: list[Edge] = []
    if "blank" in fit.within and standing.blank:
        edges += edges_of_blank(standing.blank)
    if "edges" in fit.within and standing.edges:
        middle = standing.guide.points(standing.guide.length / 2.0)[0]
        inner = float(middle[0]), float(middle[1])
        edges += [edge_toward(edge, inner) for edge in standing.edges]
    if edges:
        cubics = cubics_of(lines)
        rooms += [inside_by(cubics, edge) - fit.clear for edge in edges]
    return min(rooms, default=math.inf)


def every_line(lines: Iterable[Setting], fit: Fit) -> float:
    """What the fullest line leaves to be filled."""
    return min(to_close(line, fit) for line in lines)
