"""One lettering set by itself, its fit solved."""

from __future__ import annotations

from ulvent.core.faces import Face
from ulvent.core.fits.filling_gap import fit_gap
from ulvent.core.fits.heights import fit_heights, with_height
from ulvent.core.fits.repeats import fit_repeats, with_times
from ulvent.core.fits.tapers import fit_taper
from ulvent.core.fits.trials import Settings, Tried
from ulvent.core.recipe import Lettering
from ulvent.core.setting import Standing, set_lettering
from ulvent.core.setting.rows.outcome import Fitted


def set_fitted(lettering: Lettering, standing: Standing, face: Face) -> Settings:
    """The lines of a lettering, one setting a line.

    Its guide is taken as it is: what sizes a guide is `sized_guide`.

    Raises
    ------
    CurveError, PieceError
        As `set_lettering` does.
    """
    fit = lettering.fit
    if fit is None or fit.kind == "guide":
        return set_lettering(lettering, standing, face)
    tried = Tried(lettering, fit, standing, face)
    if fit.kind == "height":
        (lines,) = fit_heights([tried], [])
        return lines
    return {"gap": fit_gap, "taper": fit_taper, "repeats": fit_repeats}[fit.kind](tried)


def as_figures(lettering: Lettering, fitted: Fitted) -> Lettering:
    """The lettering with what its fit came to as plain figures; the fit stays."""
    figures = dict(fitted.figures)
    if "height" in figures:
        lettering = with_height(lettering, figures.pop("height"))
    if "times" in figures:
        lettering = with_times(lettering, int(figures.pop("times")))
    return lettering.model_copy(update=figures)
