"""The kinds of guide, one a module.

A new kind is a new module here, with its recipe and its `GuideKind`.
"""

from __future__ import annotations

from functools import cache
from typing import TYPE_CHECKING, Annotated, Any, Union

from pydantic import Field, TypeAdapter

from ulvent.core.base.inputs import Figure, Way
from ulvent.core.base.register import found_records
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import GuideKind, Sizes, Start

KINDS: dict[str, GuideKind] = {kind.name: kind for kind in found_records(__name__, GuideKind)}
"""All kinds by their names, in the order in which they are listed."""

if TYPE_CHECKING:
    AnyGuide = GuideRecipe
    Guide = GuideRecipe
else:
    AnyGuide = Union[tuple(kind.recipe for kind in KINDS.values())]  # noqa: UP007
    Guide = Annotated[AnyGuide, Field(discriminator="kind")]

STARTS: dict[str, Start] = {
    start.name: start
    for start in sorted(
        (start for kind in KINDS.values() for start in kind.starts), key=lambda one: one.rank
    )
}
"""Guides to begin with by their names, in the order in which they are offered."""


def parsed_guide(recipe: dict[str, Any]) -> AnyGuide:
    """A guide from its recipe as plain data.

    Raises
    ------
    ValidationError
        When it is none.
    """
    return _any_guide().validate_python(recipe)


@cache
def _any_guide() -> TypeAdapter[AnyGuide]:
    return TypeAdapter(Guide)


def started_guide(start: Start, sizes: Sizes) -> AnyGuide:
    """A guide as it is offered to begin with; its id is the start's stem."""
    kind = next(kind for kind in KINDS.values() if start in kind.starts)
    return parsed_guide({"id": start.stem, "kind": kind.name, **start.recipe(sizes)})


def kind_of(guide: GuideRecipe) -> GuideKind:
    """What is known of a guide's kind."""
    return KINDS[guide.kind]


SCALE = Figure("scaled", "Scale of the whole", "×")
"""The figure by which every guide can be sized."""


def sizes_of(guide: GuideRecipe) -> dict[str, Figure]:
    """The figures of a guide that lettering can size, by their fields; the usual one first."""
    known = {one.field: one for one in figures_of(guide)}
    given = [known[name] for name in kind_of(guide).sized_by if getattr(guide, name) is not None]
    return {one.field: one for one in (*given, SCALE)}


def figures_of(guide: GuideRecipe) -> list[Figure]:
    """All figures that a guide of this kind may have, in the order in which they are shown."""
    found: list[Figure] = []
    for one in kind_of(guide).inputs:
        found += one.figures if isinstance(one, Way) else [one] if isinstance(one, Figure) else []
    return found
