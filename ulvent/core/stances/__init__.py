"""Stances: how letters and labels stand on a curve, one a module.

A new stance is a new module here, with its `Stance` or `LabelStance`.
"""

from __future__ import annotations

from ulvent.core.base.register import found_records
from ulvent.core.stances.stance import LabelStance, Stance

STANCES: dict[str, Stance] = {one.name: one for one in found_records(__name__, Stance)}
"""All stances of letters by their names, in the order in which they are offered."""

LABEL_STANCES: dict[str, LabelStance] = {
    one.name: one for one in found_records(__name__, LabelStance)
}
"""All stances of straight labels by their names, in the order in which they are offered."""

SIDE_BY_SIDE = tuple(name for name, one in STANCES.items() if one.side_by_side)
"""Names of the stances in which letters stand beside each other, as on a line."""

__all__ = ["LABEL_STANCES", "SIDE_BY_SIDE", "STANCES", "LabelStance", "Stance"]
