"""Pieces that need more of their lettering: dials, repeats, lines, scripts, growing letters."""

from __future__ import annotations

from ulvent.core.guides.blanks import DiscBlank, RectangleBlank, TagBlank
from ulvent.core.guides.kinds.arc_guide import ArcGuide
from ulvent.core.guides.kinds.arch_guide import ArchGuide
from ulvent.core.guides.kinds.circle_guide import CircleGuide
from ulvent.core.guides.kinds.growing_spiral_guide import GrowingSpiralGuide
from ulvent.core.guides.kinds.parallel_guide import ParallelGuide
from ulvent.core.recipe import (
    Dial,
    Lettering,
    LineChoice,
    Mark,
    Numbers,
    Piece,
    Prepare,
    Repeat,
    RunPass,
    RunSheet,
    Tabs,
    Tick,
    Ticks,
    Works,
)
from ulvent.core.recipe.solid import ReliefOf, Solid
from ulvent.core.steps.join_step import Join


def lettering_pieces() -> list[Piece]:
    """The press dial last, so that it is the newest on the shelf."""
    return [
        bilingual_sign(),
        jam_tag(),
        opening_plaque(),
        harvest_platter(),
        windfall_wreath(),
        press_dial(),
    ]


def press_dial() -> Piece:
    """A 200 mm dial for the cider press: tonnes from 0 to 55, figures 15 mm high.

    Over 40 lines, since one document is read in one go.
    """
    return Piece(
        ulvent=1,
        title="Press dial",
        blank=DiscBlank(kind="disc", diameter=200),
        guides=(
            CircleGuide(id="scale", kind="circle", diameter=188, start=90, turn="clockwise"),
            CircleGuide(id="inner", kind="circle", diameter=84, start=180, turn="clockwise"),
        ),
        letterings=(
            Lettering(
                id="tonnes",
                guide="scale",
                text="",
                face="barlow-condensed-semibold",
                height=15,
                touch="capital",
                standoff=-14,
                dial=Dial(
                    labels=Numbers(kind="figures", first=0, step=5),
                    divisions=12,
                    stand="upright",
                    ticks=Ticks(
                        major=Tick(length=8, width=1.4),
                        minor=Tick(length=4.5, width=0.7),
                        parts=5,
                    ),
                ),
            ),
            Lettering(
                id="press",
                guide="inner",
                text="CIDER PRESS",
                face="barlow-condensed-semibold",
                height=10,
                touch="middle",
                at_in="top",
                align="centre",
                tracking=0.8,
            ),
            Lettering(
                id="unit",
                guide="inner",
                text="tonnes",
                face="barlow-condensed-semibold",
                height=8,
                reading="against",
                touch="middle",
                at_in="bottom",
                align="centre",
                tracking=0.6,
            ),
        ),
        solid=Solid(thickness=4, edge="bevelled", edge_size=0.6, relief=ReliefOf(by=2.0)),
    )


def windfall_wreath() -> Piece:
    """A round board: one word again and again, leaves between, and a ring of dots inside."""
    return Piece(
        ulvent=1,
        title="Windfall wreath",
        blank=DiscBlank(kind="disc", diameter=240),
        guides=(
            CircleGuide(id="wreath", kind="circle", diameter=180, start=90, turn="clockwise"),
            CircleGuide(id="dots", kind="circle", diameter=160, start=90, turn="clockwise"),
        ),
        letterings=(
            Lettering(
                id="windfall",
                guide="wreath",
                text="WINDFALL",
                face="cinzel-semibold",
                height=11.8,
                at_in="top",
                align="centre",
                repeat=Repeat(times=5, separator=Mark(kind="leaf", size=0.8)),
            ),
            Lettering(
                id="berries",
                guide="dots",
                text="",
                face="cinzel-semibold",
                height=14,
                repeat=Repeat(pitch=8, separator=Mark(kind="dot", size=0.16, raised=0.0)),
            ),
        ),
    )


def harvest_platter() -> Piece:
    """A platter whose letters grow with their spiral from the middle outward."""
    return Piece(
        ulvent=1,
        title="Harvest platter",
        blank=DiscBlank(kind="disc", diameter=300),
        guides=(
            GrowingSpiralGuide(
                id="spiral", kind="growing-spiral", inner=64, growth=1.62, turns=2.35, start=90
            ),
        ),
        letterings=(
            Lettering(
                id="harvest",
                guide="spiral",
                text="from blossom to bough to basket · the first pears, the last apples · "
                "and all who carried them home",
                face="eb-garamond",
                height=8.4,
                touch="baseline",
                standoff=0,
                at=2,
                with_guide=True,
                prepare=Prepare(join=Join()),
            ),
        ),
    )


def opening_plaque() -> Piece:
    """Three lines on an arch and its parallels, each as high and as long as it needs."""
    return Piece(
        ulvent=1,
        title="Opening plaque",
        blank=RectangleBlank(kind="rectangle", width=260, height=130, radius=10),
        guides=(ArchGuide(id="arch", kind="arch", chord=230, rise=32, centre=(0.0, 4.0)),),
        letterings=(
            Lettering(
                id="plaque",
                guide="arch",
                text="QUILLMERE ORCHARD\nopen on market days\nPLEASE SHUT THE GATE",
                face="zilla-slab-semibold",
                height=13,
                at_in="middle",
                align="centre",
                tracking=0.5,
                line_pitch=24,
                lines=(LineChoice(), LineChoice(height=10.5), LineChoice(height=8.5)),
            ),
        ),
    )


def jam_tag() -> Piece:
    """A tag in a joined script, bent with its arc so that the joins stay whole."""
    return Piece(
        ulvent=1,
        title="Jam tag",
        blank=TagBlank(kind="tag", width=120, height=56, radius=8, hole=5, hole_inset=9),
        guides=(ArcGuide(id="arc", kind="arc", radius=120, angle=48, centre=(7.0, -116.0)),),
        letterings=(
            Lettering(
                id="jam",
                guide="arc",
                text="damson jam",
                face="dancing-script-bold",
                height=14.5,
                touch="middle",
                at_in="middle",
                align="centre",
                shape="bent",
                tracking=0.6,
                prepare=Prepare(join=Join()),
            ),
        ),
    )


_ENGRAVED_THEN_CUT = RunSheet(
    passes=(
        RunPass(
            id="engrave",
            name="Welcome",
            tool="beam-fill",
            works=(Works(what="letters", of="welcome"), Works(what="letters", of="ahlan")),
        ),
        RunPass(
            id="cut",
            name="Out of the board",
            tool="beam",
            works=(Works(what="edge"),),
            tabs=Tabs(number=4, width=1.5),
        ),
    )
)
"""Plywood that is engraved while its board still holds it."""


def bilingual_sign() -> Piece:
    """A gate sign in two languages: the lower line is set from right to left."""
    return Piece(
        ulvent=1,
        title="Gate sign",
        blank=RectangleBlank(kind="rectangle", width=280, height=120, radius=14),
        guides=(
            ArchGuide(id="arch", kind="arch", chord=230, rise=26, centre=(0.0, 4.0)),
            ParallelGuide(id="lower", kind="parallel", guide="arch", distance=-40),
        ),
        letterings=(
            Lettering(
                id="welcome",
                guide="arch",
                text="Welcome to the orchard",
                face="amiri",
                height=15,
                at_in="middle",
                align="centre",
            ),
            Lettering(
                id="ahlan",
                guide="lower",
                text="أهلاً بكم في البستان",
                face="amiri",
                height=17,
                at_in="middle",
                align="centre",
                shape="bent",
                prepare=Prepare(join=Join()),
            ),
        ),
        edge="cut",
        run=_ENGRAVED_THEN_CUT,
    )
