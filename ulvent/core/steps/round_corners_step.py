"""Corners rounded to a radius, for a round cutter."""

from __future__ import annotations

from dataclasses import replace

from ulvent.core.base.fields import Model, SizeOrNone
from ulvent.core.base.inputs import Figure
from ulvent.core.shapes import Region
from ulvent.core.steps.step import Step
from ulvent.core.steps.work import Work

_CORNER = 0.25
"""What rounding takes from a corner, in squares of the radius: a right angle loses 1 − π/4."""
_TIP = 3.0
"""What rounding takes from a corner reaches no farther than this, in radii; a stroke does."""
_BACK = 1e-4
"""What is put back is so much larger, mm, that it holds together with the rest."""


class Rounding(Model):
    """Corners rounded to a least radius, mm, for a cutter: where ink is outside, and inside."""

    outside: SizeOrNone = 0.0
    inside: SizeOrNone = 0.0


def _take(recipe: Rounding, work: Work) -> None:
    thin = 0
    for index, letter in enumerate(work.cutouts):
        area, sharp = rounded_corners(letter.area, recipe.outside, recipe.inside)
        work.cutouts[index] = replace(letter, area=area, outline=None)
        thin += sharp
    if thin:
        work.notes.append(
            f"{thin} strokes are thinner than {2 * recipe.outside:g}"
            " mm and keep their corners: rounding would take them away"
        )


def rounded_corners(area: Region, outside: float, inside: float) -> tuple[Region, int]:
    """An area with its corners rounded to two radii, mm; how many strokes were too thin for it.

    Those are left as they are.
    """
    thin = 0
    if outside > 0.0:
        opened = area.offset(-outside).offset(outside)
        beyond = opened.offset(_TIP * outside)
        kept: list[Region] = []
        for rest in area.minus(opened).parts:
            if rest.area < _CORNER * outside * outside:
                continue
            far = not rest.minus(beyond).is_empty
            if far or len(rest.offset(_BACK).meet(opened).parts) > 1:
                kept.append(rest.offset(_BACK))
        thin = len(kept)
        area = Region.joined([opened, *kept]).meet(area) if kept else opened
    if inside > 0.0:
        area = area.offset(inside).offset(-inside)
    return area, thin


STEP = Step(
    field="rounding",
    recipe=Rounding,
    rank=80,
    title="Round corners",
    hint="to a radius, for a round cutter",
    first={"outside": 0.3, "inside": 0.3},
    take=_take,
    inputs=(Figure("outside", "Outer radius"), Figure("inside", "Inner radius")),
)
