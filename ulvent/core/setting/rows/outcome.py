"""What came of a fit."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True)
class Fitted:
    """What came of a fit.

    value
        the solved figure: mm, or how many repeats
    note
        why there is no exact answer, and what the nearest one is; empty where there is one
    figures
        what the lettering's own fields come to
    guide_figures
        what fields of its guide come to
    """

    kind: str
    value: float
    note: str = ""
    figures: Mapping[str, float] = field(default_factory=dict)
    guide_figures: Mapping[str, float] = field(default_factory=dict)
