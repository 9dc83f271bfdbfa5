"""Recipes of guides and blanks: what a person decided about them, as data.

Every guide's recipe is in a frame of its own, with y up: the line is made there, then
scaled by `scaled`, turned by `turned` about that frame's origin, and moved so that the
origin lies at `centre`. A recipe never holds what follows from it.
"""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ulvent.core.base.errors import FieldProblem, PieceError

MOST_PATH_DATA = 200_000
MOST_NODES = 1000
FARTHEST = 100_000.0
"""Largest coordinate or size, mm: a hundred metres."""
LONGEST = 1e6
"""Longest guide, mm: a kilometre."""

Coordinate = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False)]
Size = Annotated[float, Field(gt=0.0, le=FARTHEST, allow_inf_nan=False)]
SizeOrNone = Annotated[float, Field(ge=0.0, le=FARTHEST, allow_inf_nan=False)]
Degrees = Annotated[float, Field(ge=-36_000.0, le=36_000.0, allow_inf_nan=False)]
Identifier = Annotated[str, Field(pattern=r"^[A-Za-z][A-Za-z0-9_-]{0,63}$")]
PathData = Annotated[str, Field(min_length=1, max_length=MOST_PATH_DATA)]
Turn = Literal["clockwise", "counterclockwise"]
XY = tuple[Coordinate, Coordinate]


class Model(BaseModel):
    """Frozen, and strict about fields it does not know."""

    model_config = ConfigDict(extra="forbid", frozen=True)


class WrongRecipeError(ValueError):
    """Fields of one recipe that do not go together; names the field."""

    def __init__(self, field: str, reason: str) -> None:
        self.field = field
        self.reason = reason
        super().__init__(f"{field}: {reason}")


def exactly(count: int, **figures: float | None) -> None:
    """Refuse unless `count` of the named figures are given.

    Raises
    ------
    WrongRecipeError
        Naming the first figure that is missing or too many.
    """
    given = [name for name, value in figures.items() if value is not None]
    if len(given) == count:
        return
    names = ", ".join(figures)
    number = {1: "one", 2: "two"}[count]
    if len(given) > count:
        raise WrongRecipeError(given[count], f"is one too many: give {number} of {names}")
    field = next(name for name in figures if name not in given)
    raise WrongRecipeError(field, f"is missing: give {number} of {names}")


def refuse_wide_radius(radius: float, width: float, height: float) -> None:
    """Refuse corners that are rounder than the sides of a rectangle have room for."""
    most = min(width, height) / 2.0
    if radius > most:
        raise WrongRecipeError("radius", f"must be at most {most:g}, half the shorter side")


# --------------------------------------------------------------------- guides


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
    """

    id: Identifier
    centre: XY = (0.0, 0.0)
    turned: Degrees = 0.0
    scaled: Annotated[float, Field(ge=1e-3, le=1e3, allow_inf_nan=False)] = 1.0
    seam: Coordinate = 0.0
    reverse: bool = False
    part: tuple[Coordinate, Coordinate] | None = None
    corners: Literal["pass", "keep-off", "round"] = "pass"
    corner_radius: SizeOrNone = 0.0
    hidden: bool = False
    removed: bool = False
    output: Literal["cut", "draw", "engrave"] | None = None

    @property
    def leans_on(self) -> tuple[str, ...]:
        """Ids of the guides that this one is made from."""
        return ()


class CircleGuide(GuideRecipe):
    """A circle by diameter, radius or length round. Its seam is at the angle `start`, degrees."""

    kind: Literal["circle"]
    diameter: Size | None = None
    radius: Size | None = None
    round: Size | None = None
    start: Degrees = 90.0
    turn: Turn = "clockwise"

    @model_validator(mode="after")
    def _one_size(self) -> Self:
        exactly(1, diameter=self.diameter, radius=self.radius, round=self.round)
        return self


class ArcThroughGuide(GuideRecipe):
    """The circular arc from the first point over the second to the third."""

    kind: Literal["arc-through"]
    points: tuple[XY, XY, XY]


class ArcGuide(GuideRecipe):
    """An arc of `angle` degrees with its middle at the top of its circle, or at its bottom."""

    kind: Literal["arc"]
    radius: Size
    angle: Annotated[float, Field(gt=0.0, lt=360.0, allow_inf_nan=False)]
    side: Literal["top", "bottom"] = "top"


class ArchGuide(GuideRecipe):
    """The arc over a chord; a negative rise hangs below it. The chord's middle is the centre."""

    kind: Literal["arch"]
    chord: Size
    rise: Coordinate

    @model_validator(mode="after")
    def _rises(self) -> Self:
        if self.rise == 0.0:
            raise WrongRecipeError("rise", "must not be 0: that is a straight line")
        return self


class EllipseGuide(GuideRecipe):
    """An ellipse, or the arc of one that begins at the angle `start` and goes on by `angle`."""

    kind: Literal["ellipse"]
    width: Size
    height: Size
    start: Degrees = 180.0
    angle: Annotated[float, Field(gt=0.0, le=360.0, allow_inf_nan=False)] = 360.0
    turn: Turn = "clockwise"


class LineGuide(GuideRecipe):
    """A straight line; the centre is its middle."""

    kind: Literal["line"]
    length: Size


class LaidFlatGuide(GuideRecipe):
    """A straight line as long as another guide."""

    kind: Literal["laid-flat"]
    guide: Identifier

    @property
    def leans_on(self) -> tuple[str, ...]:
        return (self.guide,)


class WaveGuide(GuideRecipe):
    """A sine wave; `height` from valley to crest. Half a wave is an arch."""

    kind: Literal["wave"]
    length: Size
    height: Size
    waves: Annotated[float, Field(gt=0.0, le=500.0, allow_inf_nan=False)] = 2.0
    phase: Degrees = 0.0


class SpiralGuide(GuideRecipe):
    """A spiral with even gain; two of outer diameter, gain, turns and length give its extent.

    start_radius, inner
        where it starts, as a radius or as a diameter
    inward
        whether it runs from the outside in
    """

    kind: Literal["spiral"]
    start_radius: SizeOrNone | None = None
    inner: SizeOrNone | None = None
    outer: Size | None = None
    gain: Size | None = None
    turns: Annotated[float, Field(gt=0.0, le=500.0, allow_inf_nan=False)] | None = None
    length: Size | None = None
    start: Degrees = 90.0
    turn: Turn = "clockwise"
    inward: bool = False

    @model_validator(mode="after")
    def _two_of_four(self) -> Self:
        exactly(1, start_radius=self.start_radius, inner=self.inner)
        exactly(2, outer=self.outer, gain=self.gain, turns=self.turns, length=self.length)
        return self


class GrowingSpiralGuide(GuideRecipe):
    """A spiral every turn of which lies `growth` times as far out as the last."""

    kind: Literal["growing-spiral"]
    start_radius: Size | None = None
    inner: Size | None = None
    growth: Annotated[float, Field(gt=1.0, le=100.0, allow_inf_nan=False)]
    outer: Size | None = None
    turns: Annotated[float, Field(gt=0.0, le=500.0, allow_inf_nan=False)] | None = None
    length: Size | None = None
    start: Degrees = 90.0
    turn: Turn = "clockwise"
    inward: bool = False

    @model_validator(mode="after")
    def _one_extent(self) -> Self:
        exactly(1, start_radius=self.start_radius, inner=self.inner)
        exactly(1, outer=self.outer, turns=self.turns, length=self.length)
        return self


class RectangleGuide(GuideRecipe):
    """A rectangle, its corners rounded by `radius`. It starts in the middle of its left side."""

    kind: Literal["rectangle"]
    width: Size
    height: Size
    radius: SizeOrNone = 0.0
    turn: Turn = "clockwise"
    corners: Literal["pass", "keep-off", "round"] = "keep-off"

    @model_validator(mode="after")
    def _radius_fits(self) -> Self:
        refuse_wide_radius(self.radius, self.width, self.height)
        return self


class PolygonGuide(GuideRecipe):
    """A regular polygon standing on a side; `across` is the circle through its corners."""

    kind: Literal["polygon"]
    sides: Annotated[int, Field(ge=3, le=200)]
    across: Size
    radius: SizeOrNone = 0.0
    turn: Turn = "clockwise"
    corners: Literal["pass", "keep-off", "round"] = "keep-off"


class StarGuide(GuideRecipe):
    """A star with a tip at the top; a starburst is one with many tips."""

    kind: Literal["star"]
    tips: Annotated[int, Field(ge=3, le=200)]
    outer: Size
    inner: Size
    tip_radius: SizeOrNone = 0.0
    valley_radius: SizeOrNone = 0.0
    turn: Turn = "clockwise"
    corners: Literal["pass", "keep-off", "round"] = "keep-off"

    @model_validator(mode="after")
    def _has_tips(self) -> Self:
        if self.inner >= self.outer:
            raise WrongRecipeError("inner", f"must be less than the outer {self.outer:g}")
        return self


class SuperellipseGuide(GuideRecipe):
    """|2x/width|ⁿ + |2y/height|ⁿ = 1: from an ellipse at exponent 2 towards a rectangle."""

    kind: Literal["superellipse"]
    width: Size
    height: Size
    exponent: Annotated[float, Field(ge=2.0, le=40.0, allow_inf_nan=False)] = 2.5
    turn: Turn = "clockwise"


class Node(Model):
    """A placed point of a drawn guide.

    joint
        whether the line may turn there (`corner`), goes on in its direction (`smooth`), or
        also with equal handles (`even`)
    before, after
        its handles, relative to it; without them the line finds its own way
    """

    at: XY
    joint: Literal["smooth", "even", "corner"] = "smooth"
    before: XY | None = None
    after: XY | None = None


class DrawnGuide(GuideRecipe):
    """Placed points joined by smooth curves."""

    kind: Literal["drawn"]
    nodes: Annotated[tuple[Node, ...], Field(min_length=2, max_length=MOST_NODES)]
    closed: bool = False


class PathGuide(GuideRecipe):
    """A guide given as geometry: SVG path data of one line, mm, y up.

    source
        where it was taken from
    """

    kind: Literal["path"]
    d: PathData
    source: Annotated[str, Field(max_length=200)] = ""


class BetweenGuide(GuideRecipe):
    """The line between two other guides, at `share` of the way from the first to the second."""

    kind: Literal["between"]
    first: Identifier
    second: Identifier
    share: Annotated[float, Field(gt=0.0, lt=1.0, allow_inf_nan=False)] = 0.5

    @property
    def leans_on(self) -> tuple[str, ...]:
        return (self.first, self.second)


class ParallelGuide(GuideRecipe):
    """Another guide at a distance, positive to the left of its travel."""

    kind: Literal["parallel"]
    guide: Identifier
    distance: Coordinate

    @property
    def leans_on(self) -> tuple[str, ...]:
        return (self.guide,)


AnyGuide = (
    CircleGuide
    | ArcThroughGuide
    | ArcGuide
    | ArchGuide
    | EllipseGuide
    | LineGuide
    | LaidFlatGuide
    | WaveGuide
    | SpiralGuide
    | GrowingSpiralGuide
    | RectangleGuide
    | PolygonGuide
    | StarGuide
    | SuperellipseGuide
    | DrawnGuide
    | PathGuide
    | BetweenGuide
    | ParallelGuide
)
Guide = Annotated[AnyGuide, Field(discriminator="kind")]


# --------------------------------------------------------------------- blanks


class DiscBlank(Model):
    """A round blank, centred on the origin, as all blanks are."""

    kind: Literal["disc"]
    diameter: Size


class RingBlank(Model):
    """A disc with a round hole in its middle."""

    kind: Literal["ring"]
    outer: Size
    inner: Size

    @model_validator(mode="after")
    def _is_a_ring(self) -> Self:
        if self.inner >= self.outer:
            raise WrongRecipeError("inner", f"must be less than the outer {self.outer:g}")
        return self


class RectangleBlank(Model):
    """A rectangle, its corners rounded by `radius`."""

    kind: Literal["rectangle"]
    width: Size
    height: Size
    radius: SizeOrNone = 0.0

    @model_validator(mode="after")
    def _radius_fits(self) -> Self:
        refuse_wide_radius(self.radius, self.width, self.height)
        return self


class BannerBlank(Model):
    """A ribbon whose ends are cut in by `notch`; its middle lies `rise` above its ends."""

    kind: Literal["banner"]
    width: Size
    height: Size
    notch: SizeOrNone = 0.0
    rise: Coordinate = 0.0

    @model_validator(mode="after")
    def _notches_fit(self) -> Self:
        if 2.0 * self.notch >= self.width:
            raise WrongRecipeError("notch", f"must be less than half the width {self.width:g}")
        return self


class TagBlank(Model):
    """A tag: a rectangle with rounded corners and a hole, `hole_inset` from its left edge."""

    kind: Literal["tag"]
    width: Size
    height: Size
    radius: SizeOrNone = 0.0
    hole: Size
    hole_inset: Size

    @model_validator(mode="after")
    def _hole_is_inside(self) -> Self:
        refuse_wide_radius(self.radius, self.width, self.height)
        room = min(self.hole_inset, self.width - self.hole_inset, self.height / 2.0)
        if self.hole >= 2.0 * room:
            raise WrongRecipeError("hole", f"must be less than {2.0 * room:g} to lie inside")
        return self


class OutlineBlank(Model):
    """A free outline: closed lines as SVG path data, mm, y up, the outer one first."""

    kind: Literal["outline"]
    lines: Annotated[tuple[PathData, ...], Field(min_length=1, max_length=200)]
    source: Annotated[str, Field(max_length=200)] = ""


AnyBlank = DiscBlank | RingBlank | RectangleBlank | BannerBlank | TagBlank | OutlineBlank
Blank = Annotated[AnyBlank, Field(discriminator="kind")]


class Sheet(Model):
    """The sheet that the blank lies on, centred, mm."""

    width: Size
    height: Size


class ToolArea(Model):
    """What the tool reaches, centred, mm; `turned` lays it across."""

    width: Size
    height: Size
    turned: bool = False


def refuse_rings(guides: tuple[AnyGuide, ...]) -> None:
    """Refuse guides that lean on a guide that is not there, or on each other in a ring.

    Raises
    ------
    PieceError
        Naming the guide.
    """
    by_id = {guide.id: guide for guide in guides}
    problems: list[FieldProblem] = []
    for index, guide in enumerate(guides):
        for name in ("guide", "first", "second"):
            other = getattr(guide, name, None)
            if isinstance(other, str) and other not in by_id:
                where = f"guides[{index}].{name}"
                problems.append(FieldProblem(where, f"there is no guide “{other}”"))
    if not problems:
        for index, guide in enumerate(guides):
            if _reaches(guide, guide.id, by_id, set()):
                reason = "leans on itself, by way of the guides it is made from"
                problems.append(FieldProblem(f"guides[{index}]", reason))
    if problems:
        raise PieceError(problems)


def _reaches(guide: AnyGuide, wanted: str, by_id: dict[str, AnyGuide], seen: set[str]) -> bool:
    for other in guide.leans_on:
        if other == wanted:
            return True
        if other not in seen:
            seen.add(other)
            if _reaches(by_id[other], wanted, by_id, seen):
                return True
    return False
