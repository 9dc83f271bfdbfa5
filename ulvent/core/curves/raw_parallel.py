"""The raw parallel: every foot moved along its normal, loops and what runs backwards included."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Stations, Stretch, rotated, turned_left
from ulvent.core.base.tolerances import CORNER, JOINT
from ulvent.core.curves.curve import Curve, Frames
from ulvent.core.curves.parallel import Span


class RawParallel:
    """A raw parallel by *place*: the station on the base, with room added for opening corners.

    On the added room the foot stays at the corner and the normal turns; its width is
    the length of the arc that the parallel makes there, so that places and lengths on the
    parallel are of one size everywhere.
    """

    def __init__(self, base: Curve, distance: float) -> None:
        self.base = base
        self.distance = distance
        corners = base.corners
        stations = [*corners.stations.tolist()]
        turns = [*corners.turns.tolist()]
        if base.closed and abs(base.seam_turn) > CORNER:
            stations.append(base.length)
            turns.append(base.seam_turn)
        self.closing = [s for s, turn in zip(stations, turns, strict=True) if turn * distance > 0.0]
        opening = [(s, t) for s, t in zip(stations, turns, strict=True) if t * distance < 0.0]
        self._fans = np.array([station for station, _ in opening])
        self._jumps = np.array([turn for _, turn in opening])
        self._widths = np.abs(self._jumps * distance)
        self._after = np.cumsum(self._widths)
        self._fan_begins = self._fans + self._after - self._widths
        self.length = base.length + float(self._widths.sum())

    def station(self, places: Floats) -> tuple[Floats, Floats]:
        """Stations of the feet, and how far into a fan each place is, as a share; −1 outside."""
        if not len(self._fans):
            return places, np.full(len(places), -1.0)
        index = np.searchsorted(self._fan_begins, places, side="right") - 1
        fan = np.maximum(index, 0)
        into = places - self._fan_begins[fan]
        inside = (index >= 0) & (into <= self._widths[fan])
        passed = np.where(index >= 0, self._after[fan], 0.0)
        stations = np.where(inside, self._fans[fan], places - passed)
        return stations, np.where(inside, into / self._widths[fan], -1.0)

    def place(self, stations: Stations) -> Floats:
        """Places of stations, before the fan where there is one."""
        index = np.searchsorted(self._fans, stations, side="left")
        found: Floats = stations + np.concatenate([[0.0], self._after])[index]
        return found

    def frames(self, places: Floats) -> tuple[Frames, Floats, Floats]:
        """Frames of the feet, the parallel's points (n, 2), and their velocities by place."""
        places = np.mod(places, self.length) if self.base.closed else places
        stations, shares = self.station(places)
        at = self.base.frames(np.clip(stations, 0.0, self.base.length))
        tangents = at.tangents
        speeds = 1.0 - self.distance * at.curvatures
        fanned = shares >= 0.0
        if fanned.any():
            fan = np.searchsorted(self._fans, stations[fanned])
            # On a closed base the seam answers as station 0 does: with the tangent after it.
            left = (shares[fanned] - 1.0) * self._jumps[fan]
            tangents = tangents.copy()
            tangents[fanned] = rotated(tangents[fanned], left)
            speeds = np.where(fanned, 1.0, speeds)
        normals = turned_left(tangents)
        return at, at.points + self.distance * normals, tangents * speeds[:, None]

    def spans(self, run: list[Stretch]) -> list[Span]:
        """The stretches of a run as spans of the base."""
        found: list[Span] = []
        edges = np.sort(np.concatenate([self._fan_begins, self._fan_begins + self._widths]))
        for begin, end in run:
            inside = edges[(edges > begin + JOINT) & (edges < end - JOINT)].tolist()
            for first, last in zip([begin, *inside], [*inside, end], strict=True):
                found.append(self._span(first, last))
        return [span for span in found if span.turn or span.end - span.begin > 0.0]

    def _span(self, begin: float, end: float) -> Span:
        (_, share) = self.station(np.array([(begin + end) / 2.0]))
        feet, _ = self.station(np.array([begin, end]))
        if len(self._fans):
            # Exactly at the corner, where rounding would be before it or behind it.
            which = np.clip(np.searchsorted(self._fans, feet - JOINT), 0, len(self._fans) - 1)
            feet = np.where(np.abs(self._fans[which] - feet) <= JOINT, self._fans[which], feet)
        if share[0] < 0.0:
            return Span(float(feet[0]), float(feet[1]))
        fan = int(np.searchsorted(self._fans, feet[0]))
        jump, width = float(self._jumps[fan]), float(self._widths[fan])
        first, last = ((place - float(self._fan_begins[fan])) / width for place in (begin, end))
        corner = float(self._fans[fan])
        return Span(corner, corner, (last - first) * jump, jump, first * jump)

    def runs_forward(self, places: Floats) -> Booleans:
        """Whether the parallel runs the way of its base at places."""
        stations, shares = self.station(places)
        bends = self.base.curvatures(np.clip(stations, 0.0, self.base.length))
        forward: Booleans = (shares >= 0.0) | (1.0 - self.distance * bends > 0.0)
        return forward
