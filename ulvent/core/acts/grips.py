"""Grips: the places by which a guide is taken hold of on the drawing, and what pulling does.

Pulling is absolute: from where the pointer took hold to where it is now, on the
recipe as it was. So no pull depends on how many moves it came in.
"""

from __future__ import annotations

import cmath
import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ulvent.core.base.arrays import Point
from ulvent.core.base.errors import FieldProblem, PieceError
from ulvent.core.curves import Curve, nearest
from ulvent.core.curves.segments import as_point
from ulvent.core.guides import guide_curve, guide_curves
from ulvent.core.guides.drawn import drawn_handles
from ulvent.core.guides.frame import placed, rounded_point, to_piece, to_recipe_vector
from ulvent.core.guides.nodes import with_handle, with_node
from ulvent.core.layout import LaidGuide
from ulvent.core.recipe.piece import Piece
from ulvent.core.recipe.recipes import (
    AnyGuide,
    ArcThroughGuide,
    BetweenGuide,
    CircleGuide,
    DrawnGuide,
    LaidFlatGuide,
    ParallelGuide,
)

GripKind = Literal["point", "handle", "start", "part", "turn", "size", "centre", "distance"]

_OUTSIDE = 1.12
_DECIMALS = 3


@dataclass(frozen=True)
class Grip:
    """A place to take hold of a guide.

    name
        by which a pull names it
    index
        of the placed point it belongs to, or −1
    """

    name: str
    kind: GripKind
    at: Point
    index: int = -1
    label: str = ""


def grips(guide: LaidGuide, node: int | None = None) -> list[Grip]:
    """The grips of a guide, in the piece, mm; handles only of `node` and its neighbours."""
    found = grips_on_line(guide, node)
    if not isinstance(guide.recipe, ParallelGuide | BetweenGuide):
        found.extend(_turning(guide.recipe, guide.curve))
    return found


def grips_on_line(guide: LaidGuide, node: int | None = None) -> list[Grip]:
    """Those grips of a guide that make it what it is; not those that turn and scale it."""
    recipe, curve = guide.recipe, guide.curve
    found: list[Grip] = []
    if curve.closed:
        where = as_point(curve.points(0.0)[0])
        found.append(Grip(name="start", kind="start", at=where, label="start of the guide"))
    if recipe.part is not None:
        ends = curve.points([0.0, curve.length])
        for index, label in enumerate(("start of the part", "end of the part")):
            where = as_point(ends[index])
            found.append(Grip(name=f"part:{index}", kind="part", at=where, label=label))
    if isinstance(recipe, ParallelGuide | BetweenGuide):
        where = as_point(curve.points(curve.length / 2.0)[0])
        label = "distance" if isinstance(recipe, ParallelGuide) else "share of the way"
        return [*found, Grip(name="distance", kind="distance", at=where, label=label)]
    found.append(Grip(name="centre", kind="centre", at=recipe.centre, label="centre of the guide"))
    if isinstance(recipe, ArcThroughGuide):
        for index, point in enumerate(recipe.points):
            where = to_piece(recipe, point)
            label = f"point {index + 1}"
            found.append(
                Grip(name=f"point:{index}", kind="point", at=where, index=index, label=label)
            )
    if isinstance(recipe, DrawnGuide):
        found.extend(_nodes(recipe, node))
    return found


def _turning(recipe: AnyGuide, curve: Curve) -> list[Grip]:
    """Grips to turn and scale by, just outside the guide."""
    centre = complex(*recipe.centre)
    away = curve.points(np.linspace(0.0, curve.length, 65)) @ np.array([1.0, 1j]) - centre
    way = cmath.exp(1j * math.radians(recipe.turned))

    def outside(direction: complex) -> Point:
        """Just outside the guide, seen from its centre."""
        reach = float((away * np.conj(direction)).real.max())
        where = centre + _OUTSIDE * max(reach, 0.25 * float(np.abs(away).max())) * direction
        return (where.real, where.imag)

    aslant = cmath.exp(-0.25j * math.pi)
    if isinstance(recipe, CircleGuide):
        rim = centre + float(np.abs(away).max()) * aslant
        return [Grip("size", "size", (rim.real, rim.imag), label="size")]
    found = [Grip("turn", "turn", outside(way * 1j), label="turn")]
    if not isinstance(recipe, LaidFlatGuide):
        found.append(Grip("size", "size", outside(way * aslant), label="scale"))
    return found


def _nodes(recipe: DrawnGuide, chosen: int | None) -> list[Grip]:
    points = [complex(*node.at) for node in recipe.nodes]
    found = [
        Grip(f"node:{index}", "point", at, index, f"point {index + 1}")
        for index, at in enumerate(placed(recipe, points))
    ]
    if chosen is None:
        return found
    count = len(points)
    handles = drawn_handles(recipe.nodes, recipe.closed)
    near = [index % count for index in (chosen - 1, chosen, chosen + 1)
            if recipe.closed or 0 <= index < count]  # fmt: skip
    for index in dict.fromkeys(near):
        for side, handle in zip(("before", "after"), handles[index], strict=True):
            outer = not recipe.closed and index == (0 if side == "before" else count - 1)
            if handle and not outer:
                (at,) = placed(recipe, [points[index] + handle])
                label = f"handle {side} point {index + 1}"
                found.append(Grip(f"{side}:{index}", "handle", at, index, label))
    return found


def pulled(piece: Piece, recipe: AnyGuide, grip: str, start: Point, end: Point) -> AnyGuide:
    """A guide of `piece` after its grip was pulled from `start` to `end`, mm.

    Raises
    ------
    PieceError
        When there is no such grip.
    """
    name, _, number = grip.partition(":")
    index = int(number) if number.isdigit() else -1
    by = complex(*end) - complex(*start)
    if isinstance(recipe, DrawnGuide) and name in _OF_NODES and 0 <= index < len(recipe.nodes):
        return _node_pulled(recipe, name, index, start, end)
    if name in ("centre", "whole") and not isinstance(recipe, ParallelGuide | BetweenGuide):
        moved = complex(*recipe.centre) + by
        return recipe.model_copy(update={"centre": _tidy(moved)})
    if name == "start":
        return _started(recipe, _bases(piece, recipe), end)
    if name == "part" and recipe.part is not None and index in (0, 1):
        return _parted(recipe, _bases(piece, recipe), index, end)
    if name == "turn":
        centre = complex(*recipe.centre)
        if centre in (complex(*start), complex(*end)):
            return recipe
        turn = math.degrees(cmath.phase((complex(*end) - centre) / (complex(*start) - centre)))
        return recipe.model_copy(update={"turned": round(recipe.turned + turn, _DECIMALS)})
    if name == "size":
        return _scaled(recipe, start, end)
    if isinstance(recipe, ArcThroughGuide) and name == "point" and 0 <= index < len(recipe.points):
        points = [*recipe.points]
        points[index] = rounded_point(
            complex(*points[index]) + to_recipe_vector(recipe, start, end)
        )
        return recipe.model_copy(update={"points": tuple(points)})
    if isinstance(recipe, ParallelGuide) and name in ("distance", "whole"):
        return _away(recipe, _bases(piece, recipe)[recipe.guide], end)
    if isinstance(recipe, BetweenGuide) and name in ("distance", "whole"):
        return _between(recipe, _bases(piece, recipe), end)
    raise PieceError([FieldProblem("grip", f"“{recipe.id}” has no grip “{grip}”")])


_OF_NODES = ("node", "before", "after")


def _bases(piece: Piece, recipe: AnyGuide) -> dict[str, Curve]:
    """The curves that a guide is made from; only those are made."""
    needed: list[AnyGuide] = []
    wanted = [*recipe.leans_on]
    while wanted:
        guide = piece.guide(wanted.pop())
        needed.append(guide)
        wanted.extend(guide.leans_on)
    return guide_curves(tuple(dict.fromkeys(needed)))


def _started(recipe: AnyGuide, others: dict[str, Curve], end: Point) -> AnyGuide:
    if isinstance(recipe, CircleGuide):
        away = complex(*end) - complex(*recipe.centre)
        angle = math.degrees(cmath.phase(away)) - recipe.turned
        return recipe.model_copy(update={"start": round(angle % 360.0, _DECIMALS), "seam": 0.0})
    plain = guide_curve(recipe.model_copy(update=_PLAIN), others)
    if not plain.closed:
        raise PieceError([FieldProblem("grip", "an open guide has no start to pull")])
    station = float(nearest(plain, np.array([end]))[0])
    return recipe.model_copy(update={"seam": round(station, _DECIMALS)})


_PLAIN = {"seam": 0.0, "reverse": False, "part": None, "corners": "pass"}


def _parted(recipe: AnyGuide, others: dict[str, Curve], index: int, end: Point) -> AnyGuide:
    whole = guide_curve(recipe.model_copy(update={"part": None}), others)
    station = float(nearest(whole, np.array([end]))[0])
    assert recipe.part is not None
    part = [*recipe.part]
    part[index] = round(station, _DECIMALS)
    if whole.closed:
        begin = part[0] % whole.length
        part = [begin, begin + ((part[1] - begin) % whole.length or whole.length)]
    elif part[1] - part[0] < 10.0**-_DECIMALS:
        return recipe
    return recipe.model_copy(
        update={"part": (round(part[0], _DECIMALS), round(part[1], _DECIMALS))}
    )


def _scaled(recipe: AnyGuide, start: Point, end: Point) -> AnyGuide:
    centre = complex(*recipe.centre)
    before, now = abs(complex(*start) - centre), abs(complex(*end) - centre)
    if before <= 0.0 or now <= 0.0:
        return recipe
    factor = now / before
    if isinstance(recipe, CircleGuide):
        fields = ("diameter", "radius", "round")
        field = next(name for name in fields if getattr(recipe, name) is not None)
        size = round(getattr(recipe, field) * factor, 2)
        return recipe.model_copy(update={field: max(size, 0.01)})
    scaled = round(min(max(recipe.scaled * factor, 1e-3), 1e3), 4)
    return recipe.model_copy(update={"scaled": scaled})


def _node_pulled(recipe: DrawnGuide, name: str, index: int, start: Point, end: Point) -> DrawnGuide:
    by = to_recipe_vector(recipe, start, end)
    if name == "node":
        at = rounded_point(complex(*recipe.nodes[index].at) + by)
        return with_node(recipe, index, at=at)
    before, after = drawn_handles(recipe.nodes, recipe.closed)[index]
    return with_handle(recipe, index, name, (before if name == "before" else after) + by)


def _away(recipe: ParallelGuide, base: Curve, end: Point) -> ParallelGuide:
    at = base.frames(nearest(base, np.array([end])))
    away = np.array(end) - at.points[0]
    side = math.copysign(1.0, float(away @ at.normals[0]))
    distance = round(side * float(np.hypot(*away)), 2)
    return recipe.model_copy(update={"distance": distance})


def _between(recipe: BetweenGuide, others: dict[str, Curve], end: Point) -> BetweenGuide:
    point = np.array([end])
    first, second = (
        float(np.hypot(*(edge.points(nearest(edge, point)) - point)[0]))
        for edge in (others[recipe.first], others[recipe.second])
    )
    share = min(max(first / max(first + second, 1e-9), 0.01), 0.99)
    return recipe.model_copy(update={"share": round(share, 3)})


def _tidy(point: complex) -> Point:
    return (round(point.real, _DECIMALS) + 0.0, round(point.imag, _DECIMALS) + 0.0)
