"""A new guide as it is offered to begin with, as large as the blank asks."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.acts.act import Act, Done, guide_of, with_new_guide
from ulvent.core.base.errors import PieceError, wrong_field
from ulvent.core.base.tolerances import NIL
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.guides import guide_curves
from ulvent.core.guides.blanks import AnyBlank, blank_curves
from ulvent.core.guides.kind import Sizes
from ulvent.core.guides.kinds import STARTS, AnyGuide, started_guide
from ulvent.core.layout import FaceNamed
from ulvent.core.recipe import Piece


class StartGuide(Act):
    """A new guide as it is offered to begin with, as large as the blank asks."""

    act: Literal["start-guide"]
    start: str
    on: Annotated[tuple[str, ...], Field(max_length=2)] = ()

    def perform(self, piece: Piece, faces: FaceNamed) -> Done:
        start = STARTS.get(self.start)
        if start is None:
            raise wrong_field("start", f"there is no guide “{self.start}” to begin with")
        on = tuple(guide_of(piece, name).id for name in self.on)
        if len(on) < start.needs:
            raise wrong_field("on", f"is made from {start.needs} guides, and these are {len(on)}")
        guide = started_guide(start, Sizes(across(piece.blank), on[: start.needs]))
        if start.needs and _reads_upside_down(piece, guide):
            guide = guide.model_copy(update={"reverse": True})
        return with_new_guide(piece, guide)


def _reads_upside_down(piece: Piece, guide: AnyGuide) -> bool:
    """Whether words along an open line would stand on their heads in its middle."""
    try:
        curves = guide_curves((*piece.guides, guide.model_copy(update={"id": _TRIED})), (_TRIED,))
    except PieceError:
        # What is wrong with it is said when the piece is laid out.
        return False
    curve = curves[_TRIED]
    if curve.closed:
        return False
    x, _ = curve.frames([curve.length / 2.0]).tangents[0]
    return bool(x < -NIL)


_TRIED = "tried-out"
_NO_BLANK = 200.0
"""How large a new guide is made for, mm, where there is no blank."""


def across(blank: AnyBlank | None) -> float:
    """The shorter side of a blank, mm."""
    if blank is None:
        return _NO_BLANK
    x0, y0, x1, y1 = curve_bounds(blank_curves(blank)[0])
    return min(x1 - x0, y1 - y0)
