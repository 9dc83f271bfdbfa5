"""Places at even steps along many lines at once."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Integers, Lengths, Millimetres, Points, Vectors, counted_up
from ulvent.core.base.tolerances import JOINT
from ulvent.core.outlines.polyline import Polyline


class EvenPlaces(NamedTuple):
    """Places along lines, one line after the other.

    points, ways
        (n, 2) where each place is, mm, and the unit vector along its line there
    whose
        (n,) the line that each is on
    along
        (n,) how far along its line each is, mm
    lengths
        of the lines, mm
    """

    points: Points
    ways: Vectors
    whose: Integers
    along: Lengths
    lengths: Lengths


def even_places(lines: Sequence[Polyline], step: Millimetres, least: int) -> EvenPlaces:
    """Places about `step` mm apart, at least so many on a line.

    They stand midway between even marks, so that none is on a corner that has a mark.
    """
    if not lines:
        nothing = np.empty(0)
        return EvenPlaces(
            np.empty((0, 2)), np.empty((0, 2)), np.empty(0, dtype=int), nothing, nothing
        )
    met = [line.ends_met for line in lines]
    points, sizes = np.concatenate(met), np.array([len(ends) for ends in met])
    lasts = np.cumsum(sizes) - 1
    firsts = lasts - sizes + 1
    chords = np.diff(points, axis=0)
    lengths = np.hypot(*chords.T)
    # From the end of one line to the beginning of the next there is no way.
    lengths[lasts[:-1]] = 0.0
    marks = np.concatenate([[0.0], np.cumsum(lengths)])
    totals = marks[lasts] - marks[firsts]
    counts = np.maximum(np.ceil(totals / step).astype(int), least)
    whose, places = counted_up(counts)
    along = (places + 0.5) * (totals / counts)[whose]
    stations = marks[firsts][whose] + along
    chord = np.searchsorted(marks, stations, side="right") - 1
    chord = np.clip(chord, firsts[whose], np.maximum(lasts - 1, firsts)[whose])
    ways = chords[chord] / np.maximum(lengths[chord], JOINT)[:, None]
    at = points[chord] + ways * (stations - marks[chord])[:, None]
    return EvenPlaces(at, ways, whose, along, totals)
