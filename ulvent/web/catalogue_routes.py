"""The route that tells the page all that a person chooses from.

Kinds of guides, blanks, stances, steps, checks and formats come from their registers, values of
fields with their words from the recipes: the page knows none of them by name.
"""

from __future__ import annotations

from typing import Any, Literal, get_args

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict

from ulvent.core.base.inputs import Figure, Input, Values
from ulvent.core.base.outputs import OUTPUTS, Output
from ulvent.core.base.tools import TOOLS
from ulvent.core.faces.traits import TRAITS
from ulvent.core.guides.blanks import BLANKS, SHEETS, Blank
from ulvent.core.guides.kinds import KINDS, STARTS
from ulvent.core.proof import CHECKS
from ulvent.core.recipe import LONGEST_LABEL, MOST_LETTERS, MOST_TITLE, MOST_TOOL_SHEETS, Names
from ulvent.core.recipe.arrangements import ARRANGEMENTS, COUNTED
from ulvent.core.recipe.beginnings import BEGINNINGS
from ulvent.core.recipe.choices import CHOICES, LIMITS, NUDGES
from ulvent.core.recipe.first import FIRSTS, REMEMBERED, first_mark
from ulvent.core.recipe.run_sheet import MOST_PASSES
from ulvent.core.stances import LABEL_STANCES
from ulvent.core.steps import STEPS
from ulvent.formats.format import FILE_UNITS
from ulvent.formats.out import FORMATS
from ulvent.formats.read import READERS
from ulvent.formats.run_out import RUN_FORMATS
from ulvent.formats.solid_out import SOLID_FORMATS
from ulvent.formats.thread_out import THREAD_FORMATS

router = APIRouter(tags=["catalogue"])


class Entry(BaseModel):
    """What is served of a record: the fields that have the same names."""

    model_config = ConfigDict(from_attributes=True)


class KindEntry(Entry):
    """A kind of guide; see `GuideKind`."""

    title: str
    inputs: tuple[Input, ...]
    turns: bool
    scales: bool
    seam_moves: bool
    winds: bool
    nodes: bool
    grows: bool


class StartEntry(BaseModel):
    """A guide to begin with; `needs` says how many others it is made from."""

    name: str
    kind: str
    picture: str
    needs: int
    usual: bool


class BlankEntry(Entry):
    """A kind of blank; `first` is its recipe to begin with, none where it comes from a file."""

    name: str
    title: str
    first: dict[str, Any] | None
    inputs: tuple[Input, ...]


class SheetEntry(BaseModel):
    """A common sheet that a blank may lie on, mm."""

    name: str
    width: float
    height: float


class StepEntry(Entry):
    """A step of preparing; see `Step`."""

    field: str
    title: str
    hint: str
    first: Any
    left_out: Any
    inputs: tuple[Input, ...]


class ArrangementEntry(Entry):
    """A way in which words stand; see `Arrangement`."""

    name: str
    label: str
    hint: str
    picture: str


class BeginningEntry(Entry):
    """A piece to begin from; its words are those of its first lettering, unless it is a dial."""

    name: str
    title: str
    hint: str
    blank: Blank
    says: bool


class FormatEntry(Entry):
    """A format of files, by the name in addresses and endings."""

    name: str
    title: str


class OutputEntry(BaseModel):
    """What may become of a line: in words, its letter, and its usual colour in files."""

    words: str
    letter: str
    colour: str


class Bounds(BaseModel):
    """How much documents take."""

    letters: int
    label: int
    title: int
    tool_sheets: int
    passes: int


class ToolEntry(BaseModel):
    """A tool of a machine, with what tells it apart and its usual figures."""

    title: str
    letter: str
    dashes: list[float]
    output: Output
    way: Literal["touch", "power", "depth"]
    speed: float
    power: float
    areas: Literal["", "filled", "cleared", "grooved"]
    bit: float


class Catalogue(BaseModel):
    """All that a person chooses from.

    choices
        values of fields with their words
    arrangements
        ways in which words stand
    beginnings
        pieces to begin from
    counted
        sequences of labels that count
    on_line
        stances in which labels stand along their guide, so that they can follow it
    tried
        kinds of findings whose remedies are tried when they are asked for
    limits, nudges
        figures of a tool sheet, and of what is done to letters by hand
    marks, firsts
        marks by their kinds, and figures in mm, to begin with
    outputs
        what may become of a line, by name
    points
        how many points a compass can have
    remembered
        fields of a lettering that the next one begins with
    traits
        all that a face can be
    """

    kinds: dict[str, KindEntry]
    starts: list[StartEntry]
    blanks: list[BlankEntry]
    sheets: list[SheetEntry]
    steps: list[StepEntry]
    formats: list[FormatEntry]
    run_formats: list[FormatEntry]
    thread_formats: list[FormatEntry]
    solid_formats: list[FormatEntry]
    tools: dict[str, ToolEntry]
    readers: list[FormatEntry]
    choices: dict[str, Values]
    arrangements: list[ArrangementEntry]
    beginnings: list[BeginningEntry]
    counted: list[str]
    on_line: list[str]
    tried: list[str]
    limits: list[Figure]
    nudges: list[Figure]
    marks: dict[str, dict[str, Any]]
    firsts: dict[str, float]
    outputs: dict[Output, OutputEntry]
    points: list[int]
    file_units: Values
    remembered: list[str]
    traits: list[str]
    bounds: Bounds


@router.get("/api/catalogue")
def catalogue() -> Catalogue:
    """All that a person chooses from."""
    return Catalogue(
        kinds={name: KindEntry.model_validate(kind) for name, kind in KINDS.items()},
        starts=_starts(),
        blanks=[BlankEntry.model_validate(kind) for kind in BLANKS.values()],
        sheets=[SheetEntry(name=name, width=w, height=h) for name, (w, h) in SHEETS.items()],
        steps=[StepEntry.model_validate(step) for step in STEPS.values()],
        formats=[FormatEntry.model_validate(one) for one in FORMATS.values()],
        run_formats=[FormatEntry.model_validate(one) for one in RUN_FORMATS.values()],
        thread_formats=[FormatEntry.model_validate(one) for one in THREAD_FORMATS.values()],
        solid_formats=[FormatEntry.model_validate(one) for one in SOLID_FORMATS.values()],
        tools={name: ToolEntry(**tool._asdict()) for name, tool in TOOLS.items()},
        readers=[FormatEntry.model_validate(one) for one in READERS.values()],
        choices=CHOICES,
        arrangements=[ArrangementEntry.model_validate(one) for one in ARRANGEMENTS.values()],
        beginnings=[BeginningEntry.model_validate(one) for one in BEGINNINGS.values()],
        counted=list(COUNTED),
        on_line=[name for name, one in LABEL_STANCES.items() if one.on_line],
        tried=[kind for kind, check in CHECKS.items() if check.remedies is not None],
        limits=list(LIMITS),
        nudges=list(NUDGES),
        marks={kind: first_mark(kind) for kind, _ in CHOICES["mark"]},
        firsts=FIRSTS,
        outputs={
            name: OutputEntry(words=words, letter=letter, colour=colour)
            for name, (words, letter, colour) in OUTPUTS.items()
        },
        points=list(get_args(Names.model_fields["points"].annotation)),
        file_units=FILE_UNITS,
        remembered=list(REMEMBERED),
        traits=list(TRAITS),
        bounds=Bounds(
            letters=MOST_LETTERS,
            label=LONGEST_LABEL,
            title=MOST_TITLE,
            tool_sheets=MOST_TOOL_SHEETS,
            passes=MOST_PASSES,
        ),
    )


def _starts() -> list[StartEntry]:
    owners = {start.name: kind.name for kind in KINDS.values() for start in kind.starts}
    return [
        StartEntry(
            name=one.name,
            kind=owners[one.name],
            picture=one.picture,
            needs=one.needs,
            usual=one.usual,
        )
        for one in STARTS.values()
    ]
