"""Tool sheets: what a tool can leave and a material holds, as figures with their source.

A piece is proofed against one sheet or several. It holds them whole, so that its file says
by itself what it was proofed against.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import ConfigDict, Field

from ulvent.core.base.fields import Identifier, Model, Share, Speed, Text, ToolSizeOrNone
from ulvent.core.base.tools import ToolKind

Words = Annotated[Text, Field(max_length=200)]
COMMON = "common practice, no source"


class ToolSheet(Model):
    """A material and a tool. Limits are in mm; one of zero is not looked at.

    use
        whether the letters are what is kept of the sheet, or what is removed from it, or are
        sunk into it, or are only lines on it
    least_stroke
        the thinnest stroke or bridge that the material holds
    least_gap
        the narrowest gap between two edges that the tool can leave
    least_part
        a part that is smaller than this across cannot be picked out, and is lost
    least_height
        of capitals that the tool can make
    cutter
        diameter of a round cutter, which does not reach into sharp corners
    tool, speed, power, depth
        what works the material, at how many mm per second and per cent, and how deep
    source
        where the figures come from
    """

    # A body of requests by itself: built at once, as those are.
    model_config = ConfigDict(defer_build=False)

    id: Identifier
    name: Words
    use: Literal["kept", "removed", "sunk", "lines"] = "kept"
    least_stroke: ToolSizeOrNone = 0.0
    least_gap: ToolSizeOrNone = 0.0
    least_part: ToolSizeOrNone = 0.0
    least_height: ToolSizeOrNone = 0.0
    cutter: ToolSizeOrNone = 0.0
    tool: ToolKind | None = None
    speed: Speed | None = None
    power: Share | None = None
    depth: ToolSizeOrNone = 0.0
    source: Words = ""


PLAIN = ToolSheet(
    id="plain",
    name="Any material",
    least_stroke=0.25,
    least_gap=0.25,
    least_part=0.5,
    source="what hardly anything holds; " + COMMON,
)

TOOL_SHEETS = (
    ToolSheet(id="vinyl-blade", name="Vinyl, blade", use="kept", least_stroke=0.8, least_gap=0.5,
              least_part=2.5, least_height=6.0, tool="blade", speed=30.0, source=COMMON),
    ToolSheet(id="stencil-blade", name="Stencil film, blade", use="removed", least_stroke=1.2,
              least_gap=1.0, least_part=3.0, least_height=10.0,
              tool="blade", speed=25.0, source=COMMON),
    ToolSheet(id="paper-pen", name="Paper, pen", use="lines", least_gap=0.35, least_height=1.8,
              tool="pen", speed=60.0,
              source="ISO 3098-1, least height 1.8 mm and strokes h/10 two apart, from memory"),
    ToolSheet(id="paper-blade", name="Paper, blade", use="removed", least_stroke=0.8,
              least_gap=0.5, least_part=2.5, least_height=8.0, tool="blade",
              speed=30.0, source=COMMON),
    ToolSheet(id="plywood-beam", name="Plywood 3 mm, beam", use="kept", least_stroke=1.0,
              least_gap=0.4, least_part=3.0, least_height=5.0, tool="beam",
              speed=12.0, power=80.0, source=COMMON),
    ToolSheet(id="brass-graver", name="Brass, graver 0.2 mm", use="sunk", least_gap=0.2,
              least_height=1.5, cutter=0.2, tool="graver", speed=5.0, depth=0.2, source=COMMON),
    ToolSheet(id="acrylic-cutter", name="Acrylic 3 mm, cutter 2 mm", use="kept",
              least_stroke=1.5, least_gap=2.0, least_part=5.0, least_height=12.0, cutter=2.0,
              tool="router", speed=15.0, depth=3.2,
              source="gap and corners follow from the cutter; the rest " + COMMON),
    ToolSheet(id="cloth-needle", name="Cloth, needle", use="kept", least_stroke=1.0,
              least_gap=0.8, least_part=1.5, least_height=5.0, source=COMMON),
    ToolSheet(id="casting", name="Casting, sand", use="kept", least_stroke=2.0, least_gap=2.0,
              least_part=4.0, least_height=10.0, source=COMMON),
)  # fmt: skip
