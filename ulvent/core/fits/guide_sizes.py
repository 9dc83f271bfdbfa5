"""Guides that are sized by the lettering on them: ring, spiral, arch, wave, or any by its scale."""

from __future__ import annotations

import math
from collections.abc import Callable
from contextlib import suppress
from dataclasses import replace

from pydantic import ValidationError

from ulvent.core.base.errors import CurveError, PieceError
from ulvent.core.base.fields import WrongRecipeError
from ulvent.core.base.inputs import Figure
from ulvent.core.faces import Face
from ulvent.core.fits.repeats import counted, times_of
from ulvent.core.fits.room import every_line
from ulvent.core.fits.root import Root, bounded_root, root
from ulvent.core.fits.trials import Settings, Tried, beyond
from ulvent.core.fits.turns_apart import beyond_turns
from ulvent.core.guides.guide_recipe import LEAST_SCALE, MOST_SCALE
from ulvent.core.guides.kinds import SCALE, AnyGuide, kind_of, sizes_of
from ulvent.core.recipe import Fit, Lettering
from ulvent.core.setting import Standing, set_lettering
from ulvent.core.setting.rows.outcome import Fitted

_SMALLEST, _LARGEST = 1e-3, 1e5
"""Sizes that are tried, mm."""
_LIMITS: dict[str, tuple[float, float]] = {
    "°": (1e-3, 359.99),
    "": (1e-2, 500.0),
    "×": (LEAST_SCALE, MOST_SCALE),
}
"""Figures that are tried, by their units, where these are no lengths."""
_SAID = {"mm": " mm", "°": "°"}
_SAME = 1e-6
"""Sizes that differ by no more than this, mm, are one."""


def sized_guide(
    recipe: AnyGuide,
    lettering: Lettering,
    face: Face,
    stand: Callable[[AnyGuide], Standing],
    within: float = 0.0,
) -> tuple[AnyGuide, Settings]:
    """The guide with the figure at which the words fill it, or its turns lie clear.

    With it come the lines of the lettering on it, and what came of the fit. `stand` gives what
    lettering stands on for a recipe of the guide. So much room as `within` may be left over, mm.

    Raises
    ------
    WrongRecipeError
        Where the guide has no such figure.
    """
    fit = lettering.fit
    assert fit is not None
    with suppress(CurveError, PieceError):
        lettering = counted(Tried(lettering, fit, stand(recipe), face))
    offered = sizes_of(recipe)
    figure = fit.figure or next(iter(offered))
    if figure not in offered:
        named = ", ".join(offered)
        raise WrongRecipeError("fit.figure", f"is none that this guide can be sized by: {named}")
    present = abs(float(getattr(recipe, figure)))
    if lettering.spacing != "font":
        # By the face's own spacing, which is quickly set: where to begin to look.
        own = lettering.model_copy(update={"spacing": "font"})
        quick = sized_guide(recipe, own, face, stand, within)[1][0].fitted
        present = abs(quick.value) if quick and not quick.note else present
    sizing = _Sizing(recipe, offered[figure], present, lettering, fit, face, stand)
    return sizing.sized(within)


class _Sizing:
    """One figure of a guide being solved, so that the words of a lettering fill it."""

    def __init__(
        self, recipe: AnyGuide, figure: Figure, present: float, lettering: Lettering, fit: Fit,
        face: Face, stand: Callable[[AnyGuide], Standing],
    ) -> None:  # fmt: skip
        self._recipe, self._figure, self._present = recipe, figure, present
        self._lettering, self._fit, self._face, self._stand = lettering, fit, face, stand
        self._sign = math.copysign(1.0, float(getattr(recipe, figure.field)))
        self._last: tuple[float, Settings] = (math.nan, ())

    def sized(self, within: float) -> tuple[AnyGuide, Settings]:
        solved = self._solved(within)
        field = self._figure.field
        if not solved.answered:
            return self._as_typed(solved)
        value = self._sign * solved.value
        times = times_of(self._lettering)
        outcome = Fitted("guide", value, _note(solved, self._figure, self._fit), times,
                         {field: value})  # fmt: skip
        lines = self._lines(solved.value)
        return self._of_size(solved.value), tuple(replace(line, fitted=outcome) for line in lines)

    def _as_typed(self, solved: Root) -> tuple[AnyGuide, Settings]:
        """Without an answer the guide stays as it was typed, and nothing is shown as solved."""
        typed = self._fit.typed_guide.get(self._figure.field)
        value = self._present if typed is None else abs(typed)
        outcome = Fitted("guide", self._sign * value, _note(solved, self._figure, self._fit))
        lines = self._lines(value)
        return self._of_size(value), tuple(replace(line, fitted=outcome) for line in lines)

    def _solved(self, within: float) -> Root:
        low, high = _LIMITS.get(self._figure.unit, (_SMALLEST, _LARGEST))
        if self._fit.until == "clear":
            first = self._room(self._present)
            if first == math.inf:
                return Root(self._present, first, found=False)
            return bounded_root(self._room, self._present, low, high, rises=True, within=within)
        rises = not kind_of(self._recipe).shortened_by(self._recipe, self._figure.field)
        return root(self._room, self._present, self._guess, low, high, rises=rises, within=within)

    def _of_size(self, value: float) -> AnyGuide:
        changed = {self._figure.field: self._sign * value}
        return self._recipe.model_validate(self._recipe.model_dump() | changed)

    def _lines(self, value: float) -> Settings:
        if self._last[0] != value:
            standing = self._stand(self._of_size(value))
            self._last = value, set_lettering(self._lettering, standing, self._face)
        return self._last[1]

    def _room(self, value: float) -> float:
        """Positive where the guide could be smaller."""
        try:
            lines = self._lines(value)
        except (CurveError, PieceError, WrongRecipeError, ValidationError):
            return -math.inf
        if self._fit.until == "clear":
            return beyond_turns(lines, self._fit.clear)
        return every_line(lines, self._fit)

    def _guess(self, miss: float) -> float:
        have = max((line.baseline.length for line in self._last[1]), default=0.0)
        if not math.isfinite(miss) or not have:
            return self._present * 2.0
        return self._present * (1.0 - miss / have)


def _note(solved: Root, figure: Figure, fit: Fit) -> str:
    words = {SCALE.field: "scale"}.get(figure.field, figure.field)
    unit = _SAID.get(figure.unit, "")
    if not solved.exact:
        if fit.until == "clear":
            if solved.miss == math.inf:
                return "this guide has no turns that lettering stands on beside each other"
            return f"at no {words} are its turns {fit.clear:g} mm clear of each other"
        if solved.found:
            return f"the words jump at this {words}: {abs(solved.miss):.3g} mm are left or missing"
        if solved.miss < 0.0:
            return f"at no {words} do the words fit: {-solved.miss:.3g} mm too long at the nearest"
        return f"at no {words} do the words fill it: {solved.miss:.3g} mm left at the nearest"
    said = f"the {words} comes to {solved.value:.5g}{unit}"
    return beyond(said, solved.value, fit, unit)


def contradicted(recipe: AnyGuide, wanted: Fitted, words: str, made: Fitted) -> Fitted:
    """What came of a fit whose guide other `words` have sized: what it wanted instead."""
    ((figure, value),) = wanted.guide_figures.items()
    ((other, had),) = made.guide_figures.items()
    if figure == other and abs(value - had) <= _SAME:
        return wanted
    sizes = sizes_of(recipe)
    unit, its = (_SAID.get(sizes[name].unit, "") for name in (figure, other))
    by = f", {abs(value - had):.4g}{unit} apart" if figure == other else ""
    note = (
        f"this lettering needs a {figure} of {value:.5g}{unit}, but “{words}” has made "
        f"the {other} {had:.5g}{its}{by}"
    )
    return replace(wanted, note=note)
