"""Carved areas, held against inscribed circles (shapely) and against what the cutters take away.

What a cutter takes away is worked out here on a raster, place by place along its way, from nothing
but its shape; what it should take away comes from shapely's distances to the edges.
"""

from __future__ import annotations

import math
import unittest
from collections.abc import Iterable, Sequence

import numpy as np
import shapely

from tests.makings import document, workpiece
from ulvent.core.base.arrays import Floats
from ulvent.core.base.errors import PieceError
from ulvent.core.runs import Run, Track, run_choices
from ulvent.core.runs.carving import Carved, clearings, grooves, stretches
from ulvent.core.runs.relief import walls
from ulvent.core.shapes import Region
from ulvent.formats.run_out import RUN_FORMATS
from ulvent.machines import BeamMachine, Bed

DOT = 0.05
"""mm from one place of the raster to the next."""
DEEP, SHALLOW = 0.015, 0.08
"""mm by which a place may be too deep, and, for the raster's sake, not deep enough."""
BAR = Region.box((0.0, 0.0, 40.0, 4.0))


def edges_of(area: Region) -> shapely.MultiLineString:
    return shapely.MultiLineString([shapely.LinearRing(ring) for ring in area.rings])


def letters(text: str, face: str, height: float, **run: object) -> tuple[Region, Run]:
    """The area of some letters where their run has them, and the run."""
    work = workpiece(
        document(
            guides=[{"id": "g", "kind": "line", "length": 80}],
            letterings=[{"id": "t", "guide": "g", "text": text, "face": face, "height": height}],
            run={"passes": [{"id": "v", "works": [{"what": "letters", "of": "t"}], **run}]},
        )
    )
    rings = [work.run.place.laid(ring) for layer in work.ready.layers for ring in layer.area.rings]
    return Region.of_rings(rings), work.run


class Raster:
    """The surface over an area, with how deep each place of it is."""

    def __init__(self, area: Region) -> None:
        x0, y0, x1, y1 = area.bounds
        self.x = np.arange(x0 - 0.5, x1 + 0.5, DOT)
        self.y = np.arange(y0 - 0.5, y1 + 0.5, DOT)
        self.depth = np.zeros((len(self.y), len(self.x)))
        at = np.stack(np.meshgrid(self.x, self.y), axis=-1).reshape(-1, 2)
        inside = area.contains(at)
        away = np.zeros(len(at))
        away[inside] = shapely.distance(edges_of(area), shapely.points(at[inside]))
        self.away = away.reshape(self.depth.shape)

    def cut(self, ways: Iterable[tuple[Floats, Floats]], slope: float) -> None:
        """Take away what a pointed cutter does whose sides go out by `slope` a mm."""
        for points, depths in ways:
            line = np.column_stack([points, depths])
            steps = np.linalg.norm(np.diff(line, axis=0), axis=1)
            stations = np.concatenate([[0.0], np.cumsum(steps)])
            fine = np.arange(0.0, stations[-1] + DOT, 0.6 * DOT)
            for place in np.column_stack([np.interp(fine, stations, axis) for axis in line.T]):
                self._sunk(*place.tolist(), slope)

    def _sunk(self, x: float, y: float, deep: float, slope: float) -> None:
        reach = deep * slope
        columns = slice(*np.searchsorted(self.x, (x - reach, x + reach)))
        rows = slice(*np.searchsorted(self.y, (y - reach, y + reach)))
        away = np.hypot(self.x[None, columns] - x, self.y[rows, None] - y)
        part = self.depth[rows, columns]
        np.maximum(part, deep - away / slope, out=part)


def ways(carved: Sequence[Carved]) -> list[tuple[Floats, Floats]]:
    return [
        (np.concatenate([one.points, one.points[:1]]), np.append(one.depths, one.depths[0]))
        if one.closed
        else (one.points, one.depths)
        for one in carved
    ]


class Grooves(unittest.TestCase):
    def test_a_bar_is_as_deep_as_half_its_width_and_cut_into_its_corners(self) -> None:
        found = grooves(BAR, 60.0, 50.0)
        ends = np.concatenate([one.points[[0, -1]] for one in found])
        for corner in ((0, 0), (40, 0), (40, 4), (0, 4)):
            self.assertLess(np.hypot(*(ends - corner).T).min(), 1e-9)
        deepest = max(float(one.depths.max()) for one in found)
        self.assertAlmostEqual(deepest, 2.0 / math.tan(math.radians(30.0)), delta=0.002)

    def test_a_round_dot_is_gone_down_in_once(self) -> None:
        (one,) = grooves(Region.disc(np.array([3.0, 4.0]), 2.0), 90.0, 5.0)
        np.testing.assert_allclose(one.points, [[3.0, 4.0]] * 2, atol=0.01)
        self.assertAlmostEqual(float(one.depths.max()), 1.0, delta=0.005)
        hole = walls(one.points, one.depths, 90.0)
        self.assertAlmostEqual(
            shapely.union_all(shapely.polygons(hole.corners)).area, math.pi, delta=0.05
        )

    def test_the_depth_is_the_inscribed_circle_s_and_a_floor_is_no_deeper(self) -> None:
        for face in ("lato-bold", "eb-garamond", "kaushan-script"):
            area, _ = letters("Ra&", face, 15.0, tool="router", depth=1)
            edges = edges_of(area)
            for angle, deepest in ((60.0, 50.0), (90.0, 0.8)):
                slope = math.tan(math.radians(angle / 2.0))
                for one in (way for part in area.parts for way in grooves(part, angle, deepest)):
                    radii = shapely.distance(edges, shapely.points(one.points))
                    meant = np.minimum(radii / slope, deepest)
                    np.testing.assert_allclose(one.depths, meant, atol=0.012)

    def test_what_the_cutter_takes_away_is_what_the_edges_say(self) -> None:
        for face in ("lato-bold", "kaushan-script", "alfa-slab-one"):
            area, _ = letters("Rg", face, 12.0, tool="router", depth=1)
            for angle, deepest in ((90.0, 50.0), (60.0, 1.5)):
                with self.subTest(face, angle=angle):
                    slope = math.tan(math.radians(angle / 2.0))
                    surface = Raster(area)
                    for part in area.parts:
                        surface.cut(ways(grooves(part, angle, deepest)), slope)
                    meant = np.minimum(surface.away / slope, deepest)
                    self.assertLess((surface.depth - meant).max(), DEEP)
                    # What is wider than the groove is deep is a floor, which another tool clears.
                    walls = surface.away < deepest * slope
                    self.assertLess((meant - surface.depth)[walls].max(), SHALLOW)

    def test_a_way_that_comes_to_a_level_is_parted_there(
        self,
    ) -> None:
        points = np.array([[0.0, 0.0], [4.0, 0.0], [8.0, 0.0]])
        depths = np.array([0.0, 2.0, 0.0])
        above = stretches(points, depths, 1.0, above=False)
        (below,) = stretches(points, depths, 1.0, above=True)
        self.assertEqual([some[0][:, 0].tolist() for some in above], [[0.0, 2.0], [6.0, 8.0]])
        self.assertEqual(below[0][:, 0].tolist(), [2.0, 4.0, 6.0])
        self.assertEqual(below[1].tolist(), [1.0, 2.0, 1.0])


class Clearings(unittest.TestCase):
    def test_all_that_the_bit_reaches_is_cleared_and_nothing_else(self) -> None:
        area, _ = letters("OE", "alfa-slab-one", 30.0, tool="router", depth=1)
        for left in (0.0, 0.3):
            done = shapely.union_all([
                shapely.LinearRing(one.points).buffer(1.0, quad_segs=32)
                for part in area.parts for one in clearings(part, 2.0, 0.8, left, 1.0)
            ])  # fmt: skip
            whole = shapely.Polygon()
            for ring in area.rings:
                whole = whole.symmetric_difference(shapely.Polygon(ring))
            reached = whole.buffer(-1.0 - left, quad_segs=32).buffer(1.0, quad_segs=32)
            self.assertLess(done.difference(whole.buffer(0.006 - left)).area, 1e-6)
            self.assertLess(reached.difference(done).area, 0.002 * whole.area)

    def test_ways_without_number_are_refused_before_they_are_made(self) -> None:
        with self.assertRaises(PieceError) as caught:
            letters("OAKS", "alfa-slab-one", 60.0, tool="flat-bit", depth=1,
                    carving={"bit": 0.02, "over": 5})  # fmt: skip
        (problem,) = caught.exception.problems
        self.assertEqual(problem.field, "run.passes[0].carving.bit")
        self.assertIn("ways round", problem.reason)


class Passes(unittest.TestCase):
    def test_round_by_round_no_deeper_than_a_step_and_at_the_end_all_of_it(self) -> None:
        area, run = letters("Rg", "lato-bold", 20.0, tool="v-bit", depth=2.5, step=1.0,
                            carving={"angle": 60})  # fmt: skip
        (one,) = run.passes
        slope = math.tan(math.radians(30.0))
        surface = Raster(area)
        so_far = 0.0
        for track in one.tracks:
            depths = self.depths(track)
            self.assertLessEqual(float(depths.max()), 2.5 + 1e-9)
            self.assertAlmostEqual(track.depth, float(depths.max()))
            so_far = max(so_far, track.depth)
            surface.cut([(track.points, depths)], slope)
        levels = sorted({round(track.depth, 3) for track in one.tracks if track.depths is None})
        self.assertEqual((so_far, levels), (2.5, [2.5]))
        meant = np.minimum(surface.away / slope, 2.5)
        self.assertLess((surface.depth - meant).max(), DEEP)
        self.assertLess((meant - surface.depth)[surface.away < 2.5 * slope].max(), SHALLOW)
        self.assertEqual(set(one.names), {"“R” of Rg", "“g” of Rg"})

    def test_the_simulated_router_is_where_the_groove_is_at_every_place(self) -> None:
        area, run = letters("Ash", "eb-garamond", 20.0, tool="v-bit", carving={"angle": 90})
        machine = BeamMachine(Bed(600.0, 400.0))
        for line in RUN_FORMATS["gcode"].write(run).decode().splitlines():
            self.assertEqual(machine.take(line), ["ok"], line)
        edges = edges_of(area)
        for done in machine.bed.done:
            radii = shapely.distance(edges, shapely.points(np.array(done.points)[1:]))
            np.testing.assert_allclose(done.depths[1:], radii, atol=0.012)
            self.assertEqual(done.cutter, (90.0, 0.0))

    def test_what_is_seen_of_it_are_its_walls_lit_from_the_upper_left(self) -> None:
        area, run = letters("OE", "alfa-slab-one", 20.0, tool="v-bit", carving={"angle": 90})
        (one,) = run.passes
        found = [relief for relief in map(one.relief, one.tracks) if relief is not None]
        corners = np.concatenate([relief.corners for relief in found])
        light = np.concatenate([relief.light for relief in found])
        seen = shapely.union_all(shapely.buffer(shapely.polygons(corners), 1e-4))
        meant = Region.of_rings(list(area.rings))
        self.assertAlmostEqual(seen.area, meant.area, delta=0.01 * meant.area)
        # A wall that faces the light lies on the far side of its groove: lower right.
        middles, edges = corners[:, :2].mean(axis=1), corners[:, 2:].mean(axis=1)
        aside = (edges - middles) / np.hypot(*(edges - middles).T)[:, None]
        np.testing.assert_allclose(light, 0.5 + 0.5 * aside @ (1, -1) / math.sqrt(2.0), atol=0.3)
        _, drawn = letters("O", "lato-bold", 20.0, tool="pen")
        self.assertIsNone(drawn.passes[0].relief(drawn.passes[0].tracks[0]))

    def test_one_choice_carves_what_a_part_has_sunk_and_grooved(self) -> None:
        grooved = {"of": "b", "relief": "grooved", "by": 5, "angle": 90}
        sunk = {"relief": "sunk", "by": 3}
        relief = {"thickness": 12, "cutter": 2, "relief": sunk, "letterings": [grooved]}
        line = {"guide": "g", "face": "lato-bold", "height": 15}
        work = workpiece(
            document(
                guides=[{"id": "g", "kind": "line", "length": 80}], edge="cut", solid=relief,
                letterings=[{"id": "a", "text": "Oak", **line},
                            {"id": "b", "text": "Ash", "standoff": 30, **line}],
            )
        )  # fmt: skip
        choice = next(one for one in run_choices(work.piece, work.groups) if one.name == "carve")
        clear, groove, out = choice.sheet.passes
        self.assertEqual((clear.tool, clear.depth, clear.carving.bit), ("flat-bit", 3.0, 2.0))
        self.assertEqual((groove.tool, groove.depth, groove.carving.angle), ("v-bit", 5.0, 90.0))
        self.assertEqual((out.tool, out.depth), ("router", 12.0))
        self.assertEqual([one.of for one in (*clear.works, *groove.works)], ["a", "b"])

    def test_a_bit_that_is_too_narrow_for_the_depth_limits_it(self) -> None:
        _, run = letters("I", "alfa-slab-one", 40.0, tool="v-bit", carving={"angle": 90, "bit": 3})
        self.assertAlmostEqual(max(track.depth for track in run.passes[0].tracks), 1.5)

    @staticmethod
    def depths(track: Track) -> Floats:
        if track.depths is not None:
            return track.depths
        return np.full(len(track.points), track.depth)


if __name__ == "__main__":
    unittest.main()
