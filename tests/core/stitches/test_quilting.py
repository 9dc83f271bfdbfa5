"""One line through letters: connected, over every line, and never shorter than it must be."""

from __future__ import annotations

import unittest

import networkx as nx
import numpy as np
import shapely

from tests.makings import document, workpiece
from ulvent.core.outlines import Polyline
from ulvent.core.shapes import flat_contours
from ulvent.core.stitches.line_net import Net
from ulvent.core.stitches.quilting import QuiltedLine, quilted_line


def lines_of(text: str, face: str = "hershey-sans", height: float = 20.0) -> list[list[Polyline]]:
    line = {"id": "l", "kind": "line", "length": 600}
    words = {"id": "t", "guide": "l", "text": text, "face": face, "height": height}
    (group,) = workpiece(document(guides=[line], letterings=[words], blank=None)).groups
    return [list(flat_contours(outline)) for outline in group.lines]


def gone_over(line: QuiltedLine, letters: list[list[Polyline]]) -> float:
    """The share of the letters' lines that the one line lies on."""
    path = shapely.LineString(line.points).buffer(0.05)
    drawn = shapely.MultiLineString([one.ends_met for some in letters for one in some])
    return float(drawn.intersection(path).length / drawn.length)


class OneLine(unittest.TestCase):
    def test_it_goes_over_every_line_of_every_letter(self) -> None:
        for text in ("apple", "QUINCE", "i&8%"):
            letters = lines_of(text)
            line = quilted_line(letters)
            self.assertGreater(gone_over(line, letters), 0.97, text)
            self.assertGreaterEqual(line.length, line.drawn - 1.0, text)
            steps = np.hypot(*np.diff(line.points, axis=0).T)
            self.assertAlmostEqual(line.length, steps.sum(), places=6)

    def test_its_overhead_is_small_for_a_plain_face(self) -> None:
        line = quilted_line(lines_of("apple pear plum quince medlar"))
        self.assertLess(line.overhead, 0.6)

    def test_no_letter_takes_less_than_the_postman_bound(self) -> None:
        """The bound is the least matching of odd nodes by networkx, which is free to begin and
        end anywhere: two of them stay unmatched."""
        for letter in "BEHKRX48&":
            (lines,) = lines_of(letter)
            net = Net(lines)
            graph = nx.MultiGraph()
            for (one, two, _), length in zip(net.edges, net.lengths, strict=True):
                graph.add_edge(one, two, weight=float(length))
            self.assertTrue(nx.is_connected(graph), letter)
            odd = [node for node, degree in graph.degree if degree % 2]
            pairs = nx.Graph()
            for index, one in enumerate(odd):
                far = nx.single_source_dijkstra_path_length(graph, one)
                for two in odd[index + 1 :]:
                    pairs.add_edge(one, two, weight=far[two])
            least = sum(pairs.edges[pair]["weight"] for pair in nx.min_weight_matching(pairs))
            longest = max((data["weight"] for *_, data in pairs.edges(data=True)), default=0.0)
            drawn = float(net.lengths.sum())
            found = quilted_line([lines]).length
            self.assertGreaterEqual(found, drawn + least - longest - 1e-6, letter)
            self.assertLessEqual(found, 2.0 * drawn + 1e-6, letter)

    def test_what_is_gone_over_twice_uses_the_same_holes(self) -> None:
        """The stem of a T with its bar: an L-shaped way back over the half bar."""
        bar = Polyline(np.array([[-6.0, 20.0], [6.0, 20.0]]), False)
        stem = Polyline(np.array([[0.0, 20.0], [0.0, 0.0]]), False)
        line = quilted_line([[bar, stem]])
        points, letters = line.stitches(2.0)
        self.assertEqual(len(points), len(letters))
        holes = np.unique(points.round(6), axis=0)
        self.assertLess(len(holes), len(points))
        np.testing.assert_allclose(np.hypot(*np.diff(points, axis=0).T), 2.0, rtol=0.2)

    def test_stitches_are_of_their_length_and_near_the_line(self) -> None:
        """Eleven stitches an inch: 2.31 mm. Small letters have short lines between crossings, and
        in no way do four sides of a dot that is smaller than a stitch have its length."""
        wish = 25.4 / 11.0
        for height in (12.0, 25.0):
            line = quilted_line(
                lines_of("QuillmereorchardautumnfairpressedbyhandOLD", height=height)
            )
            points, _ = line.stitches(wish)
            lengths = np.hypot(*np.diff(points, axis=0).T)
            self.assertGreater((np.abs(lengths / wish - 1.0) < 0.2).mean(), 0.97, height)
            path = shapely.LineString(line.points)
            off = shapely.distance(shapely.points(points), path)
            self.assertLess(float(off.max()), 0.12 * wish + 1e-6, "a needle point is off the line")


if __name__ == "__main__":
    unittest.main()
