"""What Ulvent knows of one step of preparing: one record each.

Everything that differs from step to step is here: its recipe, its words, what a person sets of
it, and what it does.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from ulvent.core.base.inputs import GuideChoice, Input
from ulvent.core.shapes import Region
from ulvent.core.steps.work import Work


@dataclass(frozen=True, eq=False)
class Step:
    """One step of preparing.

    field, recipe, left_out
        the field of the recipe of preparing, the type of its value, and the value for which the
        step is not taken: none, an empty tuple for what can be done several times, or a figure
    rank
        which one is taken before which: each works on what the last one gave
    title, hint
        what it is called and what it does, in words
    first
        its recipe to begin with; guides that it names are left out
    inputs
        what a person may set of it; in a list, of its first entry
    take
        does it, given its recipe
    cut_from
        of a step that takes letters out of a shape: that shape
    """

    field: str
    recipe: Any
    rank: float
    title: str
    hint: str
    first: Any
    take: Callable[[Any, Work], None]
    inputs: tuple[Input, ...] = ()
    left_out: Any = None
    cut_from: Callable[[Any, Work], Region] | None = None

    def shapes(self, recipe: Any) -> Iterator[tuple[str, str | None]]:
        """The shapes that a recipe names, each with the field; none is the blank."""
        several = isinstance(recipe, tuple)
        for index, one in enumerate(recipe if several else (recipe,)):
            where = f"{self.field}[{index}]" if several else self.field
            for choice in self.inputs:
                if isinstance(choice, GuideChoice):
                    yield f"{where}.{choice.field}", getattr(one, choice.field)
