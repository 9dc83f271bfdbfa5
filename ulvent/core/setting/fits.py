"""Fits: one figure of a lettering solved from one condition.

`height` is the largest height at which the words have room; `gap` is the tracking at which
they fill their guide, on a closed one with the gap over the seam like all others. Both leave
a margin. A fit is data: it is solved again whenever words, face or guide change.
"""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from ulvent.core.errors import CurveError
from ulvent.core.lettering import Fit, Lettering
from ulvent.core.setting.gaps import GapMeter
from ulvent.core.setting.outcome import Fitted
from ulvent.core.setting.setting import Setting
from ulvent.core.tolerances import JOINT

Settings = tuple[Setting, ...]
SetWith = Callable[[Lettering], Settings]

EXACT = 1e-9
"""To how many mm the solved figure is found."""
_LEAST_HEIGHT, _MOST_DOUBLINGS = 0.05, 40
_TIGHTEST = 0.6
"""Letters are pushed together by no more than this share of a capital's height."""


def fitted(lettering: Lettering, fit: Fit, set_with: SetWith) -> tuple[Lettering, Fitted]:
    """The lettering with its fit solved."""
    if fit.kind == "height":
        return _highest(lettering, fit, set_with)
    return _filling(lettering, fit, set_with)


# ----------------------------------------------------------------------- height


def with_height(lettering: Lettering, height: float) -> Lettering:
    """At another height; the height at the end and those of single lines keep their ratio."""
    factor = height / lettering.height
    end = lettering.end_height
    lines = tuple(
        line.model_copy(update={"height": line.height * factor}) if line.height else line
        for line in lettering.lines
    )
    return lettering.model_copy(
        update={"height": height, "end_height": end and end * factor, "lines": lines}
    )


def _highest(lettering: Lettering, fit: Fit, set_with: SetWith) -> tuple[Lettering, Fitted]:
    def room(height: float) -> float:
        try:
            return min(_room(line, fit) for line in set_with(with_height(lettering, height)))
        except CurveError:
            return -math.inf

    low = high = lettering.height
    for _ in range(_MOST_DOUBLINGS):
        if room(low) >= 0.0 or low <= _LEAST_HEIGHT:
            break
        low /= 2.0
    if room(low) < 0.0:
        return lettering, Fitted("height", lettering.height, "the words fit at no height")
    for _ in range(_MOST_DOUBLINGS):
        if room(high) < 0.0:
            break
        low, high = high, 2.0 * high
    height = _last_with_room(room, low, high)
    note = ""
    if fit.most is not None and height > fit.most:
        height = fit.most
    if fit.least is not None and height < fit.least:
        note = f"the largest height that fits is {height:.4g} mm, less than {fit.least:g} mm"
    return with_height(lettering, height), Fitted("height", height, note)


def _last_with_room(room: Callable[[float], float], low: float, high: float) -> float:
    """The greatest height in [low, high] with room, from a bracket of its limit."""
    if math.isfinite(room(high)):
        from scipy.optimize import brentq

        root = float(brentq(room, low, high, xtol=EXACT, rtol=1e-14))
        return root if room(root) >= 0.0 else math.nextafter(root - EXACT, 0.0)
    while high - low > EXACT:
        middle = (low + high) / 2.0
        low, high = (middle, high) if room(middle) >= 0.0 else (low, middle)
    return low


def _room(line: Setting, fit: Fit) -> float:
    """What is left of a line's baseline beside the margins, mm."""
    margins = fit.margin if line.baseline.closed else 2.0 * fit.margin
    return line.baseline.length - line.length - margins


# -------------------------------------------------------------------------- gap


def _filling(lettering: Lettering, fit: Fit, set_with: SetWith) -> tuple[Lettering, Fitted]:
    """The tracking at which the fullest line fills its baseline."""

    def with_tracking(tracking: float) -> Lettering:
        return lettering.model_copy(update={"tracking": tracking})

    def left(tracking: float) -> float:
        return min(_left(line, fit) for line in set_with(with_tracking(tracking)))

    first = set_with(lettering)
    letters = max(len(line.clusters) for line in first)
    if letters < 2:
        return lettering, Fitted("gap", lettering.tracking, "one letter has no gap to fill with")
    low = -_TIGHTEST * first[0].capital
    high = lettering.tracking + max(first[0].baseline.length / (letters - 1), 1.0)
    if left(low) < 0.0:
        over = -left(low)
        return with_tracking(low), Fitted(
            "gap", low, f"the words are {over:.3g} mm too long even when they are pushed together"
        )
    from scipy.optimize import brentq

    tracking = float(brentq(left, low, high, xtol=EXACT, rtol=1e-14))
    note = ""
    for limit, beyond, words in ((fit.least, -1.0, "less"), (fit.most, 1.0, "more")):
        if limit is not None and (tracking - limit) * beyond > JOINT:
            note = f"gaps that fill need {tracking:.3g} mm, {words} than {limit:g} mm"
    return with_tracking(tracking), Fitted("gap", tracking, note)


def _left(line: Setting, fit: Fit) -> float:
    """What is still to be filled, mm; on a ring by how much the seam's gap is too wide."""
    if not line.baseline.closed:
        return _room(line, fit)
    ends = np.array([len(line.clusters) - 1, 0])
    over_seam = tuple(line.clusters[end] for end in ends)
    scales = line.scales[ends]
    free = line.baseline.length - line.length
    if line.lettering.spacing == "font":
        return free - line.lettering.tracking
    meter = GapMeter(line.face, over_seam, scales, line.bent)
    middles = line.middles[ends] + np.array([0.0, line.baseline.length])
    found = float(meter.on_curve(middles, line.baseline.frames(middles))[0][0])
    starts = np.array([0.0, line.widths[ends[0]] + line.lettering.tracking])
    wanted = float(meter.on_straight(starts)[0])
    if not math.isfinite(found):
        return free - line.lettering.tracking
    return found - wanted
