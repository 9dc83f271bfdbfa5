"""Tools of a machine: what each is called, how it is told apart, and its usual figures."""

from __future__ import annotations

from typing import Literal, NamedTuple

from ulvent.core.base.outputs import Output

ToolKind = Literal[
    "pen", "score", "graver", "flat-bit", "v-bit", "beam-fill", "beam", "blade", "router"
]


class Tool(NamedTuple):
    """One kind of tool.

    letter, dashes
        what tells its passes apart on the screen and in print: a letter and a line style, in mm
        of line and gap
    output
        what it does to a line
    way
        how it works: it touches the sheet, or has a power, or goes to a depth
    speed
        usual, mm per second
    power
        usual, per cent
    areas
        what it does to areas, where it does not follow their edges: it fills them with lines,
        clears a floor, or cuts a groove along their middle
    bit
        usual diameter, mm, of a cutter whose width counts
    """

    title: str
    letter: str
    dashes: tuple[float, ...]
    output: Output
    way: Literal["touch", "power", "depth"]
    speed: float
    power: float = 0.0
    areas: Literal["", "filled", "cleared", "grooved"] = ""
    bit: float = 0.0


TOOLS: dict[ToolKind, Tool] = {
    "pen": Tool("Pen", "P", (), "draw", "touch", 60.0),
    "score": Tool("Scoring point", "S", (6.0, 2.0), "engrave", "touch", 40.0),
    "graver": Tool("Graver", "G", (6.0, 1.5, 1.0, 1.5), "engrave", "depth", 5.0),
    "flat-bit": Tool(
        "Flat cutter, clearing",
        "C",
        (4.0, 1.0, 4.0, 4.0),
        "engrave",
        "depth",
        12.0,
        areas="cleared",
        bit=3.0,
    ),
    "v-bit": Tool(
        "Pointed cutter",
        "V",
        (4.0, 1.0, 1.0, 1.0, 1.0, 1.0),
        "engrave",
        "depth",
        10.0,
        areas="grooved",
        bit=12.0,
    ),
    "beam-fill": Tool(
        "Beam, filling", "F", (1.0, 1.0), "engrave", "power", 150.0, 20.0, areas="filled"
    ),
    "beam": Tool("Beam", "B", (3.0, 1.5), "cut", "power", 12.0, 80.0),
    "blade": Tool("Blade", "K", (10.0, 1.5), "cut", "touch", 30.0),
    "router": Tool("Router bit", "R", (8.0, 2.0, 2.0, 2.0), "cut", "depth", 15.0),
}
"""In the order in which they work: what is cut out first would no longer lie still. The figures
are common practice, no source: a beginning for a trial cut, and no more."""


def usual_tools(first: ToolKind | None) -> dict[Output, ToolKind]:
    """What draws, engraves and cuts where nothing is said, but which tool there is."""
    usual: dict[Output, ToolKind] = {"draw": "pen", "engrave": "beam", "cut": "beam"}
    if first is not None:
        usual[TOOLS[first].output] = first
    return usual
