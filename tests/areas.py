"""Regions and outlines as shapely has them, which Ulvent itself does not use."""

from __future__ import annotations

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import STRtree
from shapely.geometry import LinearRing, MultiLineString, MultiPolygon, Polygon

from ulvent.core.curves import Curve
from ulvent.core.faces import Face
from ulvent.core.outlines import Outline
from ulvent.core.shapes import Region
from ulvent.shipped_faces import shipped_faces

Floats = NDArray[np.float64]

DENSELY = 64
"""Chords a curve: what is checked is what lies between the nodes."""


def outline_faces() -> list[tuple[str, Face]]:
    return [(name, face) for name, face in shipped_faces() if not face.single_stroke]


def word(face: Face, text: str, height: float) -> list[Outline]:
    """The letters of a word set straight by the face's own advances, mm."""
    scale = height / face.metrics.cap_height
    found: list[Outline] = []
    at = 0.0
    for cluster in face.shape(text).clusters:
        outline = face.cluster_outline(cluster.glyphs)
        if outline:
            found.append(outline.transformed(np.array([[scale, 0.0, at], [0.0, scale, 0.0]])))
        at += cluster.advance * scale
    return found


def as_shapely(outline: Outline) -> MultiPolygon | Polygon:
    """What an outline's contours wind round, by the non-zero rule, as shapely computes it."""
    rings = [Polygon(points) for points, _ in outline.flattened(DENSELY) if len(points) >= 3]
    turns = [1 if LinearRing(ring.exterior.coords).is_ccw else -1 for ring in rings]
    # The sign of the largest ring is that of all outer ones.
    largest = max(range(len(rings)), key=lambda i: rings[i].area)
    outer = shapely.union_all(
        [r.buffer(0) for r, t in zip(rings, turns, strict=True) if t == turns[largest]]
    )
    holes = shapely.union_all(
        [r.buffer(0) for r, t in zip(rings, turns, strict=True) if t != turns[largest]]
    )
    return outer.difference(holes)


def polygons_of(region: Region) -> MultiPolygon:
    """The parts of a region as shapely's polygons."""
    return MultiPolygon([Polygon(part.rings[0], part.rings[1:]) for part in sorted_parts(region)])


def without_specks(region: Region, narrower: float) -> Region:
    """Without rings that are on the whole narrower than this: few nodes leaves them out."""
    kept = []
    for ring in region.rings:
        polygon = Polygon(ring)
        if 2.0 * polygon.area > narrower * polygon.exterior.length:
            kept.append(ring)
    return Region.of_rings(kept)


def sorted_parts(region: Region) -> list[Region]:
    """Parts whose first ring is the outer one."""
    found = []
    for part in region.parts:
        rings = sorted(part.rings, key=lambda ring: -Polygon(ring).area)
        found.append(_Rings(tuple(rings)))
    return found  # type: ignore[return-value]


class _Rings:
    def __init__(self, rings: tuple[Floats, ...]) -> None:
        self.rings = rings


def apart(one: shapely.Geometry, two: shapely.Geometry) -> float:
    """The Hausdorff distance of two areas' edges, looked at every hundredth of a mm or denser."""
    worst = 0.0
    for first, second in ((one, two), (two, one)):
        lines = shapely.segmentize(first.boundary, 0.04)
        points = shapely.points(shapely.get_coordinates(lines))
        tree = STRtree(_edges(shapely.get_parts(second.boundary)))
        _, far = tree.query_nearest(points, return_distance=True, all_matches=False)
        worst = max(worst, float(far.max(initial=0.0)))
    return worst


def _edges(lines: np.ndarray) -> np.ndarray:
    """The single edges of lines, so that a tree can find the nearest."""
    found = []
    for line in lines:
        points = shapely.get_coordinates(line)
        found.append(shapely.linestrings(np.stack([points[:-1], points[1:]], axis=1)))
    return np.concatenate(found)


def edges_of(outline: Outline) -> MultiLineString:
    """The contours of an outline, flattened densely."""
    return MultiLineString(
        [np.vstack([p, p[:1]]) if closed else p for p, closed in outline.flattened(DENSELY)]
    )


def nodes(outline: Outline) -> int:
    return sum(outline.operations.count(operation) for operation in "LQC")


def off_edge(line: Curve, edge: Curve, count: int = 200) -> np.ndarray:
    """How far points of a line are from an edge that goes on straight beyond its ends."""
    stations = np.append(np.linspace(0.0, edge.length, 8000), edge.corners.stations)
    points = edge.points(np.sort(stations))
    if not edge.closed:
        ends, ways = edge.points([0.0, edge.length]), edge.tangents([0.0, edge.length])
        points = np.vstack([ends[0] - 30.0 * ways[0], points, ends[1] + 30.0 * ways[1]])
    stations = np.linspace(0.0, line.length, count)
    return shapely.distance(shapely.points(line.points(stations)), shapely.LineString(points))
