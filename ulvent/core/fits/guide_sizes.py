"""Guides that are sized by the lettering on them: ring, spiral, arch, wave, or any by its scale."""

from __future__ import annotations

import math
from collections.abc import Callable
from contextlib import suppress
from dataclasses import replace

from pydantic import ValidationError

from ulvent.core.base.errors import CurveError, PieceError
from ulvent.core.base.fields import WrongRecipeError
from ulvent.core.faces import Face
from ulvent.core.fits.repeats import counted, times_of
from ulvent.core.fits.room import every_line
from ulvent.core.fits.root import Root, bounded_root, root
from ulvent.core.fits.trials import Settings, Tried, beyond
from ulvent.core.fits.turns_apart import turns_apart
from ulvent.core.guides.kinds import AnyGuide, kind_of
from ulvent.core.recipe.fit import Fit
from ulvent.core.recipe.lettering import Lettering
from ulvent.core.setting import Setting, Standing, set_lettering
from ulvent.core.setting.rows.outcome import Fitted

SCALE = "scaled"
"""The figure that every guide has."""
_SMALLEST, _LARGEST = 1e-3, 1e5
_MOST_SCALE = 1e3
_LIMITS = {"angle": (1e-3, 359.99), "turns": (1e-2, 500.0), SCALE: (1e-3, _MOST_SCALE)}
_UNITS = {"angle": "°", "turns": "", SCALE: ""}


def figures_of(recipe: AnyGuide) -> tuple[str, ...]:
    """The figures of a guide that lettering can size; the first one where none is named."""
    given = [name for name in kind_of(recipe).sized_by if getattr(recipe, name) is not None]
    return (*given, SCALE)


def sized_guide(
    recipe: AnyGuide,
    lettering: Lettering,
    face: Face,
    stand: Callable[[AnyGuide], Standing],
) -> tuple[AnyGuide, Settings]:
    """The guide with the figure at which the words fill it, or its turns lie clear.

    With it come the lines of the lettering on it, and what came of the fit. `stand` gives what
    lettering stands on for a recipe of the guide.

    Raises
    ------
    WrongRecipeError
        Where the guide has no such figure.
    """
    fit = lettering.fit
    assert fit is not None
    with suppress(CurveError, PieceError):
        lettering = counted(Tried(lettering, fit, stand(recipe), face))
    offered = figures_of(recipe)
    figure = fit.figure or offered[0]
    if figure not in offered:
        named = ", ".join(offered)
        raise WrongRecipeError("fit.figure", f"is none that this guide can be sized by: {named}")
    present = abs(float(getattr(recipe, figure)))
    if lettering.spacing != "font":
        # By the face's own spacing, which is quickly set: where to begin to look.
        own = lettering.model_copy(update={"spacing": "font"})
        quick = sized_guide(recipe, own, face, stand)[1][0].fitted
        present = abs(quick.value) if quick and not quick.note else present
    sign = math.copysign(1.0, float(getattr(recipe, figure)))

    def of_size(value: float) -> AnyGuide:
        return recipe.model_validate(recipe.model_dump() | {figure: sign * value})

    def room(value: float) -> float:
        try:
            lines = set_lettering(lettering, stand(of_size(value)), face)
        except (CurveError, PieceError, WrongRecipeError, ValidationError):
            return -math.inf
        tried[:] = lines
        tried_at[:] = [value]
        return _room(lines, fit)

    tried: list[Setting] = []
    tried_at: list[float] = []

    def guess(miss: float) -> float:
        have = max((line.baseline.length for line in tried), default=0.0)
        if not math.isfinite(miss) or not have:
            return present * 2.0
        return present * (1.0 - miss / have)

    low, high = _LIMITS.get(figure, (_SMALLEST, _LARGEST))
    if fit.until == "clear" and (first := room(present)) == math.inf:
        solved = Root(present, first, found=False)
    elif fit.until == "clear":
        solved = bounded_root(room, present, low, high, rises=True)
    else:
        rises = not kind_of(recipe).shortened_by(recipe, figure)
        solved = root(room, present, guess, low, high, rises=rises)
    value = sign * solved.value
    note = _note(solved, figure, fit)
    outcome = Fitted("guide", value, note, times_of(lettering), {figure: value})
    sized = of_size(solved.value)
    if tried_at != [solved.value]:
        tried[:] = set_lettering(lettering, stand(sized), face)
    return sized, tuple(replace(line, fitted=outcome) for line in tried)


def _room(lines: tuple[Setting, ...], fit: Fit) -> float:
    """Positive where the guide could be smaller."""
    if fit.until == "clear":
        return turns_apart(lines, fit.clear / 2.0) - fit.clear
    return every_line(lines, fit)


def _note(solved: Root, figure: str, fit: Fit) -> str:
    words = {SCALE: "scale"}.get(figure, figure)
    unit = _UNITS.get(figure, " mm")
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


def contradicted(wanted: Fitted, words: str, made: Fitted) -> Fitted:
    """What came of a fit whose guide other `words` have sized: what it wanted instead."""
    ((figure, value),) = wanted.guide_figures.items()
    ((other, had),) = made.guide_figures.items()
    if figure == other and abs(value - had) <= 1e-6:
        return wanted
    unit, its = _UNITS.get(figure, " mm"), _UNITS.get(other, " mm")
    by = f", {abs(value - had):.4g}{unit} apart" if figure == other else ""
    note = (
        f"this lettering needs a {figure} of {value:.5g}{unit}, but “{words}” has made "
        f"the {other} {had:.5g}{its}{by}"
    )
    return replace(wanted, note=note)
