"""Curves of any kind, joined end to end into one."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property

import numpy as np

from ulvent.core.base.arrays import Floats, Stations
from ulvent.core.base.errors import CurveError
from ulvent.core.base.tolerances import CORNER, JOINT
from ulvent.core.curves.curve import Corners, Curve, Frames, at_corners
from ulvent.core.curves.section import stretch_of
from ulvent.core.curves.segments import Segment


class Chain(Curve):
    """Open pieces in order of travel; each starts where the last one ended."""

    def __init__(self, pieces: Sequence[Curve], closed: bool = False) -> None:
        if not pieces:
            raise CurveError("a chain needs at least one piece")
        if any(piece.closed for piece in pieces):
            raise CurveError("the pieces of a chain must be open")
        pieces = [part for piece in pieces for part in _parts(piece)]
        self._pieces = tuple(pieces)
        self._closed = closed
        self._ends = np.cumsum([piece.length for piece in pieces])
        self._starts = np.concatenate([[0.0], self._ends[:-1]])
        heads = [piece.frames(0.0) for piece in pieces]
        tails = [piece.frames(piece.length) for piece in pieces]
        self._start_points = np.concatenate([head.points for head in heads])
        self._end_points = np.concatenate([tail.points for tail in tails])
        self._check_joints()
        turns = [
            _turn(tail.tangents[0], head.tangents[0])
            for tail, head in zip(tails[:-1], heads[1:], strict=True)
        ]
        self._jumps = np.array(turns)
        through = np.array([float(tail.turnings[0]) for tail in tails])
        self._start_turnings = np.concatenate([[0.0], np.cumsum(through[:-1] + self._jumps)])

    def _check_joints(self) -> None:
        gaps = np.hypot(*(self._start_points[1:] - self._end_points[:-1]).T)
        if (gaps > JOINT).any():
            raise CurveError(
                f"piece {int(gaps.argmax()) + 1} does not start where the last one ended"
            )
        if self._closed and np.hypot(*(self._end_points[-1] - self._start_points[0])) > JOINT:
            raise CurveError("a closed chain must end where it starts")

    @property
    def asked(self) -> tuple[Curve, ...]:
        return self._pieces

    @property
    def length(self) -> float:
        return float(self._ends[-1])

    @property
    def closed(self) -> bool:
        return self._closed

    def _reversed(self) -> Chain:
        return Chain([piece.reversed() for piece in reversed(self._pieces)], self._closed)

    def segments(self) -> tuple[Segment, ...]:
        return tuple(segment for piece in self._pieces for segment in piece.segments())

    def _stretch(self, begin: float, end: float) -> Curve:
        """Whole pieces and the rest of those at both ends; no piece shorter than a joint."""
        kept: list[Curve] = []
        for start, piece in zip(self._starts.tolist(), self._pieces, strict=True):
            first = max(begin - start, 0.0)
            last = min(end - start, piece.length)
            if last - first > JOINT:
                whole = first == 0.0 and last == piece.length
                kept.append(piece if whole else stretch_of(piece, first, last))
        return kept[0] if len(kept) == 1 else Chain(kept)

    @cached_property
    def bends(self) -> tuple[Floats, Floats]:
        each = [piece.bends for piece in self._pieces]
        stations = [start + own for start, (own, _) in zip(self._starts, each, strict=True)]
        return np.concatenate(stations), np.concatenate([bends for _, bends in each])

    @cached_property
    def _all_corners(self) -> Corners:
        sharp = np.abs(self._jumps) > CORNER
        stations, turns = [self._ends[:-1][sharp]], [self._jumps[sharp]]
        for start, piece in zip(self._starts, self._pieces, strict=True):
            stations.append(start + piece.corners.stations)
            turns.append(piece.corners.turns)
        where, turn = np.concatenate(stations), np.concatenate(turns)
        order = np.argsort(where, kind="stable")
        return Corners(where[order], turn[order])

    @property
    def corners(self) -> Corners:
        return self._all_corners

    def _frames(self, stations: Stations) -> Frames:
        piece_of = np.searchsorted(self._ends[:-1], stations, side="right")
        points, tangents = np.empty((2, len(stations), 2))
        curvatures, turnings = np.empty((2, len(stations)))
        for index in np.unique(piece_of):
            mine = piece_of == index
            piece, start = self._pieces[index], self._starts[index]
            own = piece.corners.stations
            inside = at_corners(stations[mine] - start, stations[mine], start + own, own)
            found = piece.frames(inside)
            points[mine] = found.points
            tangents[mine] = found.tangents
            curvatures[mine] = found.curvatures
            turnings[mine] = self._start_turnings[index] + found.turnings
        return Frames(points, tangents, curvatures, turnings)


def _parts(piece: Curve) -> tuple[Curve, ...]:
    """A chain in a chain is its pieces."""
    return piece._pieces if isinstance(piece, Chain) else (piece,)


def _turn(before: Floats, after: Floats) -> float:
    """Radians from one tangent to the next, in (−π, π]."""
    cross = before[0] * after[1] - before[1] * after[0]
    return float(np.arctan2(cross, before @ after))
