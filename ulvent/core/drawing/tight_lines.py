"""Where a guide bends more tightly than the letters on it can follow, to be shown on it."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ulvent.core.base.arrays import Points
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves import Curve
from ulvent.core.setting import Setting, tight_stretches

_SAMPLES = 17


def tight_lines(curve: Curve, settings: Iterable[Setting]) -> Points:
    """(n, k, 2) broken lines along the stretches that are too tight for what stands on them."""
    stretches = {(s.begin, s.end) for setting in settings for s in tight_stretches(setting)}
    ends = [(begin, end) for begin, end in sorted(stretches) if end - begin > JOINT]
    if not ends:
        return np.empty((0, _SAMPLES, 2))
    begins, lasts = np.array(ends).T[:, :, None]
    stations = begins + (lasts - begins) * np.linspace(0.0, 1.0, _SAMPLES)
    return curve.points(stations.ravel()).reshape(*stations.shape, 2)
