"""The whole piece made larger or smaller: blank, guides, letters, gaps, borders."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ulvent.core.acts.act import Act, Done
from ulvent.core.acts.sizing import MeasureOf, factor_to
from ulvent.core.base.arrays import Bounds
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.fields import WrongRecipeError
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.guides.blanks import Blank, blank_curves
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.scaling import scaled_lengths
from ulvent.core.layout import FaceNamed, lay_out
from ulvent.core.recipe import Fit, Lettering, Piece

_NO_LENGTHS = ("width", "times")
"""Typed figures of a lettering that are a factor, and a number."""


class ScalePiece(Act):
    """The whole piece scaled about its middle; tools, sheet and material stay what they are.

    measure, to
        how wide or high its blank becomes, mm, or in % of what it is; where there is no blank,
        all that is drawn
    blank
        instead: another blank, which it is scaled to
    """

    act: Literal["scale-piece"]
    measure: MeasureOf = "percent"
    to: Annotated[float, Field(gt=0.0, allow_inf_nan=False)] | None = None
    blank: Blank | None = None

    @model_validator(mode="after")
    def _one_way(self) -> Self:
        if (self.to is None) == (self.blank is None):
            raise WrongRecipeError("to", "is given, or a blank, and not both")
        return self

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        if self.to is not None:
            box = (0.0, 0.0, 1.0, 1.0) if self.measure == "percent" else _box(piece, faces)
            return Done(_scaled(piece, factor_to(self.measure, self.to, box)))
        assert self.blank is not None
        (x0, y0, x1, y1), new = _box(piece, faces), curve_bounds(blank_curves(self.blank)[0])
        if min(x1 - x0, y1 - y0) <= 0.0:
            raise wrong_field("blank", "the piece has no extent that could be brought to it")
        factor = min((new[2] - new[0]) / (x1 - x0), (new[3] - new[1]) / (y1 - y0))
        return Done(_scaled(piece, factor).model_copy(update={"blank": self.blank}))


def _box(piece: Piece, faces: FaceNamed) -> Bounds:
    if piece.blank is not None:
        return curve_bounds(blank_curves(piece.blank)[0])
    return lay_out(piece, faces).bounds()


def _scaled(piece: Piece, factor: float) -> Piece:
    if piece.solid is not None and piece.solid.body is not None:
        reason = f"{piece.solid.body.name} is as large as its file has it; let it go first"
        raise wrong_field("solid.body", reason)
    scaled = scaled_lengths(piece, factor)
    guides = (
        one.model_copy(update={"scaled": one.scaled * factor}) if one.keeps_scale else one
        for one in scaled.guides
    )
    letterings = (
        _with_typed(one, piece.guide(one.guide), factor) if one.fit else one
        for one in scaled.letterings
    )
    return scaled.model_copy(update={"guides": tuple(guides), "letterings": tuple(letterings)})


def _with_typed(lettering: Lettering, guide: GuideRecipe, factor: float) -> Lettering:
    """A lettering with the figures too that were typed before its fit."""
    fit = lettering.fit
    assert fit is not None
    larger = scaled_lengths(guide, 2.0)
    lengths = {name for name in fit.typed_guide if getattr(larger, name) != getattr(guide, name)}
    if guide.keeps_scale:
        lengths.add("scaled")
    typed = _times(fit, "typed", set(fit.typed) - set(_NO_LENGTHS), factor)
    typed_guide = _times(fit, "typed_guide", lengths, factor)
    changed = fit.model_copy(update={"typed": typed, "typed_guide": typed_guide})
    return lettering.model_copy(update={"fit": changed})


def _times(fit: Fit, field: str, lengths: set[str], factor: float) -> dict[str, float | None]:
    figures: dict[str, float | None] = getattr(fit, field)
    return {
        name: value * factor if value is not None and name in lengths else value
        for name, value in figures.items()
    }
