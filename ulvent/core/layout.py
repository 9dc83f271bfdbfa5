"""A whole piece laid out: every guide's curve, every lettering's setting.

This is what the screen draws, what the writers write, and what the proof looks at.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

from ulvent.core.blanks import blank_curves
from ulvent.core.curves import Curve
from ulvent.core.curves.bounds import Bounds, curve_bounds
from ulvent.core.errors import CurveError, FaceError, FieldProblem, PieceError
from ulvent.core.faces import Face
from ulvent.core.guides import guide_curves, guide_note
from ulvent.core.piece import Piece
from ulvent.core.recipes import AnyGuide, GrowingSpiralGuide
from ulvent.core.setting import Setting, Standing, set_lettering

FaceNamed = Callable[[str], Face]
"""Gives the face of a name, or raises `FaceError`."""


@dataclass(frozen=True)
class LaidGuide:
    """A guide's recipe with its curve, and what there is to say about it in words."""

    recipe: AnyGuide
    curve: Curve
    note: str = ""

    @cached_property
    def bounds(self) -> Bounds:
        """The box of the curve, mm."""
        return curve_bounds(self.curve)


@dataclass(frozen=True)
class Layout:
    """A piece with everything placed."""

    piece: Piece
    blank: tuple[Curve, ...]
    guides: tuple[LaidGuide, ...]
    settings: tuple[Setting, ...]
    """One for each line of each lettering, in order."""
    stands: dict[str, tuple[Standing, Face]]
    """What each lettering stands on, and its face before it is styled, by the lettering's id."""

    @property
    def shown_guides(self) -> tuple[LaidGuide, ...]:
        """The guides that a person sees: neither hidden nor removed."""
        return tuple(g for g in self.guides if not (g.recipe.hidden or g.recipe.removed))

    def lines_of(self, lettering_id: str) -> tuple[Setting, ...]:
        """The lines of one lettering."""
        return tuple(s for s in self.settings if s.lettering.id == lettering_id)

    def bounds(self) -> Bounds:
        """Of the blank and all letters that are drawn; of the guides where there are none."""
        boxes = self._blank_bounds()
        boxes.extend(
            setting.placed_outline(index).bounds()
            for setting in self.settings
            for index in range(len(setting.clusters))
            if setting.drawn[index]
        )
        boxes.extend(
            ticks.bounds() for setting in self.settings for ticks, _ in setting.tick_outlines()
        )
        return united(boxes or [guide.bounds for guide in self.shown_guides])

    def reach(self) -> Bounds:
        """A box that holds blank, guides and letters: quick, and a little large."""
        letters = [box for setting in self.settings if (box := setting.reach()) is not None]
        return united(
            [*self._blank_bounds(), *(guide.bounds for guide in self.shown_guides), *letters]
        )

    def _blank_bounds(self) -> list[Bounds]:
        return [curve_bounds(outline) for outline in self.blank[:1]]


def lay_out(piece: Piece, face_named: FaceNamed) -> Layout:
    """Lay out `piece`.

    Raises
    ------
    PieceError
        Naming each guide that gives no curve, each face that is not there, and each
        lettering that cannot stand where it should.
    """
    problems: list[FieldProblem] = []
    blank: tuple[Curve, ...] = ()
    curves: dict[str, Curve] = {}
    try:
        blank = blank_curves(piece.blank) if piece.blank else ()
        curves = guide_curves(piece.guides)
    except PieceError as error:
        problems.extend(error.problems)
    guides = [
        LaidGuide(recipe, curves[recipe.id], guide_note(recipe, curves))
        for recipe in piece.guides
        if recipe.id in curves
    ]
    settings: list[Setting] = []
    stands: dict[str, tuple[Standing, Face]] = {}
    for index, lettering in enumerate(piece.letterings):
        if lettering.guide not in curves:
            continue
        field = "face"
        standing = standing_of(piece.guide(lettering.guide), curves[lettering.guide])
        try:
            face = face_named(lettering.face)
            stands[lettering.id] = standing, face
            field = "standoff"
            settings.extend(set_lettering(lettering, standing, face))
        except PieceError as error:
            problems.extend(error.within(f"letterings[{index}]"))
        except (FaceError, CurveError) as error:
            problems.append(FieldProblem(f"letterings[{index}].{field}", str(error)))
    if problems:
        raise PieceError(problems)
    return Layout(piece, blank, tuple(guides), tuple(settings), stands)


def standing_of(recipe: AnyGuide, curve: Curve) -> Standing:
    """A guide as letters stand on it."""
    centre = recipe.centre if isinstance(recipe, GrowingSpiralGuide) else None
    return Standing(curve, recipe.corners == "keep-off", centre)


def united(boxes: list[Bounds]) -> Bounds:
    """The least box round all boxes; a point at the origin where there are none."""
    if not boxes:
        return (0.0, 0.0, 0.0, 0.0)
    low_x, low_y, high_x, high_y = zip(*boxes, strict=True)
    return min(low_x), min(low_y), max(high_x), max(high_y)
