"""Pieces on circles: a barrel head, a plaque for the hives, a brass tag."""

from __future__ import annotations

from ulvent.core.guides.blanks import DiscBlank
from ulvent.core.guides.kinds.circle_guide import CircleGuide
from ulvent.core.recipe import Lettering, Piece, Prepare
from ulvent.core.steps.join_step import Join


def circle_pieces() -> list[Piece]:
    """The barrel head last, so that it is the newest on the shelf."""
    return [tree_tag(), beehive_plaque(), barrel_head()]


def barrel_head() -> Piece:
    """A 300 mm barrel head: a name along the top, a line along the bottom, one band.

    The seam lies at the left, so that neither line runs over it. The lower line
    reads against the guide: its middle lies in the middle of the upper line's band.
    """
    return Piece(
        ulvent=1,
        title="Barrel head",
        blank=DiscBlank(kind="disc", diameter=300),
        guides=(CircleGuide(id="rim", kind="circle", diameter=240, start=180, turn="clockwise"),),
        letterings=(
            Lettering(
                id="name",
                guide="rim",
                text="QUILLMERE ORCHARD",
                face="cinzel-semibold",
                height=18,
                at=0.25,
                at_in="share",
                align="centre",
                prepare=Prepare(join=Join()),
            ),
            Lettering(
                id="pressed",
                guide="rim",
                text="PRESSED BY HAND",
                face="lato-bold",
                height=11,
                reading="against",
                touch="middle",
                standoff=-9,
                at=0.75,
                at_in="share",
                align="centre",
                tracking=1.2,
            ),
        ),
    )


def beehive_plaque() -> Piece:
    """A 160 mm plaque for the hives: two lines on one ring, upright both times."""
    return Piece(
        ulvent=1,
        title="Beehive plaque",
        blank=DiscBlank(kind="disc", diameter=160),
        guides=(CircleGuide(id="ring", kind="circle", diameter=112, start=180, turn="clockwise"),),
        letterings=(
            Lettering(
                id="hive",
                guide="ring",
                text="Please walk softly",
                face="kaushan-script",
                height=13,
                at=0.25,
                at_in="share",
                align="centre",
            ),
            Lettering(
                id="bees",
                guide="ring",
                text="THE BEES ARE AT WORK",
                face="nunito-extrabold",
                height=8,
                reading="against",
                touch="middle",
                standoff=-6.5,
                at=0.75,
                at_in="share",
                align="centre",
                tracking=0.5,
            ),
        ),
    )


def tree_tag() -> Piece:
    """A 60 mm brass tag for one tree, engraved in single strokes round its edge."""
    return Piece(
        ulvent=1,
        title="Brass tree tag",
        blank=DiscBlank(kind="disc", diameter=60),
        guides=(CircleGuide(id="edge", kind="circle", diameter=44, start=180, turn="clockwise"),),
        letterings=(
            Lettering(
                id="variety",
                guide="edge",
                text="Old Ribbed Russet",
                face="eb-garamond",
                height=5,
                at=0.25,
                at_in="share",
                align="centre",
                tracking=0.3,
            ),
            Lettering(
                id="row",
                guide="edge",
                text="row 7, tree 12",
                face="hershey-sans",
                height=3.5,
                reading="against",
                touch="middle",
                standoff=-2.5,
                at=0.75,
                at_in="share",
                align="centre",
            ),
        ),
    )
