"""The arc of a circle through three points."""

from __future__ import annotations

import math
from fractions import Fraction
from typing import Literal

from ulvent.core.base.arrays import Point
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.fields import XY, WrongRecipeError
from ulvent.core.curves import CircularArc, Curve
from ulvent.core.guides.frame import rounded_point, to_piece, to_recipe, to_recipe_vector
from ulvent.core.guides.grip import Grip
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import GuideKind, Hold, Sizes, Start
from ulvent.core.guides.shared_lines import two_digits


class ArcThroughGuide(GuideRecipe):
    """The circular arc from the first point over the second to the third."""

    kind: Literal["arc-through"]
    points: tuple[XY, XY, XY]


def arc_through(points: tuple[Point, Point, Point]) -> CircularArc:
    """The circular arc from the first over the second to the third point.

    The centre is worked out in rational numbers, so that it is the nearest there is.

    Raises
    ------
    WrongRecipeError
        When the points lie on one straight line.
    """
    (ax, ay), (bx, by), (cx, cy) = ((Fraction(x), Fraction(y)) for x, y in points)
    across = 2 * ((bx - ax) * (cy - ay) - (by - ay) * (cx - ax))
    if across == 0:
        raise WrongRecipeError("points", "lie on one straight line; move the middle one off it")
    b, c = (bx - ax) ** 2 + (by - ay) ** 2, (cx - ax) ** 2 + (cy - ay) ** 2
    x = ax + ((cy - ay) * b - (by - ay) * c) / across
    y = ay + ((bx - ax) * c - (cx - ax) * b) / across
    centre = (float(x), float(y))
    radius = math.hypot(float(ax - x), float(ay - y))
    begin, end = (
        math.degrees(math.atan2(float(py - y), float(px - x))) for px, py in ((ax, ay), (cx, cy))
    )
    forward = 1.0 if across > 0 else -1.0
    sweep = (forward * (end - begin)) % 360.0
    return CircularArc(centre, radius, begin, forward * sweep)


def _grips(guide: ArcThroughGuide, _: Curve, __: int | None) -> list[Grip]:
    return [
        Grip(f"point:{index}", "point", to_piece(guide, point), index, f"point {index + 1}")
        for index, point in enumerate(guide.points)
    ]


def _pulled(guide: ArcThroughGuide, hold: Hold) -> GuideRecipe | None:
    if hold.grip != "point" or not 0 <= hold.index < len(guide.points):
        return None
    by = to_recipe_vector(guide, hold.start, hold.end)
    return _with_point(guide, hold.index, rounded_point(complex(*guide.points[hold.index]) + by))


def _placed(guide: ArcThroughGuide, index: int, at: Point) -> GuideRecipe:
    if index >= len(guide.points):
        raise wrong_field("index", "there is no such point")
    return _with_point(guide, index, to_recipe(guide, at))


def _with_point(guide: ArcThroughGuide, index: int, at: Point) -> GuideRecipe:
    points = [*guide.points]
    points[index] = at
    return guide.model_copy(update={"points": tuple(points)})


def _first(sizes: Sizes) -> dict[str, object]:
    side = two_digits(0.35 * sizes.blank)
    return {"points": [[-side, 0], [0, two_digits(0.15 * sizes.blank)], [side, 0]]}


KIND = GuideKind(
    recipe=ArcThroughGuide,
    line=lambda guide, _: arc_through(guide.points),
    title="arc through three points",
    words=lambda _: "arc through three points",
    rank=20,
    blame="points",
    starts=(
        Start("three points", "M7 23C12 9 30 7 38 21M5.5 23h3M20 10.5h3M36.5 21h3", _first, 40,
              "three"),
    ),
    grips=_grips,
    pulled=_pulled,
    placed=_placed,
)  # fmt: skip
