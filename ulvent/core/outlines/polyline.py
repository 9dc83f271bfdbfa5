"""A dense line of straight chords, as one value, and the way along it."""

from __future__ import annotations

from functools import cached_property
from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Integers, Millimetres, Points, Stations, Vectors
from ulvent.core.base.tolerances import JOINT


class Polyline(NamedTuple):
    """Points (k, 2), mm; the first one of a closed line is not repeated at its end."""

    points: Points
    closed: bool

    @property
    def ends_met(self) -> Points:
        """The points with the first one again at the end of a closed line."""
        if not self.closed:
            return self.points
        return np.concatenate([self.points, self.points[:1]])

    def walk(self) -> Walk:
        """The line by stations: how far along it each place is."""
        return Walk(self)


class Walk:
    """The way along a polyline by stations, mm from its first point."""

    def __init__(self, line: Polyline) -> None:
        self.points = line.ends_met
        self._closed = line.closed
        self.along: Stations = np.concatenate(
            [[0.0], np.cumsum(np.hypot(*np.diff(self.points, axis=0).T))]
        )

    @property
    def length(self) -> Millimetres:
        return float(self.along[-1])

    def at(self, stations: Stations) -> Points:
        """(..., 2) points at stations; those off a closed line wrap, others are its ends."""
        if self._closed:
            stations = np.where(
                (stations < 0.0) | (stations > self.length),
                np.mod(stations, self.length),
                stations,
            )
        return np.stack(
            [np.interp(stations, self.along, self.points[:, axis]) for axis in (0, 1)], axis=-1
        )

    def edge(self, stations: Stations) -> Integers:
        """Which chord each station is on, from 0."""
        found = np.searchsorted(self.along, stations, side="right") - 1
        return np.clip(found, 0, len(self.points) - 2)

    @cached_property
    def ways(self) -> Vectors:
        """Unit vectors along the chords; less than 1 long where a chord is shorter than a joint."""
        lengths = np.maximum(np.diff(self.along), JOINT)
        return np.diff(self.points, axis=0) / lengths[:, None]
