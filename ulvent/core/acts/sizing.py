"""By how much something is scaled that is to be so large."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from ulvent.core.base.arrays import Bounds
from ulvent.core.base.errors import wrong_field
from ulvent.core.base.tolerances import NIL

MeasureOf = Literal["percent", "width", "height"]


def factor_to(
    measure: str, to: float, box: Bounds, sizes: Mapping[str, float] | None = None
) -> float:
    """The factor that brings a measure of what lies in a box to a figure, mm or %.

    Raises
    ------
    PieceError
        When it has no such extent.
    """
    if measure == "percent":
        return to / 100.0
    x0, y0, x1, y1 = box
    now = {"width": x1 - x0, "height": y1 - y0, **(sizes or {})}[measure]
    if now <= NIL:
        raise wrong_field("measure", f"it has no {measure} to be scaled by")
    return to / now
