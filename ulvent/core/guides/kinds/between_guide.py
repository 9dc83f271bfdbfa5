"""The line between two other guides."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from ulvent.core.base.fields import Identifier
from ulvent.core.base.figures import shown
from ulvent.core.base.inputs import Figure, GuideChoice
from ulvent.core.base.tolerances import NIL
from ulvent.core.curves import Curve, nearest
from ulvent.core.curves.segments import as_point
from ulvent.core.guides.grip import Grip
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import DrawnFigure, GuideKind, Hold, Made, Sizes, Start, beside


class BetweenGuide(GuideRecipe):
    """The line between two other guides, at `share` of the way from the first to the second."""

    leaning_fields = ("first", "second")

    kind: Literal["between"]
    first: Identifier
    second: Identifier
    share: Annotated[float, Field(gt=0.0, lt=1.0, allow_inf_nan=False)] = 0.5


def _line(guide: BetweenGuide, bases: tuple[Curve, ...]) -> Curve:
    # Imported when it is needed: SciPy would double the start of the command line.
    from ulvent.core.curves.between import line_between

    return line_between(bases[0], bases[1], guide.share)


def _words(guide: BetweenGuide) -> str:
    return "middle line" if guide.share == 0.5 else f"{shown(100.0 * guide.share)} % between"


def _drawn_on(guide: BetweenGuide, made: Made) -> list[DrawnFigure]:
    middle = as_point(made.curve.points(made.curve.length / 2.0)[0])
    return [beside("share", "Share of the way between", "", guide.share, middle, "%")]


def _grips(_: BetweenGuide, curve: Curve, __: int | None) -> list[Grip]:
    where = as_point(curve.points(curve.length / 2.0)[0])
    return [Grip("distance", "distance", where, label="share of the way")]


def _pulled(guide: BetweenGuide, hold: Hold) -> GuideRecipe | None:
    if hold.grip not in ("distance", "whole"):
        return None
    point = np.array([hold.end])
    first, second = (
        float(np.hypot(*(edge.points(nearest(edge, point)) - point)[0])) for edge in hold.bases()
    )
    share = min(max(first / max(first + second, NIL), 0.01), 0.99)
    return guide.model_copy(update={"share": round(share, 3)})


def _first(sizes: Sizes) -> dict[str, object]:
    return {"first": sizes.on[0], "second": sizes.on[1], "share": 0.5}


KIND = GuideKind(
    recipe=BetweenGuide,
    line=_line,
    title="middle line",
    words=_words,
    rank=170,
    blame="first",
    inputs=(
        Figure("share", "Share of the way", "%", 100.0),
        GuideChoice("first", "From"),
        GuideChoice("second", "to"),
    ),
    starts=(
        Start(
            "middle line",
            "M5 10C16 4 28 16 39 8M5 26C16 18 28 30 39 24M5 18c11-7 23 5 34-2",
            _first,
            220,
            "middle",
            needs=2,
        ),
    ),
    drawn_on=_drawn_on,
    turns=False,
    scales=False,
    between=True,
    grips=_grips,
    pulled=_pulled,
)
