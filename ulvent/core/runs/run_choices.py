"""Run sheets to choose from: what makers do most, each by one choice."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from typing import NamedTuple

from ulvent.core.base.tools import ToolKind
from ulvent.core.prepare import Group
from ulvent.core.recipe import Piece, RunPass, RunSheet, Works
from ulvent.core.recipe.run_sheet import Carving
from ulvent.core.runs.nesting import LETTERING
from ulvent.core.runs.on_the_drawing import works_of
from ulvent.core.runs.usual import plain_sheet, tools_of


class RunChoice(NamedTuple):
    """One run sheet to choose.

    hint
        what it is for
    """

    name: str
    title: str
    hint: str
    sheet: RunSheet


def run_choices(piece: Piece, groups: Sequence[Group]) -> tuple[RunChoice, ...]:
    """The run sheets that a piece may have by one choice, without those that come to nothing."""
    usual = tools_of(piece)
    within = _works(groups, inside=True)
    beyond = _works(groups, inside=False)
    every = (*within, *beyond)
    cut = _pass("cut", "Cut", usual["cut"], beyond)
    found = [
        RunChoice("plain", "As it says", "what is drawn, then engraved, then cut",
                  plain_sheet(piece, groups)),
        RunChoice("draw-cut", "Draw, then cut", "lettering with a pen, then its edge is cut out",
                  _sheet(_pass("draw", "Draw", "pen", within), cut)),
        RunChoice("engrave-cut", "Engrave, then cut out",
                  "lettering is engraved while the sheet still holds it",
                  _sheet(_pass("engrave", "Engrave", usual["engrave"], within), cut)),
        RunChoice("score", "Score only", "every line with the scoring point",
                  _sheet(_pass("score", "Score", "score", every))),
        RunChoice("cut", "Cut only", "every line is cut",
                  _sheet(_pass("cut", "Cut", usual["cut"], every))),
        _carve(piece, groups, beyond),
    ]  # fmt: skip
    return tuple(one for one in found if one.sheet.passes)


def _carve(piece: Piece, groups: Sequence[Group], edge: tuple[Works, ...]) -> RunChoice:
    sheet = _carved(piece, groups, edge)
    said = "sunk lettering is cleared, grooves are cut"
    if any(one.tool == "router" for one in sheet.passes):
        return RunChoice("carve", "Carve, then cut out", f"{said}, then its edge is milled", sheet)
    return RunChoice("carve", "Carve", said, sheet)


def _carved(piece: Piece, groups: Sequence[Group], edge: tuple[Works, ...]) -> RunSheet:
    """What carves a part's sunk and grooved lettering; nothing where it has none."""
    solid = piece.solid
    if solid is None:
        return RunSheet()
    found: dict[tuple[str, float, float], list[Works]] = {}
    for group in groups:
        if group.key[0] == "letters":
            relief = solid.relief_of(group.key[1])
            angle = relief.angle if relief.relief == "grooved" else 0.0
            if relief.relief in ("sunk", "grooved"):
                found.setdefault((relief.relief, relief.by, angle), []).append(works_of(group))
    # What is sunk comes first: a groove may lie on its floor.
    passes = [
        RunPass(id=f"clear-{number}", name="Clear", tool="flat-bit", works=tuple(works), depth=by,
                carving=Carving(bit=solid.cutter))
        if kind == "sunk" else
        RunPass(id=f"groove-{number}", name="Groove", tool="v-bit", works=tuple(works), depth=by,
                carving=Carving(angle=angle))
        for number, ((kind, by, angle), works) in enumerate(sorted(found.items(), reverse=True), 1)
    ]  # fmt: skip
    # A part that is there already is not cut out.
    if passes and edge and solid.body is None:
        out = RunPass(id="cut", name="Cut out", tool="router", works=edge, depth=solid.thickness)
        passes.append(out)
    return RunSheet(passes=tuple(passes))


def fresh_pass(sheet: RunSheet, groups: Sequence[Group]) -> RunPass | None:
    """A pass that may be added: it cuts the first thing there is, until it is told otherwise."""
    taken = {one.id for one in sheet.passes}
    names = (f"pass-{count}" for count in itertools.count(len(taken) + 1))
    name = next(one for one in names if one not in taken)
    works = _works(groups[:1], inside=True) or _works(groups[:1], inside=False)
    return _pass(name, "", "blade", works)


def _works(groups: Sequence[Group], inside: bool) -> tuple[Works, ...]:
    return tuple(works_of(group) for group in groups if (group.key[0] in LETTERING) == inside)


def _pass(id: str, name: str, tool: ToolKind, works: tuple[Works, ...]) -> RunPass | None:
    return RunPass(id=id, name=name, tool=tool, works=works) if works else None


def _sheet(*passes: RunPass | None) -> RunSheet:
    return RunSheet(passes=tuple(one for one in passes if one is not None))
