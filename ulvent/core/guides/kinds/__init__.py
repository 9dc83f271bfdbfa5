"""The kinds of guide, one a module.

A new kind is a new module here, with its recipe and its `GuideKind`.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Union

from pydantic import Field

from ulvent.core.base.register import found_records
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kind import GuideKind

KINDS: dict[str, GuideKind] = {kind.name: kind for kind in found_records(__name__, GuideKind)}
"""All kinds by their names, in the order in which they are listed."""

if TYPE_CHECKING:
    AnyGuide = GuideRecipe
    Guide = GuideRecipe
else:
    AnyGuide = Union[tuple(kind.recipe for kind in KINDS.values())]  # noqa: UP007
    Guide = Annotated[AnyGuide, Field(discriminator="kind")]


def kind_of(guide: GuideRecipe) -> GuideKind:
    """What is known of a guide's kind."""
    return KINDS[guide.kind]
