"""From any guide recipe to its curve: the one place where recipes become lines."""

from __future__ import annotations

from collections.abc import Mapping

from ulvent.core.base.at_work import at_work
from ulvent.core.base.errors import CurveError, FieldProblem, PieceError
from ulvent.core.base.fields import LONGEST, WrongRecipeError
from ulvent.core.base.remembered import remembered
from ulvent.core.curves import Curve, section_of, started_at
from ulvent.core.curves.placed import Placed
from ulvent.core.curves.rounded import Rounded, rounded
from ulvent.core.guides.kinds import AnyGuide, kind_of

_REMEMBERED = 256
_FEWER = "a line of fewer points, or made from fewer others, would do"


def guide_curves(
    guides: tuple[AnyGuide, ...], wanted: tuple[str, ...] | None = None
) -> dict[str, Curve]:
    """The curves of guides by their ids; those that others lean on come first in the making.

    With `wanted` only the curves of these are made, and what they lean on.

    Raises
    ------
    PieceError
        Naming the field of each guide that gives no curve.
    """
    by_id = {guide.id: guide for guide in guides}
    places = {guide.id: index for index, guide in enumerate(guides)}
    found: dict[str, Curve] = {}
    problems: list[FieldProblem] = []
    failed: set[str] = set()

    def make(guide: AnyGuide) -> None:
        if guide.id in found or guide.id in failed:
            return
        for other in guide.leans_on:
            make(by_id[other])
        if failed.intersection(guide.leans_on):
            failed.add(guide.id)
            return
        kind = kind_of(guide)
        with at_work(f"guides[{places[guide.id]}].{kind.blame}", "drawing this line", _FEWER):
            try:
                found[guide.id] = guide_curve(guide, found)
            except WrongRecipeError as error:
                fail(guide, error.field, error.reason)
            except CurveError as error:
                fail(guide, kind.blame, str(error))

    def fail(guide: AnyGuide, field: str, reason: str) -> None:
        failed.add(guide.id)
        problems.append(FieldProblem(f"guides[{places[guide.id]}].{field}", reason))

    for guide in guides:
        if wanted is None or guide.id in wanted:
            make(guide)
    if problems:
        raise PieceError(problems)
    return found


def guides_in_order(guides: tuple[AnyGuide, ...]) -> list[str]:
    """The ids of guides, those that others lean on first."""
    by_id = {guide.id: guide for guide in guides}
    found: list[str] = []

    def visit(guide_id: str) -> None:
        for other in by_id[guide_id].leans_on:
            visit(other)
        if guide_id not in found:
            found.append(guide_id)

    for guide in guides:
        visit(guide.id)
    return found


def guide_curve(guide: AnyGuide, others: Mapping[str, Curve] | None = None) -> Curve:
    """The curve of one guide, given those of the guides it leans on.

    Raises
    ------
    CurveError, WrongRecipeError
        When the recipe gives no curve; the latter names the field.
    """
    # What changes no line is left out, so that it does not make the line anew.
    plain = guide.model_copy(
        update={"id": "any", "hidden": False, "removed": False, "output": None}
    )
    return _made(plain, tuple((others or {})[name] for name in guide.leans_on))


def own_line(guide: AnyGuide) -> Curve:
    """The line of a guide that leans on no other, in its own frame.

    Neither moved, turned, scaled, cut, reversed nor rounded: what is made of it can stay so.

    Raises
    ------
    CurveError, WrongRecipeError
        As `guide_curve` does.
    """
    plain = guide.model_copy(
        update={"centre": (0.0, 0.0), "turned": 0.0, "scaled": 1.0, "seam": 0.0, "part": None,
                "reverse": False, "corners": "pass"}
    )  # fmt: skip
    return guide_curve(plain)


@remembered(_REMEMBERED)
def _made(guide: AnyGuide, bases: tuple[Curve, ...]) -> Curve:
    line = kind_of(guide).line(guide, bases)
    if not line.length * guide.scaled <= LONGEST:
        raise CurveError(f"the line would be longer than {LONGEST / 1e6:g} km")
    if guide.centre != (0.0, 0.0) or guide.turned or guide.scaled != 1.0:
        line = Placed(line, guide.scaled, guide.turned, guide.centre)
    if guide.seam:
        if not line.closed:
            raise WrongRecipeError("seam", "an open guide has no seam; use a part of it instead")
        line = started_at(line, guide.seam)
    if guide.reverse:
        line = line.reversed()
    if guide.corners == "round" and guide.corner_radius:
        line = _rounded(line, guide.corner_radius).curve
    if guide.part is not None:
        begin, end = guide.part
        try:
            line = section_of(line, begin, end)
        except CurveError as error:
            raise WrongRecipeError("part", str(error)) from error
    return line


def guide_note(guide: AnyGuide, curves: Mapping[str, Curve]) -> str:
    """What a maker should know of how a guide came out, in words; mostly nothing."""
    note = kind_of(guide).note(guide, tuple(curves[name] for name in guide.leans_on))
    if note:
        return note
    if guide.corners == "round" and guide.corner_radius:
        plain = guide_curve(guide.model_copy(update={"corners": "pass", "part": None}), curves)
        least = _rounded(plain, guide.corner_radius).least_radius
        if 0.0 < least < guide.corner_radius - 1e-6:
            return f"corners rounded by {least:.4g} mm only: the sides have no room for more"
    return ""


@remembered(_REMEMBERED)
def _rounded(line: Curve, radius: float) -> Rounded:
    return rounded(line, radius)
