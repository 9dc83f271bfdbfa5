"""How far curves may be from what they stand for."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ulvent.core.base.inputs import Figure
from ulvent.core.base.tolerances import FITTING
from ulvent.core.steps.step import Step
from ulvent.core.steps.work import Work


def _take(within: float, work: Work) -> None:
    work.few_nodes = within


STEP = Step(
    field="few_nodes",
    recipe=Annotated[float, Field(ge=0.001, le=1.0, allow_inf_nan=False)],
    rank=100,
    title="Fewer points",
    hint=f"without it, curves stay within {FITTING:g} mm",
    first=0.02,
    take=_take,
    inputs=(Figure("", "Within"),),
    left_out=FITTING,
)
