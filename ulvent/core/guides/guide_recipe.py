"""What the recipes of all guides have.

Every guide's recipe is in a frame of its own, with y up: the line is made there, then
scaled by `scaled`, turned by `turned` about that frame's origin, and moved so that the
origin lies at `centre`. A recipe never holds what follows from it.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, ClassVar, Literal

from pydantic import Field

from ulvent.core.base.fields import (
    XY,
    Coordinate,
    Degrees,
    Identifier,
    Model,
    SizeOrNone,
)
from ulvent.core.base.outputs import Name, Output

LEAST_SCALE, MOST_SCALE = 1e-3, 1e3

CornerChoice = Literal["pass", "keep-off", "round"]


class GuideRecipe(Model):
    """What all guides have.

    centre, turned, scaled
        where the recipe's own frame lies: mm, degrees, factor
    seam
        station of the recipe's line at which a closed guide starts, mm
    reverse
        whether the guide runs against its recipe
    part
        the stations between which the guide is used; a closed guide's part may pass its seam
    corners
        how lettering takes corners: as they come, keeping whole letters off them, or
        following the line rounded by `corner_radius`
    hidden
        not shown on the drawing
    removed
        deleted while something stood on it: the line is kept, and nothing else
    output
        a line of its own for the tool: cut, drawn or engraved; none where it only guides
    name
        what a person calls it
    """

    if TYPE_CHECKING:
        # Every recipe says its own, after these fields.
        kind: str

    leaning_fields: ClassVar[tuple[str, ...]] = ()
    """Fields that name the guides from which this one is made."""
    keeps_scale: ClassVar[bool] = False
    """Whether its size is said by `scaled`, for want of figures; others take it into theirs."""

    id: Identifier
    centre: XY = (0.0, 0.0)
    turned: Degrees = 0.0
    scaled: Annotated[float, Field(ge=LEAST_SCALE, le=MOST_SCALE, allow_inf_nan=False)] = 1.0
    seam: Coordinate = 0.0
    reverse: bool = False
    part: tuple[Coordinate, Coordinate] | None = None
    corners: CornerChoice = "pass"
    corner_radius: SizeOrNone = 0.0
    hidden: bool = False
    removed: bool = False
    output: Output | None = None
    name: Name = ""

    @property
    def leans_on(self) -> tuple[str, ...]:
        """Ids of the guides that this one is made from."""
        return tuple(getattr(self, field) for field in self.leaning_fields)
