"""Grips: the places by which a guide is taken hold of on the drawing, and what pulling does.

Pulling is absolute: from where the pointer took hold to where it is now, on the
recipe as it was. So no pull depends on how many moves it came in.
"""

from __future__ import annotations

import cmath
import math
from typing import Literal

import numpy as np
from pydantic import BaseModel

from ulvent.core.curves import Curve
from ulvent.core.errors import FieldProblem, PieceError
from ulvent.core.guides import guide_curve
from ulvent.core.guides.drawn import drawn_handles
from ulvent.core.guides.frame import rounded_point, to_piece, to_recipe_vector
from ulvent.core.guides.nodes import with_handle, with_node
from ulvent.core.layout import LaidGuide, Layout
from ulvent.core.recipes import (
    AnyGuide,
    ArcThroughGuide,
    BetweenGuide,
    CircleGuide,
    DrawnGuide,
    LaidFlatGuide,
    ParallelGuide,
)

Point = tuple[float, float]
GripKind = Literal["point", "handle", "start", "part", "turn", "size", "centre", "distance"]

_OUTSIDE = 1.12
_DECIMALS = 3


class Grip(BaseModel):
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


def grips(guide: LaidGuide) -> list[Grip]:
    """The grips of a guide, in the piece, mm."""
    recipe, curve = guide.recipe, guide.curve
    found: list[Grip] = []
    if curve.closed:
        where = _pair(curve.points(0.0)[0])
        found.append(Grip(name="start", kind="start", at=where, label="start of the guide"))
    if recipe.part is not None:
        ends = curve.points([0.0, curve.length])
        for index, label in enumerate(("start of the part", "end of the part")):
            where = _pair(ends[index])
            found.append(Grip(name=f"part:{index}", kind="part", at=where, label=label))
    if isinstance(recipe, ParallelGuide | BetweenGuide):
        where = _pair(curve.points(curve.length / 2.0)[0])
        label = "distance" if isinstance(recipe, ParallelGuide) else "share of the way"
        return [*found, Grip(name="distance", kind="distance", at=where, label=label)]
    found.append(Grip(name="centre", kind="centre", at=recipe.centre, label="centre of the guide"))
    found.extend(_turning(recipe, curve))
    if isinstance(recipe, ArcThroughGuide):
        for index, point in enumerate(recipe.points):
            where = to_piece(recipe, point)
            label = f"point {index + 1}"
            found.append(
                Grip(name=f"point:{index}", kind="point", at=where, index=index, label=label)
            )
    if isinstance(recipe, DrawnGuide):
        found.extend(_nodes(recipe))
    return found


def _turning(recipe: AnyGuide, curve: Curve) -> list[Grip]:
    """Grips to turn and scale by, just outside the guide."""
    centre = complex(*recipe.centre)
    points = curve.points(np.linspace(0.0, curve.length, 65)) @ np.array([1.0, 1j])
    reach = _OUTSIDE * float(np.abs(points - centre).max())
    way = cmath.exp(1j * math.radians(recipe.turned))
    if isinstance(recipe, CircleGuide):
        rim = centre + (reach / _OUTSIDE) * cmath.exp(1j * math.radians(-45.0))
        return [Grip(name="size", kind="size", at=(rim.real, rim.imag), label="size")]
    turn = centre + reach * way * 1j
    size = centre + reach * way * cmath.exp(-0.25j * math.pi)
    found = [Grip(name="turn", kind="turn", at=(turn.real, turn.imag), label="turn")]
    if not isinstance(recipe, LaidFlatGuide):
        found.append(Grip(name="size", kind="size", at=(size.real, size.imag), label="scale"))
    return found


def _nodes(recipe: DrawnGuide) -> list[Grip]:
    found: list[Grip] = []
    handles = drawn_handles(recipe.nodes, recipe.closed)
    last = len(recipe.nodes) - 1
    for index, (node, (before, after)) in enumerate(zip(recipe.nodes, handles, strict=True)):
        label = f"point {index + 1}"
        where = to_piece(recipe, node.at)
        found.append(Grip(name=f"node:{index}", kind="point", at=where, index=index, label=label))
        for side, handle in (("before", before), ("after", after)):
            outer = not recipe.closed and index == (0 if side == "before" else last)
            if handle and not outer:
                tip = complex(*node.at) + handle
                found.append(
                    Grip(
                        name=f"{side}:{index}",
                        kind="handle",
                        at=to_piece(recipe, (tip.real, tip.imag)),
                        index=index,
                        label=f"handle {side} point {index + 1}",
                    )
                )
    return found


def pulled(layout: Layout, guide_id: str, grip: str, start: Point, end: Point) -> AnyGuide:
    """The guide after its grip was pulled from `start` to `end`, mm.

    Raises
    ------
    PieceError
        When there is no such grip.
    """
    laid = next((one for one in layout.guides if one.recipe.id == guide_id), None)
    if laid is None:
        raise PieceError([FieldProblem("guide", f"there is no guide “{guide_id}”")])
    recipe = laid.recipe
    others = {one.recipe.id: one.curve for one in layout.guides}
    name, _, number = grip.partition(":")
    index = int(number) if number.isdigit() else -1
    by = complex(*end) - complex(*start)
    if name in ("centre", "whole") and not isinstance(recipe, ParallelGuide | BetweenGuide):
        moved = complex(*recipe.centre) + by
        return recipe.model_copy(update={"centre": _tidy(moved)})
    if name == "start" and laid.curve.closed:
        return _started(recipe, others, end)
    if name == "part" and recipe.part is not None and index in (0, 1):
        return _parted(recipe, others, index, end)
    if name == "turn":
        centre = complex(*recipe.centre)
        turn = math.degrees(cmath.phase((complex(*end) - centre) / (complex(*start) - centre)))
        return recipe.model_copy(update={"turned": round(recipe.turned + turn, _DECIMALS)})
    if name == "size":
        return _scaled(recipe, start, end)
    if isinstance(recipe, DrawnGuide) and 0 <= index < len(recipe.nodes):
        return _node_pulled(recipe, name, index, start, end)
    if isinstance(recipe, ArcThroughGuide) and name == "point" and 0 <= index < len(recipe.points):
        points = [*recipe.points]
        points[index] = rounded_point(
            complex(*points[index]) + to_recipe_vector(recipe, start, end)
        )
        return recipe.model_copy(update={"points": tuple(points)})
    if isinstance(recipe, ParallelGuide) and name in ("distance", "whole"):
        return _away(recipe, others[recipe.guide], end)
    if isinstance(recipe, BetweenGuide) and name in ("distance", "whole"):
        return _between(recipe, others, end)
    raise PieceError([FieldProblem("grip", f"“{guide_id}” has no grip “{grip}”")])


def _started(recipe: AnyGuide, others: dict[str, Curve], end: Point) -> AnyGuide:
    if isinstance(recipe, CircleGuide):
        away = complex(*end) - complex(*recipe.centre)
        angle = math.degrees(cmath.phase(away)) - recipe.turned
        return recipe.model_copy(update={"start": round(angle % 360.0, _DECIMALS), "seam": 0.0})
    plain = guide_curve(recipe.model_copy(update=_PLAIN), others)
    station = float(plain.nearest(np.array([end]))[0])
    return recipe.model_copy(update={"seam": round(station, _DECIMALS)})


_PLAIN = {"seam": 0.0, "reverse": False, "part": None, "corners": "pass"}


def _parted(recipe: AnyGuide, others: dict[str, Curve], index: int, end: Point) -> AnyGuide:
    whole = guide_curve(recipe.model_copy(update={"part": None}), others)
    station = float(whole.nearest(np.array([end]))[0])
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
    at = base.frames(base.nearest(np.array([end])))
    away = np.array(end) - at.points[0]
    side = math.copysign(1.0, float(away @ at.normals[0]))
    distance = round(side * float(np.hypot(*away)), 2)
    return recipe.model_copy(update={"distance": distance})


def _between(recipe: BetweenGuide, others: dict[str, Curve], end: Point) -> BetweenGuide:
    point = np.array([end])
    first, second = (
        float(np.hypot(*(edge.points(edge.nearest(point)) - point)[0]))
        for edge in (others[recipe.first], others[recipe.second])
    )
    share = min(max(first / max(first + second, 1e-9), 0.01), 0.99)
    return recipe.model_copy(update={"share": round(share, 3)})


def _tidy(point: complex) -> Point:
    return (round(point.real, _DECIMALS) + 0.0, round(point.imag, _DECIMALS) + 0.0)


def _pair(point: np.ndarray) -> Point:
    return (float(point[0]), float(point[1]))
