"""Everything that can go wrong with what a person gave us, as one family.

`UlventError` is the base. Each message says what is wrong and, where there is
one, what to do; a message never needs a stack trace to be understood.
"""

from __future__ import annotations

from dataclasses import dataclass


class UlventError(Exception):
    """Base of all errors that a maker can cause and mend."""


class CurveError(UlventError):
    """A curve that cannot be built, or cannot be asked what it was asked."""


class FaceError(UlventError):
    """A font file that cannot be used, or a face that is not there."""


class FontFileError(FaceError):
    """A font file that is refused; says why."""


@dataclass(frozen=True)
class FieldProblem:
    """One wrong field of a piece: where it is, and why it is wrong."""

    field: str
    reason: str

    def __str__(self) -> str:
        return f"{self.field}: {self.reason}" if self.field else self.reason


class PieceError(UlventError):
    """A piece that is wrong; names every wrong field."""

    def __init__(self, problems: list[FieldProblem]) -> None:
        self.problems = problems
        super().__init__("; ".join(str(problem) for problem in problems))

    def __reduce__(self) -> tuple[type[PieceError], tuple[list[FieldProblem]]]:
        """It travels between processes by its problems."""
        return type(self), (self.problems,)

    def within(self, place: str) -> list[FieldProblem]:
        """The problems of a part, as those of the whole that has it at `place`."""
        return [FieldProblem(f"{place}.{one.field}", one.reason) for one in self.problems]


def wrong_field(field: str, reason: str) -> PieceError:
    """One wrong field."""
    return PieceError([FieldProblem(field, reason)])
