"""From prepared lettering to thread: which stitches each letter gets, and in which order.

Letters are sewn along the words. Of each letter the shapes come one by one: what its columns leave
open first, then its columns, each by a run along its middle to its end and satin back over it, so
that thread goes on from where it came in. What is narrower than a column is a running line, what
is wider is filled in rows.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.outlines import Outline
from ulvent.core.prepare import Group
from ulvent.core.recipe import Piece
from ulvent.core.recipe.sewing import Sewing, SewnLettering, StitchType
from ulvent.core.shapes import Region, flat_contours
from ulvent.core.stitches.cloths import Cloth, cloth_of
from ulvent.core.stitches.columns import Column, columns_of
from ulvent.core.stitches.threads import rows, running, satin, without_short
from ulvent.core.stitches.travel import Ways

Kind = Literal["satin", "rows", "run"]
_TIE = 0.7
_UNDERLAY = 2.0
_THREAD = 0.4
_LEFT_OPEN = 0.02
"""mm²: what columns leave open, and is less, is no hole that is seen."""
_GROWN = 0.5


class Sewn(NamedTuple):
    """Thread that is sewn without being cut or lifted.

    points
        (k, 2) needle points, mm, y up
    kind
        what most of it is
    letter, name
        what it is of: the letter, and the group in words
    """

    points: Points
    kind: Kind
    letter: str
    name: str


@dataclass(frozen=True, eq=False)
class Colour:
    """What is sewn with one thread, `#rrggbb`, in order."""

    colour: str
    sewn: tuple[Sewn, ...]


@dataclass(frozen=True, eq=False)
class Embroidery:
    """All that is sewn, thread by thread.

    cloth
        what it is sewn on
    """

    cloth: Cloth
    colours: tuple[Colour, ...]


def sewn(piece: Piece, groups: Sequence[Group]) -> Embroidery:
    """The groups of a piece in thread, those of one use in one colour, letters in their order."""
    recipe = piece.sewing or Sewing()
    cloth = cloth_of(recipe)
    wishes = {one.of: one for one in recipe.letterings}
    found: dict[str, list[Sewn]] = {}
    at = np.zeros(2)
    for group in groups:
        if group.key[0] in ("edge", "guide"):
            continue
        wish = wishes.get(group.key[-1]) or _AS_IT_IS
        mine = found.setdefault(piece.colour(group.output), [])
        for letter, outline in [*group.areas_with(()), *(("", one) for one in group.lines)]:
            for one in _letter(outline, letter, group.name, _Making(cloth, wish), at):
                mine.append(one)
                at = one.points[-1]
    return Embroidery(cloth, tuple(Colour(name, tuple(some)) for name, some in found.items()))


class _Making(NamedTuple):
    """On what cloth a lettering is sewn, and with what."""

    cloth: Cloth
    wish: SewnLettering

    def kind(self, columns: Sequence[Column]) -> StitchType:
        """What a shape of these columns is made with."""
        if self.wish.stitch != "auto":
            return self.wish.stitch if columns else "rows"
        if not columns:
            return "rows"
        width = float(np.median(np.concatenate([one.widths for one in columns])))
        if width > self.cloth.widest:
            return "rows"
        return "bean" if width < self.cloth.narrowest else "satin"


_AS_IT_IS = SewnLettering(of="any")


def _letter(outline: Outline, letter: str, name: str, how: _Making, at: Points) -> Iterator[Sewn]:
    """A letter's thread, shape by shape, the nearest first."""
    contours = list(flat_contours(outline))
    rings = [points for points, closed in contours if closed]
    lines = [points for points, closed in contours if not closed]
    for points in lines:
        line = running(points, how.cloth.run)
        yield Sewn(_tied(_bean(line) if how.wish.stitch == "bean" else line), "run", letter, name)
    parts = list(Region.of_rings(rings).parts) if rings else []
    while parts:
        near = min(parts, key=lambda part: _away(part, at))
        parts.remove(near)
        for kind, points in _joined(near, how, at):
            yield Sewn(_tied(points), kind, letter, name)
            at = points[-1]


def _away(part: Region, at: Points) -> float:
    return min(float(np.hypot(*(ring - at).T).min()) for ring in part.rings)


def _joined(part: Region, how: _Making, at: Points) -> Iterator[tuple[Kind, Points]]:
    """The thread of one connected shape, in one where there is a way inside it from each stretch
    to the next."""
    columns = columns_of(part)
    ways = Ways(part, columns) if columns else None
    thread: list[Points] = []
    kinds: list[Kind] = []
    for kind, points in _shape(part, columns, how, at):
        way = ways.way(thread[-1][-1], points[0]) if ways and thread else None
        if thread and way is None:
            yield _most(kinds), without_short(np.concatenate(thread))
            thread, kinds = [], []
        if way is not None:
            thread.append(running(way, _UNDERLAY)[1:-1])
        thread.append(points)
        kinds.append(kind)
    if thread:
        yield _most(kinds), without_short(np.concatenate(thread))


def _most(kinds: Sequence[Kind]) -> Kind:
    """What a thread is called that is several: by its columns, where it has any."""
    return "satin" if "satin" in kinds else kinds[0]


def _shape(
    part: Region, columns: Sequence[Column], how: _Making, at: Points
) -> Iterator[tuple[Kind, Points]]:
    """The stretches of thread of one connected shape."""
    cloth, kind = how.cloth, how.kind(columns)
    if kind == "rows":
        for points in _nearest_first(rows(part, cloth, how.wish.angle), at):
            yield "rows", points
        return
    if kind in ("run", "bean"):
        for points in _nearest_first([one.axis for one in columns], at):
            line = running(points, cloth.run)
            yield "run", _bean(line) if kind == "bean" else line
        return
    swept = Region.joined(one.swept for one in columns)
    # Thread covers half its own width beside a column.
    rest = part.minus(swept.offset(_THREAD / 2.0))
    open_parts = [one for one in rest.parts if one.area > _LEFT_OPEN]
    for one in open_parts:
        grown = one.offset(_GROWN).meet(part)
        for points in _nearest_first(rows(grown, cloth, how.wish.angle), at):
            yield "rows", points
            at = points[-1]
    left = list(columns)
    while left:
        column = min(left, key=lambda one: min(math.dist(at, end) for end in _ends(one)))
        left.remove(column)
        points = _column(column, cloth, at)
        yield "satin", points
        at = points[-1]


def _ends(column: Column) -> Points:
    return column.axis[[0, -1]]


def _column(column: Column, cloth: Cloth, at: Points) -> Points:
    """A run out along the middle, and satin back over it; begun at the end that is nearer."""
    if math.dist(at, column.axis[-1]) < math.dist(at, column.axis[0]):
        column = column.reversed
    under = running(column.axis, _UNDERLAY)
    back = column.reversed
    # It ends in the middle: thread goes on from inside the shape.
    return np.concatenate([under, satin(back, cloth), back.axis[-1:]])


def _bean(points: Points) -> Points:
    """Each stitch three times: there, back, and there again."""
    found = [points[:1]]
    for begin, end in zip(points[:-1], points[1:], strict=True):
        found.append(np.array([end, begin, end]))
    return np.concatenate(found)


def _nearest_first(stretches: Sequence[Points], at: Points) -> Iterator[Points]:
    left = list(stretches)
    while left:
        best = min(
            range(len(left)),
            key=lambda index: min(math.dist(at, left[index][end]) for end in (0, -1)),
        )
        points = left.pop(best)
        if math.dist(at, points[-1]) < math.dist(at, points[0]):
            points = points[::-1]
        yield points
        at = points[-1]


def _tied(points: Points) -> Points:
    """With a small stitch there and back at both ends, so that thread holds."""
    if len(points) < 2:
        return points
    first, last = _tie(points[0], points[1]), _tie(points[-1], points[-2])
    return np.concatenate([points[:1], first, points[:1], points[1:], last, points[-1:]])


def _tie(at: Points, toward: Points) -> Points:
    way = toward - at
    length = float(np.hypot(*way))
    tie: Points = (at + way * min(1.0, _TIE / max(length, _TIE)))[None]
    return tie
