"""Letters that overlap become one outline."""

from __future__ import annotations

from ulvent.core.base.fields import Model, ToolSizeOrNone
from ulvent.core.base.inputs import Figure
from ulvent.core.steps.cutout import merged
from ulvent.core.steps.step import Step
from ulvent.core.steps.work import Work


class Join(Model):
    """Letters that overlap become one outline.

    over
        only where they overlap by more than this, mm: zero joins all that touch
    """

    over: ToolSizeOrNone = 0.0


def _take(recipe: Join, work: Work) -> None:
    half = recipe.over / 2.0
    work.cutouts = merged(work.cutouts, lambda common: not common.offset(-half).is_empty)


STEP = Step(
    field="join",
    recipe=Join,
    rank=20,
    title="Join",
    hint="what overlaps becomes one outline",
    first={"over": 0},
    take=_take,
    inputs=(Figure("over", "Overlapping by more than"),),
)
