"""A whole piece laid out: every guide's curve, every lettering's setting.

This is what the screen draws, what the writers write, and what the proof looks at.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ulvent.core.curves import Curve
from ulvent.core.errors import CurveError, FaceError, FieldProblem, PieceError
from ulvent.core.faces import Face
from ulvent.core.guides import guide_curve
from ulvent.core.piece import CircleGuide, PathGuide, Piece
from ulvent.core.setting import Setting, set_lettering

FaceNamed = Callable[[str], Face]
"""Gives the face of a name, or raises `FaceError`."""

Bounds = tuple[float, float, float, float]
"""Least x, least y, greatest x, greatest y, mm."""


@dataclass(frozen=True)
class LaidGuide:
    """A guide's recipe with its curve."""

    recipe: CircleGuide | PathGuide
    curve: Curve

    @property
    def bounds(self) -> Bounds:
        """The box of the curve, mm."""
        return curve_bounds(self.curve)


@dataclass(frozen=True)
class Layout:
    """A piece with everything placed."""

    piece: Piece
    guides: tuple[LaidGuide, ...]
    settings: tuple[Setting, ...]

    def bounds(self) -> Bounds:
        """Of the blank and all letters that are drawn; of the guides where there are none."""
        boxes = self._blank_bounds()
        boxes.extend(
            setting.placed_outline(index).bounds()
            for setting in self.settings
            for index in range(len(setting.clusters))
            if setting.drawn[index]
        )
        return united(boxes or [guide.bounds for guide in self.guides])

    def reach(self) -> Bounds:
        """A box that holds blank, guides and letters: quick, and a little large."""
        letters = [box for setting in self.settings if (box := setting.reach()) is not None]
        return united([*self._blank_bounds(), *(guide.bounds for guide in self.guides), *letters])

    def _blank_bounds(self) -> list[Bounds]:
        if self.piece.blank is None:
            return []
        radius = self.piece.blank.diameter / 2.0
        return [(-radius, -radius, radius, radius)]


def lay_out(piece: Piece, face_named: FaceNamed) -> Layout:
    """Lay out `piece`.

    Raises
    ------
    PieceError
        Naming each guide that gives no curve, each face that is not there, and each
        lettering that cannot stand where it should.
    """
    problems: list[FieldProblem] = []
    guides: list[LaidGuide] = []
    for index, recipe in enumerate(piece.guides):
        try:
            guides.append(LaidGuide(recipe, guide_curve(recipe)))
        except CurveError as error:
            field = "d" if isinstance(recipe, PathGuide) else "diameter"
            problems.append(FieldProblem(f"guides[{index}].{field}", str(error)))
    curves = {guide.recipe.id: guide.curve for guide in guides}
    settings: list[Setting] = []
    for index, lettering in enumerate(piece.letterings):
        if lettering.guide not in curves:
            continue
        field = "face"
        try:
            face = face_named(lettering.face)
            field = "standoff"
            settings.append(set_lettering(lettering, curves[lettering.guide], face))
        except (FaceError, CurveError) as error:
            problems.append(FieldProblem(f"letterings[{index}].{field}", str(error)))
    if problems:
        raise PieceError(problems)
    return Layout(piece, tuple(guides), tuple(settings))


def united(boxes: list[Bounds]) -> Bounds:
    """The least box round all boxes; a point at the origin where there are none."""
    if not boxes:
        return (0.0, 0.0, 0.0, 0.0)
    low_x, low_y, high_x, high_y = zip(*boxes, strict=True)
    return min(low_x), min(low_y), max(high_x), max(high_y)


@lru_cache(maxsize=256)
def curve_bounds(curve: Curve) -> Bounds:
    """The box of a curve, from points a thousandth of its length apart."""
    points = curve.points(np.linspace(0.0, curve.length, 1025))
    (x0, y0), (x1, y1) = points.min(axis=0), points.max(axis=0)
    return float(x0), float(y0), float(x1), float(y1)
