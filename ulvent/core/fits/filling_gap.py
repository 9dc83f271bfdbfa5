"""The gap that fills a guide, and what gives way where it reaches its limits."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from ulvent.core.fits.heights import with_height
from ulvent.core.fits.room import every_line
from ulvent.core.fits.root import Root, root
from ulvent.core.fits.trials import Settings, Tried, beyond, typed_figure
from ulvent.core.recipe import GivesWay, Lettering
from ulvent.core.setting import Setting
from ulvent.core.setting.gaps.clearance import clearance_of
from ulvent.core.setting.letters.words import join_each_other
from ulvent.core.setting.rows.outcome import Fitted

_TIGHTEST = 0.6
"""Letters are pushed together by no more than this share of a capital's height."""
_LEAST_SHARE, _MOST_SHARE = 1e-3, 1e3
"""Heights and widths that are tried where no limits are typed, as shares of the present ones."""


def fit_gap(tried: Tried) -> Settings:
    """The lines of a lettering with the tracking at which its fullest line fills its guide.

    A tracking beyond its limits is held there, and what gives way is solved in its place.
    """
    # A space at the end is no part of the words: the seam has a gap of its own.
    ended = "\n".join(line.rstrip() for line in tried.lettering.text.split("\n"))
    tried = tried.changed(tried.lettering.model_copy(update={"text": ended}))
    lettering, fit = tried.lettering, tried.fit
    quick = tried.by_the_face()
    first = quick.lines(quick.lettering) if quick else tried.lines(lettering)
    letters = max(len(line.clusters) for line in first)
    if letters < 2:
        note = "one letter has no gap to fill with"
        return tried.come_to(lettering, Fitted("gap", lettering.tracking, note))

    solved, low = _solved(tried, first)
    failed = not solved.answered
    note = "" if solved.exact else _missing(solved.miss, pushed=solved.value <= low)
    note = note or beyond(f"gaps that fill need {solved.value:.4g} mm", solved.value, fit)
    if not note or not fit.gives:
        # A limit that is missed is said, but the gap fills all the same.
        final = _with_tracking(lettering, solved.value)
    else:
        final = _with_tracking(lettering, _held(solved.value, fit.least, fit.most))
        for gives in fit.gives:
            final, note = _given_way(tried, final, gives)
            failed = bool(note)
            if not note:
                break
    if failed:
        final = _with_tracking(lettering, typed_figure(tried, "tracking", lettering.tracking))
        return tried.come_to(final, Fitted("gap", final.tracking, note))
    figures = {"tracking": final.tracking}
    figures |= {gives.figure: getattr(final, gives.figure) for gives in fit.gives}
    return tried.come_to(final, Fitted("gap", final.tracking, note, figures))


def gap_limits(line: Setting) -> tuple[float, float]:
    """Between which trackings a line's words can be read, mm, from how it stands.

    At the least two letters just do not touch, at the most letters stand as far apart as they
    are high: common practice, no source.
    """
    clearance = clearance_of(line.face, line.clusters, line.scales, line.bent)
    pairs = np.arange(max(len(line.clusters) - 1, 0))
    clear = clearance.on_curve(line.frames, pairs)
    apart = [
        float(free)
        for free, one, two in zip(clear, line.clusters, line.clusters[1:], strict=False)
        if not join_each_other(line.face, one, two)
    ]
    present = line.lettering.tracking
    least = present - min(apart) if apart and line.lettering.spacing == "font" else -line.capital
    return math.ceil(least * 100.0) / 100.0, round(line.capital, 2)


def _solved(tried: Tried, first: Settings) -> tuple[Root, float]:
    """The tracking that fills, and the least that is tried; `first` are the lines as they are."""
    lettering = tried.lettering
    quick = tried.by_the_face()
    # Spaces are spread as well.
    spread = max(len(line.lettering.text) for line in first)
    gaps = spread if first[0].baseline.closed and tried.fit.part is None else spread - 1
    length = max(line.baseline.length for line in first)
    low = -_TIGHTEST * first[0].capital
    start = fit_gap(quick)[0].lettering.tracking if quick else lettering.tracking
    solved = _filled(
        tried,
        lambda tracking: _with_tracking(lettering, tracking),
        start,
        lambda miss: start + miss / gaps,
        low,
        lettering.tracking + length,
        unit=length / gaps,
    )
    return solved, low


def _with_tracking(lettering: Lettering, tracking: float) -> Lettering:
    return lettering.model_copy(update={"tracking": tracking})


def _filled(
    tried: Tried,
    changed: Callable[[float], Lettering],
    start: float,
    guess: Callable[[float], float],
    low: float,
    high: float,
    unit: float = 1e-3,
) -> Root:
    def left(value: float) -> float:
        return tried.room(changed(value), lambda lines: every_line(lines, tried.fit))

    return root(left, start, guess, low, high, unit=unit, within=tried.standing.fits_within)


def _given_way(tried: Tried, held: Lettering, gives: GivesWay) -> tuple[Lettering, str]:
    """The lettering with another figure solved, and what is missing still, in words."""
    present = float(getattr(held, gives.figure))

    def changed(value: float) -> Lettering:
        if gives.figure == "height":
            return with_height(held, value)
        return held.model_copy(update={"width": value})

    length = max((line.length for line in tried.last), default=0.0) or 1.0
    low = gives.least if gives.least is not None else _LEAST_SHARE * present
    high = gives.most if gives.most is not None else _MOST_SHARE * present
    solved = _filled(
        tried, changed, present, lambda miss: present * (1.0 + miss / length), low, high
    )
    value = _held(solved.value, gives.least, gives.most)
    unit = " mm" if gives.figure == "height" else ""
    note = "" if solved.exact else (
        f"with the {gives.figure} at {value:.4g}{unit} {_missing(solved.miss)}"
    )  # fmt: skip
    return changed(value), note


def _missing(miss: float, pushed: bool = False) -> str:
    if miss < 0.0:
        even = " even when they are pushed together" if pushed else ""
        return f"the words are still {-miss:.3g} mm too long{even}"
    return f"the words still leave {miss:.3g} mm"


def _held(value: float, least: float | None, most: float | None) -> float:
    if least is not None:
        value = max(value, least)
    return value if most is None else min(value, most)
