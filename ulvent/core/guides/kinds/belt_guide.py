"""A line once round a part: closed on the part, cut open at its back where the side lies flat."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from ulvent.core.base.fields import Size
from ulvent.core.base.figures import shown
from ulvent.core.base.inputs import Figure
from ulvent.core.curves import Curve
from ulvent.core.curves.belt import belt_line
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import DrawnFigure, GuideKind, Sizes, Start
from ulvent.core.guides.shared_lines import two_digits


class BeltGuide(GuideRecipe):
    """A line once round a part; the centre is its front.

    girth
        its length
    lean
        degrees by which the side of the part leans inward, going up

    On a blank that is the side of a part both are the part's, at the height of the centre.
    """

    kind: Literal["belt"]
    girth: Size
    lean: Annotated[float, Field(ge=-80.0, le=80.0, allow_inf_nan=False)] = 0.0


def _line(guide: BeltGuide, _: tuple[Curve, ...]) -> Curve:
    return belt_line(guide.girth, guide.lean)


def _drawn(guide: BeltGuide) -> list[DrawnFigure]:
    diameter = guide.girth / math.pi
    return [DrawnFigure("girth", f"Girth, ⌀ {shown(diameter)}", "↔ ", guide.girth, (0, 0), (0, 0))]


def _first(sizes: Sizes) -> dict[str, object]:
    return {"girth": two_digits(0.8 * sizes.blank)}


KIND = GuideKind(
    recipe=BeltGuide,
    line=_line,
    title="round a part",
    words=lambda guide: f"round a part, {shown(guide.girth)} mm",
    rank=65,
    blame="girth",
    inputs=(Figure("girth", "Girth"), Figure("lean", "Side leans in by", "°")),
    starts=(Start("round a part", "M4 12V20M40 12V20M4 16H40", _first, 65, "belt"),),
    sized_by=("girth",),
    drawn=_drawn,
)
