"""Letters that come nearer to those on other turns, laps or lines than neighbours may."""

from __future__ import annotations

from ulvent.core.base.tolerances import JOINT
from ulvent.core.faces.sides import stem_white
from ulvent.core.fits import nearer_on_turns
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.setting.gaps.spacing import FLOOR
from ulvent.core.stances import STANCES

_SEEN = 0.005
"""Letters that are nearer than this, mm, touch."""


def _look(subject: Subject) -> list[Finding]:
    lines, lettering = subject.lines, subject.words
    overflows = any(line.room < 0.0 for line in lines)
    if overflows or lettering.dial or not STANCES[lettering.shape].side_by_side:
        return []
    limit = FLOOR * min(stem_white(line.face, "capital") * line.scale for line in lines)
    apart = nearer_on_turns(lines, limit)
    if apart is None:
        return []
    where = "of other turns" if len(lines) == 1 else "of other lines"
    near = f"letters come within {apart:.3g} mm of those {where}"
    if apart < _SEEN:
        near = f"letters {'touch' if apart > JOINT else 'run into'} those {where}"
    return [
        CHECK.finding(
            near,
            "Make the letters lower, or the turns and lines wider apart.",
            apart,
            lettering=lettering.id,
            limit=limit,
        )
    ]


CHECK = Check(
    kind="near-turns",
    rank=70,
    severity="warning",
    unit="mm",
    looks={"lettering": _look},
    less_is_worse=True,
)
