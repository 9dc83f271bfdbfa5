"""A piece whose words have fields, as `{name}`, that rows of a list fill.

`{name}`            as it is typed
`{name:capitals}`   in capitals; also `small`, and `first`, its first letter
`{number:000}`      a whole number with as many digits
`{day:d MMMM yyyy}` a date that is typed as 2026-11-29, said with d dd M MM MMM MMMM yy yyyy
`[, {town}]`        left out with all that is in the brackets where the field is empty
`{{`                a brace

A piece without fields has one: the words of its first lettering, by the name `name`.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import date
from functools import cached_property
from typing import Any

import regex

from ulvent.core.base.errors import wrong_field
from ulvent.core.recipe import Lettering, Names, Piece, checked

USUAL = "name"
"""What the one field of a piece is called whose words say none."""

_FIELD = re.compile(r"\{\{|\{([^{}:]+)(?::([^{}]*))?\}")
_OPTIONAL = re.compile(r"\[([^\[\]]*\{[^\[\]]*\}[^\[\]]*)\]")
_DATE = re.compile(r"MMMM|MMM|MM|M|dd|d|yyyy|yy")
_MONTHS = (
    "January", "February", "March", "April", "May", "June", "July", "August", "September",
    "October", "November", "December",
)  # fmt: skip


@dataclass(frozen=True)
class Pattern:
    """A piece that is made again and again with other words."""

    piece: Piece

    @cached_property
    def fields(self) -> tuple[str, ...]:
        """The names of its fields, in the order in which they are met."""
        found = dict.fromkeys(name for _, text in self._texts for name in _named(text))
        return tuple(found) or ((USUAL,) if self.piece.letterings else ())

    @cached_property
    def _texts(self) -> list[tuple[str, str]]:
        """All words that may have fields, with where they are."""
        found: list[tuple[str, str]] = []
        for index, lettering in enumerate(self.piece.letterings):
            found.append((f"letterings[{index}].text", lettering.text))
            found += [
                (f"letterings[{index}].dial.labels.words[{place}]", label)
                for place, label in enumerate(_labels(lettering))
            ]
        return found

    @cached_property
    def _plain(self) -> bool:
        """Whether no words say a field: then all words of the first lettering are one."""
        return not any(_named(text) for _, text in self._texts)

    @cached_property
    def filled_letterings(self) -> frozenset[str]:
        """The ids of letterings whose words a row fills."""
        if self._plain:
            return frozenset(one.id for one in self.piece.letterings[:1])
        return frozenset(
            one.id for one in self.piece.letterings if any(map(_named, (one.text, *_labels(one))))
        )

    def filled(self, row: Mapping[str, str], title: str) -> Piece:
        """The piece with a row's words in its fields.

        Raises
        ------
        PieceError
            Naming the words whose field the row does not have, or cannot be said as is asked.
        """
        letterings: list[Any] = []
        for index, lettering in enumerate(self.piece.letterings):
            where = f"letterings[{index}]"
            if self._plain:
                text = row.get(USUAL, "") if index == 0 else lettering.text
            else:
                text = _filled(lettering.text, row, f"{where}.text")
            changed: dict[str, Any] = {"text": text}
            if lettering.dial is not None and _labels(lettering):
                words = tuple(
                    _filled(label, row, f"{where}.dial.labels.words[{place}]")
                    for place, label in enumerate(_labels(lettering))
                )
                labels = lettering.dial.labels.model_copy(update={"words": words})
                changed["dial"] = lettering.dial.model_copy(update={"labels": labels})
            letterings.append(lettering.model_copy(update=changed))
        filled = self.piece.model_copy(update={"letterings": tuple(letterings)})
        held = checked(filled, self.piece)
        # Titles may be longer than those that a person types.
        return held.model_copy(update={"title": title})


def _labels(lettering: Lettering) -> tuple[str, ...]:
    """The listed labels of a dial."""
    labels = lettering.dial.labels if lettering.dial else None
    return labels.words if isinstance(labels, Names) and labels.kind == "list" else ()


def _named(text: str) -> list[str]:
    return [match[1].strip() for match in _FIELD.finditer(text) if match[1]]


def _filled(text: str, row: Mapping[str, str], where: str) -> str:
    def optional(match: re.Match[str]) -> str:
        inner = match[1]
        return "" if any(not row.get(name, "").strip() for name in _named(inner)) else inner

    def field(match: re.Match[str]) -> str:
        if not match[1]:
            return "{"
        name = match[1].strip()
        if name not in row:
            there = ", ".join(row) or "none"
            raise wrong_field(where, f"there is no column “{name}”; there are: {there}")
        return _said(row[name], match[2] or "", name)

    return _FIELD.sub(field, _OPTIONAL.sub(optional, text))


def _said(value: str, how: str, name: str) -> str:
    """A value as a field asks for it.

    Raises
    ------
    PieceError
        Naming the field, where it cannot be said so.
    """
    if not how or not value.strip():
        return value
    if how in _WAYS:
        return _WAYS[how](value)
    if set(how) == {"0"}:
        if not re.fullmatch(r"\s*-?\d+\s*", value):
            raise wrong_field(name, f"“{value}” is no whole number")
        return f"{int(value):0{len(how)}d}"
    if _DATE.search(how):
        return _dated(value, how, name)
    known = ", ".join((*_WAYS, "000", "d MMMM yyyy"))
    raise wrong_field(name, f"“{how}” is no way to say it; there are {known}")


def _first(value: str) -> str:
    found = regex.match(r"\s*(\X)", value)
    return str(found[1]) if found else ""


_WAYS: dict[str, Callable[[str], str]] = {
    "capitals": str.upper,
    "small": str.lower,
    "first": _first,
}


def _dated(value: str, how: str, name: str) -> str:
    try:
        day = date.fromisoformat(value.strip())
    except ValueError as error:
        raise wrong_field(name, f"“{value}” is no date; write it as 2026-11-29") from error
    month = _MONTHS[day.month - 1]
    parts = {
        "MMMM": month, "MMM": month[:3], "MM": f"{day.month:02d}", "M": str(day.month),
        "dd": f"{day.day:02d}", "d": str(day.day), "yyyy": f"{day.year:04d}",
        "yy": f"{day.year % 100:02d}",
    }  # fmt: skip
    return _DATE.sub(lambda match: parts[match[0]], how)
