"""What a person sets of a record: figures, choices, switches, as the page offers them.

Records of guides, blanks and steps list their inputs; the page draws them and knows no record
by name.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Unit = Literal["mm", "°", "×", "%", ""]
Values = tuple[tuple[str, str], ...]
"""Values as recipes name them, each with its words."""


@dataclass(frozen=True)
class When:
    """An input is offered only while another field has one of these values."""

    field: str
    values: tuple[str, ...]


@dataclass(frozen=True)
class Figure:
    """A figure as a person types it; `shown_as` is what it is multiplied by to be shown.

    An empty `field` stands for the recipe itself, where that is a figure. `empty` is what stands
    where nothing is typed, of figures that may be left out.
    """

    field: str
    label: str
    unit: Unit = "mm"
    shown_as: float = 1.0
    when: When | None = None
    empty: str | None = None
    input: Literal["figure"] = "figure"


@dataclass(frozen=True)
class Way:
    """Figures of which just `of` give the size; a person chooses which."""

    of: int
    figures: tuple[Figure, ...]
    input: Literal["way"] = "way"


@dataclass(frozen=True)
class Option:
    """A field with a few values, each with its words."""

    field: str
    label: str
    values: Values
    when: When | None = None
    input: Literal["option"] = "option"


@dataclass(frozen=True)
class Switch:
    """A field that is on or off."""

    field: str
    label: str
    when: When | None = None
    input: Literal["switch"] = "switch"


@dataclass(frozen=True)
class GuideChoice:
    """A field that names a guide; or, with `or_blank`, none for the blank."""

    field: str
    label: str
    or_blank: bool = False
    input: Literal["guide"] = "guide"


@dataclass(frozen=True)
class Again:
    """A second entry of a list, like the first one but for a figure and what is `plain` in it."""

    field: str
    label: str
    plain: tuple[tuple[str, bool], ...] = ()
    input: Literal["again"] = "again"


@dataclass(frozen=True)
class ByHand:
    """A list of what was changed by hand, which a person can forget."""

    field: str
    label: str
    input: Literal["by-hand"] = "by-hand"


Input = Figure | Way | Option | Switch | GuideChoice | Again | ByHand
