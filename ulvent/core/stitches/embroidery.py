"""From prepared lettering to thread: which stitches each letter gets, and in which order.

Letters are sewn along the words, each in its own frame and then placed, so that on a curve
stitches keep their direction in the letter, and a letter that is there already is not made again.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from ulvent.core.base.arrays import Bounds, Matrices, Points, box_round
from ulvent.core.base.at_work import at_work
from ulvent.core.layout import Layout
from ulvent.core.outlines import Polyline
from ulvent.core.prepare import Group
from ulvent.core.recipe.sewing import Sewing, SewnLettering
from ulvent.core.shapes import Region, area_within, flat_contours
from ulvent.core.steps.cutout import Cutout
from ulvent.core.steps.middle_lines import middle_line
from ulvent.core.stitches.applique import covered, edge_lines, tacked
from ulvent.core.stitches.cloths import Cloth, cloth_of
from ulvent.core.stitches.corrected_column import scaled
from ulvent.core.stitches.ground import ground_line
from ulvent.core.stitches.letter_threads import LetterShape, Making, letter_threads, narrowest_satin
from ulvent.core.stitches.quilting import QuiltedLine, quilted_line
from ulvent.core.stitches.thread import Thread, What
from ulvent.core.stitches.threads import running, split_long

_TIE = 0.7
_LED = 0.5
"""mm between places of a guide along which a line is led."""
_OVER = 0.5
"""mm by which a stitch may be longer than satin is split at: what leads from one to the next."""
LONGEST = 12.1
"""mm: no machine's format holds a longer stitch."""
_AS_IT_IS = SewnLettering(of="any")
_FEWER = "fewer letters, or a coarser stitch, would do"


class Sewn(NamedTuple):
    """Thread that is sewn without being cut or lifted.

    letter, name
        what it is of: the letter, and the group in words
    lettering, place
        whose it is, and which of its letters; −1 where it is none or several
    """

    thread: Thread
    letter: str
    name: str
    lettering: str = ""
    place: int = -1

    @property
    def points(self) -> Points:
        """(k, 2) needle points, mm, y up."""
        return self.thread.points

    @property
    def kind(self) -> What:
        """What it mostly is."""
        return self.thread.seen


@dataclass(frozen=True, eq=False)
class Colour:
    """What is sewn with one thread, `#rrggbb`, in order.

    asks
        what is to be done before it, in words
    """

    colour: str
    sewn: tuple[Sewn, ...]
    asks: str = ""


class SewnAlone(NamedTuple):
    """A letter that is sewn by itself.

    height
        of its capitals, mm; zero for what is no letter
    satin
        width of its narrowest column in satin, mm; none: it has none
    at
        a place in it, mm
    """

    lettering: str
    place: int
    letter: str
    height: float
    satin: float | None
    at: tuple[float, float]


@dataclass(frozen=True, eq=False)
class Embroidery:
    """All that is sewn, thread by thread.

    cloth
        what it is sewn on
    quilted
        lines through several letters, by the lettering
    letters
        what is sewn letter by letter
    """

    cloth: Cloth
    colours: tuple[Colour, ...]
    quilted: dict[str, QuiltedLine]
    letters: tuple[SewnAlone, ...] = ()

    @property
    def sewn(self) -> list[Sewn]:
        """All of it in order."""
        return [one for colour in self.colours for one in colour.sewn]

    @property
    def bounds(self) -> Bounds | None:
        """A box round all needle points, mm; none where nothing is sewn."""
        points = [one.points for one in self.sewn]
        if not points:
            return None
        return box_round(np.concatenate(points))


def sewn(layout: Layout, groups: Sequence[Group]) -> Embroidery:
    """The groups of a piece in thread, those of one use in one colour.

    Guides and the blank's edge are not sewn.

    Raises
    ------
    PieceError
        Where there is no line through letters that are to be sewn in one.
    """
    return _Sewing(layout, groups).embroidery()


class Item(NamedTuple):
    """A letter, or what else is sewn by itself.

    shape, matrix
        in its own frame, and from there to the sheet (2, 3)
    """

    shape: LetterShape
    matrix: Matrices
    letter: str
    place: int
    height: float = 0.0

    @property
    def area(self) -> Region:
        return self.shape.area.transformed(self.matrix)

    @property
    def lines(self) -> list[Polyline]:
        turned = self.matrix[:, :2].T
        return [
            Polyline(one.points @ turned + self.matrix[:, 2], one.closed)
            for one in self.shape.lines
        ]


class Letter(NamedTuple):
    """A letter, of which face, and how it is sewn."""

    lettering: str
    face: str
    item: Item
    how: Making

    @property
    def letter(self) -> str:
        return self.item.letter


def letters_of(layout: Layout, groups: Sequence[Group]) -> Iterator[Letter]:
    """The letters of a piece that are sewn by themselves."""
    sewing = _Sewing(layout, groups)
    for group in sewing.groups:
        owner = _owner(group)
        for item in _items(group):
            how = sewing.making(owner, item)
            yield Letter(owner, sewing.faces.get(owner, ""), item, how)


class _Sewing:
    """An embroidery in the making."""

    def __init__(self, layout: Layout, groups: Sequence[Group]) -> None:
        self._layout, self._piece = layout, layout.piece
        self._recipe = self._piece.sewing or Sewing()
        self._cloth = cloth_of(self._recipe)
        self.groups = [one for one in groups if one.key[0] not in ("edge", "guide")]
        self._wishes = {one.of: one for one in self._recipe.letterings}
        self.faces = {one.id: one.face for one in self._piece.letterings}
        self._quilted: dict[str, QuiltedLine] = {}
        self._letters: list[SewnAlone] = []

    def embroidery(self) -> Embroidery:
        found: dict[tuple[str, str], list[Sewn]] = {}
        ground = self._ground()
        if ground is not None:
            name = self._piece.colour("draw")
            found[name, ""] = [Sewn(ground, "", "Ground")]
        for group in self.groups:
            owner = _owner(group)
            wish = self._wishes.get(owner, _AS_IT_IS)
            colour = self._piece.colour(group.output)
            doing = f"stitches for {group.name}"
            with at_work("sewing", doing, _FEWER):
                for asks, one in self._group(group, owner, wish):
                    found.setdefault((colour, asks), []).append(one)
        colours = [Colour(name, tuple(some), asks) for (name, asks), some in found.items()]
        return Embroidery(self._cloth, tuple(colours), self._quilted, tuple(self._letters))

    def _group(self, group: Group, owner: str, wish: SewnLettering) -> Iterator[tuple[str, Sewn]]:
        items = list(_items(group))
        if self._recipe.order == "centre":
            middle = len(items) // 2
            items = [*items[middle:], *items[:middle][::-1]]
        if wish.stitch == "quilted":
            yield "", self._in_one_line(items, group, owner)
            return
        if wish.stitch == "applique":
            yield from self._applique(items, group, owner)
            items = [one for one in items if one.shape.lines]
        for item in items:
            how = self.making(owner, item)
            self._note(item, owner, how)
            for thread in letter_threads(item.shape, how):
                ready = _tied(split_long(thread.placed(item.matrix), self._cloth.split + _OVER))
                yield "", Sewn(ready, item.letter, group.name, owner, item.place)

    def _note(self, item: Item, owner: str, how: Making) -> None:
        if item.shape.area.is_empty:
            return
        x, y = item.matrix[:, :2] @ np.array(item.shape.area.some_point()) + item.matrix[:, 2]
        satin = narrowest_satin(item.shape, how)
        at = (float(x), float(y))
        self._letters.append(SewnAlone(owner, item.place, item.letter, item.height, satin, at))

    def making(self, owner: str, item: Item) -> Making:
        """How a letter of a lettering is sewn."""
        wish = self._wishes.get(owner, _AS_IT_IS)
        own = {one.place: one.stitch for one in wish.letters}
        corrected = tuple(
            scaled(column, item.height)
            for one in self._recipe.corrections
            if one.face == self.faces.get(owner) and one.letter == item.letter and item.height
            for column in one.columns
        )
        return Making(
            self._cloth,
            own.get(item.place, wish.stitch),
            wish.angle,
            wish.width,
            wish.underlay or self._recipe.underlay,
            corrected,
        )

    def _in_one_line(self, items: Sequence[Item], group: Group, owner: str) -> Sewn:
        line = quilted_line([
            one.lines or (list(middle_line(one.area).lines) if not one.area.is_empty else [])
            for one in items
        ])  # fmt: skip
        self._quilted[owner] = line
        points, _ = line.stitches(self._cloth.run)
        points = self._led_in(points, owner, group)
        thread = _tied(split_long(Thread.of(points, What.RUN), LONGEST))
        return Sewn(thread, "", group.name, owner)

    def _led_in(self, points: Points, owner: str, group: Group) -> Points:
        """The line from the guide's beginning to its end, where the next block takes over."""
        lettering = next((one for one in self._piece.letterings if one.id == owner), None)
        guide = next(
            (one.curve for one in self._layout.guides
             if lettering and one.recipe.id == lettering.guide), None,
        )  # fmt: skip
        if guide is None or guide.closed or len(points) < 2:
            return points
        at = guide.points(np.linspace(0.0, guide.length, max(2, round(guide.length / _LED))))
        at = at if group.lie is None else at @ group.lie[:, :2].T + group.lie[:, 2]
        first, last = (int(np.argmin(np.hypot(*(at - points[end]).T))) for end in (0, -1))
        if first > last:
            at, first, last = at[::-1], len(at) - 1 - first, len(at) - 1 - last
        before = np.concatenate([at[: first + 1], points[:1]])
        after = np.concatenate([points[-1:], at[last:]])
        return np.concatenate([
            running(before, self._cloth.run)[:-1], points, running(after, self._cloth.run)[1:]
        ])  # fmt: skip

    def _applique(
        self, items: Sequence[Item], group: Group, owner: str
    ) -> Iterator[tuple[str, Sewn]]:
        """Where the cloth goes, what holds it, and what covers its edge, for all letters each."""
        parts = [(one, part) for one in items for part in one.area.parts]
        for asks, threads in (
            ("", lambda part: edge_lines(part, self._cloth, What.MARK)),
            ("Lay the cloth over the lines", tacked),
            ("Cut the cloth back to the stitches", lambda part: covered(part, self._cloth)),
        ):
            for item, part in parts:
                for thread in threads(part):
                    ready = _tied(split_long(thread, LONGEST))
                    yield asks, Sewn(ready, item.letter, group.name, owner, item.place)

    def _ground(self) -> Thread | None:
        wish = self._recipe.ground
        if wish is None or not self._layout.blank:
            return None
        matrix = self._piece.lie.matrix
        words = Region.joined(area for group in self.groups for area in _taken(group, wish.clear))
        blank = area_within(self._layout.blank).transformed(matrix)
        room = blank.offset(-wish.clear).minus(words)
        points = ground_line(room, wish.apart)
        if points is None:
            return None
        return _tied(Thread.of(running(points, self._cloth.run), What.RUN))


def _taken(group: Group, clear: float) -> Iterator[Region]:
    for item in _items(group):
        if not item.area.is_empty:
            yield item.area.offset(clear)
        for line in item.lines:
            yield Region.along(line.points, line.closed, 2.0 * clear)


def _owner(group: Group) -> str:
    layer = next(iter(group.cut), None)
    return layer.owner if group.key[0] == "border" and layer else group.key[-1]


def _items(group: Group) -> Iterator[Item]:
    lie = np.eye(2, 3) if group.lie is None else group.lie
    for cutouts in group.cut.values():
        for cutout in cutouts:
            yield _cutout(cutout, lie)
    for outline in group.lines:
        lines = list(flat_contours(outline))
        corner = np.min([line.points.min(axis=0) for line in lines], axis=0)
        moved = [Polyline(line.points - corner, line.closed) for line in lines]
        yield Item(LetterShape(Region(), moved), _move(corner), "", -1)


def _cutout(cutout: Cutout, lie: Matrices) -> Item:
    """A cutout in its upright frame, where it is as its face has it; else as it stands."""
    if cutout.local is not None and cutout.outline is not None and cutout.shape is not None:
        size = np.array([[cutout.scale, 0.0, 0.0], [0.0, cutout.scale, 0.0]])
        shape = LetterShape(Region.of(cutout.shape, size))
        return Item(shape, _after(lie, cutout.local), cutout.text, cutout.place, cutout.height)
    x, y, _, _ = cutout.area.bounds
    shape = LetterShape(cutout.area.transformed(_move(np.array([-x, -y]))))
    return Item(shape, _after(lie, _move(np.array([x, y]))), cutout.text, cutout.place)


def _move(by: Points) -> Matrices:
    return np.array([[1.0, 0.0, by[0]], [0.0, 1.0, by[1]]])


def _after(second: Matrices, first: Matrices) -> Matrices:
    turned = second[:, :2] @ first[:, :2]
    moved = second[:, :2] @ first[:, 2] + second[:, 2]
    return np.column_stack([turned, moved])


def _tied(thread: Thread) -> Thread:
    """With a small stitch there and back at both ends, so that thread holds."""
    points, what = thread.points, thread.what
    if len(points) < 2:
        return thread
    first, last = _tie(points[0], points[1]), _tie(points[-1], points[-2])
    tie = np.full(2, What.TIE, dtype=np.int8)
    return Thread(
        np.concatenate([points[:1], first, points[:1], points[1:], last, points[-1:]]),
        np.concatenate([what[:1], tie, what[1:], tie]),
    )


def _tie(at: Points, toward: Points) -> Points:
    way = toward - at
    length = float(np.hypot(*way))
    tie: Points = (at + way * min(1.0, _TIE / max(length, _TIE)))[None]
    return tie
