"""Reading outlines: against svgelements and ezdxf, the specification, and hostile files."""

from __future__ import annotations

import io
import itertools
import math
import unittest

import ezdxf
import numpy as np
import svgelements
from ezdxf import path as dxf_path

from tests.formats import samples
from ulvent.core.curves import ArcSegment, LineSegment
from ulvent.core.outlines import FileOutline, curve_of, in_line
from ulvent.formats.dxf_reading import read_dxf
from ulvent.formats.loose_ends import joined_ends
from ulvent.formats.outline_file import OutlineFileError
from ulvent.formats.svg_reading import read_svg


def lengths(outlines: list[FileOutline]) -> list[float]:
    return [curve_of(outline).length for outline in outlines]


class Svg(unittest.TestCase):
    def test_the_specifications_triangle_in_its_own_centimetres(self) -> None:
        """triangle01: 100 units are 1 cm, so the sides are 20, 22.36 and 22.36 mm."""
        (outline,) = read_svg(samples.TRIANGLE01)
        self.assertTrue(outline.closed)
        self.assertAlmostEqual(lengths([outline])[0], 20 + 2 * math.hypot(10, 20), places=9)
        self.assertEqual(len(outline.edges), 3)

    def test_the_specifications_arcs(self) -> None:
        """arcs01: the first is three quarters of a circle of 150 units with two radii."""
        first, second, wobbly = read_svg(samples.ARCS01)
        scale = 120 / 1200
        expected = scale * 150 * (1.5 * math.pi + 2)
        self.assertAlmostEqual(curve_of(first).length, expected, places=6)
        self.assertAlmostEqual(curve_of(second).length, scale * 150 * (0.5 * math.pi + 2), places=6)
        self.assertEqual(len(wobbly.segments) > 9, True)

    def test_lengths_agree_with_svgelements(self) -> None:
        """Witness: svgelements' own length of every shape, in pixels."""
        for data in (samples.TRIANGLE01, samples.CUBIC01, samples.QUAD01, samples.EVERYTHING):
            image = svgelements.SVG.parse(io.BytesIO(data), ppi=96)
            theirs = [
                abs(svgelements.Path(shape)).length(error=1e-9) * 25.4 / 96
                for shape in image.elements()
                if isinstance(shape, svgelements.Shape) and shape.values.get("display") != "none"
            ]
            np.testing.assert_allclose(lengths(read_svg(data)), theirs, rtol=1e-5)

    def test_units(self) -> None:
        """A CSS pixel is 25.4/96 mm (CSS Values and Units); else pixels, or as told."""
        line = b'<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0H96"/></svg>'
        self.assertAlmostEqual(lengths(read_svg(line))[0], 25.4)
        self.assertAlmostEqual(lengths(read_svg(line, "mm"))[0], 96)
        self.assertAlmostEqual(lengths(read_svg(line, "inch"))[0], 96 * 25.4)
        self.assertAlmostEqual(lengths(read_svg(samples.TRIANGLE01, "mm"))[0], 64.72, places=2)

    def test_y_points_up(self) -> None:
        (outline,) = read_svg(samples.TRIANGLE01)
        ys = [segment.start[1] for segment in outline.segments]
        self.assertAlmostEqual(min(ys), -30, places=9)

    def test_what_is_refused(self) -> None:
        bomb = b'<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><svg>&b;</svg>'
        deep = b"<svg>" + b"<g>" * 90 + b"</g>" * 90 + b"</svg>"
        tree = b"".join(
            b'<g id="n%d"><use href="#n%d"/><use href="#n%d"/></g>' % (i, i + 1, i + 1)
            for i in range(18)
        )
        wrong = {
            b"": "empty",
            b"   ": "empty",
            b"hello": "not XML",
            b"<html/>": "<html>",
            b"<svg></svg>": "no lines",
            bomb: "entities",
            deep: "deep",
            samples.svg('<g id="n0"><use href="#n0"/></g>'): "itself",
            samples.svg(tree.decode() + '<path id="n18" d="M0 0h1"/>'): "elements",
            samples.svg('<path d="M0 0H1e30"/>'): "farther",
            samples.svg('<path d="M0 0' + "h1v1" * 25_000 + '"/>'): "more than",
            samples.svg('<path d="' + "M0 0H9" * 90_000 + '"/>'): "too much",
            b"<svg>" + b" " * 5_000_000 + b"</svg>": "4 MB",
        }
        for data, reason in wrong.items():
            with self.subTest(reason), self.assertRaisesRegex(OutlineFileError, reason):
                read_svg(data)

    def test_an_external_doctype_is_not_fetched_and_does_not_hurt(self) -> None:
        doctype = b'<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://127.0.0.1:9/svg11.dtd">'
        self.assertEqual(len(read_svg(doctype + samples.TRIANGLE01)), 1)


class Dxf(unittest.TestCase):
    def test_loose_lines_and_arcs_become_one_outline(self) -> None:
        data, _ = samples.dxf()
        rounded = read_dxf(data)[0]
        self.assertTrue(rounded.closed)
        self.assertEqual(len(rounded.edges), 8)
        self.assertEqual(rounded.smooth_runs, (tuple(range(8)),))
        self.assertAlmostEqual(curve_of(rounded).length, 80 * 2 + 30 * 2 + 20 * math.pi, places=9)

    def test_lengths_agree_with_ezdxf(self) -> None:
        """Witness: ezdxf's own paths of the same entities, flattened finely."""
        data, document = samples.dxf()
        theirs = []
        for entity in document.modelspace().query("LWPOLYLINE SPLINE ELLIPSE INSERT"):
            for part in entity.virtual_entities() if entity.dxftype() == "INSERT" else [entity]:
                points = np.array([p.vec2 for p in dxf_path.make_path(part).flattening(1e-5)])
                theirs.append(float(np.hypot(*np.diff(points, axis=0).T).sum()))
        np.testing.assert_allclose(lengths(read_dxf(data))[1:], theirs, rtol=2e-4)

    def test_a_bulge_is_an_exact_arc(self) -> None:
        """Bulge = tan(angle/4), DXF reference: bulge 1 is a half circle."""
        data, _ = samples.dxf()
        polyline = read_dxf(data)[1]
        self.assertAlmostEqual(
            curve_of(polyline).length, 5 * math.pi + 10 + math.hypot(10, 10), places=9
        )

    def test_a_polyline_may_turn_either_way(self) -> None:
        """A plate of 40 by 20 with corners of 5, drawn counter-clockwise and clockwise: its edge
        is 2 · 30 + 2 · 10 + 10 π; with a rounded end first, too."""
        quarter = math.tan(math.pi / 8.0)
        corners = [(5, 0, 0), (35, 0, quarter), (40, 5, 0), (40, 15, quarter), (35, 20, 0),
                   (5, 20, quarter), (0, 15, 0), (0, 5, quarter)]  # fmt: skip
        # The bulge of what follows a corner lies before it when the line is gone back.
        back = [(x, y, -corners[index - 1][2]) for index, (x, y, _) in enumerate(corners)][::-1]
        for turned in range(8):
            for points in (corners, back):
                document = ezdxf.new(units=4)
                document.modelspace().add_lwpolyline(
                    points[turned:] + points[:turned], format="xyb", close=True
                )
                stream = io.StringIO()
                document.write(stream)
                (outline,) = read_dxf(stream.getvalue().encode())
                self.assertTrue(outline.closed)
                self.assertAlmostEqual(curve_of(outline).length, 80.0 + 10.0 * math.pi, places=9)

    def test_units(self) -> None:
        for units, factor in ((0, 1), (1, 25.4), (4, 1), (5, 10), (14, 100)):
            found = lengths(read_dxf(samples.dxf(units)[0]))
            self.assertAlmostEqual(found[0] / factor, 220 + 20 * math.pi, places=6)
        self.assertAlmostEqual(lengths(read_dxf(samples.dxf()[0], "inch"))[0] / 25.4,
                               220 + 20 * math.pi, places=6)  # fmt: skip

    def test_a_closed_polyline_with_width_has_every_side_once(self) -> None:
        """Some programs write widths into a polyline; it still is one line."""
        document = ezdxf.new("R2000")
        document.header["$INSUNITS"] = 4
        document.modelspace().add_lwpolyline(
            [(0, 0, 2, 2), (40, 0, 2, 2), (40, 30, 2, 2)], close=True, format="xyse"
        )
        (outline,) = read_dxf(samples.written(document))
        self.assertAlmostEqual(curve_of(outline).length, 40 + 30 + 50)

    def test_what_is_refused(self) -> None:
        nested = ezdxf.new("R2010")
        for index in range(8):
            block = nested.blocks.new(f"b{index}")
            for place in range(10):
                block.add_blockref(f"b{index + 1}", (place, 0))
        nested.blocks.new("b8").add_line((0, 0), (1, 1))
        nested.modelspace().add_blockref("b0", (0, 0))
        ring = ezdxf.new("R2010")
        ring.blocks.new("a").add_blockref("a", (1, 1))
        ring.modelspace().add_blockref("a", (0, 0))
        empty = ezdxf.new("R2010")
        grid = ezdxf.new("R2010")
        grid.blocks.new("dot").add_line((0, 0), (1, 1))
        grid.modelspace().add_blockref(
            "dot", (0, 0), dxfattribs={"row_count": 3000, "column_count": 3000}
        )
        wrong = {
            b"": "empty",
            b"hello": "not a DXF",
            samples.dxf()[0][:300]: "not a DXF|no lines",
            samples.written(empty): "no lines",
            samples.written(nested): "more than",
            samples.written(grid): "more than",
            samples.written(ring): "holds itself",
        }
        for data, reason in wrong.items():
            with self.subTest(reason), self.assertRaisesRegex(OutlineFileError, reason):
                read_dxf(data)


class Taking(unittest.TestCase):
    def test_neighbouring_edges_in_any_order_of_choosing_ends(self) -> None:
        (outline,) = read_svg(samples.ROUNDED)
        self.assertEqual(len(outline.edges), 8)
        four = [*outline.edges[:4]]
        line = in_line(four)
        self.assertFalse(line.closed)
        whole = sum(curve_of(FileOutline(edge, False)).length for edge in four)
        self.assertAlmostEqual(curve_of(line).length, whole, places=6)
        self.assertAlmostEqual(curve_of(in_line(four[::-1])).length, whole, places=6)

    def test_all_edges_are_the_whole_way_round(self) -> None:
        (outline,) = read_svg(samples.ROUNDED)
        self.assertTrue(in_line(outline.edges).closed)

    def test_the_run_that_goes_on_smoothly_ends_at_corners(self) -> None:
        data = samples.svg('<path d="M0 0H30A10 10 0 0 1 40 10V40L80 80"/>')
        (outline,) = read_svg(data)
        self.assertEqual(len(outline.edges), 4)
        self.assertEqual(outline.smooth_runs, ((0, 1, 2), (3,)))

    def test_a_curve_written_as_many_short_lines_is_one_edge(self) -> None:
        t = np.linspace(0, 2 * np.pi, 200, endpoint=False)
        points = "L".join(f"{50 + 40 * np.cos(a):.3f} {50 + 40 * np.sin(a):.3f}" for a in t)
        (outline,) = read_svg(samples.svg(f'<path d="M{points}Z"/>'))
        self.assertEqual(len(outline.edges), 1)

    def test_apart_edges_are_bridged_straight(self) -> None:
        lines = [outline.segments for outline in read_svg(
            samples.svg('<path d="M0 0H30"/><path d="M70 0H40"/>'))]  # fmt: skip
        self.assertAlmostEqual(curve_of(in_line(lines)).length, 70, places=9)

    def test_where_three_ends_meet_nothing_is_guessed(self) -> None:
        three = [outline.segments for outline in read_svg(samples.svg(
            '<path d="M0 0H30"/><path d="M30 0H60"/><path d="M30 0V30"/>'))]  # fmt: skip
        self.assertEqual(len(joined_ends([list(line) for line in three])), 3)

    def test_loose_sides_are_a_closed_outline_that_runs_as_its_first_side(self) -> None:
        corners = [(0, 0), (30, 0), (30, 20), (0, 20)]
        sides = [LineSegment(a, b) for a, b in zip(corners, corners[1:] + corners[:1], strict=True)]
        shuffled = [[sides[1]], [sides[3]], [LineSegment(sides[2].end, sides[2].start)], [sides[0]]]
        circle = [ArcSegment((100, 0), 5, 0, 360)]
        square, ring = joined_ends([*shuffled, circle])
        self.assertTrue(square.closed and ring.closed)
        self.assertEqual(square.segments[0], sides[1])
        self.assertAlmostEqual(curve_of(square).length, 100)

    def test_no_line_is_in_two_outlines_where_ends_are_nearly_near(self) -> None:
        """The first of three ends touches the second, that the third, which does not touch the
        first: whichever lines are joined, none is there twice."""
        ends = [(0.0, 0.0), (0.008, 0.0), (0.016, 0.0)]
        for order in itertools.permutations(range(3)):
            lines = [[LineSegment(ends[k], (ends[k][0], 40.0 + 10.0 * k))] for k in order]
            found = joined_ends(lines)
            with self.subTest(order):
                self.assertAlmostEqual(sum(lengths(found)), 150.0, delta=0.02)


if __name__ == "__main__":
    unittest.main()
