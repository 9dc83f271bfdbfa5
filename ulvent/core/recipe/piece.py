"""The piece: one document, as a person decided it.

A piece holds decisions only: the blank, the guides' recipes, the letterings.
Placements, outlines and findings are worked out from it and never stored.
`parse_piece` is the one way in from outside; it names every field that is wrong.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, Literal, get_args

from pydantic import Field, ValidationError, model_validator

from ulvent.core.base.errors import FieldProblem, PieceError
from ulvent.core.base.fields import Model, Text, WrongRecipeError
from ulvent.core.base.outputs import OUTPUTS, Colour, Output
from ulvent.core.base.specks import without_specks
from ulvent.core.guides.blanks import BLANKS, Blank
from ulvent.core.guides.guide_recipe import GuideRecipe
from ulvent.core.guides.kinds import KINDS, AnyGuide, Guide
from ulvent.core.guides.scaling import real_figures
from ulvent.core.recipe.belts import with_belts_of_the_blank
from ulvent.core.recipe.dial import Names, Numbers
from ulvent.core.recipe.lettering import Lettering
from ulvent.core.recipe.lost_parts import without_lost_letterings, without_lost_works
from ulvent.core.recipe.lying import Lie, Sheet, ToolArea
from ulvent.core.recipe.name_list import PARTS, NameList
from ulvent.core.recipe.older import as_said_now
from ulvent.core.recipe.preparing import Prepare
from ulvent.core.recipe.run_sheet import RunSheet
from ulvent.core.recipe.sewing import Sewing
from ulvent.core.recipe.solid import Solid
from ulvent.core.recipe.tool_sheet import ToolSheet

VERSION = 1
MOST_LETTERS_IN_ALL = 20_000
MOST_GUIDES = 200
MOST_LETTERINGS = 400
MOST_TOOL_SHEETS = 12
MOST_TITLE = 200
MOST_ACCEPTED = 2000


class Accepted(Model):
    """A finding that a person has accepted: it says no more until it gets worse.

    key, sheet
        which finding, and under which tool sheet
    figure
        what it was then
    """

    key: Annotated[Text, Field(max_length=200)]
    sheet: Annotated[Text, Field(max_length=64)] = ""
    figure: Annotated[float, Field(allow_inf_nan=False)]


class Piece(Model):
    """A blank, its guides and its letterings; the sheet and tool it is made with.

    prepare
        what is done to all letterings together
    tool_sheets
        what the piece is proofed against; none: a plain one
    edge
        whether the blank's own edge is cut, drawn or engraved; none: it is in no file
    colours
        of what is drawn, engraved and cut, in files; those left out are the usual ones
    lie
        how all of it lies on the sheet
    run
        the passes of the machine; none: the plain ones
    sewing
        how it is sewn; none: on woven cotton, satin where strokes allow it
    solid
        the part that it becomes; none: a plate of its blank, its lettering raised
    names
        rows that fill the fields of its words
    lengths
        in what unit a person sees and types them; all that is kept is in mm
    accepted
        findings that are known and let be
    """

    ulvent: Literal[1]
    title: Annotated[Text, Field(max_length=MOST_TITLE)] = ""
    blank: Blank | None = None
    sheet: Sheet | None = None
    area: ToolArea | None = None
    guides: Annotated[tuple[Guide, ...], Field(max_length=MOST_GUIDES)] = ()
    letterings: Annotated[tuple[Lettering, ...], Field(max_length=MOST_LETTERINGS)] = ()
    prepare: Prepare | None = None
    tool_sheets: Annotated[tuple[ToolSheet, ...], Field(max_length=MOST_TOOL_SHEETS)] = ()
    edge: Output | None = None
    colours: dict[Output, Colour] = Field(default_factory=dict)
    lie: Lie = Lie()
    run: RunSheet | None = None
    sewing: Sewing | None = None
    solid: Solid | None = None
    names: NameList | None = None
    lengths: Literal["mm", "inch", "fraction"] = "mm"
    accepted: Annotated[tuple[Accepted, ...], Field(max_length=MOST_ACCEPTED)] = ()

    @model_validator(mode="after")
    def _ids_are_used_once_and_known(self) -> Piece:
        problems = [
            *_used_twice("guides", [guide.id for guide in self.guides]),
            *_used_twice("letterings", [lettering.id for lettering in self.letterings]),
        ]
        known = {guide.id for guide in self.guides}
        for index, lettering in enumerate(self.letterings):
            if lettering.guide not in known:
                problems.append(
                    FieldProblem(
                        f"letterings[{index}].guide", f"there is no guide “{lettering.guide}”"
                    )
                )
        for where, shape in self.shapes:
            if shape is None and self.blank is None:
                problems.append(FieldProblem(where, "is the blank, and there is none"))
            elif shape is not None and shape not in known:
                problems.append(FieldProblem(where, f"there is no guide “{shape}”"))
        problems.extend(self._unknown_works(known))
        problems.extend(_used_twice("tool_sheets", [sheet.id for sheet in self.tool_sheets]))
        letters = sum(len(lettering.text) for lettering in self.letterings)
        if letters > MOST_LETTERS_IN_ALL:
            reason = f"have {letters} characters in all; at most {MOST_LETTERS_IN_ALL} are taken"
            problems.append(FieldProblem("letterings", reason))
        if problems:
            raise PieceError(problems)
        _refuse_rings(self.guides)
        return self

    def _unknown_works(self, guides: set[str]) -> Iterator[FieldProblem]:
        """What passes work on and is not there. A border is looked for when it is made."""
        there = {"guide": guides}
        there["letters"] = there["ticks"] = {one.id for one in self.letterings}
        for number, one in enumerate(self.run.passes if self.run else ()):
            for place, works in enumerate(one.works):
                if works.of not in there.get(works.what, {works.of}):
                    kind = "guide" if works.what == "guide" else "lettering"
                    where = f"run.passes[{number}].works[{place}].of"
                    yield FieldProblem(where, f"there is no {kind} “{works.of}”")
            for place, kerf in enumerate(one.kerf):
                if kerf.of and kerf.of not in there["letters"]:
                    where = f"run.passes[{number}].kerf[{place}].of"
                    yield FieldProblem(where, f"there is no lettering “{kerf.of}”")
        named = {
            "sewing": [one.of for one in self.sewing.letterings] if self.sewing else [],
            "solid": [one.of for one in self.solid.letterings] if self.solid else [],
        }
        for name, letterings in named.items():
            for index, of in enumerate(letterings):
                if of not in there["letters"]:
                    where = f"{name}.letterings[{index}].of"
                    yield FieldProblem(where, f"there is no lettering “{of}”")

    @property
    def shapes(self) -> tuple[tuple[str, str | None], ...]:
        """The guides that are used as shapes in preparing, each with the field that names it."""
        recipes = [("prepare", self.prepare)]
        recipes += [
            (f"letterings[{index}].prepare", one.prepare)
            for index, one in enumerate(self.letterings)
        ]
        return tuple(
            (f"{where}.{field}", shape)
            for where, recipe in recipes
            if recipe is not None
            for field, shape in recipe.shapes
        )

    def colour(self, output: Output) -> str:
        """The colour of what is drawn, engraved or cut, in files: `#rrggbb`."""
        return self.colours.get(output, OUTPUTS[output][2])

    def guide(self, guide_id: str) -> AnyGuide:
        """The guide with this id, which must be there."""
        return next(guide for guide in self.guides if guide.id == guide_id)


def parse_piece(document: Any) -> Piece:
    """A piece from decoded JSON.

    Raises
    ------
    PieceError
        Naming every wrong field, as in ``letterings[0].height``.
    """
    version = document.get("ulvent") if isinstance(document, dict) else None
    if isinstance(version, int) and not isinstance(version, bool) and version > VERSION:
        problem = FieldProblem(
            "ulvent", f"version {version} is newer than this Ulvent reads (it reads {VERSION})"
        )
        raise PieceError([problem])
    return _validated(without_specks(as_said_now(document)))


def checked(changed: Piece, before: Piece) -> Piece:
    """A piece that was made from another, held against the document's rules.

    Parts that are as they were are taken as they are. Passes no longer work on what is gone.

    Raises
    ------
    PieceError
        Naming every wrong field.
    """
    changed = without_lost_letterings(without_lost_works(changed))
    kept = {id(value) for _, value in before}
    kept.update(id(one) for one in (*before.guides, *before.letterings))

    def plain(value: Any) -> Any:
        if id(value) in kept:
            return value
        if isinstance(value, tuple):
            return [plain(one) for one in value]
        return value.model_dump() if isinstance(value, Model) else value

    return _validated({name: plain(value) for name, value in changed})


def parsed_lettering(recipe: dict[str, Any]) -> Lettering:
    """A lettering from its recipe as plain data.

    Raises
    ------
    PieceError
        Naming every wrong field, as in ``height``.
    """
    try:
        return Lettering.model_validate(recipe)
    except ValidationError as error:
        raise PieceError([_problem(dict(detail)) for detail in error.errors()]) from error


def _validated(document: Any) -> Piece:
    try:
        return with_belts_of_the_blank(_with_real_figures(Piece.model_validate(document)))
    except ValidationError as error:
        raise PieceError([_problem(dict(detail)) for detail in error.errors()]) from error


def _with_real_figures(piece: Piece) -> Piece:
    """The piece with the figures of its guides as one would measure them.

    A guide that a fit scales keeps its scale: that is what is solved.
    """
    if all(guide.scaled == 1.0 for guide in piece.guides):
        return piece
    fitted = {one.guide for one in piece.letterings if one.fit and one.fit.kind == "guide"}
    guides = (one if one.id in fitted else real_figures(one) for one in piece.guides)
    return piece.model_copy(update={"guides": tuple(guides)})


def parse_guide(document: Any) -> AnyGuide:
    """One guide that leans on no other, from decoded JSON.

    Raises
    ------
    PieceError
        Naming every wrong field, as in ``diameter``.
    """
    try:
        guide = parse_piece({"ulvent": VERSION, "guides": [document]}).guides[0]
    except PieceError as error:
        raise PieceError(
            [
                FieldProblem(problem.field.removeprefix("guides[0]").lstrip("."), problem.reason)
                for problem in error.problems
            ]
        ) from error
    return guide


def _used_twice(where: str, ids: list[str]) -> list[FieldProblem]:
    """Ids become layer names, which some formats hold equal whatever their case."""
    return [
        FieldProblem(f"{where}[{index}].id", f"“{name}” is used twice")
        for index, name in enumerate(ids)
        if name.lower() in (other.lower() for other in ids[:index])
    ]


_KINDS = {
    *KINDS,
    *PARTS,
    *BLANKS,
    *(
        kind
        for model in (Numbers, Names)
        for kind in get_args(model.model_fields["kind"].annotation)
    ),
}
"""Pydantic names these in the place of an error; makers need not see them."""

_REASONS = {
    "extra_forbidden": "is not a field that Ulvent knows",
    "missing": "is missing",
    "greater_than": "must be greater than {gt:g}",
    "greater_than_equal": "must be at least {ge:g}",
    "less_than_equal": "must be at most {le:g}",
    "finite_number": "must be a finite number",
    "float_type": "must be a number",
    "float_parsing": "must be a number",
    "string_type": "must be text",
    "string_too_long": "must have at most {max_length} characters",
    "string_too_short": "must not be empty",
    "too_long": "must have at most {max_length} entries",
    "literal_error": "must be {expected}",
    "union_tag_invalid": "must be one of {expected_tags}",
    "tuple_type": "must be a list",
    "model_attributes_type": "must be an object",
    "model_type": "must be an object",
    "dict_type": "must be an object",
}


def _problem(detail: dict[str, Any]) -> FieldProblem:
    kind, context = detail["type"], detail.get("ctx", {})
    place = [part for part in detail["loc"] if part not in _KINDS]
    wrong = context.get("error")
    if isinstance(wrong, WrongRecipeError):
        return FieldProblem(_dotted([*place, wrong.field]), wrong.reason)
    if kind in ("union_tag_invalid", "union_tag_not_found"):
        place.append("kind")
    if kind == "union_tag_not_found":
        reason = "is missing"
    elif "[key]" in place:
        place.remove("[key]")
        reason = "is not a tag of four characters"
    elif kind == "string_pattern_mismatch":
        reason = "must start with a letter and hold only letters, digits, - and _, at most 64"
    elif kind in _REASONS:
        reason = _REASONS[kind].format(**context)
    else:
        reason = detail["msg"].removeprefix("Value error, ")
    return FieldProblem(_dotted(place), reason)


def _dotted(place: list[str | int]) -> str:
    """`("letterings", 0, "height")` as `letterings[0].height`."""
    text = ""
    for part in place:
        text += f"[{part}]" if isinstance(part, int) else f".{part}" if text else part
    return text


def _refuse_rings(guides: tuple[GuideRecipe, ...]) -> None:
    """Refuse guides that lean on a guide that is not there, or on each other in a ring.

    Raises
    ------
    PieceError
        Naming the guide.
    """
    by_id = {guide.id: guide for guide in guides}
    problems: list[FieldProblem] = []
    for index, guide in enumerate(guides):
        for name, other in zip(guide.leaning_fields, guide.leans_on, strict=True):
            if other not in by_id:
                where = f"guides[{index}].{name}"
                problems.append(FieldProblem(where, f"there is no guide “{other}”"))
    if not problems:
        for index, guide in enumerate(guides):
            if _reaches(guide, guide.id, by_id, set()):
                reason = "leans on itself, by way of the guides it is made from"
                problems.append(FieldProblem(f"guides[{index}]", reason))
    if problems:
        raise PieceError(problems)


def _reaches(
    guide: GuideRecipe, wanted: str, by_id: dict[str, GuideRecipe], seen: set[str]
) -> bool:
    for other in guide.leans_on:
        if other == wanted:
            return True
        if other not in seen:
            seen.add(other)
            if _reaches(by_id[other], wanted, by_id, seen):
                return True
    return False
