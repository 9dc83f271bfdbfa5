"""What we write, read back by svgelements and ezdxf: the same outlines, all closed."""

from __future__ import annotations

import io
import math
import unittest
from functools import cache
from typing import Any
from xml.etree import ElementTree

import ezdxf
import ezdxf.path
import numpy as np
import svgelements
from fontTools.pens.areaPen import AreaPen
from shapely.affinity import affine_transform, translate
from shapely.geometry import LineString, MultiLineString

from tests import zoo
from tests.makings import document, workpiece
from ulvent.core.layout import Layout, lay_out
from ulvent.core.outlines import FileOutline, Outline, curve_of
from ulvent.core.outlines.path_text import number
from ulvent.core.recipe import Piece, parse_piece
from ulvent.core.shapes import Region
from ulvent.core.workshop import Workpiece
from ulvent.demo import demo_pieces
from ulvent.demo.prepared_pieces import prepared_pieces
from ulvent.formats.dxf_reading import read_dxf
from ulvent.formats.dxf_writing import write_dxf
from ulvent.formats.svg_reading import read_svg
from ulvent.formats.svg_writing import write_svg
from ulvent.shipped_faces import catalogue, shipped_face

FLAT = 0.0001
"""Distance, mm, within which what is read back is flattened."""
WITHIN = 0.01


def unprepared(piece: Piece) -> Piece:
    """The piece as it is set, with nothing done to its letters, and all of it engraved."""
    engraved = {"prepare": None, "output": "engrave"}
    letterings = tuple(one.model_copy(update=engraved) for one in piece.letterings)
    guides = tuple(one.model_copy(update={"output": None}) for one in piece.guides)
    plain = {"letterings": letterings, "guides": guides, "prepare": None, "edge": None, "run": None}
    return piece.model_copy(update=plain)


@cache
def layouts() -> dict[str, Layout]:
    """Of all demo pieces, and of a word in each face."""
    return {name: work.layout for name, work in _works().items()}


def work_of(layout: Layout) -> Workpiece:
    """The workpiece of one of them, which is laid out already; of another, a new one."""
    known = _works().get(layout.piece.title)
    return known if known and known.piece == layout.piece else workpiece(layout.piece)


@cache
def _works() -> dict[str, Workpiece]:
    found = {one.title: workpiece(unprepared(one)) for one in demo_pieces()}
    for face_id in catalogue():
        piece = document()
        words = {"text": "Quillmère & 8", "height": 20, "output": "engrave"}
        piece["letterings"][0].update(words, face=face_id)
        found[face_id] = workpiece(piece | {"title": face_id})
    return found


def exact_areas(layout: Layout) -> list[float]:
    """Signed area of every contour, by fontTools' area pen on the placed outlines."""
    areas = []
    for outline in written(layout):
        for contour in _contours(outline):
            pen = AreaPen()
            draw = {"M": pen.moveTo, "L": pen.lineTo, "Q": pen.qCurveTo, "C": pen.curveTo}
            for operation, points in contour:
                if operation == "Z":
                    pen.closePath()
                    areas.append(abs(pen.value))
                else:
                    draw[operation](*(tuple(p) for p in points.tolist()))
    return sorted(areas)


def written(layout: Layout) -> list[Outline]:
    """All outlines that belong in a file: letters, and the ticks of dials."""
    letters = [s.placed_outline(i) for s in layout.settings for i in range(len(s.clusters))]
    return letters + [ticks for s in layout.settings for ticks, _ in s.tick_outlines()]


def _contours(outline):
    contour = []
    for operation, points in outline.steps():
        if operation == "M" and contour:
            yield contour
            contour = []
        contour.append((operation, points))
    if contour:
        yield contour


def shoelace(points: np.ndarray) -> float:
    x, y = points.T
    return abs(float(np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y))) / 2


def is_of_lines(layout: Layout) -> bool:
    """Whether all its letters are single lines."""
    return all(setting.face.single_stroke for setting in layout.settings)


def ink_box(layout: Layout) -> np.ndarray:
    boxes = np.array([outline.bounds() for outline in written(layout)])
    return np.array([*boxes[:, :2].min(axis=0), *boxes[:, 2:].max(axis=0)])


class WrittenSvg(unittest.TestCase):
    def read(self, layout: Layout, guides: bool = False) -> svgelements.SVG:
        return svgelements.SVG.parse(io.BytesIO(write_svg(work_of(layout), guides)), ppi=25.4)

    def test_outlines_come_back_with_their_areas_and_all_closed(self) -> None:
        for name, layout in layouts().items():
            with self.subTest(name):
                areas, closed_faces = [], 0
                for path in self.read(layout).select(lambda e: isinstance(e, svgelements.Path)):
                    if path.stroke.value is not None:
                        continue
                    for part in path.as_subpaths():
                        single = svgelements.Path(part)
                        self.assertIsInstance(single[-1], svgelements.Close)
                        areas.append(shoelace(flat_svg(single)))
                        closed_faces += 1
                np.testing.assert_allclose(sorted(areas), exact_areas(layout), atol=WITHIN)
                self.assertTrue(closed_faces or is_of_lines(layout))

    def test_true_size_and_bounds(self) -> None:
        for name, layout in layouts().items():
            with self.subTest(name):
                root = ElementTree.fromstring(write_svg(work_of(layout)))
                left, top, width, height = map(float, root.get("viewBox").split())
                self.assertEqual(root.get("width"), f"{number(width)}mm")
                self.assertEqual(root.get("height"), f"{number(height)}mm")
                ring = np.concatenate(
                    [one.points(np.linspace(0, one.length, 20_000)) for one in layout.blank]
                )
                np.testing.assert_allclose(
                    [left, -top - height, left + width, -top],
                    [*ring.min(axis=0), *ring.max(axis=0)],
                    atol=WITHIN,
                )
                boxes = np.array([
                    path.bbox(with_stroke=False)
                    for path in self.read(layout).select(lambda e: isinstance(e, svgelements.Path))
                ])  # fmt: skip
                x0, y0 = boxes[:, :2].min(axis=0) + (left, top)
                x1, y1 = boxes[:, 2:].max(axis=0) + (left, top)
                np.testing.assert_allclose([x0, -y1, x1, -y0], ink_box(layout), atol=WITHIN)

    def test_nothing_but_paths_in_titled_groups(self) -> None:
        for name, layout in layouts().items():
            with self.subTest(name):
                text = write_svg(work_of(layout)).decode()
                for unwanted in ("transform", "<text", "<use", "style", "guide", "clip"):
                    self.assertNotIn(unwanted, text)
                ticks = sum(bool(one.dial and one.dial.ticks) for one in layout.piece.letterings)
                # One for the piece, one for what is engraved, and one a group.
                self.assertEqual(text.count("<title>"), 2 + len(layout.piece.letterings) + ticks)

    def test_guides_only_when_asked_for_and_apart(self) -> None:
        layout = layouts()["Barrel head"]
        groups = [
            element for element in self.read(layout, guides=True).elements()
            if isinstance(element, svgelements.Group) and element.id == "guides"
        ]  # fmt: skip
        self.assertEqual(len(groups), 1)
        (ring,) = [e for e in groups[0] if isinstance(e, svgelements.Path)]
        self.assertAlmostEqual(ring.length(error=1e-7), math.pi * 240, delta=0.01)

    def test_the_same_piece_gives_the_same_bytes(self) -> None:
        one, two = (write_svg(workpiece(demo_pieces()[0]), True) for _ in range(2))
        self.assertEqual(one, two)


def flat_svg(path: svgelements.Path) -> np.ndarray:
    points = [path[0].end]
    for segment in path:
        if isinstance(segment, svgelements.Move | svgelements.Close):
            continue
        steps = 1 if isinstance(segment, svgelements.Line) else 200
        points.extend(segment.npoint(np.linspace(0, 1, steps + 1)[1:]))
    return np.array(points)


class WrittenDxf(unittest.TestCase):
    def read(self, layout: Layout, guides: bool = False):
        return ezdxf.read(io.StringIO(write_dxf(work_of(layout), guides).decode()))

    def test_outlines_come_back_where_they_are_with_their_areas_and_all_closed(self) -> None:
        for name, layout in layouts().items():
            with self.subTest(name):
                drawing, areas, boxes = self.read(layout), [], []
                self.assertEqual(drawing.audit().errors, [])
                for entity in drawing.modelspace():
                    path = ezdxf.path.make_path(entity)
                    flat = np.array([(v.x, v.y) for v in path.flattening(FLAT, segments=16)])
                    boxes.append([*flat.min(axis=0), *flat.max(axis=0)])
                    if entity.dxf.layer.startswith("Engraved - row") or is_of_lines(layout):
                        self.assertFalse(entity.closed)
                        continue
                    self.assertTrue(path.is_closed, entity)
                    self.assertTrue(entity.closed)
                    areas.append(shoelace(flat))
                np.testing.assert_allclose(sorted(areas), exact_areas(layout), atol=WITHIN)
                lows, highs = np.split(np.array(boxes), 2, axis=1)
                found = [*lows.min(axis=0), *highs.max(axis=0)]
                np.testing.assert_allclose(found, ink_box(layout), atol=WITHIN)

    def test_millimetres_and_one_layer_a_lettering(self) -> None:
        layout = layouts()["Barrel head"]
        drawing = self.read(layout)
        self.assertEqual(drawing.header["$INSUNITS"], 4)
        self.assertEqual(drawing.dxfversion, "AC1024")
        self.assertEqual(
            {e.dxf.layer for e in drawing.modelspace()},
            {"Engraved - QUILLMERE ORCHARD", "Engraved - PRESSED BY HAND"},
        )
        kinds = {e.dxftype() for e in drawing.modelspace()}
        self.assertEqual(kinds, {"SPLINE", "LWPOLYLINE"})

    def test_guides_only_when_asked_for_and_on_their_own_layer(self) -> None:
        piece = document()
        piece["guides"].append(
            {"id": "p", "kind": "path", "d": "M0 0L20 0A10 10 0 0 1 30 10C35 20 40 20 50 0"}
        )
        layout = lay_out(parse_piece(piece), shipped_face)
        guides = self.read(layout, guides=True).modelspace().query('*[layer=="guides"]')
        self.assertEqual(sorted(e.dxftype() for e in guides),
                         ["ARC", "CIRCLE", "LWPOLYLINE", "SPLINE"])  # fmt: skip
        (circle,) = [e for e in guides if e.dxftype() == "CIRCLE"]
        self.assertAlmostEqual(circle.dxf.radius, 120)

    def test_the_same_piece_gives_the_same_bytes(self) -> None:
        one, two = (write_dxf(workpiece(demo_pieces()[0]), True) for _ in range(2))
        self.assertEqual(one, two)


def turned_area(part: svgelements.Subpath) -> float:
    """Of one contour, its sign the way it turns: holes take away."""
    x, y = flat_svg(svgelements.Path(part)).T
    return float((x * np.roll(y, -1) - y * np.roll(x, -1)).sum() / 2.0)


class WrittenPrepared(unittest.TestCase):
    """What is prepared is read back as the core says it is: to the tenth of a mm² a piece."""

    def test_svg_and_dxf_have_the_areas_of_the_tools_paths(self) -> None:
        for piece in prepared_pieces():
            work = workpiece(piece)
            ready = work.ready
            kerfs = [kerf for one in (piece.run.passes if piece.run else ()) for kerf in one.kerf]
            half = kerfs[0].offset if kerfs else 0.0
            cutouts = [cutout for layer in ready.layers for cutout in layer.cutouts]
            expected = sum(cutout.area.offset(half).area for cutout in cutouts)
            svg = svgelements.SVG.parse(io.BytesIO(write_svg(work)), ppi=25.4)
            guides = sum(Region.inside(one.curve).area for one in ready.guides)
            paths = [p for p in svg.elements() if isinstance(p, svgelements.Path)]
            closed = [p for p in paths if isinstance(p[-1], svgelements.Close)]
            area = sum(abs(sum(map(turned_area, p.as_subpaths()))) for p in closed)
            self.assertAlmostEqual(area / (expected + guides), 1.0, delta=1e-3, msg=piece.title)
            document = ezdxf.read(io.StringIO(write_dxf(work).decode()))
            layers = {entity.dxf.layer for entity in document.modelspace()}
            groups = work.groups
            self.assertEqual(len(layers), len(groups), piece.title)

    def test_round_joints_are_arcs_in_svg_and_bulges_in_dxf(self) -> None:
        square = {"ulvent": 1, "guides": [{"id": "bar", "kind": "line", "length": 60}],
                  "letterings": [{"id": "one", "guide": "bar", "text": "I", "face": "archivo-black",
                                  "height": 20}],
                  "run": {"passes": [{"id": "a", "tool": "blade", "works": [{"what": "cut"}],
                                      "kerf": [{"width": 3}]}]}}  # fmt: skip
        layout = lay_out(parse_piece(square), shipped_face)
        svg = write_svg(work_of(layout)).decode()
        self.assertEqual(svg.count("A1.5 1.5") + svg.count("A1.50000 1.50000"), 8)
        document = ezdxf.read(io.StringIO(write_dxf(work_of(layout)).decode()))
        (line,) = document.modelspace()
        self.assertEqual(line.dxftype(), "LWPOLYLINE")
        bulges = [abs(b) for *_, b in line.get_points("xyb") if b]
        # A bulge is tan(sweep / 4); a quarter circle comes as two eighths.
        np.testing.assert_allclose(bulges, math.tan(math.pi / 16.0), atol=1e-3)
        self.assertEqual(len(bulges), 8)


class WrittenOutputs(unittest.TestCase):
    """What is cut, drawn and engraved: groups and layers with names and colours of their own."""

    def piece(self, **changes: Any) -> Piece:
        ticks = {"major": {"length": 6}, "parts": 1, "output": "engrave"}
        dial = {"labels": {"kind": "figures", "first": 1, "last": 12}, "ticks": ticks}
        letterings = [
            {"id": "lettering-3", "guide": "rim", "text": "PEAR", "face": "lato-bold", "height": 9,
             "prepare": {"borders": [{"distance": 2, "output": "draw"}]}},
            {"id": "d", "guide": "in", "text": "hidden", "face": "lato-bold", "height": 6,
             "dial": dial, "output": "draw"},
            {"id": "lettering-4", "guide": "rim", "text": "PLUM", "face": "lato-bold", "height": 9,
             "at": 300, "output": "none"},
        ]  # fmt: skip
        guides = [
            {**document()["guides"][0], "output": "cut", "name": "Outer ring"},
            {"id": "in", "kind": "circle", "diameter": 120},
        ]
        made = {"guides": guides, "letterings": letterings, "edge": "cut"}
        return parse_piece(document(**(made | changes)))

    def test_svg_has_a_group_for_each_use_and_in_it_one_for_each_name(self) -> None:
        root = ElementTree.fromstring(write_svg(workpiece(self.piece())))
        tag = "{http://www.w3.org/2000/svg}"
        found = {
            use.get("id"): [group.find(f"{tag}title").text for group in use.findall(f"{tag}g")]
            for use in root.findall(f"{tag}g")
        }
        self.assertEqual(found, {
            "draw": ["PEAR, border", "1 to 12"],
            "engrave": ["1 to 12, ticks"],
            "cut": ["PEAR", "Outer ring", "Edge of the blank"],
        })  # fmt: skip
        strokes = [use.get("stroke") for use in root.findall(f"{tag}g")]
        self.assertEqual(len(set(strokes)), 3)
        # What is cut or drawn is a line, and not filled over the letters.
        for use in root.findall(f"{tag}g"):
            self.assertEqual(use.get("fill"), "none")
        self.assertNotIn("hidden", ElementTree.tostring(root, encoding="unicode"))

    def test_dxf_has_a_layer_for_each_in_the_colour_that_was_chosen(self) -> None:
        piece = self.piece(colours={"cut": "#00ff00"})
        drawing = ezdxf.read(io.StringIO(write_dxf(workpiece(piece)).decode()))
        names = {entity.dxf.layer for entity in drawing.modelspace()}
        self.assertEqual(names, {
            "Drawn - PEAR border", "Drawn - 1 to 12", "Engraved - 1 to 12 ticks", "Cut - PEAR",
            "Cut - Outer ring", "Cut - Edge of the blank",
        })  # fmt: skip
        cut = drawing.layers.get("Cut - PEAR")
        self.assertEqual((cut.rgb, cut.dxf.color), ((0, 255, 0), 3))

    def test_same_names_are_told_apart(self) -> None:
        one = {"guide": "rim", "text": "PEAR", "face": "lato-bold", "height": 9}
        piece = self.piece(letterings=[{**one, "id": "a"}, {**one, "id": "b", "at": 100}])
        names = [group.name for group in workpiece(piece).groups]
        self.assertEqual(names[:2], ["PEAR", "PEAR 2"])
        texts = ["PEAR", "Pear", "PEAR 2", "PEAR: 2"]
        piece = self.piece(
            letterings=[{**one, "id": f"t{n}", "text": text} for n, text in enumerate(texts)]
        )
        drawing = ezdxf.read(io.StringIO(write_dxf(workpiece(piece)).decode()))
        cut = {
            name.casefold() for e in drawing.modelspace() if "ear" in (name := e.dxf.layer).lower()
        }
        self.assertEqual(len(cut), 4)

    def test_the_material_says_what_is_usual(self) -> None:
        words = {"id": "t", "guide": "rim", "text": "PEAR", "face": "lato-bold", "height": 9}
        stroked = {**words, "face": "hershey-sans"}
        for use, wanted in (("kept", "cut"), ("sunk", "engrave"), ("lines", "draw")):
            sheet = {"id": "s", "name": "s", "use": use}
            piece = parse_piece(document(letterings=[words], tool_sheets=[sheet]))
            self.assertEqual([one.output for one in workpiece(piece).groups], [wanted])
        piece = parse_piece(document(letterings=[stroked]))
        self.assertEqual([one.output for one in workpiece(piece).groups], ["draw"])

    def test_a_piece_lies_mirrored_turned_and_moved(self) -> None:
        """Each written point is the old one under the same map, worked out by shapely."""
        lie = {"mirrored": True, "turned": 30, "at": [12, -7]}
        for write, read in ((write_svg, read_svg), (write_dxf, read_dxf)):
            before, after = (
                read(write(workpiece(self.piece(**more)), guides=True))
                for more in ({}, {"lie": lie})
            )
            cos, sin = math.cos(math.radians(30)), math.sin(math.radians(30))
            matrix = [-cos, -sin, -sin, cos, 12.0, -7.0]
            laid = [affine_transform(one, matrix) for one in as_lines(before)]
            # A page of SVG begins at its corner, wherever the piece lies.
            for one, two in zip(from_corner(laid), from_corner(as_lines(after)), strict=True):
                self.assertLess(one.hausdorff_distance(two), 2 * WITHIN)


def as_lines(outlines: list[FileOutline]) -> list[LineString]:
    curves = [curve_of(outline) for outline in outlines]
    return [LineString(curve.points(np.linspace(0.0, curve.length, 500))) for curve in curves]


def from_corner(lines: list[LineString]) -> list[LineString]:
    x, y, *_ = MultiLineString(lines).bounds
    return [translate(line, -x, -y) for line in lines]


class WrittenGuides(unittest.TestCase):
    """Every kind of guide, written when it is asked for, is as long when read back."""

    def layouts(self) -> dict[str, Layout]:
        return {
            name: lay_out(
                parse_piece(document(guides=[{"id": "rim", **recipe}], letterings=[])),
                shipped_face,
            )
            for name, recipe in zoo.RECIPES.items()
        }

    def test_svg(self) -> None:
        for name, layout in self.layouts().items():
            with self.subTest(name):
                (read,) = read_svg(write_svg(work_of(layout), guides=True))
                curve = layout.guides[0].curve
                self.assertEqual(read.closed, curve.closed)
                self.assertAlmostEqual(curve_of(read).length, curve.length, delta=WITHIN)

    def test_dxf(self) -> None:
        for name, layout in self.layouts().items():
            with self.subTest(name):
                found = read_dxf(write_dxf(work_of(layout), guides=True))
                length = sum(curve_of(outline).length for outline in found)
                self.assertAlmostEqual(length, layout.guides[0].curve.length, delta=WITHIN)

    def test_hidden_and_deleted_guides_are_left_out(self) -> None:
        for state in ("hidden", "removed"):
            piece = document(guides=[{"id": "rim", **zoo.RECIPES["circle"], state: True}])
            written = write_svg(workpiece(piece), guides=True)
            self.assertNotIn(b"guides", written)


if __name__ == "__main__":
    unittest.main()
