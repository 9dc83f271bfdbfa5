"""Pieces that need other guides than circles."""

from __future__ import annotations

from ulvent.core.guides.blanks import DiscBlank, OutlineBlank, RectangleBlank
from ulvent.core.guides.kinds.arch_guide import ArchGuide
from ulvent.core.guides.kinds.between_guide import BetweenGuide
from ulvent.core.guides.kinds.parallel_guide import ParallelGuide
from ulvent.core.guides.kinds.path_guide import PathGuide
from ulvent.core.guides.kinds.rectangle_guide import RectangleGuide
from ulvent.core.guides.kinds.spiral_guide import SpiralGuide
from ulvent.core.guides.kinds.wave_guide import WaveGuide
from ulvent.core.recipe import Lettering, Piece, Prepare
from ulvent.core.steps.join_step import Join


def guide_pieces() -> list[Piece]:
    """The platter last, so that it is the newest on the shelf."""
    return [tin_lid(), seed_drawer(), beehive_arch(), table_banner(), pie_platter()]


def pie_platter() -> Piece:
    """A 300 mm platter: the baking words run from the rim inward on a spiral."""
    return Piece(
        ulvent=1,
        title="Pie platter",
        blank=DiscBlank(kind="disc", diameter=300),
        guides=(
            SpiralGuide(
                id="spiral", kind="spiral", inner=84, outer=262, turns=3.25, start=180, inward=True
            ),
        ),
        letterings=(
            Lettering(
                id="recipe",
                guide="spiral",
                text=(
                    "Peel six russets, slice them thin · a cup of sugar, cinnamon, the "
                    "juice of half a lemon · butter, flour and cold water for the crust · "
                    "bake until the kitchen smells of autumn · share while warm"
                ),
                face="eb-garamond",
                height=12.8,
                touch="capital",
                standoff=-2,
                at=4,
                align="start",
                tracking=0.2,
                prepare=Prepare(join=Join()),
            ),
        ),
    )


def table_banner() -> Piece:
    """A waving banner for the pie table: the line midway between its two edges.

    The edges are those of `docs/samples/banner.svg`; they are hidden, and carry the middle
    line.
    """
    upper = "M-190 24C-120 64 -60 60 0 32S120 -4 190 28"
    lower = "M-184 -38C-118 4 -58 0 2 -28S116 -60 184 -32"
    return Piece(
        ulvent=1,
        title="Pie table banner",
        blank=OutlineBlank(
            kind="outline",
            lines=(
                "M-190 24C-120 64 -60 60 0 32S120 -4 190 28L172 -2L184 -32"
                "C116 -60 60 -56 2 -28S-118 4 -184 -38L-170 -8Z",
            ),
            source="banner.svg",
        ),
        guides=(
            PathGuide(id="upper-edge", kind="path", d=upper, source="banner.svg", hidden=True),
            PathGuide(id="lower-edge", kind="path", d=lower, source="banner.svg", hidden=True),
            BetweenGuide(id="middle", kind="between", first="upper-edge", second="lower-edge"),
        ),
        letterings=(
            Lettering(
                id="pies",
                guide="middle",
                text="Orchard Pies",
                face="kaushan-script",
                height=34,
                touch="middle",
                at=0.5,
                at_in="share",
                align="centre",
            ),
        ),
    )


def beehive_arch() -> Piece:
    """A hive front: an arch measured by its chord and rise, and its parallel for a second line."""
    return Piece(
        ulvent=1,
        title="Beehive arch",
        blank=RectangleBlank(kind="rectangle", width=240, height=110, radius=8),
        guides=(
            ArchGuide(id="arch", kind="arch", chord=190, rise=46, centre=(0.0, -22.0)),
            ParallelGuide(id="lower", kind="parallel", guide="arch", distance=-27),
        ),
        letterings=(
            Lettering(
                id="hive",
                guide="arch",
                text="QUILLMERE HONEY",
                face="zilla-slab-semibold",
                height=14,
                at=0.5,
                at_in="share",
                align="centre",
                tracking=0.6,
            ),
            Lettering(
                id="hives",
                guide="lower",
                text="hives three to nine",
                face="lato-bold",
                height=9,
                at=0.5,
                at_in="share",
                align="centre",
                tracking=0.4,
            ),
        ),
    )


def seed_drawer() -> Piece:
    """The front of a seed drawer: names along a wave."""
    return Piece(
        ulvent=1,
        title="Seed drawer",
        blank=RectangleBlank(kind="rectangle", width=320, height=90, radius=4),
        guides=(WaveGuide(id="wave", kind="wave", length=140, height=26, waves=2, phase=0),),
        letterings=(
            Lettering(
                id="seeds",
                guide="wave",
                text="beans · peas · sweet william",
                face="nunito-extrabold",
                height=15,
                touch="middle",
                at=0.5,
                at_in="share",
                align="centre",
                tracking=0.5,
            ),
        ),
    )


def tin_lid() -> Piece:
    """A rounded tin lid: one line of words round all four sides."""
    return Piece(
        ulvent=1,
        title="Tin lid",
        blank=RectangleBlank(kind="rectangle", width=170, height=120, radius=26),
        guides=(
            RectangleGuide(
                id="round", kind="rectangle", width=130, height=80, radius=16, corners="pass"
            ),
        ),
        letterings=(
            Lettering(
                id="ginger",
                guide="round",
                text="GINGER BISCUITS · BAKED ON FRIDAY · QUILLMERE ORCHARD · AUTUMN FAIR ·",
                face="barlow-condensed-semibold",
                height=10,
                at=2,
                align="start",
                tracking=0.23,
            ),
        ),
    )
