"""How a tool goes along one line: begun, overcut, led in and out, held by tabs, trailing."""

from __future__ import annotations

import math

import numpy as np

from ulvent.core.base.arrays import Points, wrapped
from ulvent.core.base.tolerances import JOINT
from ulvent.core.outlines import Polyline
from ulvent.core.recipe.run_sheet import Tabs
from ulvent.core.runs.line_starts import stretch

_ARC_STEP = math.radians(6.0)
_MOST_TABBED = 0.5
"""Share of a line that tabs may take."""


def overcut(ring: Points, station: float, beyond: float) -> Points:
    """(k, 2) a closed line from a station all round and `beyond` it, mm."""
    length = Polyline(ring, True).walk().length
    return stretch(ring, station, length + min(beyond, length))


def between_tabs(
    ring: Points, station: float, tabs: Tabs, by_hand: tuple[float, ...] = ()
) -> list[Points]:
    """The stretches of a closed line between tabs, (k, 2) each, the first after the first tab.

    Tabs stand where they were set by hand, mm along the line, or evenly from half their distance
    beyond the station on. On a line that is too short for all of them there are fewer, and none
    where even one would take half of it.
    """
    length = Polyline(ring, True).walk().length
    most = int(_MOST_TABBED * length / tabs.width)
    if by_hand:
        beyond = np.unique((np.array(by_hand) - station) % length)
        clear = np.concatenate([[True], np.diff(beyond) > tabs.width])
        middles = station + beyond[clear][:most]
    else:
        wanted = max(1, round(length / tabs.apart)) if tabs.apart else tabs.number
        number = min(wanted, most)
        middles = station + (np.arange(number) + 0.5) * length / max(1, number)
    if not len(middles):
        return [stretch(ring, station, length)]
    gaps = np.diff(middles, append=middles[0] + length)
    return [
        stretch(ring, middle + tabs.width / 2.0, gap - tabs.width)
        for middle, gap in zip(middles.tolist(), gaps.tolist(), strict=True)
        if gap > tabs.width
    ]


def trailed(points: Points, trail: float) -> Points:
    """(k, 2) where the pivot of a trailing blade goes so that its tip follows a line.

    The pivot leads the tip by `trail` mm along its way; at a corner it swings about the tip on
    an arc. The blade is taken to lie in the line's first direction before it comes down.
    """
    chords = np.diff(points, axis=0)
    lengths = np.hypot(*chords.T)
    kept = lengths > JOINT
    if trail <= 0.0 or not kept.any():
        return points
    tips = np.concatenate([points[:1], points[1:][kept]])
    angles = np.arctan2(chords[kept, 1], chords[kept, 0])
    found = [tips[:1] + trail * _heading(angles[:1])]
    for index, turn in enumerate([*wrapped(np.diff(angles)).tolist(), 0.0]):
        steps = max(1, math.ceil(abs(turn) / _ARC_STEP))
        swing = angles[index] + turn * np.arange(steps + 1) / steps
        found.append(tips[index + 1] + trail * _heading(swing if turn else swing[:1]))
    return np.concatenate(found)


def _heading(angles: Points) -> Points:
    return np.stack([np.cos(angles), np.sin(angles)], axis=1)


def levels(depth: float, step: float) -> tuple[float, ...]:
    """How deep each round goes, mm, the last one all of the depth."""
    if depth <= 0.0:
        return (0.0,)
    rounds = math.ceil(depth / step - 1e-9) if step else 1
    return tuple(depth * (one + 1) / rounds for one in range(rounds))
