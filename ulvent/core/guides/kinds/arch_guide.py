"""An arc over a chord, by its rise."""

from __future__ import annotations

from typing import Literal, Self

from pydantic import model_validator

from ulvent.core.base.fields import Coordinate, Size, WrongRecipeError
from ulvent.core.base.figures import shown
from ulvent.core.base.inputs import Figure
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import DrawnFigure, Extent, GuideKind, Sizes, Start
from ulvent.core.guides.shared_lines import arch_line, two_digits


class ArchGuide(GuideRecipe):
    """The arc over a chord; a negative rise hangs below it. The chord's middle is the centre."""

    kind: Literal["arch"]
    chord: Size
    rise: Coordinate

    @model_validator(mode="after")
    def _rises(self) -> Self:
        if self.rise == 0.0:
            raise WrongRecipeError("rise", "must not be 0: that is a straight line")
        return self


def _drawn(guide: ArchGuide) -> list[DrawnFigure]:
    half = guide.chord / 2.0
    return [
        DrawnFigure("chord", "Chord", "↔ ", guide.chord, (-half, 0.0), (half, 0.0), 0.25),
        DrawnFigure("rise", "Rise", "↕ ", guide.rise, (0.0, 0.0), (0.0, guide.rise)),
    ]


def _first(sizes: Sizes) -> dict[str, object]:
    return {"chord": two_digits(0.7 * sizes.blank), "rise": two_digits(0.18 * sizes.blank)}


KIND = GuideKind(
    recipe=ArchGuide,
    line=lambda guide, _: arch_line(guide.chord, guide.rise),
    title="arch",
    words=lambda guide: f"arch {shown(guide.chord)} / {shown(guide.rise)} mm",
    rank=40,
    blame="rise",
    inputs=(
        Figure("chord", "Chord"),
        Figure("rise", "Rise"),
    ),
    starts=(Start("arch", "M6 24C12 10 32 10 38 24", _first, 20, "arch", usual=True),),
    sized_by=("rise", "chord"),
    drawn=_drawn,
    extent=Extent(
        "open",
        of=lambda guide: (guide.chord, guide.rise),
        to=lambda length, rise: {"chord": length, "rise": rise or two_digits(0.15 * length)},
    ),
)
