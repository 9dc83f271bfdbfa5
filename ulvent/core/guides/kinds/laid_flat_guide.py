"""A straight line as long as another guide."""

from __future__ import annotations

from typing import Literal

from ulvent.core.base.fields import Identifier
from ulvent.core.base.inputs import GuideChoice
from ulvent.core.curves import Curve, Line
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import GuideKind, Sizes, Start


class LaidFlatGuide(GuideRecipe):
    """A straight line as long as another guide."""

    leaning_fields = ("guide",)

    kind: Literal["laid-flat"]
    guide: Identifier


def _line(_: LaidFlatGuide, bases: tuple[Curve, ...]) -> Curve:
    half = bases[0].length / 2.0
    return Line((-half, 0.0), (half, 0.0))


def _first(sizes: Sizes) -> dict[str, object]:
    return {"guide": sizes.on[0], "centre": [0, 0]}


KIND = GuideKind(
    recipe=LaidFlatGuide,
    line=_line,
    title="straight, as long as another",
    words=lambda _: "straight, as long as another",
    rank=70,
    blame="guide",
    inputs=(GuideChoice("guide", "As long as"),),
    starts=(
        Start(
            "same length, straight", "M6 12C12 0 32 0 38 12M4 24H40", _first, 230, "flat", needs=1
        ),
    ),
    scales=False,
)
