"""A drawn line smoothed, and given fewer points."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.acts.act import Act, Done, drawn, guide_of, with_guide
from ulvent.core.guides import own_line
from ulvent.core.guides.fewer_points import fewer_points
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece


class Simplify(Act):
    """A drawn line with as few points as keep it within a tolerance of what it was, mm."""

    act: Literal["simplify"]
    guide: str
    tolerance: Annotated[float, Field(ge=0.001, le=100.0, allow_inf_nan=False)]

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        guide = drawn(guide_of(piece, self.guide))
        # In its own frame, so that it stays turned and moved as it is.
        found = fewer_points(own_line(guide), self.tolerance / guide.scaled)
        was, now = len(guide.nodes), len(found.nodes)
        if now >= was:
            said = f"{was} points are as few as keep the line within {self.tolerance:g} mm"
            return Done(piece, said=said)
        changed = guide.model_copy(update={"nodes": found.nodes})
        off = found.off * guide.scaled
        said = f"{was} points became {now}; the line moved by {off:.3g} mm at most"
        return Done(with_guide(piece, guide, changed), said=said)
