"""What the fields of recipes may hold, said once: limits, models, and what does not go together."""

from __future__ import annotations

import unicodedata
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

MOST_PATH_DATA = 200_000
MOST_NODES = 1000
FARTHEST = 100_000.0
"""Largest coordinate or size, mm: a hundred metres."""
LONGEST = 1e6
"""Longest guide, mm: a kilometre."""


@dataclass(frozen=True)
class Length:
    """Marks a type whose figures are lengths of the design: they grow when it is scaled."""


LENGTH = Length()
Coordinate = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False), LENGTH]
Size = Annotated[float, Field(gt=0.0, le=FARTHEST, allow_inf_nan=False), LENGTH]
SizeOrNone = Annotated[float, Field(ge=0.0, le=FARTHEST, allow_inf_nan=False), LENGTH]
ToolSize = Annotated[float, Field(gt=0.0, le=FARTHEST, allow_inf_nan=False)]
"""A length that belongs to a tool, a material or a machine: a scaled design keeps it."""
ToolCoordinate = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False)]
ToolSizeOrNone = Annotated[float, Field(ge=0.0, le=FARTHEST, allow_inf_nan=False)]
Speed = Annotated[float, Field(ge=0.01, le=5000.0, allow_inf_nan=False)]
"""mm per second."""
Share = Annotated[float, Field(gt=0.0, le=100.0, allow_inf_nan=False)]
"""Per cent."""
Degrees = Annotated[float, Field(ge=-36_000.0, le=36_000.0, allow_inf_nan=False)]
Identifier = Annotated[str, Field(pattern=r"^[A-Za-z][A-Za-z0-9_-]{0,63}$")]


def plain_text(text: str) -> str:
    """Text that PostgreSQL, XML and DXF hold alike: without control characters and the like.

    Raises
    ------
    ValueError
        Naming the place and the character.
    """
    if text.isascii() and text.isprintable():
        return text
    for place, character in enumerate(text, 1):
        code = ord(character)
        if character != "\n" and (
            unicodedata.category(character) in ("Cc", "Cs", "Zl", "Zp") or code & 0xFFFE == 0xFFFE
        ):
            raise ValueError(f"must be plain text; place {place} holds the character U+{code:04X}")
    return text


Text = Annotated[str, AfterValidator(plain_text)]
"""Words of a person: their way into a document, whatever they are for."""
PathData = Annotated[str, Field(min_length=1, max_length=MOST_PATH_DATA)]
Turn = Literal["clockwise", "counterclockwise"]
XY = tuple[Coordinate, Coordinate]


class Model(BaseModel):
    """Frozen, and strict about fields it does not know."""

    # Built when it is first asked for: most commands need few of all recipes.
    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)

    def no_lengths(self) -> tuple[str, ...]:
        """Fields with figures that are no lengths here, for what another field says."""
        return ()


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


def refuse_twice(names: Iterable[object], where: str, field: str) -> None:
    """Refuse a list of which two entries name the same.

    Raises
    ------
    WrongRecipeError
        Naming `field` of the second one.
    """
    seen: set[object] = set()
    for index, name in enumerate(names):
        if name in seen:
            raise WrongRecipeError(f"{where}[{index}].{field}", f"“{name}” is there twice")
        seen.add(name)


def refuse_wide_radius(radius: float, width: float, height: float) -> None:
    """Refuse corners that are rounder than the sides of a rectangle have room for."""
    most = min(width, height) / 2.0
    if radius > most:
        raise WrongRecipeError("radius", f"must be at most {most:g}, half the shorter side")
