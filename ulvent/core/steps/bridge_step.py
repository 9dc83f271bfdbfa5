"""Every counter tied to the sheet, so that a stencil keeps it."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Self

from pydantic import Field, model_validator

from ulvent.core.base.fields import Model, ToolSize, WrongRecipeError
from ulvent.core.base.inputs import ByHand, Figure
from ulvent.core.shapes import Region
from ulvent.core.shapes.scattered import Scattered
from ulvent.core.steps.bridge_search import (
    Bridge,
    BridgeChange,
    bridges_of,
    fall_of,
    letter_bridges,
    sheet_round,
)
from ulvent.core.steps.cutout import Cutout
from ulvent.core.steps.step import Step
from ulvent.core.steps.work import Work

MOST_BRIDGES = 2000


class Bridges(Model):
    """Every counter tied to the sheet by one or more bridges."""

    width: ToolSize = 1.0
    changes: Annotated[tuple[BridgeChange, ...], Field(max_length=MOST_BRIDGES)] = ()

    @model_validator(mode="after")
    def _each_once(self) -> Self:
        seen: set[tuple[str, int, int]] = set()
        for index, change in enumerate(self.changes):
            which = (change.lettering, change.letter, change.bridge)
            if which in seen:
                raise WrongRecipeError(f"changes[{index}]", "changes a bridge a second time")
            seen.add(which)
        return self


def _take(recipe: Bridges, work: Work) -> None:
    """Bridges of single letters, always the same for one; then of what several enclose."""
    found: list[Bridge] = []
    kept_open: list[Region] = []
    for letter in work.cutouts:
        if letter.place >= 0 and letter.shape is not None:
            mine = _changes(recipe, letter)
            found.extend(_own_bridges(recipe, letter, mine))
            if any(change.removed for change in mine):
                kept_open.append(letter.area.filled())
    letters = _without_ties(work.cutouts, found)
    rest = _of_several(recipe, letters, kept_open, work)
    if rest:
        letters = _without_ties(letters, rest)
    work.cutouts = letters
    work.bridges += [*found, *(replace(tie, lettering=work.owner) for tie in rest)]


def _changes(recipe: Bridges, letter: Cutout) -> tuple[BridgeChange, ...]:
    return tuple(
        change
        for change in recipe.changes
        if change.letter == letter.place and change.lettering in ("", letter.lettering)
    )


def _own_bridges(
    recipe: Bridges, letter: Cutout, changes: tuple[BridgeChange, ...]
) -> list[Bridge]:
    assert letter.shape is not None
    if letter.local is not None and letter.outline is not None:
        own = letter_bridges(letter.shape, letter.scale, recipe.width, changes)
        ties = [tie.moved(letter.local) for tie in own]
    else:
        ties = bridges_of(letter.area, recipe.width, changes=changes)
    return [replace(tie, lettering=letter.lettering, letter=letter.place) for tie in ties]


def _of_several(
    recipe: Bridges, letters: list[Cutout], kept_open: list[Region], work: Work
) -> list[Bridge]:
    """Bridges of what still falls out, and was not opened by hand."""
    ink = Region.joined(letter.area for letter in letters)
    sheet = work.cut_from
    if sheet is None:
        sheet = Region.joined([work.shapes.blank, sheet_round(ink, 3.0 * recipe.width)])
    fall = fall_of(ink, recipe.width, sheet)
    loose = [
        island
        for island in fall.islands
        if not any(not island.meet(shut).is_empty for shut in kept_open)
    ]
    if not loose:
        return []
    near = Scattered(Region.joined(loose).offset(_NEAR).parts)
    held: list[Bridge] = []
    for tie in bridges_of(ink, recipe.width, fall):
        region = tie.region()
        if not region.meet(near.near(region.bounds)).is_empty:
            held.append(tie)
    return held


_NEAR = 0.1
"""A bridge that comes so near to what falls out, mm, holds it."""


def _without_ties(letters: list[Cutout], ties: list[Bridge]) -> list[Cutout]:
    """Letters with bridges left standing in them."""
    if not ties:
        return letters
    regions = Scattered([tie.region() for tie in ties])
    found: list[Cutout] = []
    for letter in letters:
        mine = regions.near(letter.area.bounds)
        left = letter.area if mine.is_empty else letter.area.minus(mine)
        if left.area == letter.area.area:
            found.append(letter)
        else:
            found.append(replace(letter, area=left, outline=None))
    return found


STEP = Step(
    field="bridges",
    recipe=Bridges,
    rank=60,
    title="Bridges",
    hint="ties that keep the counters of a stencil",
    first={"width": 1, "changes": []},
    take=_take,
    inputs=(Figure("width", "Width"), ByHand("changes", "changed by hand")),
)
