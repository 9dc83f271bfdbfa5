"""The labels of a dial or ruler: counted, named, or the letters of a phrase."""

from __future__ import annotations

import math

import regex

from ulvent.core.base.tolerances import ROUNDING
from ulvent.core.recipe import MOST_LABELS, Names, Numbers, Phrase

_ROMAN = ((1000, "M"), (900, "CM"), (500, "D"), (400, "CD"), (100, "C"), (90, "XC"),
          (50, "L"), (40, "XL"), (10, "X"), (9, "IX"), (5, "V"), (4, "IV"), (1, "I"))  # fmt: skip
_MOST_ROMAN = 3999

_MONTHS = ("January", "February", "March", "April", "May", "June", "July", "August",
           "September", "October", "November", "December")  # fmt: skip
_SHORT_MONTH = 3

_COMPASS = ("N", "NbE", "NNE", "NEbN", "NE", "NEbE", "ENE", "EbN", "E", "EbS", "ESE", "SEbE",
            "SE", "SEbS", "SSE", "SbE", "S", "SbW", "SSW", "SWbS", "SW", "SWbW", "WSW", "WbS",
            "W", "WbN", "WNW", "NWbW", "NW", "NWbN", "NNW", "NbW")  # fmt: skip
_WINDS = {"N": "North", "E": "East", "S": "South", "W": "West", "b": " by "}


def label_texts(
    labels: Numbers | Names | Phrase, count: int | None = None, words: str = ""
) -> list[str]:
    """The labels in order: `count` of them, or as many as the sequence itself has.

    Nothing where neither says how many. `words` are the lettering's own.
    """
    if isinstance(labels, Phrase):
        return _one_by_one(words, labels.spaces)[:count]
    if isinstance(labels, Names):
        return _names(labels)[:count]
    own = None
    if labels.last is not None:
        steps = (labels.last - labels.first) / labels.step
        own = min(math.floor(steps + ROUNDING) + 1, MOST_LABELS)
    counts = [number for number in (own, count) if number is not None]
    wanted = min(counts) if counts else 0
    return [_counted(labels, labels.first + index * labels.step) for index in range(wanted)]


def _counted(labels: Numbers, value: float) -> str:
    if labels.kind == "figures":
        figure = f"{abs(value):.{labels.decimals}f}"
        minus = value < 0.0 and float(figure) != 0.0
        whole, dot, rest = figure.partition(".")
        sign = "−" if minus else "+" if labels.sign and value > 0.0 else ""
        return f"{sign}{whole.zfill(labels.pad)}{dot}{rest}{labels.unit}"
    number = round(value)
    text = roman(number) if labels.kind == "roman" else letters(number)
    return text + labels.unit if text else ""


def _one_by_one(words: str, spaces: bool) -> list[str]:
    """The letters of words, each with its marks (UAX 29); spaces as labels without words."""
    letters: list[str] = regex.findall(r"\X", words)
    return [letter.strip() for letter in letters if spaces or letter.strip()]


def roman(number: int) -> str:
    """In Roman figures, 1 to 3999; outside these, in plain figures."""
    if not 1 <= number <= _MOST_ROMAN:
        return str(number)
    text = ""
    for value, sign in _ROMAN:
        text += sign * (number // value)
        number %= value
    return text


def letters(number: int) -> str:
    """A to Z for 1 to 26, then AA, AB; nothing below 1."""
    text = ""
    while number > 0:
        number, rest = divmod(number - 1, 26)
        text = chr(ord("A") + rest) + text
    return text


def _names(labels: Names) -> list[str]:
    if labels.kind == "list":
        return list(labels.words)
    if labels.kind == "months":
        return [name[:_SHORT_MONTH] if labels.short else name for name in _MONTHS]
    points = _COMPASS[:: 32 // labels.points]
    if labels.short:
        return list(points)
    return ["".join(_WINDS[letter] for letter in point) for point in points]
