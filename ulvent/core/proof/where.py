"""Where findings are and how they are said: letters beside a place, distances, remedies."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ulvent.core.base.arrays import Floats, Point, Points, in_pieces
from ulvent.core.base.tolerances import FITTING, JOINT
from ulvent.core.base.trees import point_tree
from ulvent.core.prepare import Layer, Prepared
from ulvent.core.proof.remedy import Remedy
from ulvent.core.recipe import Piece, Prepare
from ulvent.core.shapes import Region
from ulvent.core.shapes.thin import ThinPlace
from ulvent.core.steps.bridge_step import Bridges
from ulvent.core.steps.join_step import Join

MOST_PLACES = 40
_FEW_PAIRS = 500_000
_PLACES_APART = 0.1
"""How densely an edge is sampled, mm, to find what of it is near."""
_NEAREST = 4
_AT_ONCE = 20_000
_A_GROUP = 100
MOST_NAMED = 40
AREA_ROUNDING = 1e-6
"""Areas that differ by no more than this, mm², are the same."""


def from_edge(points: Points, shape: Region) -> Floats:
    """(n,) distances of points to the edge of a shape, mm."""
    begins, ends = shape.edges
    if len(points) * len(begins) <= _FEW_PAIRS:
        return _from_segments(points[:, None], begins, ends)
    # Of many only those beside the nearest places of the edge are looked at.
    owners, places, _ = in_pieces(begins, ends, _PLACES_APART)
    tree = point_tree(places)
    found: list[Floats] = []
    for some in np.array_split(points, 1 + len(points) // _AT_ONCE):
        _, near = tree.query(some, k=min(_NEAREST, len(places)))
        near = np.reshape(near, (len(some), -1))
        edges = np.concatenate([owners[near], owners[near - 1]], axis=1)
        found.append(_from_segments(some[:, None], begins[edges], ends[edges]))
    return np.concatenate(found)


def farthest_from(points: Points, shape: Region) -> tuple[Floats, float]:
    """The point that is farthest from the edge of a shape, and how far that is, mm."""
    # Groups of points that lie together differ by no more than their reach.
    groups = np.array_split(points, max(1, len(points) // _A_GROUP))
    middles = np.array([group.mean(axis=0) for group in groups])
    reaches = np.array(
        [np.hypot(*(group - m).T).max() for group, m in zip(groups, middles, strict=True)]
    )
    about = from_edge(middles, shape)
    can = np.flatnonzero(about + reaches >= (about - reaches).max() - JOINT)
    rest = np.concatenate([groups[index] for index in can])
    far = from_edge(rest, shape)
    best = int(np.argmax(far))
    return rest[best], float(far[best])


def _from_segments(points: Points, begins: Points, ends: Points) -> Floats:
    """(n,) distances of points (n, 1, 2) from the nearest of segments, mm."""
    ways = ends - begins
    squared = np.maximum((ways * ways).sum(axis=-1), JOINT**2)
    off = points - begins
    share = np.clip((off * ways).sum(axis=-1) / squared, 0.0, 1.0)
    nearest_ones: Floats = np.hypot(*np.moveaxis(off - share[..., None] * ways, -1, 0)).min(axis=1)
    return nearest_ones


def on_one_sheet(ready: Prepared) -> list[Layer]:
    return [layer for layer in ready.layers if layer.kind == "letters" and layer.cutouts]


def prepare_remedy(label: str, layer: Layer, piece: Piece, **steps: Join | Bridges) -> Remedy:
    """A step of preparing, added to those that there are."""
    if layer.owner:
        recipe = next(one.prepare for one in piece.letterings if one.id == layer.owner)
    else:
        recipe = piece.prepare
    changed = (recipe or Prepare()).model_copy(update=steps)
    changes = {"prepare": changed.model_dump(mode="json")}
    of = "lettering" if layer.owner else "piece"
    return Remedy(label=label, of=of, owner=layer.owner, changes=changes)


def quoted(texts: Iterable[str]) -> str:
    """Each text once, in quotes; what has none is left out."""
    return ", ".join(f"“{text}”" for text in dict.fromkeys(texts) if text)


def named_letters(texts: Iterable[str]) -> str:
    """The letters that it concerns, to be put after what is said of them."""
    named = quoted(texts)
    return f": {named}" if named else ""


def where(layer: Layer) -> str:
    return " of its border" if layer.kind == "border" else ""


def counted(count: int, what: str) -> str:
    """`1 gap`, `2 gaps`."""
    return f"{count} {what}{'' if count == 1 else 's'}"


def owners_of(layer: Layer, places: list[ThinPlace]) -> list[str]:
    """The letter that each thin place is in, or beside."""
    return [nearest_text(layer, place.at) for place in places[:MOST_NAMED]]


def pairs_of(layer: Layer, places: list[ThinPlace]) -> list[str]:
    """The letters on the two sides of each narrow gap."""
    found: list[str] = []
    for place in places[:MOST_NAMED]:
        one, two = nearest_text(layer, place.first), nearest_text(layer, place.second)
        found.append(one if one == two else one + two)
    return found


def nearest_text(layer: Layer, at: Point) -> str:
    """The text of the cutout whose edge is nearest to a point."""
    return layer.cutouts[nearest(layer, at)].text


def nearest(layer: Layer, at: Point) -> int:
    """Which cutout's edge is nearest to a point."""
    boxes = np.array([cutout.area.bounds for cutout in layer.cutouts])
    x, y = at
    off = np.hypot(
        np.maximum(np.maximum(boxes[:, 0] - x, x - boxes[:, 2]), 0.0),
        np.maximum(np.maximum(boxes[:, 1] - y, y - boxes[:, 3]), 0.0),
    )
    near: list[int] = np.argsort(off)[:4].tolist()
    within = [i for i in near if off[i] <= FITTING] or near[:1]
    if len(within) == 1:
        return within[0]
    point = np.array([at])
    far = [float(from_edge(point, layer.cutouts[i].area)[0]) for i in within]
    return within[int(np.argmin(far))]


def xy(point: Floats) -> Point:
    x, y = point.tolist()
    return x, y
