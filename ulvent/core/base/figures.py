"""Typed figures: what a maker may write where a length is asked for.

    12.5      25.4/2      3/8in      1 3/8 in      2 * (40 - 3.2)      1ft + 2

Without a unit a figure is in mm, or in what a piece is shown in. A unit belongs to the
whole product or quotient it stands in, so `3/8in` is three eighths of an inch. Inches
exist only here: what comes out is mm.
"""

from __future__ import annotations

import math
import re

from ulvent.core.base.errors import UlventError

MM_IN = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4, '"': 25.4, "″": 25.4, "ft": 304.8}
"""CSS Values and Units: 1 in = 25.4 mm."""

_LONGEST = 120
_DEEPEST = 16
_TOKEN = re.compile(r"\s*(?:(\d+(?:[.,]\d*)?|[.,]\d+)|(mm|cm|m|in|ft|[\"″])|([-+*/()×÷−]))")
_SAME = {"×": "*", "÷": "/", "−": "-"}


class FigureError(UlventError):
    """A figure that cannot be read."""


def shown(value: float) -> str:
    """A figure in as few digits as it needs, at most three decimals."""
    text = f"{value:.3f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text


def parse_length(text: str, unit: str = "mm") -> float:
    """The length that `text` says, mm; `unit` is that of figures which name none.

    Raises
    ------
    FigureError
        With what is wrong, in words for the person who typed it.

    Examples
    --------
    >>> parse_length("25.4/2")
    12.7
    >>> round(parse_length("3/8in"), 6)
    9.525
    >>> parse_length("2 * (1 + 1 1/2)", "in")
    127.0
    """
    if len(text) > _LONGEST:
        raise FigureError(f"a figure has at most {_LONGEST} characters")
    reader = _Reader(_tokens(text), MM_IN[unit])
    value, _ = reader.sum(0)
    reader.expect_end()
    if not math.isfinite(value):
        raise FigureError("the figure is too large")
    return value


def _tokens(text: str) -> list[str]:
    tokens: list[str] = []
    at, end = 0, len(text.rstrip())
    while at < end:
        found = _TOKEN.match(text, at)
        if not found:
            raise FigureError(f"“{text[at:].strip()}” is not a figure")
        token = found.group(0).strip().replace(",", ".")
        tokens.append(_SAME.get(token, token))
        at = found.end()
    if not tokens:
        raise FigureError("type a figure, such as 12.5 or 3/8in")
    return tokens


class _Reader:
    """Recursive descent: sum → product with one unit → number or bracket.

    Each gives its value, and whether that is a length already; a plain number beside a length,
    or alone, is one in the `usual` unit.
    """

    def __init__(self, tokens: list[str], usual: float) -> None:
        self._tokens, self._usual = tokens, usual
        self._at = 0

    def _peek(self) -> str:
        return self._tokens[self._at] if self._at < len(self._tokens) else ""

    def _take(self) -> str:
        token = self._peek()
        self._at += 1
        return token

    def expect_end(self) -> None:
        if self._peek():
            raise FigureError(f"“{self._peek()}” is in the wrong place")

    def sum(self, depth: int) -> tuple[float, bool]:
        if depth > _DEEPEST:
            raise FigureError("too many brackets")
        parts = [self._product(depth)]
        while self._peek() in ("+", "-"):
            sign = 1.0 if self._take() == "+" else -1.0
            value, is_length = self._product(depth)
            parts.append((sign * value, is_length))
        is_length = depth == 0 or any(one for _, one in parts)
        usual = self._usual if is_length else 1.0
        return sum(value * (1.0 if one else usual) for value, one in parts), is_length

    def _product(self, depth: int) -> tuple[float, bool]:
        value, is_length = self._number(depth)
        unit = self._unit()
        while self._peek() in ("*", "/"):
            divides = self._take() == "/"
            factor, also = self._number(depth)
            if divides and factor == 0.0:
                raise FigureError("a figure cannot be divided by 0")
            value = value / factor if divides else value * factor
            is_length = is_length or also
            further = self._unit()
            if further and unit:
                raise FigureError("a product takes one unit")
            unit = unit or further
        return (value * MM_IN[unit], True) if unit else (value, is_length)

    def _unit(self) -> str:
        return self._take() if self._peek() in MM_IN else ""

    def _number(self, depth: int) -> tuple[float, bool]:
        token = self._take()
        if token in ("-", "+"):
            sign = -1.0 if token == "-" else 1.0
            value, is_length = self._number(depth)
            return sign * value, is_length
        if token == "(":
            inside = self.sum(depth + 1)
            if self._take() != ")":
                raise FigureError("a bracket is not closed")
            return inside
        if not token or not (token[0].isdigit() or token[0] == "."):
            raise FigureError(
                f"a number is missing before “{token}”" if token else "a number is missing"
            )
        return float(token) + self._mixed_fraction(), False

    def _mixed_fraction(self) -> float:
        """The 3/8 of a mixed number such as 1 3/8."""
        following = self._tokens[self._at : self._at + 3]
        plain = len(following) == 3 and following[1] == "/"
        if not (plain and following[0].isdigit() and following[2].isdigit() and int(following[2])):
            return 0.0
        self._at += 3
        return int(following[0]) / int(following[2])
