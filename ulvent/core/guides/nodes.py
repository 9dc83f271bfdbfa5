"""Working on the points of drawn guides. Every function gives a new recipe."""

from __future__ import annotations

import math

import numpy as np

from ulvent.core.base.arrays import Point
from ulvent.core.base.errors import FieldProblem, PieceError
from ulvent.core.base.tolerances import CORNER
from ulvent.core.curves import ArcSegment, Curve, LineSegment, Segment, nearest
from ulvent.core.curves.bezier import part_of
from ulvent.core.curves.cubics import arc_nodes, between_nodes, raised
from ulvent.core.guides.drawn import Node, drawn_handles, drawn_line
from ulvent.core.guides.frame import placed, rounded_point, to_piece, to_recipe
from ulvent.core.guides.kinds import AnyGuide
from ulvent.core.guides.kinds.drawn_guide import DrawnGuide, with_node

_TOGETHER = 0.5
"""Ends nearer than this, mm, become one point when they are joined."""
_ARC_STEP = 45.0
_FEWEST = 2
_ON_CURVE = 1e-3
"""A point farther from the curve than this, mm, is none of it: rounded off, or cut away."""


def points_of(guide: AnyGuide, curve: Curve) -> tuple[float, ...]:
    """Stations of a drawn guide's points on its curve, mm, in order; other guides have none."""
    if not isinstance(guide, DrawnGuide):
        return ()
    points = np.array(placed(guide, [complex(*node.at) for node in guide.nodes]))
    stations = nearest(curve, points)
    off = np.hypot(*(curve.points(stations) - points).T)
    return tuple(np.unique(stations[off < _ON_CURVE]).tolist())


def with_joint(guide: DrawnGuide, index: int, joint: str) -> DrawnGuide:
    """A point made corner, smooth or even; its handles are brought in line."""
    before, after = drawn_handles(guide.nodes, guide.closed)[index]
    guide = with_node(guide, index, joint=joint)
    node = guide.nodes[index]
    if joint == "corner" or (node.before is None and node.after is None and joint == "smooth"):
        return guide
    way = after - before if abs(after - before) > 0.0 else complex(1.0, 0.0)
    way /= abs(way)
    sizes = (abs(before), abs(after))
    if joint == "even":
        sizes = (sum(sizes) / 2.0, sum(sizes) / 2.0)
    return with_node(
        guide, index, before=rounded_point(-way * sizes[0]), after=rounded_point(way * sizes[1])
    )


def with_node_added(guide: DrawnGuide, near: Point) -> tuple[DrawnGuide, int]:
    """The guide with a point more, on the line where it is nearest to a point of the piece.

    The line stays what it was: the stretch is split, with handles that say so.
    """
    line = drawn_line(guide.nodes, guide.closed)
    station = float(nearest(line, np.array([to_recipe(guide, near)]))[0])
    index, t = line.locate(station)
    stretch = line.segments()[index]
    assert not isinstance(stretch, ArcSegment), "a drawn line is of Beziers"
    if isinstance(stretch, LineSegment):
        added = Node(at=rounded_point(complex(*part_of(stretch, 0.0, t).end)), joint="corner")
        nodes = (*guide.nodes[: index + 1], added, *guide.nodes[index + 1 :])
        return guide.model_copy(update={"nodes": nodes}), index + 1
    (a, b, c, d), (_, f, g, h) = (
        [complex(*point) for point in part_of(stretch, *range_)] for range_ in ((0.0, t), (t, 1.0))
    )
    following = (index + 1) % len(guide.nodes)
    guide = with_node(guide, index, after=rounded_point(b - a))
    guide = with_node(guide, following, before=rounded_point(g - h))
    added = Node(at=rounded_point(d), before=rounded_point(c - d), after=rounded_point(f - d))
    nodes = (*guide.nodes[: index + 1], added, *guide.nodes[index + 1 :])
    return guide.model_copy(update={"nodes": nodes}), index + 1


def without_node(guide: DrawnGuide, index: int) -> DrawnGuide:
    """The guide without one point.

    Raises
    ------
    PieceError
        When too few would be left.
    """
    if len(guide.nodes) <= _FEWEST:
        raise PieceError(
            [FieldProblem("nodes", "a drawn guide needs two points: delete the guide")]
        )
    nodes = (*guide.nodes[:index], *guide.nodes[index + 1 :])
    return guide.model_copy(update={"nodes": nodes})


def split_at(guide: DrawnGuide, index: int, other_id: str) -> tuple[DrawnGuide, ...]:
    """The guide split at a point: a closed one opened there, an open one in two.

    The handles at the split are set as they are, so that the line stays what it was.

    Raises
    ------
    PieceError
        At an end of an open guide.
    """
    before, after = drawn_handles(guide.nodes, guide.closed)[index]
    node = guide.nodes[index]
    first = node.model_copy(update={"before": None, "after": rounded_point(after)})
    last = node.model_copy(update={"before": rounded_point(before), "after": None})
    if guide.closed:
        turned = (*guide.nodes[index + 1 :], *guide.nodes[:index])
        nodes = (first, *turned, last)
        return (guide.model_copy(update={"nodes": nodes, "closed": False, "seam": 0.0}),)
    if index in (0, len(guide.nodes) - 1):
        raise PieceError([FieldProblem("nodes", "an end cannot be split: choose a point between")])
    return (
        guide.model_copy(update={"nodes": (*guide.nodes[:index], last), "part": None}),
        guide.model_copy(
            update={"id": other_id, "nodes": (first, *guide.nodes[index + 1 :]), "part": None}
        ),
    )


def closed_up(guide: DrawnGuide) -> DrawnGuide:
    """An open guide with its ends joined."""
    first, last = guide.nodes[0], guide.nodes[-1]
    nodes = guide.nodes
    if math.dist(first.at, last.at) * guide.scaled <= _TOGETHER and len(nodes) > _FEWEST:
        nodes = (first.model_copy(update={"before": last.before}), *nodes[1:-1])
    return guide.model_copy(update={"nodes": nodes, "closed": True, "part": None})


def joined(guide: DrawnGuide, other: DrawnGuide) -> DrawnGuide:
    """Two open drawn guides as one, by those of their ends that are nearest to each other.

    Raises
    ------
    PieceError
        When one of them is closed.
    """
    if guide.closed or other.closed:
        raise PieceError([FieldProblem("closed", "a closed guide has no end to join")])
    mine = guide.nodes
    theirs = tuple(_carried(node, other, guide) for node in other.nodes)
    ends = {
        (mine_turned, theirs_turned): math.dist(
            mine[0 if mine_turned else -1].at, theirs[-1 if theirs_turned else 0].at
        )
        for mine_turned in (False, True)
        for theirs_turned in (False, True)
    }
    (mine_turned, theirs_turned), gap = min(ends.items(), key=lambda pair: pair[1])
    first = _turned(mine) if mine_turned else mine
    second = _turned(theirs) if theirs_turned else theirs
    if gap * guide.scaled <= _TOGETHER:
        meeting = first[-1].model_copy(update={"after": second[0].after})
        nodes = (*first[:-1], meeting, *second[1:])
    else:
        nodes = (*first, *second)
    if mine_turned:
        nodes = _turned(nodes)
    return guide.model_copy(update={"nodes": nodes, "part": None})


def _turned(nodes: tuple[Node, ...]) -> tuple[Node, ...]:
    """The same points the other way round."""
    return tuple(
        node.model_copy(update={"before": node.after, "after": node.before})
        for node in reversed(nodes)
    )


def _carried(node: Node, home: DrawnGuide, other: DrawnGuide) -> Node:
    """A point of one guide's frame in another's."""
    at = complex(*to_recipe(other, to_piece(home, node.at)))
    changed: dict[str, object] = {"at": rounded_point(at)}
    for side in ("before", "after"):
        handle = getattr(node, side)
        if handle is not None:
            tip = (node.at[0] + handle[0], node.at[1] + handle[1])
            changed[side] = rounded_point(complex(*to_recipe(other, to_piece(home, tip))) - at)
    return node.model_copy(update=changed)


# --------------------------------------------------------------- from any curve


def drawn_from(guide: AnyGuide, curve: Curve) -> DrawnGuide:
    """A drawn guide that follows the curve of any other: its segments, with all handles set."""
    pieces = [cubic for segment in curve.segments() for cubic in _cubics(segment)]
    middle = sum(piece[0] for piece in pieces) / len(pieces)
    nodes: list[Node] = []
    ends = pieces if curve.closed else [*pieces, None]
    for index, piece in enumerate(ends):
        before = pieces[index - 1] if index or curve.closed else None
        at = piece[0] if piece is not None else pieces[-1][3]
        into = None if before is None else before[2] - before[3]
        out = None if piece is None else piece[1] - piece[0]
        nodes.append(
            Node(
                at=rounded_point(at - middle),
                joint=_joint(into, out),
                before=None if into is None else rounded_point(into),
                after=None if out is None else rounded_point(out),
            )
        )
    return DrawnGuide(
        id=guide.id,
        kind="drawn",
        centre=rounded_point(middle),
        nodes=tuple(nodes),
        closed=curve.closed,
        corners=guide.corners,
        corner_radius=0.0,
        hidden=guide.hidden,
    )


def _joint(into: complex | None, out: complex | None) -> str:
    if not into or not out:
        return "smooth"
    turn = abs(math.remainder(np.angle(out) - np.angle(-into), 2.0 * math.pi))
    return "smooth" if turn <= max(CORNER, 1e-3) else "corner"


def _cubics(segment: Segment) -> list[tuple[complex, complex, complex, complex]]:
    """A segment as cubics; arcs in steps of at most 45 degrees."""
    if isinstance(segment, ArcSegment):
        parts = max(1, math.ceil(abs(segment.sweep) / _ARC_STEP))
        begin, sweep = math.radians(segment.begin), math.radians(segment.sweep)
        controls = between_nodes(*arc_nodes(segment.centre, segment.radius, begin, sweep, parts))
    else:
        controls = raised(np.array([segment], dtype=float))
    return [
        (complex(*a), complex(*b), complex(*c), complex(*d)) for a, b, c, d in controls.tolist()
    ]
