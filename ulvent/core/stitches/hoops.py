"""Embroidery in a hoop, or split between letters where one hoop is too small for it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import groupby

import numpy as np

from ulvent.core.base.arrays import Bounds, Points, box_round, united
from ulvent.core.base.errors import wrong_field
from ulvent.core.recipe import Piece
from ulvent.core.recipe.sewing import Hoop
from ulvent.core.stitches.embroidery import Colour, Embroidery, Sewn
from ulvent.core.stitches.thread import Thread, What

_ARM = 4.0
_CLEAR = 6.0
"""mm: arms of a mark that two hoopings share, and how far it keeps from the letters."""
_BASTED = 4.0
_BASTING = 6.0
_FITS = 1e-6


@dataclass(frozen=True, eq=False)
class Hooping:
    """What is sewn without taking the cloth out of its hoop.

    centre
        of the hoop, mm on the sheet
    marks
        (m, 2) crosses that are sewn in this hooping and in the one beside it
    """

    embroidery: Embroidery
    centre: tuple[float, float]
    marks: Points


def hoopings(embroidery: Embroidery, hoop: Hoop) -> list[Hooping]:
    """An embroidery in as few hoopings as its letters, in their order, allow.

    Stitches are those of the whole. Where it is split, two crosses are sewn on both sides, so
    that the cloth can be laid by them.

    Raises
    ------
    PieceError
        Where a letter, or a line through several, is larger than the hoop.
    """
    every = [(number, one) for number, colour in enumerate(embroidery.colours)
             for one in colour.sewn]  # fmt: skip
    if not every:
        return []
    groups = _split(every, hoop)
    seams = [_seam(one, other) for one, other in zip(groups[:-1], groups[1:], strict=True)]
    found = []
    for index, group in enumerate(groups):
        marks = np.concatenate([np.empty((0, 2)), *seams[max(0, index - 1) : index + 1]])
        box = united([box_round(one.points) for _, one in group])
        if len(marks):
            low, high = marks.min(axis=0) - _ARM, marks.max(axis=0) + _ARM
            box = united([box, (low[0], low[1], high[0], high[1])])
        first = [Sewn(_cross(mark), "", "Mark to lay it by") for mark in marks]
        if hoop.basting:
            first.insert(0, Sewn(_basting(box, hoop), "", "Basting"))
        colours = _coloured(embroidery, group)
        if first:
            colours = [Colour(colours[0].colour, tuple(first)), *colours] if colours else colours
        centre = ((box[0] + box[2]) / 2.0, (box[1] + box[3]) / 2.0)
        found.append(Hooping(replace(embroidery, colours=tuple(colours)), centre, marks))
    return found


def one_hooping(piece: Piece, embroidery: Embroidery, number: int) -> Embroidery:
    """What one hooping of a piece holds, from 1; 0: all of it.

    Raises
    ------
    PieceError
        Where there is no such hooping.
    """
    if not number:
        return embroidery
    hoop = piece.sewing.hoop if piece.sewing else None
    every = hoopings(embroidery, hoop) if hoop else []
    if number > len(every):
        raise wrong_field("hooping", f"there are {len(every)} hoopings")
    return every[number - 1].embroidery


def _coloured(embroidery: Embroidery, group: list[tuple[int, Sewn]]) -> list[Colour]:
    return [
        replace(embroidery.colours[number], sewn=tuple(one for _, one in some))
        for number, some in groupby(sorted(group, key=lambda one: one[0]), lambda one: one[0])
    ]


def _split(every: list[tuple[int, Sewn]], hoop: Hoop) -> list[list[tuple[int, Sewn]]]:
    """What is sewn by hoopings; what is of one letter stays together."""
    letters: dict[tuple[str, int, str], list[tuple[int, Sewn]]] = {}
    for index, (number, one) in enumerate(every):
        whole = one.place >= 0 and one.lettering
        key = (one.lettering, one.place, "") if whole else ("", index, one.name)
        letters.setdefault(key, []).append((number, one))
    if _in(united([box_round(one.points) for _, one in every]), hoop, 0.0):
        return [every]
    groups: list[list[tuple[int, Sewn]]] = []
    taken: Bounds | None = None
    for some in letters.values():
        box = united([box_round(one.points) for _, one in some])
        if not _in(box, hoop, 0.0):
            width, height = box[2] - box[0], box[3] - box[1]
            name = some[0][1].letter or some[0][1].name
            raise wrong_field(
                "sewing.hoop", f"“{name}” takes {width:.0f} × {height:.0f} mm and cannot be split: "
                f"the hoop holds {hoop.sides[0]:g} × {hoop.sides[1]:g} mm",
            )  # fmt: skip
        room = _CLEAR + 2.0 * _ARM
        if taken is not None and _in(united([taken, box]), hoop, room):
            taken = united([taken, box])
            groups[-1] += some
        else:
            taken = box
            groups.append(list(some))
    return groups


def _in(box: Bounds, hoop: Hoop, room: float) -> bool:
    width, height = hoop.sides
    return box[2] - box[0] + room <= width + _FITS and box[3] - box[1] + room <= height + _FITS


def _seam(one: list[tuple[int, Sewn]], other: list[tuple[int, Sewn]]) -> Points:
    """Two crosses beside where one hooping ends and the next begins."""
    boxes = box_round(one[-1][1].points), box_round(other[0][1].points)
    middles = [np.array([(b[0] + b[2]) / 2.0, (b[1] + b[3]) / 2.0]) for b in boxes]
    way = middles[1] - middles[0]
    way = way / max(float(np.hypot(*way)), 1e-9)
    across = np.array([-way[1], way[0]])
    middle = (middles[0] + middles[1]) / 2.0
    corners = np.array([(b[i], b[j]) for b in boxes for i in (0, 2) for j in (1, 3)])
    off = (corners - middle) @ across
    # Beyond both letters, so that no mark is sewn over.
    return np.array([
        middle + (off.max() + _ARM) * across, middle + (off.min() - _ARM) * across
    ])  # fmt: skip


def _cross(at: Points) -> Thread:
    x, y = np.array([_ARM / 2.0, 0.0]), np.array([0.0, _ARM / 2.0])
    return Thread.of(np.array([at - x, at, at + x, at, at + y, at, at - y, at]), What.MARK)


def _basting(box: Bounds, hoop: Hoop) -> Thread:
    width, height = hoop.sides
    middle = np.array([(box[0] + box[2]) / 2.0, (box[1] + box[3]) / 2.0])
    half = np.array([box[2] - box[0], box[3] - box[1]]) / 2.0 + _BASTED
    half = np.minimum(half, np.array([width, height]) / 2.0)
    corners = middle + half * np.array([[-1, -1], [1, -1], [1, 1], [-1, 1], [-1, -1]])
    found = [corners[:1]]
    for begin, end in zip(corners[:-1], corners[1:], strict=True):
        count = max(1, int(np.ceil(np.hypot(*(end - begin)) / _BASTING)))
        found.append(begin + np.arange(1, count + 1)[:, None] / count * (end - begin))
    return Thread.of(np.concatenate(found), What.MARK)
