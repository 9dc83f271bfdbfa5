"""What Ulvent knows of one kind of guide: one record each, in `kinds`.

Everything that is asked of a kind by name is here, so that nothing else tells kinds apart:
its recipe and its line, what it is called, its figures and where they are drawn, which of them
lettering may size, by which others its size may be stated, and where it is taken hold of.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from ulvent.core.base.arrays import Point
from ulvent.core.base.inputs import Input, Option, Unit
from ulvent.core.curves import Curve
from ulvent.core.guides.grip import Grip
from ulvent.core.guides.guide_recipe import GuideRecipe

TURN = Option("turn", "Runs", (("clockwise", "clockwise"), ("counterclockwise", "anticlockwise")))


@dataclass(frozen=True)
class Sizes:
    """What a new guide is made for.

    blank
        how large the blank is across, mm
    on
        ids of the guides that it is made from, the chosen one first
    """

    blank: float
    on: tuple[str, ...] = ()


@dataclass(frozen=True)
class Start:
    """A guide that is offered to begin with: its name, its picture, its first recipe.

    picture
        path data in a box of 44 × 32, y down
    recipe
        without id
    stem
        of its id
    needs
        how many guides it is made from
    usual
        whether it is offered before the others are asked for
    """

    name: str
    picture: str
    recipe: Callable[[Sizes], dict[str, Any]]
    rank: float
    stem: str
    needs: int = 0
    usual: bool = False


KeptOff = Literal["turned", "aside", "pointing", "left"]


@dataclass(frozen=True)
class DrawnFigure:
    """A figure on the drawing: its line from `start` to `end`, mm, in the recipe's own frame.

    at
        the share of the line at which the figure stands; where both ends are one point the
        figure stands beside it
    off
        how its line is kept off letters: turned about its middle, as the diameter of a circle;
        drawn aside, with witness lines; only pointed at its end; or not at all
    """

    field: str
    label: str
    sign: str
    value: float
    start: Point
    end: Point
    at: float = 0.3
    unit: Unit = "mm"
    off: KeptOff = "aside"


def beside(
    field: str, label: str, sign: str, value: float, where: Point, unit: Unit = "mm"
) -> DrawnFigure:
    """A figure beside a point."""
    return DrawnFigure(field, label, sign, value, where, where, 0.5, unit)


def box_figures(width: float, height: float) -> list[DrawnFigure]:
    """Width and height across the middle, their figures apart."""
    return [
        DrawnFigure("width", "Width", "↔ ", width, (-width / 2, 0.0), (width / 2, 0.0)),
        DrawnFigure("height", "Height", "↕ ", height, (0.0, -height / 2), (0.0, height / 2)),
    ]


@dataclass(frozen=True)
class Made:
    """A guide as it lies: its curve, and those of the guides it is made from."""

    curve: Curve
    bases: tuple[Curve, ...]


@dataclass(frozen=True)
class Hold:
    """A grip taken hold of at `start` and pulled to `end`, both in the piece, mm.

    bases
        gives the curves of the guides that this one is made from
    """

    grip: str
    index: int
    start: Point
    end: Point
    bases: Callable[[], tuple[Curve, ...]]


@dataclass(frozen=True)
class Extent:
    """How large lines of a kind are by two figures, by which one kind can become another.

    family
        kinds of one family can become each other: closed lines by width and height, open ones
        by length and rise
    of, to
        the two figures of a recipe, mm; and the figures of a recipe that is as large
    whole
        whether a recipe gives the whole line, and no part of one
    """

    family: Literal["closed", "open"]
    of: Callable[[Any], tuple[float, float]]
    to: Callable[[float, float], dict[str, float]]
    whole: Callable[[Any], bool] = lambda _recipe: True


@dataclass(frozen=True, eq=False)
class GuideKind:
    """One kind of guide.

    line
        the untouched line of a recipe in its own frame, given the curves it leans on
    title, words
        what it is called, and a recipe of it in a few words with its size
    blame
        the field that an error of the curve itself is laid to
    inputs
        what a person may set of it, beside what all guides have
    sized_by, shortened_by
        figures that lettering may size, and whether more of one makes the guide shorter
    drawn
        its figures on the drawing, in its own frame
    drawn_on
        instead, of guides made from others: in the piece
    restated
        all figures by which its size can be given, for the same line
    extent
        how large one is, where it can become one of another kind
    turns, scales
        whether it can be turned, and scaled, as a whole; what can be neither cannot be moved
    seam_moves
        whether its seam is moved by a station, and not by a figure of its own
    winds
        whether its turns lie beside each other, so that they can be kept clear
    between
        whether it lies between the guides it leans on, as between two edges
    grows_from
        the centre from which letters on it can grow with the distance
    readings
        which ways lettering can read on one: along it, and against it, in words
    note
        what a maker should know of how one came out
    grips, pulled
        places of its own to take hold of, and the recipe after a pull; nothing for grips that
        it does not know
    placed
        the recipe with one of its points put somewhere in the piece
    nodes
        whether its points can be added, removed, and joined to those of others
    """

    recipe: type[GuideRecipe]
    line: Callable[[Any, tuple[Curve, ...]], Curve]
    title: str
    words: Callable[[Any], str]
    rank: float
    blame: str
    inputs: tuple[Input, ...] = ()
    starts: tuple[Start, ...] = ()
    sized_by: tuple[str, ...] = ()
    shortened_by: Callable[[Any, str], bool] = lambda _recipe, _figure: False
    drawn: Callable[[Any], list[DrawnFigure]] = lambda _recipe: []
    drawn_on: Callable[[Any, Made], list[DrawnFigure]] | None = None
    restated: Callable[[Any], dict[str, float]] | None = None
    extent: Extent | None = None
    turns: bool = True
    scales: bool = True
    seam_moves: bool = True
    winds: bool = False
    between: bool = False
    grows_from: Callable[[Any], Point] | None = None
    readings: Callable[[Any], tuple[str, str]] = lambda _recipe: (
        "along the guide",
        "against the guide",
    )
    note: Callable[[Any, tuple[Curve, ...]], str] = lambda _recipe, _bases: ""
    grips: Callable[[Any, Curve, int | None], Sequence[Grip]] = lambda _recipe, _curve, _node: ()
    pulled: Callable[[Any, Hold], GuideRecipe | None] = lambda _recipe, _hold: None
    placed: Callable[[Any, int, Point], GuideRecipe] | None = None
    nodes: bool = False

    @property
    def grows(self) -> bool:
        """Whether letters on it can grow with the distance from its centre."""
        return self.grows_from is not None

    @property
    def name(self) -> str:
        """What recipes of this kind say that they are."""
        return str(self.recipe.model_fields["kind"].annotation.__args__[0])  # type: ignore[union-attr]
