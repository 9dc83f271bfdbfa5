"""Parts laid on sheets: as few as can be, with the bound below which nobody comes.

Parts that are alike are laid in rows and columns, turned as allowed, with what is left at the
side filled by parts turned the other way. Where parts are not alike, the largest come first, and
each goes on the first shelf that has room. Discs and other outlines that leave much of their box
empty are packed closer by a strip packer (spyrrow), where it gets more of them on a sheet.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import Any, NamedTuple

import numpy as np

from ulvent.core.base.arrays import Floats, Matrices, Millimetres, extent
from ulvent.core.base.errors import PieceError, wrong_field
from ulvent.core.shapes import Region

_ROUGH = 0.02
"""mm by which outlines that are packed may be off; they are made larger by that before."""
_FULL = 0.9
"""Outlines that fill so much of their box are boxes."""
_SECONDS = 3
_SAME = 1e-6
_TRIES = 5
_MOST_PACKED = 300
"""Parts that are packed at once; of more, rows are taken."""


class Sheet(NamedTuple):
    """What parts are laid on.

    margin
        left free round the edge, mm
    gap
        between parts, mm
    turns
        by which parts may be turned, degrees; a grain that is kept allows 0 and 180
    offcuts
        widths and heights of what is left from before, mm: filled first, the smallest before others
    roll
        whether it is cut off a roll, as high as the parts take: `height` counts for nothing
    mark
        how high the number beside each part is, mm; 0: there is none
    """

    width: Millimetres
    height: Millimetres
    margin: Millimetres = 5.0
    gap: Millimetres = 2.0
    turns: tuple[float, ...] = (0.0, 90.0)
    offcuts: tuple[tuple[Millimetres, Millimetres], ...] = ()
    roll: bool = False
    mark: Millimetres = 0.0

    def of_size(self, width: Millimetres, height: Millimetres) -> Sheet:
        """A sheet by itself, of another size and treated alike."""
        return self._replace(width=width, height=height, offcuts=(), roll=False)

    @property
    def room(self) -> tuple[Millimetres, Millimetres]:
        high = math.inf if self.roll else self.height - 2.0 * self.margin
        return self.width - 2.0 * self.margin, high


class Placed(NamedTuple):
    """Where a part lies: on which sheet, and the map (2, 3) from its own plane to it."""

    sheet: int
    matrix: Matrices


class Nested(NamedTuple):
    """Parts on sheets.

    placed
        each part, in the order in which they came
    sizes
        widths and heights of the sheets, mm; off-cuts come first
    offcuts
        how many of them are off-cuts
    least
        whole sheets that any way of laying them takes besides all off-cuts, by the areas of parts
    filled
        the share of the sheets that parts cover
    """

    placed: tuple[Placed, ...]
    sizes: tuple[tuple[Millimetres, Millimetres], ...]
    offcuts: int
    least: int
    filled: float


def nested(parts: Sequence[Region], sheet: Sheet) -> Nested:
    """Lay parts on sheets.

    Raises
    ------
    PieceError
        Where a part is larger than a sheet.
    """
    wide, high = sheet.room
    if min(wide, high) <= 0.0:
        raise wrong_field("sheets", "the margins leave nothing of the sheet")
    places: dict[int, Placed] = {}
    sizes: list[tuple[float, float]] = []
    rooms = 0.0
    for size in sorted(sheet.offcuts, key=math.prod):
        offcut = sheet.of_size(*size)
        if min(offcut.room) <= 0.0:
            continue
        rooms += math.prod(offcut.room)
        left = [index for index in range(len(parts)) if index not in places]
        found = _on_one([parts[index] for index in left], offcut)
        places |= {left[k]: Placed(len(sizes), matrix) for k, matrix in found.items()}
        sizes += [size] if found else []
    offcuts = len(sizes)
    left = [index for index in range(len(parts)) if index not in places]
    for index, one in zip(left, _on_sheets([parts[k] for k in left], sheet), strict=True):
        places[index] = Placed(offcuts + one.sheet, one.matrix)
    placed = tuple(places[index] for index in range(len(parts)))
    sizes += _whole_sizes(sheet, [(parts[k], placed[k].matrix) for k in left], placed, offcuts)
    area = sum(part.area for part in parts)
    needed = (area - rooms) / (wide * high)
    least = int(area > rooms) if sheet.roll else max(math.ceil(needed - _SAME), 0)
    filled = area / sum(map(math.prod, sizes)) if sizes else 0.0
    return Nested(placed, tuple(sizes), offcuts, least, filled)


def _whole_sizes(
    sheet: Sheet,
    lie: Sequence[tuple[Region, Matrices]],
    placed: Sequence[Placed],
    offcuts: int,
) -> list[tuple[Millimetres, Millimetres]]:
    """The sizes of the sheets after the off-cuts; `lie` has the parts that lie on them."""
    if not lie:
        return []
    if sheet.roll:
        return [(sheet.width, math.ceil(10.0 * _reach(lie)) / 10.0 + sheet.margin)]
    sheets = 1 + max(one.sheet for one in placed) - offcuts
    return [(sheet.width, sheet.height)] * sheets


def _on_one(parts: Sequence[Region], sheet: Sheet) -> dict[int, Floats]:
    """As many of some parts as go on a single sheet, by their places."""
    if parts and _alike(parts):
        spots = _spots_of_one(parts[0], sheet, len(parts))
        return dict(zip(range(len(parts)), spots, strict=False))
    small = [index for index, part in enumerate(parts) if _ways(part, sheet)]
    placed = _on_shelves([parts[index] for index in small], sheet)
    return {index: one.matrix for index, one in zip(small, placed, strict=True) if one.sheet == 0}


def _on_sheets(parts: Sequence[Region], sheet: Sheet) -> list[Placed]:
    """All of some parts, on as many sheets as they take."""
    for part in parts:
        if not _ways(part, sheet):
            raise _too_large(part, sheet)
    if not parts or not _alike(parts):
        return _on_shelves(parts, sheet)
    spots_of = _spots_on_roll if sheet.roll else _spots_of_one
    spots = spots_of(parts[0], sheet, len(parts))
    return [Placed(index // len(spots), spots[index % len(spots)]) for index in range(len(parts))]


def _alike(parts: Sequence[Region]) -> bool:
    """Whether all have one outline."""
    outlines = {b"".join(np.round(ring, 4).tobytes() for ring in part.rings) for part in parts}
    return len(outlines) == 1


def _too_large(part: Region, sheet: Sheet) -> PieceError:
    across, up = extent(part.bounds)
    wide, high = sheet.room
    there = f"a roll with room for {wide:g}" if sheet.roll else f"{wide:g} × {high:g}"
    reason = f"a part of {across:.1f} × {up:.1f} mm does not go on {there}"
    return wrong_field("sheets", reason)


def _ways(part: Region, sheet: Sheet) -> list[tuple[Floats, tuple[float, float, float, float]]]:
    """The ways in which a part goes on a sheet by itself: how it is turned, and its box then."""
    wide, high = sheet.room
    return [
        (matrix, box)
        for matrix, box in (_turned(part, turn) for turn in sheet.turns)
        if box[2] - box[0] <= wide + _SAME and box[3] - box[1] <= high + _SAME
    ]


def _turned(part: Region, degrees: float) -> tuple[Floats, tuple[float, float, float, float]]:
    """The map that turns a part about its origin, and the box that it takes then."""
    angle = math.radians(degrees)
    cos, sin = round(math.cos(angle), 15), round(math.sin(angle), 15)
    matrix = np.array([[cos, -sin, 0.0], [sin, cos, 0.0]])
    return matrix, part.transformed(matrix).bounds


def _at(matrix: Floats, x: float, y: float) -> Floats:
    found: Floats = matrix.copy()
    found[:, 2] += (x, y)
    return found


def _spots_of_one(part: Region, sheet: Sheet, wanted: int) -> list[Floats]:
    """Where a part may lie on one sheet, as often as there is room for it."""
    best = _rows(part, sheet)
    x0, y0, x1, y1 = part.bounds
    box = (x1 - x0) * (y1 - y0)
    if len(best) < wanted and part.filled().area < _FULL * box:
        most = math.floor(math.prod(sheet.room) / part.filled().area)
        best = _packed(part, sheet, best, most)
    return best


def _spots_on_roll(part: Region, sheet: Sheet, wanted: int) -> list[Floats]:
    """So many of a part across a roll, with as little of it as rows or a strip packer take."""
    wide, _ = sheet.room
    ways: list[list[Floats]] = []
    for matrix, box in _ways(part, sheet):
        columns, _ = _counts(box, wide, 0.0, sheet.gap)
        rows = math.ceil(wanted / columns)
        ways.append(_block(matrix, box, columns, rows, (0.0, 0.0), sheet)[:wanted])
    x0, y0, x1, y1 = part.bounds
    if wanted <= _MOST_PACKED and part.filled().area < _FULL * (x1 - x0) * (y1 - y0):
        # The packer's strip grows to the right: turned by a quarter it is the roll.
        turns = [(turn - 90.0) % 360.0 for turn in sheet.turns]
        ways.append([
            _at(_turned(part, one.rotation + 90.0)[0], sheet.margin + wide - one.translation[1],
                sheet.margin + one.translation[0])
            for one in _strip(part, wide, wanted, turns, sheet.gap).placed_items
        ])  # fmt: skip
    return min(ways, key=lambda spots: _reach((part, matrix) for matrix in spots))


def _reach(lie: Iterable[tuple[Region, Matrices]]) -> float:
    """How far up parts reach where they lie."""
    return max(part.transformed(matrix).bounds[3] for part, matrix in lie)


def _rows(part: Region, sheet: Sheet) -> list[Floats]:
    """Rows and columns of a part, and a second block beside or above them, turned otherwise."""
    wide, high = sheet.room
    boxes = [_turned(part, turn) for turn in sheet.turns]
    best: list[Floats] = []
    for matrix, box in boxes:
        across, up = _counts(box, wide, high, sheet.gap)
        for columns, rows in {(across, up), *((k, up) for k in range(across)),
                              *((across, k) for k in range(up))}:  # fmt: skip
            used = columns * (box[2] - box[0] + sheet.gap)
            above = rows * (box[3] - box[1] + sheet.gap)
            spots = _block(matrix, box, columns, rows, (0.0, 0.0), sheet)
            if columns < across or rows == up:
                corner, room = (used, 0.0), (wide - used, high)
            else:
                corner, room = (0.0, above), (wide, high - above)
            rest: list[Floats] = []
            for other, other_box in boxes:
                more = _counts(other_box, *room, sheet.gap)
                found = _block(other, other_box, *more, corner, sheet)
                rest = max(rest, found, key=len)
            best = max(best, [*spots, *rest], key=len)
    return best


def _counts(
    box: tuple[float, float, float, float], wide: float, high: float, gap: float
) -> tuple[int, int]:
    x0, y0, x1, y1 = box
    return (
        max(math.floor((wide + gap + _SAME) / (x1 - x0 + gap)), 0),
        max(math.floor((high + gap + _SAME) / (y1 - y0 + gap)), 0),
    )


def _block(
    matrix: Floats,
    box: tuple[float, float, float, float],
    columns: int,
    rows: int,
    corner: tuple[float, float],
    sheet: Sheet,
) -> list[Floats]:
    x0, y0, x1, y1 = box
    x, y = corner[0] + sheet.margin - x0, corner[1] + sheet.margin - y0
    return [
        _at(matrix, x + k * (x1 - x0 + sheet.gap), y + r * (y1 - y0 + sheet.gap))
        for r in range(rows)
        for k in range(columns)
    ]


def _packed(part: Region, sheet: Sheet, best: list[Floats], most: int) -> list[Floats]:
    """As many as a strip packer gets on a sheet, where that is more than rows do."""
    wide, high = sheet.room
    for _ in range(_TRIES):
        count = (len(best) + most + 1) // 2
        if count <= len(best):
            break
        found = _strip(part, high, count, sheet.turns, sheet.gap)
        if found.width <= wide + _SAME:
            best = [
                _at(_turned(part, one.rotation)[0], one.translation[0] + sheet.margin,
                    one.translation[1] + sheet.margin)
                for one in found.placed_items
            ]  # fmt: skip
        else:
            most = count - 1
    return best


def _strip(part: Region, high: float, count: int, turns: Sequence[float], gap: float) -> Any:
    """So many of a part packed into a strip so high, as narrow as it is found in a while."""
    import spyrrow

    larger = part.filled().offset(_ROUGH).simplified(_ROUGH)
    ring = max(larger.rings, key=len)
    item = spyrrow.Item("part", [(x, y) for x, y in ring.tolist()], count, list(turns))
    config = spyrrow.StripPackingConfig(
        total_computation_time=_SECONDS, min_items_separation=gap, num_workers=1, seed=1
    )
    return spyrrow.StripPackingInstance("sheet", high, [item]).solve(config)


def _on_shelves(parts: Sequence[Region], sheet: Sheet) -> list[Placed]:
    """Parts of several kinds by their boxes: the highest first, each on the first shelf with room.

    A shelf is as high as its first part.
    """
    wide, high = sheet.room
    boxes = [min(_ways(part, sheet), key=lambda one: one[1][3] - one[1][1]) for part in parts]
    order = sorted(range(len(parts)), key=lambda index: boxes[index][1][1] - boxes[index][1][3])
    places: dict[int, Placed] = {}
    shelves: list[list[float]] = []  # sheet, height up to it, its own height, used
    tops: list[float] = []
    for index in order:
        matrix, (x0, y0, x1, y1) = boxes[index]
        across, up = x1 - x0, y1 - y0
        shelf = next((one for one in shelves if one[3] + across <= wide + _SAME), None)
        if shelf is None:
            number = next((k for k, top in enumerate(tops) if top + up <= high + _SAME), len(tops))
            if number == len(tops):
                tops.append(0.0)
            shelf = [number, tops[number], up, 0.0]
            shelves.append(shelf)
            tops[number] += up + sheet.gap
        x, y = sheet.margin + shelf[3] - x0, sheet.margin + shelf[1] - y0
        places[index] = Placed(int(shelf[0]), _at(matrix, x, y))
        shelf[3] += across + sheet.gap
    return [places[index] for index in range(len(parts))]
