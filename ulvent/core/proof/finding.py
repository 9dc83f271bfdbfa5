"""A finding: one thing about a piece that a maker should know."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict

from ulvent.core.proof.remedies import Remedy
from ulvent.core.recipe.piece import Accepted

Severity = Literal["fault", "warning", "hint"]
Kind = Literal[
    "overflow",
    "missing-letters",
    "missing-face",
    "missing-feature",
    "tight-bend",
    "near-letters",
    "near-turns",
    "fit",
    "outside-blank",
    "outside-area",
    "touching",
    "falls-out",
    "loose-part",
    "thin",
    "narrow-gap",
    "small-part",
    "low-letters",
    "unreached",
    "double-line",
    "crossing",
    "open-outline",
    "poor-middle",
]
_LESS_IS_WORSE = {"tight-bend", "near-letters", "near-turns", "thin", "narrow-gap", "small-part",
                  "low-letters", "poor-middle"}  # fmt: skip
_SAME = 1e-3
XY = tuple[float, float]


class Finding(BaseModel):
    """One thing that a maker should know.

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

    kind: Kind
    severity: Severity
    lettering: str
    message: str
    remedy: str
    figure: float
    limit: float = 0.0
    unit: Literal["mm", "mm²", "letters"] = "letters"
    letters: tuple[str, ...] = ()
    remedies: tuple[Remedy, ...] = ()
    places: tuple[XY, ...] = ()
    sheet: str = ""
    key: str = ""
    accepted: bool = False

    def named(self) -> Finding:
        """The finding with a key, where it has none yet."""
        if self.key:
            return self
        return self.model_copy(update={"key": f"{self.kind}:{self.lettering}"})

    def held_against(self, accepted: tuple[Accepted, ...]) -> Finding:
        """Accepted, where a person has accepted it and its figure is no worse."""
        for one in accepted:
            if (one.key, one.sheet) == (self.key, self.sheet):
                worse = one.figure - self.figure
                if self.kind not in _LESS_IS_WORSE:
                    worse = -worse
                return self.model_copy(update={"accepted": worse <= _SAME})
        return self
