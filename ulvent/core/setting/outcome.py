"""What came of a fit."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Fitted:
    """What came of a fit.

    value
        the solved height or tracking, mm
    note
        why there is no exact answer, and what the nearest one is; empty where there is one
    """

    kind: str
    value: float
    note: str = ""
