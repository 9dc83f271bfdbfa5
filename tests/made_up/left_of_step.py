"""A made-up step of preparing: only what is left of a line across the piece is made."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ulvent.core.base.inputs import Figure
from ulvent.core.steps.step import Step
from ulvent.core.steps.work import Work


def _take(upright: float, work: Work) -> None:
    work.cutouts = [one for one in work.cutouts if one.area.bounds[2] < upright]


STEP = Step(
    field="left_of",
    recipe=Annotated[float, Field(allow_inf_nan=False)],
    rank=5,
    title="Left part only",
    hint="letters that lie left of a line",
    first=0.0,
    take=_take,
    inputs=(Figure("", "Left of"),),
)
