"""What a run becomes in files, read by readers of their own and held against the outlines.

HP-GL: a reader of its grammar (two letters, figures between commas, a semicolon), by the HP-GL
reference, from memory. G-code: a reader of blocks of words by RS274/NGC, NIST IR 6556, from
memory. SVG and DXF: svgelements and ezdxf. PDF: pypdf, and poppler's picture of it.
"""

from __future__ import annotations

import io
import math
import re
import subprocess
import tempfile
import unittest
from collections.abc import Iterable
from dataclasses import replace
from functools import cache
from pathlib import Path
from typing import Any, NamedTuple

import ezdxf
import numpy as np
import pypdf
import shapely
import svgelements
from PIL import Image

from tests.makings import document, workpiece
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.runs import Run
from ulvent.core.workshop import Workpiece
from ulvent.demo import demo_pieces
from ulvent.formats.out import FORMATS
from ulvent.formats.run_out import RUN_FORMATS

FRAME = "Paper frame"
SIGN = {
    "title": "Sign",
    "blank": {"kind": "rectangle", "width": 160, "height": 60, "radius": 8},
    "edge": "cut",
    "guides": [{"id": "a", "kind": "line", "length": 140, "centre": [0, -9]}],
    "letterings": [
        {"id": "t", "guide": "a", "text": "QUINCE & ROB", "face": "lato-bold", "height": 18}
    ],
}


class Drawn(NamedTuple):
    """One track, and which pen, or pass, it is of."""

    line: np.ndarray
    tool: int
    motion: int = 1
    z: float = 0.0


@cache
def demo(title: str) -> Workpiece:
    """A piece of the demo, without its run sheet."""
    piece = next(one for one in demo_pieces() if one.title == title)
    return workpiece(piece.model_copy(update={"run": None}))


@cache
def outlines(work: Workpiece) -> Any:
    """All lines of the piece from its SVG file, by svgelements, seen from the blank's corner."""
    svg = svgelements.SVG.parse(io.BytesIO(FORMATS["svg"].write(work, False)), ppi=25.4, reify=True)
    found = []
    for path in svg.elements(lambda one: isinstance(one, svgelements.Path)):
        for part in path.as_subpaths():
            points = [
                one.point(t)
                for one in svgelements.Path(part)
                for t in np.linspace(0, 1, 400 if isinstance(one, svgelements.Arc) else 30)
            ]
            if len(points) > 1:
                found.append(shapely.LineString([(p.x, -p.y) for p in points if p is not None]))
    # The document begins at the left and at the top of what is in it and of the blank.
    root = re.search(rb'viewBox="([-\d.e]+) ([-\d.e]+) ', FORMATS["svg"].write(work, False))
    assert root is not None
    left, top = map(float, root.groups())
    x0, y0, _, _ = curve_bounds(work.layout.blank[0])
    corner = left - x0, -top - y0
    return shapely.transform(shapely.MultiLineString(found), lambda at: at + corner)


def read_hpgl(data: bytes) -> list[Drawn]:
    found: list[Drawn] = []
    at, pen, down = (0, 0), 0, False
    line: list[tuple[int, int]] = []
    for word, figures in re.findall(r"([A-Z]{2})([-\d,]*);", data.decode("ascii")):
        values = [int(one) for one in figures.split(",") if one]
        if word == "SP":
            pen = values[0]
        elif word in ("PU", "PD"):
            if (word == "PU" or not down) and len(line) > 1:
                found.append(Drawn(np.array(line) / 40.0, pen))
            if word == "PU" or not down:
                line = []
            down = word == "PD"
            for x, y in zip(values[::2], values[1::2], strict=True):
                if down:
                    line = line or [at]
                    line.append((x, y))
                at = (x, y)
        else:
            assert word in ("IN", "PA", "VS"), word
    return found


def read_gcode(data: bytes) -> tuple[list[Drawn], list[Drawn]]:
    """What is done with the power on, or below the sheet; and all other moves."""
    at = {"X": 0.0, "Y": 0.0, "Z": 5.0}
    on, motion, number, deep = False, 0, 0, False
    done: list[Drawn] = []
    idle: list[Drawn] = []
    line: list[tuple[float, float]] = []
    for block in data.decode("ascii").splitlines():
        number += block.startswith("(Pass")
        words = re.findall(r"([A-Z])([-\d.]+)", re.sub(r"\(.*?\)", "", block))
        values = {letter: float(figure) for letter, figure in words if letter not in "GM"}
        deep = deep or "Z" in values
        for letter, figure in words:
            if letter == "M":
                on = {"3": True, "5": False}.get(figure, on)
            if letter == "G" and figure in ("0", "1", "2", "3"):
                motion = int(figure)
        if not values.keys() & {"X", "Y", "Z"}:
            if not on and len(line) > 1:
                done.append(Drawn(np.array(line), number))
            line = line if on else []
            continue
        end = {axis: values.get(axis, at[axis]) for axis in at}
        points = [(at["X"], at["Y"]), (end["X"], end["Y"])]
        if motion in (2, 3):
            points = arc(points[0], points[1], values["I"], values["J"], motion == 3)
        working = on and (not deep or end["Z"] < 0.0)
        if working:
            assert motion > 0, f"moves fast while it works: {block}"
            line = line or points[:1]
            line += points[1:]
        else:
            if len(line) > 1:
                done.append(Drawn(np.array(line), number))
            line = []
            idle.append(Drawn(np.array(points), number, motion, end["Z"]))
        at = end
    return done, idle


def arc(
    begin: tuple[float, float], end: tuple[float, float], i: float, j: float, left: bool
) -> list[tuple[float, float]]:
    centre = begin[0] + i, begin[1] + j
    radii = math.dist(begin, centre), math.dist(end, centre)
    assert abs(radii[0] - radii[1]) < 0.005, f"an arc's ends have radii {radii}"
    first, last = (math.atan2(at[1] - centre[1], at[0] - centre[0]) for at in (begin, end))
    turn = (last - first) % (2.0 * math.pi) if left else -((first - last) % (2.0 * math.pi))
    angles = (first + t * turn for t in np.linspace(0.0, 1.0, 2 + int(abs(turn) / 0.02)))
    return [
        (centre[0] + radii[0] * math.cos(at), centre[1] + radii[0] * math.sin(at)) for at in angles
    ]


def as_lines(lines: Iterable[Any]) -> Any:
    return shapely.MultiLineString([shapely.LineString(line) for line in lines])


def apart(found: Any, wanted: Any) -> float:
    """How far two sets of lines are from one another, both ways, mm."""
    return max(farthest(found, wanted), farthest(wanted, found))


def farthest(lines: Any, others: Any) -> float:
    """How far any point of some lines is from the nearest of others, mm."""
    marks = shapely.points(shapely.get_coordinates(lines.segmentize(0.2)))
    ends = (shapely.get_coordinates(one) for one in shapely.get_parts(others))
    pieces = np.concatenate([np.stack([at[:-1], at[1:]], axis=1) for at in ends])
    _, off = shapely.STRtree(shapely.linestrings(pieces)).query_nearest(
        marks, return_distance=True, all_matches=False
    )
    return float(off.max())


class Files(unittest.TestCase):
    def lines(self, drawn: list[Drawn]) -> Any:
        return as_lines(one.line for one in drawn)

    def test_hpgl_is_within_one_unit_of_the_outlines(self) -> None:
        for work in (workpiece(document(**SIGN)), demo(FRAME), demo("Barrel head")):
            with self.subTest(work.piece.title):
                found = read_hpgl(RUN_FORMATS["plt"].write(work.run))
                self.assertLess(apart(self.lines(found), outlines(work)), 0.025)

    def test_gcode_is_within_a_hundredth_with_the_beam_off_on_every_travel(
        self,
    ) -> None:
        for work in (workpiece(document(**SIGN)), demo(FRAME), demo("Barrel head")):
            with self.subTest(work.piece.title):
                found, idle = read_gcode(RUN_FORMATS["gcode"].write(work.run))
                self.assertLess(apart(self.lines(found), outlines(work)), 0.01)
                self.assertTrue(all(move.motion == 0 for move in idle))
                drawn = sum(one.drawn for one in work.run.passes)
                self.assertAlmostEqual(self.lines(found).length, drawn, delta=2e-3 * drawn)

    def test_what_is_drawn_comes_before_what_is_cut_and_the_edge_is_last(self) -> None:
        found, _ = read_gcode(RUN_FORMATS["gcode"].write(demo(FRAME).run))
        self.assertEqual(sorted({one.tool for one in found}), [1, 2])
        self.assertEqual([one.tool for one in found], sorted(one.tool for one in found))
        work = workpiece(document(**SIGN))
        found, _ = read_gcode(RUN_FORMATS["gcode"].write(work.run))
        last = shapely.LineString(found[-1].line)
        np.testing.assert_allclose(last.bounds, (0.0, 0.0, 160.0, 60.0), atol=0.01)
        letters = shapely.MultiLineString([one.line for one in found[:-1]])
        self.assertTrue(letters.within(shapely.Polygon(last).buffer(0.0)))

    def test_a_cutter_goes_down_in_z_and_travels_clear(self) -> None:
        passes = [{"id": "c", "tool": "router", "works": [{"what": "cut"}], "depth": 3, "step": 1,
                   "tabs": {"number": 2, "width": 3, "height": 1}}]  # fmt: skip
        work = workpiece(document(**SIGN, run={"passes": passes}))
        found, idle = read_gcode(RUN_FORMATS["gcode"].write(work.run))
        self.assertLess(apart(self.lines(found), outlines(work)), 1.6)
        fast = [move for move in idle if move.motion == 0 and np.ptp(move.line, axis=0).any()]
        self.assertTrue(fast)
        self.assertTrue(all(move.z >= 5.0 for move in fast))
        depths = re.findall(r"G1 Z(-[\d.]+)", RUN_FORMATS["gcode"].write(work.run).decode())
        self.assertEqual(set(depths), {"-1", "-2", "-3"})
        # The last millimetre is left standing in two places of each outline that has room.
        self.assertGreater(depths.count("-3"), depths.count("-2"))

    def test_overscan_runs_without_power(self) -> None:
        passes = [{"id": "f", "tool": "beam-fill", "works": [{"what": "letters", "of": "t"}],
                   "filling": {"pitch": 0.5, "overscan": 2}}]  # fmt: skip
        work = workpiece(document(**SIGN, run={"passes": passes}))
        found, idle = read_gcode(RUN_FORMATS["gcode"].write(work.run))
        area = shapely.union_all(
            [shapely.LineString(one.line).buffer(0.25, cap_style="flat") for one in found]
        )
        ink = work.ready.layers[0].area.area
        self.assertAlmostEqual(area.area, ink, delta=0.03 * ink)
        ends = [one.line for one in idle if one.motion == 1]
        # Before and behind each row; between the lines of a row the tool does not stop.
        rows = len({round(one.line[0][1], 3) for one in found})
        run_on = [line for line in ends if abs(math.dist(*line) - 2.0) < 1e-3]
        self.assertGreaterEqual(len(run_on), 2 * rows)
        self.assertEqual(len(ends), rows + len(found))

    def test_a_rehearsal_moves_with_the_tool_up(self) -> None:
        for rehearsal in ("path", "bounds"):
            work = workpiece(document(**SIGN, run={"rehearsal": rehearsal, "passes": [
                {"id": "c", "tool": "beam", "works": [{"what": "cut"}]}]}))  # fmt: skip
            found, idle = read_gcode(RUN_FORMATS["gcode"].write(work.run))
            self.assertEqual(found, [])
            self.assertEqual(read_hpgl(RUN_FORMATS["plt"].write(work.run)), [])
            box = shapely.MultiLineString([one.line for one in idle]).bounds
            np.testing.assert_allclose(box, (0.0, 0.0, 160.0, 60.0), atol=0.01)

    def test_mirrored_and_from_another_corner(self) -> None:
        plain = workpiece(document(**SIGN)).run
        passes = [one.recipe.model_dump() for one in plain.passes]
        run = {"passes": passes, "mirrored": True, "zero": "upper-right"}
        work = workpiece(document(**SIGN, run=run))
        found, _ = read_gcode(RUN_FORMATS["gcode"].write(work.run))
        turned = shapely.transform(self.lines(found), lambda at: at * (-1.0, 1.0) + (0.0, 60.0))
        self.assertLess(apart(turned, outlines(work)), 0.01)

    def test_a_pause_asks_in_words_that_a_comment_holds(self) -> None:
        passes = [
            {
                "id": "c",
                "tool": "blade",
                "works": [{"what": "cut"}],
                "pause": "Pen out; blade (60°) in",
            }
        ]
        text = (
            RUN_FORMATS["gcode"]
            .write(workpiece(document(**SIGN, run={"passes": passes})).run)
            .decode()
        )
        self.assertIn("M0 (Pen out blade 60 in)\n", text)


class Pictures(unittest.TestCase):
    def test_pdf_is_at_true_size(self) -> None:
        """Poppler's picture at 300 dots an inch against svgelements' outlines."""
        work = demo(FRAME)
        data = RUN_FORMATS["pdf"].write(work.run)
        self.assertEqual(data, RUN_FORMATS["pdf"].write(work.run))
        (page,) = pypdf.PdfReader(io.BytesIO(data)).pages
        self.assertIn("100 mm", page.extract_text())
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder, "run.pdf")
            path.write_bytes(data)
            subprocess.run(["pdftoppm", "-r", "300", "-png", path, Path(folder, "p")], check=True)
            picture = np.asarray(Image.open(next(Path(folder).glob("p*.png"))).convert("RGB"))
        # What is drawn is blue, and what is cut is red: neither the bar nor its words.
        colour = np.ptp(picture.astype(int), axis=2) > 40
        rows, columns = np.nonzero(colour)
        dots = np.stack([columns + 0.5, len(picture) - rows - 0.5], axis=1) * 25.4 / 300.0
        dots -= (10.0, 20.0 + 3.5 * len(work.run.passes))
        dots = dots[dots[:, 1] > -1.0]
        wanted = outlines(work)
        self.assertLess(farthest(shapely.MultiPoint(dots), wanted), 0.2)
        marks = shapely.get_coordinates(wanted.segmentize(1.0))
        near = shapely.STRtree(shapely.points(dots)).query_nearest(
            shapely.points(marks), return_distance=True
        )
        self.assertLess(near[1].max(), 0.2)

    def test_tiles_overlap_and_hold_all_of_it(self) -> None:
        """Poppler's pictures of the tiles, laid by their crosses, are the drawing."""
        work = demo("Gate name, one piece")
        sheet = work.run.sheet.model_copy(update={"paper": "a4"})
        data = RUN_FORMATS["pdf"].write(replace(work.run, sheet=sheet))
        pages = pypdf.PdfReader(io.BytesIO(data)).pages
        self.assertEqual(len(pages), 2)
        found = []
        with tempfile.TemporaryDirectory() as folder:
            Path(folder, "run.pdf").write_bytes(data)
            subprocess.run(
                ["pdftoppm", "-r", "300", "-png", "run.pdf", "p"], check=True, cwd=folder
            )
            for column, path in enumerate(sorted(Path(folder).glob("p*.png"))):
                size = [float(side) / 72.0 * 25.4 for side in pages[column].mediabox[2:]]
                np.testing.assert_allclose(size, (210.0, 297.0), atol=0.01)
                self.assertIn(f"column {column + 1} of 2", pages[column].extract_text())
                picture = np.asarray(Image.open(path).convert("RGB")).astype(int)
                rows, columns = np.nonzero(np.ptp(picture, axis=2) > 40)
                dots = np.stack([columns + 0.5, len(picture) - rows - 0.5], axis=1) * 25.4 / 300.0
                # Margins of 10 mm; the second column begins 190 - 10 mm farther on.
                x0, y0 = work.run.frame[:2]
                found.append(dots + (x0 - 10.0 + 180.0 * column, y0 - 10.0))
        lines = shapely.MultiLineString([t.points for p in work.run.passes for t in p.tracks])
        for dots in found:
            self.assertLess(farthest(shapely.MultiPoint(dots), lines), 0.2)
        marks = shapely.points(shapely.get_coordinates(lines.segmentize(1.0)))
        every = shapely.STRtree(shapely.points(np.concatenate(found)))
        self.assertLess(every.query_nearest(marks, return_distance=True)[1].max(), 0.2)

    def test_the_run_sheet_says_what_to_set(self) -> None:
        text = (
            pypdf.PdfReader(io.BytesIO(RUN_FORMATS["run-sheet.pdf"].write(demo(FRAME).run)))
            .pages[0]
            .extract_text()
        )
        for words in ("Draw", "Pen", "60 mm/s", "80 %", "lower left corner", "In all"):
            self.assertIn(words, text)

    def test_png_has_its_resolution(self) -> None:
        work = demo("Barrel head")
        with Image.open(io.BytesIO(RUN_FORMATS["png"].write(work.run))) as picture:
            dpi = picture.info["dpi"][0]
            self.assertAlmostEqual(dpi, 300.0, delta=0.1)
            self.assertAlmostEqual(picture.width / dpi * 25.4, 300.0 + 6.0, delta=0.2)


class ByPass(unittest.TestCase):
    def run_of(self, name: str | None = None) -> Run:
        run = demo(FRAME).run
        return run.only(name) if name else run

    def test_svg_and_dxf_hold_the_tracks_of_each_pass(self) -> None:
        run = self.run_of()
        svg = svgelements.SVG.parse(io.BytesIO(RUN_FORMATS["svg"].write(run)), ppi=25.4, reify=True)
        drawing = ezdxf.read(io.StringIO(RUN_FORMATS["dxf"].write(run).decode()))
        for one in run.passes:
            group = svg.get_element_by_id(f"pass-{one.number}")
            paths = list(group.select(lambda part: isinstance(part, svgelements.Path)))
            self.assertEqual(len(paths), len(one.tracks))
            self.assertAlmostEqual(sum(path.length() for path in paths), one.drawn, delta=0.5)
            layer = f"{one.number} - {one.title}"
            mine = [entity for entity in drawing.modelspace() if entity.dxf.layer == layer]
            self.assertEqual(len(mine), len(one.tracks))
            first = np.array([point[:2] for point in mine[0].get_points("xyb")])
            # Its arcs lie on the track: ezdxf takes them apart and flattens them.
            for entity, track in zip(mine[:20], one.tracks, strict=False):
                line = shapely.LineString(track.points)
                for part in entity.virtual_entities():
                    if part.dxftype() == "ARC":
                        flat = [(at.x, at.y) for at in part.flattening(0.0005)]
                        self.assertLess(shapely.distance(line, shapely.points(flat)).max(), 0.003)
            np.testing.assert_allclose(first[[0, -1]], one.tracks[0].points[[0, -1]], atol=1e-9)

    def test_one_pass_alone(self) -> None:
        whole = self.run_of()
        for name in ("2", "cut", "CUT"):
            (one,) = self.run_of(name).passes
            self.assertEqual(one.title, "Cut")
            self.assertEqual(read_hpgl(RUN_FORMATS["plt"].write(self.run_of(name)))[0].tool, 2)
        self.assertEqual(len(whole.passes), 2)


if __name__ == "__main__":
    unittest.main()
