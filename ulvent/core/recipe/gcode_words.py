"""How a piece's G-code is worded, with a maker's own lines at its beginning and end."""

from __future__ import annotations

import re
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from ulvent.core.base.fields import Model, Text, WrongRecipeError

_WORD = re.compile(r"([A-Z])\s*([-+]?\d*\.?\d+)")
_COMMENT = re.compile(r"\(.*?\)|;.*")
_STILL: dict[str, frozenset[float]] = {
    "G": frozenset((4, 17, 40, 49, 54, 55, 56, 57, 58, 59, 61, 64, 80, 90, 94)),
    "M": frozenset((0, 1, 5, 7, 8, 9)),
}
"""Words that neither move anything, nor switch a tool on, nor change what lengths and places mean.
Source: the NIST RS274/NGC interpreter, version 3, IR 6556, from memory."""
_FIGURES = {"P": "a dwell", "S": "a speed", "F": "a feed", "N": "a line number"}


class GcodeWords(Model):
    """How G-code is worded.

    unit
        of all places and speeds
    arcs
        whether arcs are moves of their own, or many straight ones
    preamble, end
        the maker's own lines, after the units and before the program ends; nothing in them may move
        the machine or switch its tool on
    """

    unit: Literal["mm", "inch"] = "mm"
    arcs: bool = True
    preamble: Annotated[Text, Field(max_length=2000)] = ""
    end: Annotated[Text, Field(max_length=2000)] = ""

    @model_validator(mode="after")
    def _nothing_moves(self) -> Self:
        for field in ("preamble", "end"):
            for number, line in enumerate(getattr(self, field).splitlines(), 1):
                wrong = what_moves(line)
                if wrong:
                    raise WrongRecipeError(field, f"line {number}, “{line.strip()}”: {wrong}")
        return self


def what_moves(line: str) -> str:
    """Why a line of G-code may not stand in a preamble or end; empty where it may."""
    bare = _COMMENT.sub("", line).upper()
    if not bare.isascii():
        return "has signs that G-code does not know"
    left = _WORD.sub("", bare).strip()
    if left:
        return f"“{left}” is not G-code"
    for letter, figure in _WORD.findall(bare):
        if letter in _STILL and float(figure) not in _STILL[letter]:
            return f"{letter}{figure} may move the machine, switch its tool on, or change its units"
        if letter not in _STILL and letter not in _FIGURES:
            return f"{letter}{figure} is a place, or something that is not known to stay still"
    return ""
