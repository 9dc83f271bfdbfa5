"""Words that go round a guide more than once, lap by lap."""

from __future__ import annotations

import math

import numpy as np

from ulvent.core.base.arrays import Millimetres
from ulvent.core.base.errors import CurveError
from ulvent.core.recipe import Laps, Lettering
from ulvent.core.setting.letters.dials import outside
from ulvent.core.setting.letters.words import words_of
from ulvent.core.setting.lines.one_line import Given, set_line
from ulvent.core.setting.rows.placing import baseline_curve
from ulvent.core.setting.rows.setting import Setting

MOST_LAPS = 40


def set_laps(line: Lettering, laps: Laps, given: Given, offset: int, number: int) -> list[Setting]:
    """One line of words over as many laps as it needs, broken at its spaces.

    `number` is that of the first lap among the lines of the lettering, and `offset` that of the
    line's first letter in its words.
    """
    guide = given.standing.guide
    away = outside(guide) * (1.0 if line.reading == "along" else -1.0)
    step = away * laps.pitch * (1.0 if laps.way == "outward" else -1.0)
    settings: list[Setting] = []
    rest, at = line.text, offset
    while rest:
        lap = line.model_copy(update={"standoff": line.standoff + len(settings) * step})
        try:
            room = baseline_curve(lap, guide, given.face).length
        except CurveError:
            if not settings:
                raise
            # There is no further lap: what is left stands on the last one, and overflows.
            last = settings.pop()
            lap = last.lettering
            taken = at - len(lap.text)
            rest, at = line.text[taken - offset :], taken
            room = math.inf
        full = len(settings) >= MOST_LAPS
        count = len(rest) if full else letters_fitting(lap, given, rest, at, room)
        lap = lap.model_copy(update={"text": rest[:count]})
        settings.append(set_line(lap, number + len(settings), given, at, settings))
        rest, at = rest[count:], at + count
    return settings or [set_line(line, number, given, offset)]


def letters_fitting(lap: Lettering, given: Given, text: str, offset: int, room: Millimetres) -> int:
    """How many characters of `text` one lap has room for: whole words, the space after them too."""
    words = words_of(lap, given.face, given.nudges, text, offset)
    if words.length <= room:
        return len(text)
    # Through the words as they are written, whatever the direction in which they stand.
    steps = sorted(
        zip(words.places.tolist(), np.diff(np.append(words.starts, words.length)).tolist(),
            words.clusters, strict=True)
    )  # fmt: skip
    taken, reached, word_end = 0, 0.0, 0
    for place, step, cluster in steps:
        end = place - offset + len(cluster.text)
        if cluster.text.isspace():
            word_end = end
        elif reached + step > room:
            break
        reached += step
        taken = end
    if word_end:
        return word_end
    return max(taken, len(steps[0][2].text))
