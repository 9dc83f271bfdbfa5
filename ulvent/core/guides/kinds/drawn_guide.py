"""Placed points joined by smooth curves."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.base.arrays import Point
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.fields import MOST_NODES
from ulvent.core.curves import Curve
from ulvent.core.guides.drawn import Node, drawn_handles, drawn_line
from ulvent.core.guides.frame import placed, rounded_point, to_recipe, to_recipe_vector
from ulvent.core.guides.grip import Grip
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import GuideKind, Hold


class DrawnGuide(GuideRecipe):
    """Placed points joined by smooth curves."""

    kind: Literal["drawn"]
    nodes: Annotated[tuple[Node, ...], Field(min_length=2, max_length=MOST_NODES)]
    closed: bool = False


def with_node(guide: DrawnGuide, index: int, **changed: object) -> DrawnGuide:
    """The guide with fields of one point changed."""
    nodes = list(guide.nodes)
    nodes[index] = nodes[index].model_copy(update=changed)
    return guide.model_copy(update={"nodes": tuple(nodes)})


def with_handle(guide: DrawnGuide, index: int, side: str, handle: complex) -> DrawnGuide:
    """One handle of a point set; the other follows as the point's joint says."""
    node = guide.nodes[index]
    other = "before" if side == "after" else "after"
    changed: dict[str, object] = {side: rounded_point(handle)}
    if node.joint == "even":
        changed[other] = rounded_point(-handle)
    elif node.joint == "smooth" and getattr(node, other) is not None and handle:
        size = abs(complex(*getattr(node, other)))
        changed[other] = rounded_point(-handle / abs(handle) * size)
    return with_node(guide, index, **changed)


def _grips(guide: DrawnGuide, _: Curve, chosen: int | None) -> list[Grip]:
    """The points, and the handles of the chosen one and its neighbours."""
    points = [complex(*node.at) for node in guide.nodes]
    found = [
        Grip(f"node:{index}", "point", at, index, f"point {index + 1}")
        for index, at in enumerate(placed(guide, points))
    ]
    if chosen is None:
        return found
    count = len(points)
    handles = drawn_handles(guide.nodes, guide.closed)
    near = [index % count for index in (chosen - 1, chosen, chosen + 1)
            if guide.closed or 0 <= index < count]  # fmt: skip
    for index in dict.fromkeys(near):
        for side, handle in zip(("before", "after"), handles[index], strict=True):
            outer = not guide.closed and index == (0 if side == "before" else count - 1)
            if handle and not outer:
                (at,) = placed(guide, [points[index] + handle])
                label = f"handle {side} point {index + 1}"
                found.append(Grip(f"{side}:{index}", "handle", at, index, label))
    return found


def _pulled(guide: DrawnGuide, hold: Hold) -> GuideRecipe | None:
    known = hold.grip in ("node", "before", "after")
    if not known or not 0 <= hold.index < len(guide.nodes):
        return None
    by = to_recipe_vector(guide, hold.start, hold.end)
    if hold.grip == "node":
        at = rounded_point(complex(*guide.nodes[hold.index].at) + by)
        return with_node(guide, hold.index, at=at)
    before, after = drawn_handles(guide.nodes, guide.closed)[hold.index]
    handle = before if hold.grip == "before" else after
    return with_handle(guide, hold.index, hold.grip, handle + by)


def _placed(guide: DrawnGuide, index: int, at: Point) -> GuideRecipe:
    if index >= len(guide.nodes):
        raise wrong_field("index", "there is no such point")
    return with_node(guide, index, at=to_recipe(guide, at))


KIND = GuideKind(
    recipe=DrawnGuide,
    line=lambda guide, _: drawn_line(guide.nodes, guide.closed),
    title="drawn line",
    words=lambda guide: f"drawn, {len(guide.nodes)} points",
    rank=150,
    blame="nodes",
    grips=_grips,
    pulled=_pulled,
    placed=_placed,
    nodes=True,
)
