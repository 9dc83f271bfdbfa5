"""The order of lines: what is within comes first, and little way is made with the tool up."""

from __future__ import annotations

import itertools
import math
import unittest
from typing import Any

import networkx as nx
import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from ulvent.core.outlines import Polyline
from ulvent.core.runs.line_starts import beginnings
from ulvent.core.runs.nesting import Line
from ulvent.core.runs.order import Followed, ordered
from ulvent.core.runs.shortening import shortened

HOME = np.zeros(2)


def square(x: float, y: float, size: float = 3.0, unit: int = 0) -> Line:
    corners = [[x, y], [x + size, y], [x + size, y + size], [x, y + size]]
    return Line(np.array(corners), True, unit, "")


def scattered(count: int, seed: int) -> list[Line]:
    places = np.random.default_rng(seed).uniform(0.0, 30.0 * count**0.5, (count, 2))
    return [square(x, y, unit=unit) for unit, (x, y) in enumerate(places.tolist())]


def idle(lines: list[Line], order: list[Followed]) -> float:
    """mm with the tool up, from home to the last line."""
    at, total = HOME, 0.0
    for one in order:
        line = lines[one.index]
        if line.closed:
            ends = Polyline(line.points, True).walk().at(np.array([one.station, one.station]))
        else:
            ends = line.points[[-1, 0] if one.backward else [0, -1]]
        total += math.dist(at, ends[0])
        at = ends[1]
    return total


def idle_by_the_nearest(lines: list[Line]) -> float:
    """The same when each time the nearest place where a closed line may be begun comes next."""
    places = [Polyline(line.points, True).walk().at(beginnings(line)) for line in lines]
    at, total = HOME, 0.0
    while places:
        far, index = min(
            (float(np.hypot(*(some - at).T).min()), i) for i, some in enumerate(places)
        )
        some = places.pop(index)
        at = some[int(np.hypot(*(some - at).T).argmin())]
        total += far
    return total


class Precedence(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.tuples(st.integers(0, 40), st.integers(0, 40), st.integers(1, 30)),
                    min_size=1, max_size=14))  # fmt: skip
    def test_what_lies_within_comes_first(self, boxes: list[Any]) -> None:
        """Shapely says what is within what, networkx whether an order keeps to it."""
        lines = [square(x, y, size, unit) for unit, (x, y, size) in enumerate(dict.fromkeys(boxes))]
        within = nx.DiGraph()
        within.add_nodes_from(range(len(lines)))
        areas = [shapely.Polygon(line.points) for line in lines]
        for one, two in itertools.permutations(range(len(lines)), 2):
            if areas[two].contains(areas[one]) and not areas[one].equals(areas[two]):
                within.add_edge(one, two)
        order = [followed.index for followed in ordered(lines, HOME)]
        self.assertEqual(sorted(order), list(range(len(lines))))
        place = {index: at for at, index in enumerate(order)}
        broken = [pair for pair in within.edges if place[pair[0]] > place[pair[1]]]
        self.assertEqual(broken, [])

    def test_lines_of_one_letter_come_together_and_the_sheet_last(self) -> None:
        letters = [
            line
            for unit, x in enumerate((0.0, 4.2, 8.4))
            for line in (square(x, 5.0, 1.0, unit), square(x, 0.0, 4.0, unit),
                         square(x + 1.0, 1.0, 2.0, unit))
        ]  # fmt: skip
        lines = [square(-5.0, -5.0, 40.0, 9), *letters]
        order = [followed.index for followed in ordered(lines, HOME)]
        units = [unit for unit, _ in itertools.groupby(lines[index].unit for index in order)]
        self.assertEqual(sorted(units), [0, 1, 2, 9])
        self.assertEqual(units[-1], 9)


class Length(unittest.TestCase):
    def test_never_longer_than_by_the_nearest(self) -> None:
        shares = []
        for seed in range(12):
            lines = scattered(8 + 9 * seed, seed)
            mine, nearest = idle(lines, ordered(lines, HOME)), idle_by_the_nearest(lines)
            self.assertLessEqual(mine, nearest + 1e-9)
            shares.append(mine / nearest)
        self.assertLess(float(np.mean(shares[3:])), 0.92)

    def test_few_stops_are_within_a_twentieth_of_the_best_there_is(self) -> None:
        """Every order of seven stops is tried."""
        for seed in range(20):
            stops = np.random.default_rng(seed).uniform(0.0, 100.0, (7, 2))
            ways = np.array(list(itertools.permutations(range(7))))
            steps = np.diff(
                np.concatenate([np.zeros((len(ways), 1, 2)), stops[ways]], axis=1), axis=1
            )
            best = np.hypot(steps[..., 0], steps[..., 1]).sum(axis=1).min()
            order = shortened(list(range(7)), HOME, stops, stops)
            mine = np.hypot(*np.diff(np.concatenate([[HOME], stops[order]]), axis=0).T).sum()
            self.assertLessEqual(mine, 1.05 * best)

    def test_an_order_is_the_same_each_time(self) -> None:
        lines = scattered(40, 3)
        self.assertEqual(ordered(lines, HOME), ordered(lines, HOME))

    def test_open_lines_are_begun_at_either_end(self) -> None:
        lines = [
            Line(np.array([[10.0 * row, 0.0], [10.0 * row, 50.0]]), False, row, "")
            for row in range(6)
        ]
        order = ordered(lines, HOME)
        self.assertEqual([one.backward for one in order], [False, True] * 3)
        self.assertAlmostEqual(idle(lines, order), 50.0)


class Beginnings(unittest.TestCase):
    def test_off_corners(self) -> None:
        for at in beginnings(square(0.0, 0.0, 40.0)):
            self.assertGreater(min(at % 40.0, 40.0 - at % 40.0), 3.0)
