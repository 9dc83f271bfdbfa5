"""How often words go round with joints nearest to what the face gives."""

from __future__ import annotations

import math

from ulvent.core.fits.trials import Settings, Tried
from ulvent.core.recipe import MOST_REPEATS, Lettering
from ulvent.core.setting.rows.outcome import Fitted


def fit_repeats(tried: Tried) -> Settings:
    """The lines of a lettering that is repeated as often as is nearest to its usual joints.

    The joints of n repeats need n steps of the guide, so what n leaves over falls evenly: two
    trials say how long a step is.
    """
    lettering, fit = tried.lettering, tried.fit

    def spare(times: int) -> float:
        return min(line.spare for line in tried.lines(with_times(lettering, times)))

    first = spare(1)
    step = first - spare(2)
    fewer = max(1, math.floor((first + step) / step)) if step > 0.0 else 1
    candidates = [min(times, MOST_REPEATS) for times in (fewer, fewer + 1)]
    times = min(candidates, key=lambda count: abs(spare(count)) / count)
    note = ""
    for limit, sign, word in ((fit.least, -1, "fewer"), (fit.most, 1, "more")):
        if limit is not None and (times - limit) * sign > 0:
            note = f"{times} repeats come nearest to the face's own joints, {word} than {limit:g}"
    solved = with_times(lettering, times)
    return tried.come_to(solved, Fitted("repeats", times, note, {"times": times}))


def counted(tried: Tried) -> Lettering:
    """The lettering with a number of repeats, where it has been left to the room: the nearest.

    What is sized does not then also change how often it stands.
    """
    repeat = tried.lettering.repeat
    if repeat is None or repeat.times is not None or repeat.pitch is not None:
        return tried.lettering
    found = fit_repeats(tried.by_the_face() or tried)[0].fitted
    assert found is not None
    return with_times(tried.lettering, int(found.value))


def times_of(lettering: Lettering) -> dict[str, float]:
    """How often a lettering is repeated, as a figure; nothing where it is not."""
    repeat = lettering.repeat
    return {"times": repeat.times} if repeat and repeat.times is not None else {}


def with_times(lettering: Lettering, times: int) -> Lettering:
    """Repeated so many times."""
    assert lettering.repeat is not None
    repeat = lettering.repeat.model_copy(update={"times": times, "pitch": None})
    return lettering.model_copy(update={"repeat": repeat})
