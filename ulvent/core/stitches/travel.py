"""Ways inside a shape, so that thread goes from one of its columns to the next without a jump."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ulvent.core.base.arrays import Booleans, Floats, Integers, Points
from ulvent.core.base.trees import point_tree
from ulvent.core.outlines import Polyline
from ulvent.core.shapes import Region
from ulvent.core.stitches.columns import Column

_STEP = 0.5
_NEAREST = 12
_SAMPLES = np.linspace(0.05, 0.95, 9)


class Ways:
    """The middle lines of a shape's columns, and the shape between them."""

    def __init__(self, part: Region, columns: Sequence[Column]) -> None:
        self._part = part
        walks = [Polyline(one.axis, False).walk() for one in columns]
        places = [
            walk.at(np.linspace(0.0, walk.length, max(2, round(walk.length / _STEP)) + 1))
            for walk in walks
        ]
        self._points = np.concatenate(places)
        self._tree = point_tree(self._points)
        widths = np.concatenate([one.widths for one in columns])
        reach = max(2.0 * _STEP, float(np.median(widths)))
        pairs: Integers = self._tree.query_pairs(reach, output_type="ndarray")
        pairs = pairs[self._inside(self._points[pairs[:, 0]], self._points[pairs[:, 1]])]
        self._pairs = pairs
        self._lengths: Floats = np.hypot(*(self._points[pairs[:, 0]] - self._points[pairs[:, 1]]).T)

    def way(self, begin: Points, end: Points) -> Points | None:
        """(k, 2) a way between points (2,) that does not leave the shape; none: there is none."""
        from scipy.sparse import csr_matrix
        from scipy.sparse.csgraph import dijkstra

        if self._inside(begin[None], end[None])[0]:
            return np.array([begin, end])
        count = len(self._points)
        rows, columns = [self._pairs[:, 0]], [self._pairs[:, 1]]
        lengths = [self._lengths]
        for node, at in ((count, begin), (count + 1, end)):
            apart, near = self._tree.query(at, k=min(_NEAREST, count))
            seen = self._inside(np.broadcast_to(at, (len(near), 2)), self._points[near])
            rows.append(np.full(int(seen.sum()), node))
            columns.append(near[seen])
            lengths.append(np.maximum(apart[seen], 1e-6))
        graph = csr_matrix(
            (np.concatenate(lengths), (np.concatenate(rows), np.concatenate(columns))),
            shape=(count + 2, count + 2),
        )
        _, before = dijkstra(graph, False, indices=count, return_predecessors=True)
        path = [count + 1]
        while path[-1] != count:
            path.append(int(before[path[-1]]))
            if path[-1] < 0:
                return None
        every = np.concatenate([self._points, begin[None], end[None]])
        found: Points = every[path[::-1]]
        return found

    def _inside(self, ones: Points, others: Points) -> Booleans:
        """(n,) whether straight ways between points (n, 2) stay within the shape."""
        between = ones[:, None] + _SAMPLES[None, :, None] * (others - ones)[:, None]
        inside: Booleans = self._part.contains(between.reshape(-1, 2)).reshape(len(ones), -1)
        found: Booleans = np.logical_and.reduce(inside, axis=1)
        return found
