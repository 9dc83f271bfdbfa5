"""Rows of a list made into pieces, one by one: the same from the page and from a shell."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field

from ulvent.core.base.errors import PieceError
from ulvent.core.recipe import Piece
from ulvent.core.recipe.name_list import OwnOfRow
from ulvent.core.series.matched import title_of, words_of
from ulvent.core.series.pattern import Pattern
from ulvent.core.series.results import Result, result_of, with_own
from ulvent.core.workshop import Workpiece, Workshop

_LONGEST_NAME = 80


@dataclass(frozen=True)
class Series:
    """A pattern, a list that fills it, and what is the same for all of its rows.

    columns
        the field of each column of the list; empty for one that is not used. None at all: there is
        no list, and the piece is made as it stands
    own
        what a row has for itself, and heights that all rows have
    """

    pattern: Pattern
    columns: Sequence[str]
    own: OwnOfRow = field(default_factory=OwnOfRow)

    def piece(self, cells: Sequence[str]) -> Piece:
        """The piece of a row.

        Raises
        ------
        PieceError
            As `Pattern.filled` does.
        """
        if not self.columns:
            return self.pattern.piece
        filled = self.pattern.filled(words_of(self.columns, cells), self.title(cells))
        return with_own(filled, self.own)

    def title(self, cells: Sequence[str]) -> str:
        return title_of(cells) if self.columns else self.pattern.piece.title


@dataclass(frozen=True)
class MadeRow:
    """A row that was made.

    wrong
        why there is nothing of it, in words; empty where there is something
    """

    number: int
    title: str
    result: Result | None
    wrong: str = ""

    @property
    def fits(self) -> bool:
        return self.result is not None and self.result.fits

    @property
    def kind(self) -> str:
        """Of what is wrong with it; rows with one kind are mended alike."""
        return "words" if self.result is None else self.result.kind

    @property
    def reason(self) -> str:
        """Why it does not fit, in words."""
        if self.result is None:
            return self.wrong
        return self.result.faults[0] if self.result.faults else ""


def made_row(
    series: Series, workshop: Workshop, number: int, cells: Sequence[str]
) -> tuple[MadeRow, Workpiece | None]:
    """A row, fitted, prepared and proofed."""
    title = series.title(cells)
    try:
        work = workshop.in_passing(series.piece(cells))
        return MadeRow(number, title, result_of(work)), work
    except PieceError as error:
        return MadeRow(number, title, None, str(error)), None


def file_name(asked: str, number: int, title: str, rows: int) -> str:
    """A file's name for a row: `{number}` with leading zeros, and `{words}`; without an ending."""
    digits = max(len(str(rows)), 3)
    named = asked.replace("{number}", f"{number:0{digits}d}").replace("{words}", title)
    plain = re.sub(r"[^\w.-]+", "-", re.sub("['’]", "", named)).strip("-.")
    return plain[:_LONGEST_NAME].rstrip("-.") or f"{number:0{digits}d}"
