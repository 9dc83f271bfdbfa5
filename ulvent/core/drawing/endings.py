"""Where words end on an open guide, and what is left of it after them."""

from __future__ import annotations

from typing import NamedTuple

from ulvent.core.base.arrays import Millimetres, Point
from ulvent.core.base.tolerances import JOINT
from ulvent.core.curves.segments import as_point
from ulvent.core.setting import Setting


class Ending(NamedTuple):
    """Where the last letter of a line ends, and how far that is from the guide's end."""

    at: Point
    left: Millimetres


def ending(setting: Setting) -> Ending | None:
    """Where a line ends on an open guide; nothing on closed ones, on dials, on filled stretches."""
    lettering = setting.lettering
    if setting.baseline.closed or not setting.clusters or lettering.dial is not None:
        return None
    if lettering.fill is not None and setting.overhang <= JOINT:
        return None
    at = as_point(setting.baseline.points(setting.end)[0])
    return Ending(at, setting.baseline.length - setting.end)
