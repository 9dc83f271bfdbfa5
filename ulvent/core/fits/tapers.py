"""The height of the last letter with which words that grow or shrink end where their guide ends."""

from __future__ import annotations

from ulvent.core.fits.room import every_line
from ulvent.core.fits.root import root
from ulvent.core.fits.trials import Settings, Tried, beyond
from ulvent.core.recipe import Lettering
from ulvent.core.setting.rows.outcome import Fitted

_LEAST_SHARE, _MOST_SHARE = 0.02, 20.0
"""Heights at the end that are tried, as shares of the height at the beginning."""


def fit_taper(tried: Tried) -> Settings:
    """The lines of a lettering with its end height solved."""
    lettering, fit = tried.lettering, tried.fit
    height = lettering.height
    quick = tried.by_the_face()
    start = (quick and fit_taper(quick)[0].lettering.end_height) or height

    def with_end(end: float) -> Lettering:
        return lettering.model_copy(update={"end_height": end})

    def left(end: float) -> float:
        return tried.room(with_end(end), lambda lines: every_line(lines, fit))

    def guess(miss: float) -> float:
        length = max((line.length for line in tried.last), default=0.0) or 1.0
        return max(start + 2.0 * height * miss / length, low)

    low, high = _LEAST_SHARE * height, _MOST_SHARE * height
    solved = root(left, start, guess, low, high, within=tried.standing.fits_within)
    final = with_end(solved.value)
    if solved.exact:
        note = beyond(f"the height at the end comes to {solved.value:.4g} mm", solved.value, fit)
    elif solved.miss < 0.0:
        note = f"the words are {-solved.miss:.3g} mm too long however small they end"
    else:
        note = f"the words leave {solved.miss:.3g} mm however large they end"
    if not solved.answered:
        final = lettering.model_copy(update={
            "end_height": fit.typed.get("end_height", lettering.end_height)})  # fmt: skip
        return tried.come_to(final, Fitted("taper", final.end_height or height, note))
    figures = {"end_height": solved.value}
    return tried.come_to(final, Fitted("taper", solved.value, note, figures))
