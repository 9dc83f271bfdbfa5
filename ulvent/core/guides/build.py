"""One function from any guide recipe to its curve."""

from __future__ import annotations

from functools import lru_cache

from ulvent.core.curves import CircularArc, Curve
from ulvent.core.guides.pathdata import curve_from_path_data
from ulvent.core.piece import CircleGuide, PathGuide

_REMEMBERED = 256


@lru_cache(maxsize=_REMEMBERED)
def guide_curve(guide: CircleGuide | PathGuide) -> Curve:
    """The curve of a guide. Equal recipes share one curve and its tables.

    Raises
    ------
    CurveError
        When the recipe gives no curve.
    """
    if isinstance(guide, PathGuide):
        return curve_from_path_data(guide.d)
    clockwise = guide.turn == "clockwise"
    return CircularArc.circle(guide.centre, guide.diameter / 2.0, guide.start, clockwise)
