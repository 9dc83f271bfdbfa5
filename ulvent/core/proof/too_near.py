"""Edges nearer to each other than a limit."""

from __future__ import annotations

from ulvent.core.proof.check import Check
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import MOST_PLACES
from ulvent.core.shapes.thin import ThinPlace


def too_near(
    check: Check, owner: str, places: list[ThinPlace], limit: float, letters: list[str],
    message: str, remedy: str,
) -> Finding:  # fmt: skip
    """What `check` finds of edges that are nearer to each other than a limit, the nearest first."""
    return check.finding(
        message,
        remedy,
        places[0].thickness,
        lettering=owner,
        limit=limit,
        letters=tuple(dict.fromkeys(text for text in letters if text)),
        places=tuple(place.at for place in places[:MOST_PLACES]),
    )
