"""Blanks: their recipes, and their outlines, which are closed curves about the origin.

Each kind of blank is one `BlankKind`: its recipe, its outline, its figures, its words.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Annotated, Any, Literal, Self

from pydantic import Field, model_validator

from ulvent.core.base.arrays import Point
from ulvent.core.base.errors import CurveError, wrong_field
from ulvent.core.base.fields import (
    LENGTH,
    Coordinate,
    Model,
    PathData,
    Size,
    SizeOrNone,
    Text,
    WrongRecipeError,
    refuse_wide_radius,
)
from ulvent.core.base.figures import shown
from ulvent.core.base.inputs import Figure, Input
from ulvent.core.base.remembered import remembered
from ulvent.core.curves import BezierPath, Chain, CircularArc, Curve, LineSegment
from ulvent.core.curves.bounds import curve_bounds
from ulvent.core.guides.kind import DrawnFigure, beside
from ulvent.core.guides.round_blanks import (
    BandBlank,
    RoundBlank,
    SideBlank,
    SignetBlank,
    round_figures,
    round_outlines,
    round_words,
)
from ulvent.core.guides.shared_lines import arch_line, around, rectangle_line

SHEETS: dict[str, tuple[float, float]] = {
    "A5": (210.0, 148.0),
    "A4": (297.0, 210.0),
    "A3": (420.0, 297.0),
    "A2": (594.0, 420.0),
    "Letter": (279.4, 215.9),
    "Tabloid": (431.8, 279.4),
    "12 × 12 in": (304.8, 304.8),
    "12 × 24 in": (609.6, 304.8),
    "24 × 36 in": (914.4, 609.6),
    "300 × 200 mm": (300.0, 200.0),
    "600 × 300 mm": (600.0, 300.0),
    "600 × 400 mm": (600.0, 400.0),
    "900 × 600 mm": (900.0, 600.0),
}
"""Common sheets, mm, lying across. A sizes: ISO 216; the others: common practice, no source."""


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
    lines: Annotated[tuple[Annotated[PathData, LENGTH], ...], Field(min_length=1, max_length=200)]
    source: Annotated[Text, Field(max_length=200)] = ""


AnyBlank = (
    DiscBlank | RingBlank | RectangleBlank | BannerBlank | TagBlank | OutlineBlank | RoundBlank
)
Blank = Annotated[AnyBlank, Field(discriminator="kind")]


@dataclass(frozen=True, eq=False)
class BlankKind:
    """One kind of blank.

    outlines
        its closed curves about the origin, the outer one first
    title, words
        what it is called, and one of it in a few words with its size
    first
        the recipe to begin with; none where it comes from a file
    inputs
        what a person may set of it
    drawn
        its figures on the drawing
    """

    recipe: type[Model]
    outlines: Callable[[Any], tuple[Curve, ...]]
    title: str
    words: Callable[[Any], str]
    first: dict[str, Any] | None = None
    inputs: tuple[Input, ...] = ()
    drawn: Callable[[Any], list[DrawnFigure]] = field(default=lambda _: [])

    @property
    def name(self) -> str:
        """What recipes of this kind say that they are."""
        return str(self.recipe.model_fields["kind"].annotation.__args__[0])  # type: ignore[union-attr]


# --------------------------------------------------------------------- outlines


def _circle(centre: Point, diameter: float) -> Curve:
    return CircularArc.circle(centre, diameter / 2.0, 180.0, clockwise=True)


def _disc(blank: DiscBlank) -> tuple[Curve, ...]:
    return (_circle((0.0, 0.0), blank.diameter),)


def _ring(blank: RingBlank) -> tuple[Curve, ...]:
    return (_circle((0.0, 0.0), blank.outer), _circle((0.0, 0.0), blank.inner))


def _rectangle(blank: RectangleBlank) -> tuple[Curve, ...]:
    return (rectangle_line(blank.width, blank.height, blank.radius),)


def _tag(blank: TagBlank) -> tuple[Curve, ...]:
    hole = (blank.hole_inset - blank.width / 2.0, 0.0)
    outer = rectangle_line(blank.width, blank.height, blank.radius)
    return (outer, _circle(hole, blank.hole))


def _banner(blank: BannerBlank) -> tuple[Curve, ...]:
    """Both long edges are the same arch, one above the other; the ends are cut in."""
    x, y, drop = blank.width / 2.0, blank.height / 2.0, blank.rise / 2.0
    pieces: list[Curve] = [
        arch_line(blank.width, blank.rise, (0.0, y - drop)),
        _polyline([(x, y - drop), (x - blank.notch, -drop), (x, -y - drop)]),
        arch_line(blank.width, blank.rise, (0.0, -y - drop)).reversed(),
        _polyline([(-x, -y - drop), (-x + blank.notch, -drop), (-x, y - drop)]),
    ]
    return (Chain(pieces, closed=True),)


def _polyline(points: list[Point]) -> Curve:
    return BezierPath([LineSegment(a, b) for a, b in zip(points[:-1], points[1:], strict=True)])


def _free(blank: OutlineBlank) -> tuple[Curve, ...]:
    # Imported when it is needed: reading path data is not for every start of the command line.
    from ulvent.core.guides.pathdata import curve_from_path_data

    curves: list[Curve] = []
    for index, data in enumerate(blank.lines):
        where = f"blank.lines[{index}]"
        try:
            curve = curve_from_path_data(data)
        except CurveError as error:
            raise wrong_field(where, str(error)) from error
        if not curve.closed:
            raise wrong_field(where, "a blank's outline must be closed: end it with Z")
        curves.append(curve)
    return tuple(curves)


# ---------------------------------------------------------------------- figures


def _drawn_disc(blank: DiscBlank) -> list[DrawnFigure]:
    rim = around(blank.diameter / 2.0, -20.0)
    return [beside("diameter", "Diameter of the blank", "⌀ ", blank.diameter, rim)]


def _drawn_ring(blank: RingBlank) -> list[DrawnFigure]:
    outer, inner = around(blank.outer / 2.0, -20.0), around(blank.inner / 2.0, -40.0)
    return [
        beside("outer", "Outer diameter of the blank", "⌀ ", blank.outer, outer),
        beside("inner", "Inner diameter of the blank", "⌀ ", blank.inner, inner),
    ]


def _drawn_box(blank: RectangleBlank | BannerBlank | TagBlank) -> list[DrawnFigure]:
    x, y = blank.width / 2.0, blank.height / 2.0
    drop = blank.rise / 2.0 if isinstance(blank, BannerBlank) else 0.0
    return [
        beside("width", "Width of the blank", "↔ ", blank.width, (0.35 * x, -y - drop)),
        beside("height", "Height of the blank", "↕ ", blank.height, (x, -0.4 * y - drop)),
    ]


def _box_words(blank: RectangleBlank | BannerBlank | TagBlank) -> str:
    return f"{blank.kind} {shown(blank.width)} × {shown(blank.height)} mm"


_BOX = (Figure("width", "Width"), Figure("height", "Height"))
_RADIUS = Figure("radius", "Corner radius")

_BAND = (
    Figure("inner", "Inner diameter"),
    Figure("width", "Width"),
    Figure("back_width", "Width at the back", empty="the same"),
    Figure("thickness", "Thickness"),
)


def _free_words(blank: OutlineBlank) -> str:
    x0, y0, x1, y1 = curve_bounds(_free(blank)[0])
    return f"outline, {x1 - x0:.1f} × {y1 - y0:.1f} mm"


BLANKS = {
    kind.name: kind
    for kind in (
        BlankKind(
            DiscBlank,
            _disc,
            "a disc",
            lambda blank: f"disc ⌀ {shown(blank.diameter)} mm",
            {"diameter": 300},
            (Figure("diameter", "Diameter"),),
            _drawn_disc,
        ),
        BlankKind(
            RingBlank,
            _ring,
            "a ring",
            lambda blank: f"ring ⌀ {shown(blank.outer)} / {shown(blank.inner)} mm",
            {"outer": 300, "inner": 160},
            (Figure("outer", "Outer diameter"), Figure("inner", "Inner diameter")),
            _drawn_ring,
        ),
        BlankKind(
            RectangleBlank,
            _rectangle,
            "a rectangle",
            _box_words,
            {"width": 300, "height": 200, "radius": 0},
            (*_BOX, _RADIUS),
            _drawn_box,
        ),
        BlankKind(
            BannerBlank,
            _banner,
            "a banner",
            _box_words,
            {"width": 400, "height": 90, "notch": 25, "rise": 0},
            (*_BOX, Figure("notch", "Ends cut in by"), Figure("rise", "Rises by")),
            _drawn_box,
        ),
        BlankKind(
            TagBlank,
            _tag,
            "a tag with a hole",
            _box_words,
            {"width": 90, "height": 40, "radius": 6, "hole": 5, "hole_inset": 8},
            (*_BOX, _RADIUS, Figure("hole", "Hole"), Figure("hole_inset", "Hole from the end")),
            _drawn_box,
        ),
        BlankKind(
            SideBlank,
            round_outlines,
            "the side of a cylinder or cone",
            round_words,
            {"diameter": 80, "height": 60},
            (
                Figure("diameter", "Diameter"),
                Figure("top", "Diameter at the top", empty="the same"),
                Figure("height", "Height"),
            ),
            round_figures,
        ),
        BlankKind(
            BandBlank,
            round_outlines,
            "the outside of a band",
            round_words,
            {"inner": 18, "width": 8, "thickness": 1.8},
            (
                *_BAND,
                Figure("back_thickness", "Thickness at the back", empty="the same"),
                Figure("crown", "Crown across", empty="flat"),
            ),
            round_figures,
        ),
        BlankKind(
            SignetBlank,
            round_outlines,
            "a signet ring",
            round_words,
            {
                "head_width": 14,
                "head_height": 12,
                "inner": 18,
                "width": 8,
                "back_width": 4,
                "thickness": 2,
            },
            (
                Figure("head_width", "Width of the head"),
                Figure("head_height", "Height of the head"),
                Figure("rise", "Head stands out by"),
                *_BAND,
            ),
            round_figures,
        ),
        BlankKind(OutlineBlank, _free, "an outline from a file", _free_words),
    )
}
"""All kinds by their names, in the order in which they are offered."""


@remembered(64)
def blank_curves(blank: AnyBlank) -> tuple[Curve, ...]:
    """The outlines of a blank, the outer one first.

    Raises
    ------
    PieceError
        Naming the line of a free outline that is no closed line.
    """
    return BLANKS[blank.kind].outlines(blank)


def blank_words(blank: AnyBlank | None) -> str:
    """A blank in a few words, with its size."""
    return "no blank" if blank is None else BLANKS[blank.kind].words(blank)
