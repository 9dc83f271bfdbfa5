"""Grips: the places by which a guide is taken hold of on the drawing, and what pulling does.

Pulling is absolute: from where the pointer took hold to where it is now, on the
recipe as it was. So no pull depends on how many moves it came in.
"""

from __future__ import annotations

import cmath
import math

import numpy as np

from ulvent.core.base.arrays import Point
from ulvent.core.base.errors import wrong_field
from ulvent.core.curves import Curve, nearest
from ulvent.core.curves.segments import as_point
from ulvent.core.guides import guide_curve, guide_curves
from ulvent.core.guides.grip import Grip
from ulvent.core.guides.kind import GuideKind, Hold
from ulvent.core.guides.kinds import AnyGuide, figures_of, kind_of
from ulvent.core.guides.scaling import real_figures, resized
from ulvent.core.layout import LaidGuide
from ulvent.core.recipe import Piece

_OUTSIDE = 1.12
"""Grips that turn and scale stand so much further out than the guide reaches."""
_DECIMALS = 3
_ASLANT = cmath.exp(-0.25j * math.pi)


def grips(guide: LaidGuide, node: int | None = None) -> list[Grip]:
    """The grips of a guide, in the piece, mm; handles only of `node` and its neighbours."""
    return [*grips_on_line(guide, node), *_turning(guide.recipe, guide.curve)]


def grips_on_line(guide: LaidGuide, node: int | None = None) -> list[Grip]:
    """Those grips of a guide that make it what it is; not those that turn and scale it."""
    recipe, curve, kind = guide.recipe, guide.curve, kind_of(guide.recipe)
    found: list[Grip] = []
    if curve.closed:
        at = as_point(curve.points(0.0)[0])
        found.append(Grip("start", "start", at, label="start of the guide"))
    if recipe.part is not None:
        ends = curve.points([0.0, curve.length])
        for index, label in enumerate(("start of the part", "end of the part")):
            found.append(Grip(f"part:{index}", "part", as_point(ends[index]), label=label))
    if _moves(kind):
        found.append(Grip("centre", "centre", recipe.centre, label="centre of the guide"))
    return [*found, *kind.grips(recipe, curve, node)]


def _moves(kind: GuideKind) -> bool:
    """What can be neither turned nor scaled lies where the guides lie that it is made from."""
    return kind.turns or kind.scales


def _turning(recipe: AnyGuide, curve: Curve) -> list[Grip]:
    """Grips to turn and scale by, just outside the guide."""
    kind = kind_of(recipe)
    if not _moves(kind):
        return []
    centre = complex(*recipe.centre)
    away = curve.points(np.linspace(0.0, curve.length, 65)) @ np.array([1.0, 1j]) - centre
    farthest = float(np.abs(away).max())
    way = cmath.exp(1j * math.radians(recipe.turned))

    def outside(direction: complex) -> Point:
        """Just outside the guide, seen from its centre."""
        reach = float((away * np.conj(direction)).real.max())
        where = centre + _OUTSIDE * max(reach, 0.25 * farthest) * direction
        return (where.real, where.imag)

    if not kind.turns:
        # The same from all sides: its rim is taken hold of.
        rim = centre + farthest * _ASLANT
        return [Grip("size", "size", (rim.real, rim.imag), label="size")]
    found = [Grip("turn", "turn", outside(way * 1j), label="turn")]
    if kind.scales:
        found.append(Grip("size", "size", outside(way * _ASLANT), label="scale"))
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

    def bases() -> tuple[Curve, ...]:
        curves = guide_curves(piece.guides, recipe.leans_on)
        return tuple(curves[other] for other in recipe.leans_on)

    hold = Hold(name, index, start, end, bases)
    changed = kind_of(recipe).pulled(recipe, hold) or _pulled_as_all(recipe, hold)
    if changed is None:
        raise wrong_field("grip", f"“{recipe.id}” has no grip “{grip}”")
    return changed


def _pulled_as_all(recipe: AnyGuide, hold: Hold) -> AnyGuide | None:
    """A guide after one of those grips was pulled that guides of all kinds have."""
    kind = kind_of(recipe)
    if hold.grip in ("centre", "whole") and _moves(kind):
        by = complex(*hold.end) - complex(*hold.start)
        return recipe.model_copy(update={"centre": _tidy(complex(*recipe.centre) + by)})
    if hold.grip == "start":
        return _started(recipe, hold)
    if hold.grip == "part" and recipe.part is not None and hold.index in (0, 1):
        return _parted(recipe, recipe.part, hold)
    if hold.grip == "turn" and kind.turns:
        return _turned(recipe, hold)
    if hold.grip == "size" and kind.scales:
        return _scaled(recipe, hold)
    return None


def _turned(recipe: AnyGuide, hold: Hold) -> AnyGuide:
    centre = complex(*recipe.centre)
    before, now = complex(*hold.start) - centre, complex(*hold.end) - centre
    if not before or not now:
        return recipe
    turn = math.degrees(cmath.phase(now / before))
    return recipe.model_copy(update={"turned": round(recipe.turned + turn, _DECIMALS)})


def _started(recipe: AnyGuide, hold: Hold) -> AnyGuide:
    plain = guide_curve(recipe.model_copy(update=_PLAIN), _bases_of(recipe, hold))
    if not plain.closed:
        raise wrong_field("grip", "an open guide has no start to pull")
    station = float(nearest(plain, np.array([hold.end]))[0])
    return recipe.model_copy(update={"seam": round(station, _DECIMALS)})


_PLAIN = {"seam": 0.0, "reverse": False, "part": None, "corners": "pass"}


def _parted(recipe: AnyGuide, before: tuple[float, float], hold: Hold) -> AnyGuide:
    whole = guide_curve(recipe.model_copy(update={"part": None}), _bases_of(recipe, hold))
    part = [*before]
    part[hold.index] = round(float(nearest(whole, np.array([hold.end]))[0]), _DECIMALS)
    if whole.closed:
        begin = part[0] % whole.length
        part = [begin, begin + ((part[1] - begin) % whole.length or whole.length)]
    elif part[1] - part[0] < 10.0**-_DECIMALS:
        return recipe
    return recipe.model_copy(
        update={"part": (round(part[0], _DECIMALS), round(part[1], _DECIMALS))}
    )


def _bases_of(recipe: AnyGuide, hold: Hold) -> dict[str, Curve]:
    return dict(zip(recipe.leans_on, hold.bases(), strict=True))


def _scaled(recipe: AnyGuide, hold: Hold) -> AnyGuide:
    centre = complex(*recipe.centre)
    before, now = abs(complex(*hold.start) - centre), abs(complex(*hold.end) - centre)
    if before <= 0.0 or now <= 0.0:
        return recipe
    size = _first_length(real_figures(recipe))
    # A pull leaves the first figure tidy, and the others in proportion.
    factor = max(round(size * now / before, 2), 0.01) / size
    return resized(recipe, factor)


def _first_length(recipe: AnyGuide) -> float:
    """The figure by which a pull is counted; a scale, in hundredths, where there is none."""
    fields = (figure.field for figure in figures_of(recipe) if figure.unit == "mm")
    sizes = (getattr(recipe, field) for field in fields)
    return next((size for size in sizes if size), 100.0)


def _tidy(point: complex) -> Point:
    return (round(point.real, _DECIMALS) + 0.0, round(point.imag, _DECIMALS) + 0.0)
