"""A whole piece laid out: every guide's curve, every lettering's setting.

This is what the screen draws, what the writers write, and what the proof looks at.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager, suppress
from dataclasses import dataclass, replace
from functools import cached_property

from ulvent.core.base.arrays import Bounds, united
from ulvent.core.base.at_work import at_work
from ulvent.core.base.errors import (
    CurveError,
    FaceError,
    FieldProblem,
    PieceError,
    wrong_field,
)
from ulvent.core.base.fields import WrongRecipeError
from ulvent.core.base.tolerances import FIT_IN_HAND, GAP_IN_HAND, GAP_OF_FIT_IN_HAND
from ulvent.core.curves import Curve
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.faces import Face
from ulvent.core.fits import (
    Settings,
    Tried,
    as_figures,
    contradicted,
    fit_heights,
    set_fitted,
    sized_guide,
)
from ulvent.core.guides import guide_curves, guide_note, guides_in_order
from ulvent.core.guides.blanks import blank_curves
from ulvent.core.guides.kinds import AnyGuide, kind_of
from ulvent.core.guides.kinds.belt_guide import BeltGuide
from ulvent.core.guides.nodes import points_of
from ulvent.core.recipe import Lettering, Piece
from ulvent.core.recipe.belts import width_shares
from ulvent.core.recipe.piece import MOST_LETTERS_IN_ALL
from ulvent.core.setting import Setting, Standing, set_lettering
from ulvent.core.setting.rows.outcome import Fitted

_FEWER = "fewer letters, repeats or laps would do"

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

    def guide(self, guide_id: str) -> LaidGuide:
        """The guide with this id, which must be there."""
        return next(guide for guide in self.guides if guide.recipe.id == guide_id)

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

    @property
    def letters_left_out(self) -> tuple[int, int]:
        """How many letters are in no file, for want of room, place or glyph, and of how many."""
        absent = sum(
            int((~line.drawn).sum()) + len(line.unplaced) + len(line.missing)
            for line in self.settings
        )
        there = sum(int(line.drawn.sum()) for line in self.settings)
        return absent, absent + there

    def _blank_bounds(self) -> list[Bounds]:
        return [curve_bounds(outline) for outline in self.blank]


def lay_out(piece: Piece, face_named: FaceNamed, in_hand: bool = False) -> Layout:
    """Lay out `piece`: guides that lettering sizes first, then the lettering on all of them.

    What is `in_hand`, pulled about and only looked at, is solved less finely: gaps miss their
    targets, and fits leave over, a ten-thousandth of a mm at most.

    Raises
    ------
    PieceError
        Naming each guide that gives no curve, each face that is not there, and each
        lettering that cannot stand where it should.
    """
    laying = _Laying(piece, face_named, in_hand)
    laying.set_all()
    if laying.problems:
        raise PieceError(laying.problems)
    guides = tuple(
        LaidGuide(recipe, laying.curves[recipe.id], guide_note(recipe, laying.curves))
        for recipe in laying.guides
    )
    settings = tuple(line for one in piece.letterings for line in laying.lines[one.id])
    return Layout(piece, laying.blank, guides, settings, laying.stands)


def solved(layout: Layout) -> Piece:
    """The piece with all that its fits come to in its figures; the fits stay."""
    letterings: list[Lettering] = []
    for lettering in layout.piece.letterings:
        fitted = layout.lines_of(lettering.id)[0].fitted
        letterings.append(as_figures(lettering, fitted) if fitted else lettering)
    guides = tuple(guide.recipe for guide in layout.guides)
    return layout.piece.model_copy(update={"guides": guides, "letterings": tuple(letterings)})


class _Laying:
    """A piece being laid out: what has been found so far, and what is wrong."""

    def __init__(self, piece: Piece, face_named: FaceNamed, in_hand: bool) -> None:
        self._piece, self._face_named, self._in_hand = piece, face_named, in_hand
        self.problems: list[FieldProblem] = []
        self.guides = piece.guides
        self.blank: tuple[Curve, ...] = ()
        self.curves: dict[str, Curve] = {}
        self.stands: dict[str, tuple[Standing, Face]] = {}
        self.lines: dict[str, Settings] = {}

    def set_all(self) -> None:
        letterings = self._piece.letterings
        faces: dict[str, Face] = {}
        for lettering in letterings:
            with self._naming(lettering, "face"):
                faces[lettering.id] = self._face_named(lettering.face)
        try:
            self.blank = blank_curves(self._piece.blank) if self._piece.blank else ()
            self._size_guides(faces)
            self.curves = guide_curves(self.guides)
        except PieceError as error:
            self.problems.extend(error.problems)
        recipes = {recipe.id: recipe for recipe in self.guides}
        for lettering in letterings:
            if lettering.guide in self.curves and lettering.id in faces:
                standing = self._standing(recipes[lettering.guide], self.curves)
                if self._in_hand and lettering.fit is None:
                    standing = replace(standing, within=GAP_IN_HAND)
                self.stands[lettering.id] = standing, faces[lettering.id]
        for lettering in letterings:
            set_already = lettering.id in self.lines or _sizes_itself(lettering)
            if lettering.id in self.stands and not set_already:
                with self._naming(lettering, "standoff"):
                    self._refuse_many()
                    self.lines[lettering.id] = set_fitted(lettering, *self.stands[lettering.id])
        for group in _grown_together(letterings):
            self._grow([lettering for lettering in group if lettering.id in self.stands])

    def _refuse_many(self) -> None:
        """What letterings come to together has a bound, as each of them has."""
        letters = sum(len(line.clusters) for lines in self.lines.values() for line in lines)
        if letters > MOST_LETTERS_IN_ALL:
            reason = f"is one too many: those before it come to {letters} letters; "
            raise wrong_field("text", reason + f"at most {MOST_LETTERS_IN_ALL} are set in all")

    @contextmanager
    def _naming(self, lettering: Lettering, field: str) -> Iterator[None]:
        """Whatever is wrong inside is laid to a lettering; errors of curve or face to `field`."""
        where = f"letterings[{self._piece.letterings.index(lettering)}]"
        named = f"{where}.{'text' if field == 'standoff' else field}"
        with at_work(named, f"setting {len(lettering.text)} letters", _FEWER):
            try:
                yield
            except PieceError as error:
                self.problems.extend(error.within(where))
            except WrongRecipeError as error:
                self.problems.append(FieldProblem(f"{where}.{error.field}", error.reason))
            except (FaceError, CurveError) as error:
                self.problems.append(FieldProblem(f"{where}.{field}", str(error)))

    def _standing(self, recipe: AnyGuide, curves: Mapping[str, Curve]) -> Standing:
        here = [one for one in self._piece.letterings if one.guide == recipe.id]
        standing = standing_of(recipe, curves[recipe.id])
        if any(one.dial and one.dial.on == "points" for one in here):
            standing = replace(standing, points=points_of(recipe, curves[recipe.id]))
        if isinstance(recipe, BeltGuide):
            standing = replace(standing, shares=width_shares(self._piece, recipe))
        between = recipe.leans_on if kind_of(recipe).between else ()
        edges = tuple(curves[name] for name in between)
        standing = replace(standing, shared=len(here) > 1, edges=edges, blank=self.blank)
        if not self._in_hand:
            return standing
        return replace(standing, within=GAP_OF_FIT_IN_HAND, fits_within=FIT_IN_HAND)

    def _size_guides(self, faces: Mapping[str, Face]) -> None:
        """Size the guides that are sized by lettering, those that others lean on first."""
        sizing = [one for one in self._piece.letterings if one.fit and one.fit.kind == "guide"]
        if not sizing:
            return
        within = FIT_IN_HAND if self._in_hand else 0.0
        for guide_id in guides_in_order(self.guides):
            mine = [one for one in sizing if one.guide == guide_id and one.id in faces]
            recipe = self._recipe(guide_id)
            decides: tuple[str, Fitted] | None = None
            for lettering in mine:
                with self._naming(lettering, "fit"):
                    face = faces[lettering.id]
                    sized, lines = sized_guide(recipe, lettering, face, self._stand_on, within)
                    outcome = lines[0].fitted
                    assert outcome is not None
                    if decides is None:
                        self.guides = tuple(
                            sized if one.id == guide_id else one for one in self.guides
                        )
                        decides = lettering.text, outcome
                    else:
                        # The guide is that of the first one, which this one is set on too.
                        outcome = contradicted(recipe, outcome, *decides)
                        standing = self._stand_on(self._recipe(guide_id))
                        lines = tuple(
                            replace(line, fitted=outcome)
                            for line in set_fitted(lettering, standing, face)
                        )
                    self.lines[lettering.id] = lines

    def _recipe(self, guide_id: str) -> AnyGuide:
        return next(one for one in self.guides if one.id == guide_id)

    def _stand_on(self, recipe: AnyGuide) -> Standing:
        """What lettering stands on, with another recipe for one guide."""
        guides = tuple(recipe if one.id == recipe.id else one for one in self.guides)
        curves = guide_curves(guides, (recipe.id,))
        return self._standing(recipe, curves)

    def _grow(self, group: list[Lettering]) -> None:
        """Set letterings whose heights are the largest that have room, all together."""
        members: list[Tried] = []
        for lettering in group:
            with self._naming(lettering, "standoff"):
                assert lettering.fit is not None
                standing, face = self.stands[lettering.id]
                members.append(Tried(lettering, lettering.fit, standing, face))
                if len(group) > 1:
                    # What cannot stand at all is laid to the one that it is.
                    with suppress(CurveError):
                        set_lettering(lettering, standing, face)
        if not group or len(members) < len(group):
            return
        guides = {lettering.guide for lettering in group}
        others = [
            line
            for lines in self.lines.values()
            for line in lines
            if line.lettering.guide in guides
        ]
        with self._naming(group[0], "standoff"):
            for lettering, lines in zip(group, fit_heights(members, others), strict=True):
                self.lines[lettering.id] = lines


def _sizes_itself(lettering: Lettering) -> bool:
    return lettering.fit is not None and lettering.fit.kind == "height"


def _grown_together(letterings: tuple[Lettering, ...]) -> list[list[Lettering]]:
    """Letterings whose heights are fitted, in groups: those that are alike, or share a guide."""
    groups: list[list[Lettering]] = []
    for lettering in filter(_sizes_itself, letterings):
        linked = [group for group in groups if any(_linked(lettering, one) for one in group)]
        groups = [group for group in groups if group not in linked]
        groups.append([*(one for group in linked for one in group), lettering])
    return groups


def _linked(one: Lettering, two: Lettering) -> bool:
    assert one.fit is not None
    assert two.fit is not None
    return one.guide == two.guide or bool(one.fit.alike and one.fit.alike == two.fit.alike)


def standing_of(recipe: AnyGuide, curve: Curve) -> Standing:
    """A guide as letters stand on it by themselves."""
    grows_from = kind_of(recipe).grows_from
    centre = grows_from(recipe) if grows_from else None
    return Standing(curve, recipe.corners == "keep-off", centre)
