"""One line of thread through lettering, without an end before the last letter's.

The lines of a letter are split where they cross and touch, and loose parts are joined by the
shortest link. A line that goes over all of that from one node to another goes over some of it
twice: the shortest such detour pairs the nodes where an odd number of lines meets. It is found for
each pair of nodes near the letter's two sides, and along the words those pairs are taken that make
the whole shortest.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ulvent.core.base.arrays import Integers, Points
from ulvent.core.base.tolerances import JOINT
from ulvent.core.outlines import Polyline
from ulvent.core.stitches.line_net import Net
from ulvent.core.stitches.threads import even_places, long_enough

_SAME = 6
_NEAR, _OFF, _ROUNDS = 0.15, 0.12, 60
"""Stitches are made to be nearer to their length than this share of it, by needle points that are
moved by at most that share of it, in so many rounds."""


@dataclass(frozen=True, eq=False)
class QuiltedLine:
    """One line through letters.

    points
        (k, 2) mm, dense
    nodes
        places of `points` at which begins or ends what is gone over twice: stitches end there
    drawn, length
        mm of the letters' own lines, and of the whole
    letters
        (k,) which letter each point is of, −1 between them
    """

    points: Points
    nodes: list[int]
    drawn: float
    length: float
    letters: Integers

    @property
    def overhead(self) -> float:
        """What is sewn besides the letters' own lines, as a share of these."""
        return self.length / max(self.drawn, JOINT) - 1.0

    def stitches(self, length: float) -> tuple[Points, Integers]:
        """Needle points about `length` mm apart, and which letter each is of.

        Between nodes, and corners, stitches are as long as each other, and what is gone over
        twice uses the same holes. Where they would be too short or too long, needle points stand
        a little off.
        """
        ends = sorted({0, *self.nodes, len(self.points) - 1})
        found, whose = [self.points[:1]], [self.letters[:1]]
        for begin, end in zip(ends[:-1], ends[1:], strict=True):
            found.append(even_places(self.points[begin : end + 1], length)[1:])
            whose.append(np.full(len(found[-1]), self.letters[end]))
        points, letters = np.concatenate(found), np.concatenate(whose)
        kept = long_enough(points)
        return _evened(points[kept], length), letters[kept]


def _evened(points: Points, length: float) -> Points:
    """Needle points (k, 2) moved so that stitches are nearer to their length, and points that are
    one stay one."""
    holes, hole = np.unique(points.round(_SAME), axis=0, return_inverse=True)
    hole = hole.ravel()
    stitches = np.unique(np.sort(np.stack([hole[:-1], hole[1:]], axis=1), axis=1), axis=0)
    begins, ends = stitches[stitches[:, 0] < stitches[:, 1]].T
    low, high = (1.0 - _NEAR) * length, (1.0 + _NEAR) * length
    moved = holes.copy()
    for _ in range(_ROUNDS):
        way = moved[ends] - moved[begins]
        long = np.hypot(*way.T)[:, None]
        step = way / np.maximum(long, JOINT) * (np.clip(long, low, high) - long) / 2.0
        asked = np.bincount(np.concatenate([begins, ends]), minlength=len(holes))[:, None]
        change = np.zeros_like(moved)
        np.add.at(change, ends, step)
        np.add.at(change, begins, -step)
        off = moved + change / np.maximum(asked, 1) - holes
        far = np.hypot(*off.T)[:, None] / (_OFF * length)
        moved = holes + off / np.maximum(far, 1.0)
    found: Points = moved[hole]
    return found


def quilted_line(letters: Sequence[Sequence[Polyline]]) -> QuiltedLine:
    """One line through letters, each given by its lines, in their order.

    Raises
    ------
    PieceError
        Where a letter has too many crossings for it.
    """
    nets = [Net(lines) for lines in letters if lines]
    if not nets:
        return QuiltedLine(np.empty((0, 2)), [], 0.0, 0.0, np.empty(0, dtype=int))
    doors = _best_doors(nets)
    parts: list[Points] = []
    nodes: list[int] = []
    whose: list[Integers] = []
    count = 0
    for index, (net, (entry, out)) in enumerate(zip(nets, doors, strict=True)):
        points, own = net.path(entry, out)
        if parts:
            # The way between letters is straight, and of neither.
            points = np.concatenate([parts[-1][-1:], points])
            own = [0, *(one + 1 for one in own)]
            whose.append(np.array([-1, -1]))
            whose.append(np.full(len(points) - 2, index))
        else:
            whose.append(np.full(len(points), index))
        nodes += [count + one for one in own]
        parts.append(points)
        count += len(points)
    line = np.concatenate(parts)
    length = float(np.hypot(*np.diff(line, axis=0).T).sum())
    return QuiltedLine(line, nodes, sum(net.drawn for net in nets), length, np.concatenate(whose))


def _best_doors(nets: Sequence[Net]) -> list[tuple[int, int]]:
    """Of each letter the node to come in at and the one to leave, so that the whole is short."""
    best: list[dict[int, tuple[float, tuple[int, int] | None, int]]] = []
    for index, net in enumerate(nets):
        here: dict[int, tuple[float, tuple[int, int] | None, int]] = {}
        for entry in net.doors(first=True):
            before, came = 0.0, None
            if index:
                last = nets[index - 1]
                before, came = min(
                    (cost + math.dist(last.at[out], net.at[entry]), (index - 1, out))
                    for out, (cost, _, _) in best[-1].items()
                )
            for out in net.doors(first=False):
                cost = before + net.detour(entry, out)
                if out not in here or cost < here[out][0]:
                    here[out] = (cost, came, entry)
        best.append(here)
    found: list[tuple[int, int]] = []
    out = min(best[-1], key=lambda node: best[-1][node][0])
    for here in reversed(best):
        _, came, entry = here[out]
        found.append((entry, out))
        out = came[1] if came else -1
    return found[::-1]
