"""Where runs of words stand along a baseline: one after another, or round and round."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import Curve, Parallel
from ulvent.core.faces import Face
from ulvent.core.guides import place_share
from ulvent.core.recipe import MOST_REPEATS, Lettering, Repeat
from ulvent.core.setting.gaps.gap import GapMeter
from ulvent.core.setting.letters.words import Words, refuse_many, scale_of

SHARE_BEFORE = {"start": 0.0, "centre": 0.5, "end": 1.0}
"""How much of a lettering stands before the place where it is held, by its alignment."""

_EQUAL = 1e-8
"""Joints are made equal until they differ by no more than this, mm."""
_MOST_ROUNDS = 24


def reading_station(lettering: Lettering, guide: Curve) -> float:
    """Where the lettering is held, as a station of the guide in reading direction."""
    at = guide_station(lettering, guide)
    return at if lettering.reading == "along" else guide.length - at


def guide_station(lettering: Lettering, guide: Curve) -> float:
    """Where the lettering is held, as a station of the guide, mm."""
    if lettering.at_in == "mm":
        return lettering.at
    if lettering.at_in == "share":
        return lettering.at * guide.length
    return place_share(guide, lettering.at_in) * guide.length + lettering.at


@dataclass(frozen=True, eq=False)
class Row:
    """Runs of words on one baseline, and where each begins, mm.

    used
        what they take up, mm
    over
        how much of that has no room, where that is not for the baseline's ends to say
    goes_round
        whether the last run meets the first one over the seam
    spare
        of words that are repeated: how much longer the baseline is than they need with the
        joints that the face gives, mm
    """

    runs: list[Words]
    begins: list[float]
    used: float
    over: float = 0.0
    goes_round: bool = False
    spare: float = math.nan


def in_a_row(runs: list[Words], joint: float, anchor: float, share: float) -> Row:
    """Runs one after another, `joint` mm between them, held at `anchor` by a share of all."""
    begins = [0.0]
    for words in runs:
        begins.append(begins[-1] + words.length + joint)
    length = begins.pop() - joint
    first = anchor - share * length
    return Row(runs, [first + begin for begin in begins], length)


def usual_joint(lettering: Lettering, face: Face, beside_mark: bool) -> float:
    """The white that a word space gives between words, mm; half of it beside a mark."""
    space = face.shape(" ").clusters
    advance = space[0].advance if space else 0.25 * face.metrics.units_per_em
    wide = advance * scale_of(lettering, face) + lettering.tracking + lettering.word_space
    return wide / 2.0 if beside_mark else wide


def round_and_round(
    lettering: Lettering,
    repeat: Repeat,
    face: Face,
    unit: Words,
    separator: Words | None,
    baseline: Parallel,
    anchor: float,
) -> Row:
    """`unit` again and again along the baseline, with `separator` between.

    Without a typed gap all joints are made equal, as they are measured: on a closed
    baseline over the seam too.
    """
    length, closed = baseline.length, baseline.closed
    usual = usual_joint(lettering, face, separator is not None or not lettering.text.strip())
    between = separator.length if separator else 0.0
    per_unit = 2 if separator else 1
    step = unit.length + between + per_unit * usual
    # On an open baseline nothing follows the last one.
    room = length if closed else length + step - unit.length
    times = _times(repeat, length, room, step)
    letters = times * (len(unit.clusters) + (len(separator.clusters) if separator else 0))
    refuse_many("repeat", letters, "fewer repeats, or fewer words in each")
    spare = room - times * (step + per_unit * (repeat.gap or 0.0))
    if repeat.gap is None and repeat.pitch is not None and not closed:
        begins = [anchor + index * repeat.pitch for index in range(times)]
        used = (times - 1) * repeat.pitch + unit.length
        return Row([unit] * times, begins, used, spare=length - used)
    fills = repeat.gap is None and (closed or times > 1)
    runs = _in_turn(unit, separator, times, round_the_seam=closed and fills)
    share = SHARE_BEFORE[lettering.align]
    if fills:
        first = anchor - share * unit.length if closed else 0.0
        return _filled(runs, face, baseline, first, spare)
    row = in_a_row(runs, usual + (repeat.gap or 0.0), anchor, share)
    return replace(row, spare=spare)


def _in_turn(unit: Words, separator: Words | None, times: int, round_the_seam: bool) -> list[Words]:
    """The unit so often, a separator after each; none after the last one of an open row."""
    if separator is None:
        return [unit] * times
    runs = [unit, separator] * times
    return runs if round_the_seam else runs[:-1]


def _filled(runs: list[Words], face: Face, baseline: Parallel, first: float, spare: float) -> Row:
    """Runs over all of a baseline, from `first` on, the gaps at their joints alike."""
    words = sum(run.length for run in runs)
    joints = len(runs) if baseline.closed else len(runs) - 1
    row = in_a_row(runs, (baseline.length - words) / joints, first, 0.0)
    over = max(0.0, words - baseline.length)
    row = Row(row.runs, row.begins, words, over, goes_round=baseline.closed, spare=spare)
    return _evened(row, face, baseline, joints)


def _times(repeat: Repeat, length: float, room: float, step: float) -> int:
    """How often: as asked, by the pitch, or as there is `room` for."""
    if repeat.times is not None:
        return repeat.times
    if repeat.pitch is not None:
        return max(1, min(round(length / repeat.pitch), MOST_REPEATS))
    fitting = (room + JOINT) / step if step > 0.0 else 1.0
    return max(1, min(math.floor(fitting), MOST_REPEATS))


def _evened(row: Row, face: Face, baseline: Parallel, joints: int) -> Row:
    """The same row with its runs moved until the gaps at all joints are the same."""
    inked = [np.flatnonzero([bool(face.cluster_outline(c.glyphs)) for c in run.clusters])
             for run in row.runs]  # fmt: skip
    if joints < 2 or any(not len(found) for found in inked):
        return row
    count = len(row.runs)
    pairs = [(index, (index + 1) % count) for index in range(joints)]
    ends = [(row.runs[a], int(inked[a][-1])) for a, _ in pairs]
    starts = [(row.runs[b], int(inked[b][0])) for _, b in pairs]
    both = [end for pair in zip(ends, starts, strict=True) for end in pair]
    clusters = tuple(words.clusters[at] for words, at in both)
    scales = np.array([words.scales[at] for words, at in both])
    inside = np.array(
        [words.starts[at] + words.extents[at] / 2.0 + words.along[at] for words, at in both]
    )
    begins = np.array(row.begins)
    lap = baseline.length
    meter = GapMeter(face, clusters, scales)
    for _ in range(_MOST_ROUNDS):
        after = [begins[b] + (lap if b <= a else 0.0) for a, b in pairs]
        at = np.stack([begins[: len(pairs)], after], axis=1).ravel() + inside
        frames = baseline.frames(at)
        found = meter.on_curve(at, frames)[0::2]
        if not np.isfinite(found).all():
            return row
        miss = found.mean() - found
        if np.abs(miss).max() <= _EQUAL:
            break
        # Each joint opens by what it misses; the first run stays where it is held.
        begins[1:] += np.cumsum(miss)[: count - 1]
    return replace(row, begins=begins.tolist())
