"""A finding: one thing about a piece that a maker should know."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict

from ulvent.core.base.arrays import Point
from ulvent.core.proof.remedy import Remedy

Severity = Literal["fault", "warning", "hint"]
FindingUnit = Literal["mm", "mm²", "letters", "corners", "passes", "lines", "stitches", "%"]


class Finding(BaseModel):
    """One thing that a maker should know.

    kind
        of the check that found it
    lettering
        whose it is; empty for the whole piece
    figure, limit
        what was found and what it is held against, in `unit`
    letters
        the letters it concerns, as they are read
    places
        where it is, mm, the worst first
    sheet
        the tool sheet whose limit it is; empty where it needs none
    key
        names it as long as the words stay, so that it can be accepted
    accepted
        whether a person has accepted it, and it has not got worse since
    """

    model_config = ConfigDict(frozen=True)

    kind: str
    severity: Severity
    lettering: str
    message: str
    remedy: str
    figure: float
    limit: float = 0.0
    unit: FindingUnit = "letters"
    letters: tuple[str, ...] = ()
    remedies: tuple[Remedy, ...] = ()
    places: tuple[Point, ...] = ()
    sheet: str = ""
    key: str = ""
    accepted: bool = False
