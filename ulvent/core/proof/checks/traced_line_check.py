"""A guide of many short straight lines, as a tracing program gives it: letters tremble on it."""

from __future__ import annotations

from ulvent.core.base.errors import PieceError
from ulvent.core.curves.parallel import TRACED
from ulvent.core.guides import own_line
from ulvent.core.guides.fewer_points import Fewer, smoothed
from ulvent.core.guides.kinds.path_guide import PathGuide
from ulvent.core.layout import LaidGuide, Layout
from ulvent.core.outlines.path_text import segment_data
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.remedy import Remedy
from ulvent.core.recipe import Lettering

_OFF = (0.1, 0.3, 1.0)
"""How far a smooth line may be from the traced one, mm."""


def _look(subject: Subject) -> list[Finding]:
    guide = subject.layout.guide(subject.words.guide)
    corners = len(guide.curve.corners.stations)
    if not isinstance(guide.recipe, PathGuide) or corners < TRACED:
        return []
    return [
        CHECK.finding(
            f"the guide is traced: it turns at {corners} corners, and letters turn with it",
            "Let them follow a smooth line through it instead.",
            float(corners),
            lettering=subject.words.id,
        )
    ]


def _remedies(layout: Layout, lettering: Lettering) -> list[Remedy]:
    """Smooth lines through the guide, each with as many points and as far off as it comes out."""
    guide = layout.guide(lettering.guide)
    found: dict[int, Remedy] = {}
    for off in _OFF if isinstance(guide.recipe, PathGuide) else ():
        try:
            line = smoothed(own_line(guide.recipe), off / guide.recipe.scaled)
        except PieceError:
            continue  # too many points: a line that is farther off may do
        if len(line.line(guide.curve.closed).corners.stations) < TRACED:
            found.setdefault(len(line.nodes), _remedy(guide, line))
    return list(found.values())


def _remedy(guide: LaidGuide, line: Fewer) -> Remedy:
    closed, off = guide.curve.closed, line.off * guide.recipe.scaled
    data = segment_data(line.line(closed).segments(), closed, up=True)
    label = f"a smooth line of {len(line.nodes)} points, {off:.2g} mm off at most"
    return Remedy(label=label, of="guide", owner=guide.recipe.id, changes={"d": data})


CHECK = Check(
    kind="traced-line",
    rank=52,
    severity="hint",
    unit="corners",
    looks={"lettering": _look},
    remedies=_remedies,
)
