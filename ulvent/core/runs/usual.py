"""What a piece has where its run sheet says nothing: its passes, its tools and their figures."""

from __future__ import annotations

from collections.abc import Sequence

from ulvent.core.base.outputs import OUTPUTS, Output
from ulvent.core.base.tools import ToolKind, usual_tools
from ulvent.core.prepare import Group
from ulvent.core.recipe import PLAIN, Piece, RunPass, RunSheet, ToolSheet, Works


def plain_sheet(piece: Piece, groups: Sequence[Group]) -> RunSheet:
    """The run sheet of a piece that says nothing: what is drawn, then engraved, then cut."""
    there = {group.output for group in groups}
    tools = tools_of(piece)
    passes = [
        RunPass(
            id=output, name=output.capitalize(), tool=tools[output], works=(Works(what=output),)
        )
        for output in OUTPUTS
        if output in there
    ]
    return RunSheet(passes=tuple(passes))


def usual_sheet(piece: Piece, tool: ToolKind) -> ToolSheet:
    """The tool sheet of a piece for a tool; one without figures where there is none."""
    return next((sheet for sheet in piece.tool_sheets if sheet.tool == tool), PLAIN)


def tools_of(piece: Piece) -> dict[Output, ToolKind]:
    """What draws, engraves and cuts a piece of which nothing else is said: its tool sheet's."""
    return usual_tools(piece.tool_sheets[0].tool if piece.tool_sheets else None)
