"""One line of a lettering: its words with their marks and repeats, set on its baseline."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from ulvent.core.base.errors import wrong_field
from ulvent.core.base.tolerances import JOINT, SAME
from ulvent.core.curves import Curve, Parallel
from ulvent.core.faces import Face, StyledFace
from ulvent.core.recipe import Lettering, Nudge, Repeat
from ulvent.core.setting.letters.words import (
    Words,
    growing,
    grown,
    mark_words,
    scaled_each,
    words_of,
)
from ulvent.core.setting.rows.arrange import (
    SHARE_BEFORE,
    Row,
    in_a_row,
    reading_station,
    round_and_round,
    usual_joint,
)
from ulvent.core.setting.rows.placing import baseline_curve, place_row
from ulvent.core.setting.rows.setting import Setting
from ulvent.core.setting.rows.standing import Standing

_MOST_GROWTH = 50.0
"""Words do not grow by more than e to this power; more is no lettering."""
_RADII_TRIED = 200
_MOST_TURNS, _SETTLED = 12, 1e-5


@dataclass(frozen=True, eq=False)
class Given:
    """What all lines of a lettering are set with."""

    standing: Standing
    face: Face
    nudges: dict[int, Nudge]


def set_line(
    line: Lettering, number: int, given: Given, offset: int, before: Sequence[Setting] = ()
) -> Setting:
    """Set one line.

    Parameters
    ----------
    number
        which line of its lettering it is
    offset
        of its first letter in the words of the lettering
    before
        the lines that stand already
    """
    standing, face = given.standing, given.face
    baseline = baseline_curve(line, standing.guide, face)
    anchor = _anchor(line, standing, baseline)
    words = words_of(line, face, given.nudges, line.text, offset)
    if line.end_height is not None:
        words = grown(words, line.end_height, line.height)
    elif line.with_guide and not standing.shares:
        words = _grown_with_guide(words, line, standing, baseline, anchor)
    marks = _marks(line, face)

    def placed(row: Row) -> Setting:
        return place_row(line, number, face, standing, baseline, row, anchor, before[-1:])

    if line.repeat is None:
        seam = marks.get("seam") if baseline.closed else None

        def with_ends(words: Words) -> tuple[Setting, int]:
            row = _with_ends(line, face, words, marks.get("ends"), seam, anchor)
            return placed(row), row.runs.index(words)

        if line.with_guide and standing.shares:
            return _as_wide_as_there(words, standing.shares, with_ends)
        return with_ends(words)[0]
    unit, separator = words, marks.get("separator")
    if not line.text.strip() and separator is not None:
        unit, separator = separator, None
    repeat = line.repeat
    while True:
        row = round_and_round(line, repeat, face, unit, separator, baseline, anchor)
        found = placed(row)
        times = row.runs.count(unit)
        if not _as_often_as_fits(line.repeat) or times == 1 or not _meets_itself(found):
            return found
        # What corners push on leaves no room for all of them.
        repeat = repeat.model_copy(update={"times": times - 1})


def _as_often_as_fits(repeat: Repeat) -> bool:
    return repeat.times is None and repeat.pitch is None


def _meets_itself(found: Setting) -> bool:
    """Whether a row on a closed line reaches round it into its own beginning."""
    if not found.baseline.closed or not found.pushes.any():
        return False
    halves = found.advances / 2.0
    reach = float((found.middles + halves).max() - (found.middles - halves).min())
    return reach > found.baseline.length + JOINT


def _anchor(line: Lettering, standing: Standing, baseline: Parallel) -> float:
    """The station at which a line is held; a fit has it between the ends that it is to fit."""
    fit = line.fit
    if fit is not None and (fit.part is not None or not standing.shared or fit.kind == "gap"):
        window = fit_window(line, standing.guide, baseline)
        if window is not None:
            begin, end = window
            return begin + fit.margin + SHARE_BEFORE[line.align] * (end - begin - 2.0 * fit.margin)
    return float(baseline.carry(np.array([reading_station(line, standing.guide)]))[0])


def fit_window(line: Lettering, guide: Curve, baseline: Parallel) -> tuple[float, float] | None:
    """From where to where on its baseline a fitted line may stand; nothing on a whole ring."""
    part = line.fit and line.fit.part
    if not part:
        return None if baseline.closed else (0.0, baseline.length)
    begin, end = part
    if guide.closed and end < begin:
        end += guide.length
    if line.reading == "against":
        begin, end = guide.length - end, guide.length - begin
    first, last = baseline.carry(np.array([begin, end])).tolist()
    return first, last


def _marks(line: Lettering, face: Face) -> dict[str, Words]:
    """The marks of a line as runs, by what they are for."""
    if not isinstance(face, StyledFace):
        return {}
    uses = [
        ("separator", line.repeat.separator if line.repeat else None),
        ("ends", line.ends),
        ("seam", line.fit.mark if line.fit else None),
    ]
    given = [use for use, mark in uses if mark is not None]
    return {use: mark_words(line, face, face.mark(index)) for index, use in enumerate(given)}


def _with_ends(
    line: Lettering, face: Face, words: Words, ends: Words | None, seam: Words | None,
    anchor: float,
) -> Row:  # fmt: skip
    """Words between marks at both ends, or before one that stands in the gap over the seam."""
    runs = [words] if ends is None else [ends, words, ends]
    runs += [seam] if seam else []
    joint = usual_joint(line, face, beside_mark=True) if len(runs) > 1 else 0.0
    return in_a_row(runs, joint, anchor, SHARE_BEFORE[line.align])


def _as_wide_as_there(
    words: Words, shares: Sequence[float], placed: Callable[[Words], tuple[Setting, int]]
) -> Setting:
    """Words set with each letter as high as the band is wide where it stands.

    Where letters stand depends on how wide they are: both are settled in turns.

    placed
        sets words, and says which run they are
    """
    factors = np.ones(len(words.clusters))
    rank = {place: index for index, place in enumerate(words.places.tolist())}
    for _ in range(_MOST_TURNS):
        found, run = placed(scaled_each(words, factors))
        mine = found.runs == run
        if not mine.any():
            break
        stations = found.middles[mine] / found.baseline.length
        there = np.interp(stations % 1.0, np.linspace(0.0, 1.0, len(shares)), shares)
        shown = np.array([rank[place] for place in found.places[mine].tolist()])
        order = np.argsort(shown)
        # What has no ink goes with what is beside it.
        wanted = np.interp(np.arange(len(factors)), shown[order], there[order])
        if np.abs(wanted - factors).max() < _SETTLED:
            break
        factors = wanted
    return found


def _grown_with_guide(
    words: Words, line: Lettering, standing: Standing, baseline: Parallel, anchor: float
) -> Words:
    """Words that grow as the distance from a growing spiral's centre does.

    That distance r goes evenly with the station: r(m) = r₀ + g·m. Height keeps its ratio
    to r, so the words grow by the share g/r₀ a mm, with r₀ where they begin.
    """
    if standing.centre is None:
        raise wrong_field("with_guide", "needs a growing spiral, or a band that narrows")
    ends = baseline.points([0.0, baseline.length]) - np.array(standing.centre)
    inner, outer = np.hypot(*ends.T).tolist()
    gain = (outer - inner) / baseline.length
    held = inner + gain * anchor
    first = _radius_at_begin(gain * words.length, held, SHARE_BEFORE[line.align])
    if first is None or gain * words.length / first > _MOST_GROWTH:
        raise wrong_field("with_guide", "words this long do not fit when they grow so fast")
    return growing(words, gain / first)


def _radius_at_begin(gained: float, held: float, share: float) -> float | None:
    """r₀ of growing words that are held, by a share of their length, where r is `held`.

    Words of unchanged length U grow to r₀·(e^(gU/r₀) − 1)/g, so with `gained` for gU

        r₀ + share·r₀·(e^(gained/r₀) − 1) = held

    Where r grows this has two solutions or none; the larger is the one that is meant.
    """
    if share == 0.0:
        return held

    def miss(first: float) -> float:
        return float(first * (1.0 + share * np.expm1(gained / first)) - held)

    farthest = held / _MOST_GROWTH if gained > 0.0 else held * _MOST_GROWTH
    tried = np.geomspace(held, farthest, _RADII_TRIED).tolist()
    for before, after in zip(tried, tried[1:], strict=False):
        if miss(before) * miss(after) <= 0.0:
            from scipy.optimize import brentq

            return float(brentq(miss, before, after, xtol=SAME))
    return None
