"""Half the width of the cut given back."""

from __future__ import annotations

from typing import Literal

from ulvent.core.base.fields import Model, ToolSize
from ulvent.core.base.inputs import Figure, Option
from ulvent.core.steps.step import Step
from ulvent.core.steps.work import Work


class Kerf(Model):
    """Half the width of what the beam or cutter takes away, given back on one side.

    side
        `outward`: the lettering is what is kept; `inward`: the lettering is cut out
    """

    width: ToolSize
    side: Literal["outward", "inward"] = "outward"


def _take(recipe: Kerf, work: Work) -> None:
    half = recipe.width / 2.0
    work.kerf = half if recipe.side == "outward" else -half


STEP = Step(
    field="kerf",
    recipe=Kerf,
    rank=90,
    title="Kerf",
    hint="moves the line by half the width of the cut",
    first={"width": 0.2, "side": "outward"},
    take=_take,
    inputs=(
        Figure("width", "Width"),
        Option("side", "Moved", (("outward", "outward"), ("inward", "inward"))),
    ),
)
