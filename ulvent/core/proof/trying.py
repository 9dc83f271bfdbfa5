"""Remedies are tried before they are offered: with each of them, the lettering fits."""

from __future__ import annotations

from typing import Any

from pydantic import ValidationError

from ulvent.core.base.errors import CurveError, PieceError
from ulvent.core.base.tolerances import JOINT
from ulvent.core.fits import set_fitted
from ulvent.core.layout import Layout
from ulvent.core.proof.remedy import Remedy
from ulvent.core.recipe import Lettering
from ulvent.core.setting import Setting


def tried(
    layout: Layout, lettering: Lettering, changes: dict[str, Any]
) -> tuple[Setting, ...] | None:
    """The lines of a changed lettering; nothing where a piece may not hold the change."""
    standing, face = layout.stands[lettering.id]
    try:
        changed = Lettering.model_validate(lettering.model_dump() | changes)
        return set_fitted(changed, standing, face)
    except (ValidationError, CurveError, PieceError):
        return None


def offer(
    layout: Layout, lettering: Lettering, label: str, changes: dict[str, Any]
) -> Remedy | None:
    lines = tried(layout, lettering, changes)
    if lines is None or any(line.overhang > JOINT or line.unplaced for line in lines):
        return None
    return Remedy(label=label, of="lettering", owner=lettering.id, changes=changes)
