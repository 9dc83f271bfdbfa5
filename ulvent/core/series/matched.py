"""A list matched to the fields of a pattern: which column is which, which rows say something."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ulvent.core.base.errors import wrong_field


@dataclass(frozen=True)
class Matched:
    """A list whose columns are known.

    columns
        the field of each column; empty for one that no field asks for
    rows
        cells as they were typed, each with its number in the list, from 1, counted without a head
    empty
        numbers of rows that say nothing
    twice
        numbers of rows that say the same as one before them
    head
        whether the first line was names of columns
    """

    columns: tuple[str, ...]
    rows: tuple[tuple[int, tuple[str, ...]], ...]
    empty: tuple[int, ...]
    twice: tuple[int, ...]
    head: bool


def words_of(columns: Sequence[str], cells: Sequence[str]) -> dict[str, str]:
    """The cells of a row by the fields of their columns; those that it lacks are empty."""
    found = {name: "" for name in columns if name}
    for name, cell in zip(columns, cells, strict=False):
        if name:
            found[name] = cell
    return found


def title_of(cells: Sequence[str]) -> str:
    """A row in one line, as it was typed."""
    return " ".join(cell for cell in cells if cell.strip())


def matched_head(line: Sequence[str], fields: Sequence[str]) -> bool:
    """Whether a line is names of columns: it names a field, whatever the case."""
    wanted = {name.casefold() for name in fields}
    return any(cell.strip().casefold() in wanted for cell in line)


def matched(
    table: Sequence[Sequence[str]],
    fields: Sequence[str],
    by_hand: Mapping[int, str] | None = None,
) -> Matched:
    """Match the lines of a table to fields: by the names in its first line, else by their order.

    by_hand
        columns, from 0, whose field someone has said

    Raises
    ------
    PieceError
        Naming a field that no column is for.
    """
    wanted = {name.casefold(): name for name in fields}
    first = [cell.strip().casefold() for cell in table[0]] if table else []
    head = bool(table) and matched_head(table[0], fields)
    width = max((len(line) for line in table), default=0)
    if head:
        columns = [wanted.get(cell, "") for cell in first]
        columns += [""] * (width - len(columns))
    else:
        columns = [*fields, *[""] * width][:width] if width else list(fields)
    for place, name in (by_hand or {}).items():
        columns[place] = name
    lacking = [name for name in fields if name not in columns]
    if lacking:
        there = ", ".join(cell for cell in table[0]) if table else "nothing"
        raise wrong_field("list", f"no column is for {{{lacking[0]}}}; its first line is: {there}")
    rows, empty, twice = [], [], []
    seen: set[tuple[str, ...]] = set()
    for number, line in enumerate(table[1 if head else 0 :], 1):
        cells = tuple(line)
        said = tuple(cell for name, cell in zip(columns, cells, strict=False) if name)
        if not any(cell.strip() for cell in said):
            empty.append(number)
            continue
        if said in seen:
            twice.append(number)
        seen.add(said)
        rows.append((number, cells))
    return Matched(tuple(columns), tuple(rows), tuple(empty), tuple(twice), head)
