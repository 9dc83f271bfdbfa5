"""The bands that words take up on the drawing, by which a lettering is seen to be chosen."""

from __future__ import annotations

import numpy as np

from ulvent.core.base.arrays import Millimetres, Points
from ulvent.core.setting import Setting

_MARGIN = 0.15
"""A band is longer than its words by this share of a capital's height at each end."""
_LEAST_STEPS, _MOST_STEPS = 5, 49
_STEP = 0.3
"""Along the baseline, in capitals' heights."""


def bands(setting: Setting) -> list[Points]:
    """Closed rings round the words of a line, a little longer than they are."""
    if not setting.clusters:
        return []
    if setting.poses.on_baseline:
        return [_along_baseline(setting, *stretch) for stretch in setting.stretches]
    return [_round_letters(setting, run) for run in np.unique(setting.runs).tolist()]


def _along_baseline(setting: Setting, begin: Millimetres, end: Millimetres) -> Points:
    """From the feet to the heads of the capitals; letters that grow take their band along."""
    margin = _MARGIN * setting.capital
    steps = 1 + int((end - begin) / (_STEP * setting.capital))
    steps = max(_LEAST_STEPS, min(_MOST_STEPS, steps))
    stations = np.linspace(begin - margin, end + margin, steps)
    frames = setting.baseline.frames(stations)
    mine = (setting.middles >= begin) & (setting.middles <= end)
    scales = np.full(steps, setting.scale)
    grows = setting.lettering.end_height is not None or setting.lettering.with_guide
    if grows and mine.any():
        # Each letter has its own height from its start to its end.
        halves = setting.advances[mine] / 2.0
        ends = np.stack([setting.middles[mine] - halves, setting.middles[mine] + halves], axis=1)
        scales = np.interp(stations, ends.ravel(), np.repeat(setting.scales[mine], 2))
    heads = scales * setting.face.metrics.cap_height
    top = frames.points + frames.normals * heads[:, None]
    return np.concatenate([frames.points, top[::-1]])


def _round_letters(setting: Setting, run: int) -> Points:
    """From the first letter of a run to its last, as they stand."""
    mine = np.flatnonzero(setting.runs == run)
    poses = setting.poses
    asides = poses.rights[mine] * (setting.widths[mine] / 2.0)[:, None]
    feet = poses.feet[mine]
    heads = (
        feet + poses.ups[mine] * (setting.scales[mine] * setting.face.metrics.cap_height)[:, None]
    )
    if setting.lettering.dial is None:
        # Letters come one below the other: down one side of them, and up the other.
        one, other = (
            np.stack([heads + aside, feet + aside], axis=1).reshape(-1, 2)
            for aside in (-asides, asides)
        )
        return np.concatenate([one, other[::-1]])
    first, last = 0, len(mine) - 1
    return np.stack(
        [
            feet[first] - asides[first],
            feet[last] + asides[last],
            heads[last] + asides[last],
            heads[first] - asides[first],
        ]
    )
