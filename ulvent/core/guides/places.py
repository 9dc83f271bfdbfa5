"""Places on a guide that makers call by name, as shares of its length."""

from __future__ import annotations

from ulvent.core.piece import CircleGuide, PathGuide

_AROUND = {"top": 90.0, "right": 0.0, "bottom": 270.0, "left": 180.0}


def named_places(guide: CircleGuide | PathGuide) -> dict[str, float]:
    """Shares of the length at which the named places lie, each in [0, 1)."""
    if not isinstance(guide, CircleGuide):
        return {"start": 0.0, "middle": 0.5, "end": 1.0}
    forward = -1.0 if guide.turn == "clockwise" else 1.0
    return {
        name: (forward * (angle - guide.start) / 360.0) % 1.0 for name, angle in _AROUND.items()
    }
