"""The lines of a letter as a net: edges between nodes, and the shortest way over all of them.

Lines are split where they cross and touch, and loose parts are joined by the shortest link.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import cached_property
from itertools import combinations

import numpy as np

from ulvent.core.base.arrays import Floats, Integers, Points, strung
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.linked import joined_groups
from ulvent.core.base.tolerances import JOINT
from ulvent.core.base.trees import point_tree
from ulvent.core.outlines import Polyline

_TOUCH = 0.02
"""Of a letter's larger side: ends that are nearer to a line touch it."""
_EXACT = 12
"""So many odd nodes are paired in the best way; more of them the nearest first."""
_DOORS = 4
_MOST_NODES = 400


class Net:
    """The lines of a letter as edges between nodes.

    at
        (n, 2) nodes
    edges
        the two nodes of each, and its points from one to the other
    """

    def __init__(self, lines: Sequence[Polyline]) -> None:
        walks = [one.ends_met for one in lines if len(one.points) > 1]
        self.drawn = float(sum(np.hypot(*np.diff(one, axis=0).T).sum() for one in walks))
        pieces = _linked(_split(walks))
        self.at, self.edges = _named(pieces)
        if len(self.at) > _MOST_NODES:
            raise wrong_field(
                "sewing.letterings", f"a letter has {len(self.at)} crossings and ends: one line "
                f"through at most {_MOST_NODES} can be found",
            )  # fmt: skip

    @cached_property
    def lengths(self) -> Floats:
        return np.array([np.hypot(*np.diff(one, axis=0).T).sum() for _, _, one in self.edges])

    @cached_property
    def _ways(self) -> tuple[Floats, Integers]:
        """Shortest ways between all nodes, and the node before the last of each."""
        from scipy.sparse import csr_matrix
        from scipy.sparse.csgraph import dijkstra

        least: dict[tuple[int, int], float] = {}
        for (one, two, _), length in zip(self.edges, self.lengths, strict=True):
            key = (min(one, two), max(one, two))
            least[key] = min(least.get(key, math.inf), max(float(length), 1e-9))
        rows, columns = np.array([*least]).T if least else np.empty((2, 0), dtype=int)
        graph = csr_matrix(([*least.values()], (rows, columns)), shape=(len(self.at),) * 2)
        apart, before = dijkstra(graph, False, return_predecessors=True)
        return apart, before

    @cached_property
    def _odd(self) -> frozenset[int]:
        degree = np.bincount(
            [node for one, two, _ in self.edges for node in (one, two)], minlength=len(self.at)
        )
        return frozenset(np.flatnonzero(degree % 2).tolist())

    def doors(self, first: bool) -> list[int]:
        """Nodes to come in at or to leave: on the side of the neighbour, and low."""
        used = sorted({node for one, two, _ in self.edges for node in (one, two)})
        x, y = self.at[used].T
        aside = x - x.min() if first else x.max() - x
        cost = aside + 0.5 * np.abs(y - y.min())
        return [used[index] for index in np.argsort(cost, kind="stable")[:_DOORS]]

    def detour(self, entry: int, out: int) -> float:
        """mm that a line from one node to another goes over twice."""
        return self._pairing(entry, out)[0]

    def _pairing(self, entry: int, out: int) -> tuple[float, list[tuple[int, int]]]:
        odd = sorted(self._odd ^ {entry} ^ {out} if entry != out else self._odd)
        return _paired(odd, self._ways[0])

    def path(self, entry: int, out: int) -> tuple[Points, list[int]]:
        """(k, 2) the line from one node to another over every edge, and at which places of it
        begins or ends what it goes over twice."""
        twice = [edge for one, two in self._pairing(entry, out)[1] for edge in self._way(one, two)]
        meant = {node for one, two, _ in twice for node in (one, two)}
        edges = [*self.edges, *twice]
        points, nodes = [self.at[entry][None]], [0]
        count = 1
        for index, forward in _in_one(len(self.at), edges, entry):
            one, two, line = edges[index]
            points.append(line[1:] if forward else line[-2::-1])
            count += len(line) - 1
            if (two if forward else one) in meant:
                nodes.append(count - 1)
        return np.concatenate(points), nodes

    def _way(self, one: int, two: int) -> list[tuple[int, int, Points]]:
        """The edges of the shortest way between nodes."""
        found = []
        before = self._ways[1]
        while two != one:
            last = int(before[one, two])
            near = [
                (length, index)
                for index, ((a, b, _), length) in enumerate(
                    zip(self.edges, self.lengths, strict=True)
                )
                if {a, b} == {last, two}
            ]
            found.append(self.edges[min(near)[1]])
            two = last
        return found


def _paired(odd: Sequence[int], apart: Floats) -> tuple[float, list[tuple[int, int]]]:
    """Nodes in pairs, so that their ways are short together."""
    if len(odd) > _EXACT:
        return _nearest_pairs(odd, apart)
    best: dict[int, tuple[float, tuple[int, int] | None]] = {0: (0.0, None)}
    every = (1 << len(odd)) - 1
    for mask in range(every + 1):
        if mask not in best:
            continue
        first = next((bit for bit in range(len(odd)) if not mask >> bit & 1), None)
        if first is None:
            break
        for other in range(first + 1, len(odd)):
            if mask >> other & 1:
                continue
            more = mask | 1 << first | 1 << other
            cost = best[mask][0] + float(apart[odd[first], odd[other]])
            if more not in best or cost < best[more][0]:
                best[more] = (cost, (first, other))
    pairs = []
    mask = every
    while mask:
        pair = best[mask][1]
        assert pair is not None
        pairs.append((odd[pair[0]], odd[pair[1]]))
        mask &= ~(1 << pair[0] | 1 << pair[1])
    return best[every][0], pairs


def _nearest_pairs(odd: Sequence[int], apart: Floats) -> tuple[float, list[tuple[int, int]]]:
    """The nearest pairs first, then changed two by two while that makes them shorter."""
    pairs: list[tuple[int, int]] = []
    left = set(odd)
    for one, two in sorted(combinations(odd, 2), key=lambda pair: float(apart[pair])):
        if one in left and two in left:
            pairs.append((one, two))
            left -= {one, two}
    better = True
    while better:
        better = False
        for i, j in combinations(range(len(pairs)), 2):
            (a, b), (c, d) = pairs[i], pairs[j]
            now = apart[a, b] + apart[c, d]
            for other in (((a, c), (b, d)), ((a, d), (b, c))):
                if apart[other[0]] + apart[other[1]] < now - JOINT:
                    pairs[i], pairs[j] = other
                    better = True
                    break
    return float(sum(apart[pair] for pair in pairs)), pairs


def _in_one(
    count: int, edges: Sequence[tuple[int, int, Points]], begin: int
) -> list[tuple[int, bool]]:
    """All edges in one go from a node: each with whether it is gone forward (Hierholzer)."""
    near: list[list[tuple[int, int, bool]]] = [[] for _ in range(count)]
    for index, (one, two, _) in enumerate(edges):
        near[one].append((index, two, True))
        near[two].append((index, one, False))
    used = [False] * len(edges)
    stack: list[tuple[int, tuple[int, bool] | None]] = [(begin, None)]
    found: list[tuple[int, bool]] = []
    while stack:
        node, came = stack[-1]
        while near[node] and used[near[node][-1][0]]:
            near[node].pop()
        if near[node]:
            index, other, forward = near[node].pop()
            used[index] = True
            stack.append((other, (index, forward)))
        else:
            stack.pop()
            if came is not None:
                found.append(came)
    return found[::-1]


def _split(walks: Sequence[Points]) -> list[Points]:
    """Lines in pieces, split where they cross one another or an end of one touches."""
    size = max((float(np.ptp(one, axis=0).max()) for one in walks), default=0.0)
    near = max(_TOUCH * size, JOINT)
    cuts: list[list[float]] = [[] for _ in walks]
    walked = [Polyline(one, False).walk() for one in walks]
    for i in range(len(walks)):
        for j in range(i, len(walks)):
            for one, two in _crossings(walked[i].points, walked[j].points, i == j):
                cuts[i].append(one)
                cuts[j].append(two)
    ends = np.array([one[at] for one in walks for at in (0, -1)])
    for index, walk in enumerate(walked):
        dense = np.arange(0.0, walk.length, max(near / 4.0, walk.length / 4000.0))
        tree = point_tree(walk.at(dense))
        apart, place = tree.query(ends)
        for which in np.flatnonzero(apart < near).tolist():
            own = dense[int(place[which])]
            if near < own < walk.length - near or which // 2 != index:
                cuts[index].append(float(own))
    pieces = []
    for walk, some in zip(walked, cuts, strict=True):
        marks = [0.0]
        for cut in sorted(some):
            if cut - marks[-1] > near and walk.length - cut > near:
                marks.append(cut)
        marks.append(walk.length)
        for begin, end in zip(marks[:-1], marks[1:], strict=True):
            inner = walk.along[(walk.along > begin) & (walk.along < end)]
            pieces.append(walk.at(np.concatenate([[begin], inner, [end]])))
    return _snapped(pieces, near)


def _snapped(pieces: list[Points], near: float) -> list[Points]:
    """Pieces whose ends that are nearly one place are one."""
    ends = np.array([one[at] for one in pieces for at in (0, -1)])
    name = np.arange(len(ends))
    for one, two in sorted(point_tree(ends).query_pairs(near)):
        name[name == name[two]] = name[one]
    for index, piece in enumerate(pieces):
        for at, which in ((0, 2 * index), (-1, 2 * index + 1)):
            piece[at] = ends[name[which]]
    return [one for one in pieces if np.hypot(*np.diff(one, axis=0).T).sum() > JOINT]


def _crossings(one: Points, two: Points, same: bool) -> list[tuple[float, float]]:
    """Stations on two lines at which they cross, mm from their beginnings."""
    u, v = np.diff(one, axis=0), np.diff(two, axis=0)
    lengths = [np.hypot(*w.T) for w in (u, v)]
    # What crosses lies no farther apart than half of both.
    reach = (lengths[0].max() + lengths[1].max()) / 2.0
    near = point_tree(one[:-1] + u / 2.0).query_ball_tree(point_tree(two[:-1] + v / 2.0), reach)
    i, j = strung(near)
    if same:
        i, j = i[j - i > 1], j[j - i > 1]
    off, mine, other = two[j] - one[i], u[i], v[j]
    cross = mine[:, 0] * other[:, 1] - mine[:, 1] * other[:, 0]
    with np.errstate(divide="ignore", invalid="ignore"):
        s = (off[:, 0] * other[:, 1] - off[:, 1] * other[:, 0]) / cross
        t = (off[:, 0] * mine[:, 1] - off[:, 1] * mine[:, 0]) / cross
    hits = (s >= 0.0) & (s < 1.0) & (t >= 0.0) & (t < 1.0) & (np.abs(cross) > 0.0)
    begins = [np.concatenate([[0.0], np.cumsum(some)]) for some in lengths]
    stations = [
        start[which[hits]] + share[hits] * some[which[hits]]
        for start, which, share, some in zip(begins, (i, j), (s, t), lengths, strict=True)
    ]
    order = np.lexsort((j[hits], i[hits]))
    return [*zip(stations[0][order].tolist(), stations[1][order].tolist(), strict=True)]


def _linked(pieces: list[Points]) -> list[Points]:
    """Pieces and the shortest links that make one net of them."""
    while True:
        groups = _components(pieces)
        if len(groups) < 2:
            return pieces
        first, rest = groups[0], [index for group in groups[1:] for index in group]
        points = np.concatenate([pieces[index] for index in first])
        apart, place = point_tree(points).query(np.concatenate([pieces[i] for i in rest]))
        nearest = int(np.argmin(apart))
        link = np.array(
            [points[int(place[nearest])], np.concatenate([pieces[i] for i in rest])[nearest]]
        )
        pieces = [half for piece in pieces for half in _halves(piece, link)] + [link]


def _halves(piece: Points, link: Points) -> list[Points]:
    """A piece split where a link begins or ends on it."""
    at = sorted({
        int(index) for end in link
        for index in np.flatnonzero((piece == end).all(axis=1)) if 0 < index < len(piece) - 1
    })  # fmt: skip
    marks = [0, *at, len(piece) - 1]
    return [piece[begin : end + 1] for begin, end in zip(marks[:-1], marks[1:], strict=True)]


def _components(pieces: Sequence[Points]) -> list[list[int]]:
    """Which pieces hang together by their ends."""
    at, edges = _named(pieces)
    ones, twos = np.array([(one, two) for one, two, _ in edges]).T
    label = joined_groups(ones, twos, len(at))
    groups: dict[int, list[int]] = {}
    for index, one in enumerate(ones.tolist()):
        groups.setdefault(int(label[one]), []).append(index)
    return list(groups.values())


def _named(pieces: Sequence[Points]) -> tuple[Points, list[tuple[int, int, Points]]]:
    """The ends of pieces as nodes, each place once, and the pieces as edges between them."""
    ends = np.array([one[at] for one in pieces for at in (0, -1)])
    at, name = np.unique(ends, axis=0, return_inverse=True)
    name = name.ravel()
    return at, [
        (int(name[2 * index]), int(name[2 * index + 1]), piece)
        for index, piece in enumerate(pieces)
    ]
