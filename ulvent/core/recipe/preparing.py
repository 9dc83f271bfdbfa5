"""The recipe of preparing: how lettering becomes outlines that a tool can follow.

The steps are taken in the order of the fields, each on what the last one gave. All are
data: leaving a step out gives back what was there before it.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from pydantic import create_model

from ulvent.core.base.fields import Model
from ulvent.core.steps import STEPS, Step


class _Preparing(Model):
    """What is done to lettering before a tool gets it: a field for each step."""

    @property
    def taken(self) -> tuple[tuple[Step, Any], ...]:
        """The steps that are taken, in order, each with its recipe."""
        recipes = [(step, getattr(self, step.field)) for step in STEPS.values()]
        return tuple((step, recipe) for step, recipe in recipes if recipe != step.left_out)

    @property
    def shapes(self) -> tuple[tuple[str, str | None], ...]:
        """What the steps name, each with the field that names it; none is the blank."""
        return tuple(named for step, recipe in self.taken for named in step.shapes(recipe))


if TYPE_CHECKING:

    class Prepare(_Preparing):
        def __init__(self, **recipes: Any) -> None: ...
        def __getattr__(self, field: str) -> Any: ...

else:
    Prepare = create_model(
        "Prepare",
        __base__=_Preparing,
        __doc__=_Preparing.__doc__,
        **{
            step.field: (
                step.recipe | None if step.left_out is None else step.recipe,
                step.left_out,
            )
            for step in STEPS.values()
        },
    )
