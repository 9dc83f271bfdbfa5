"""Pieces whose gaps are even and whose figures are solved."""

from __future__ import annotations

from ulvent.core.guides.blanks import DiscBlank, OutlineBlank, RectangleBlank
from ulvent.core.guides.kinds import AnyGuide
from ulvent.core.guides.kinds.arch_guide import ArchGuide
from ulvent.core.guides.kinds.between_guide import BetweenGuide
from ulvent.core.guides.kinds.circle_guide import CircleGuide
from ulvent.core.guides.kinds.line_guide import LineGuide
from ulvent.core.guides.kinds.spiral_guide import SpiralGuide
from ulvent.core.recipe import Fit, Lettering, Piece, Prepare, RunPass, RunSheet, Works
from ulvent.core.steps.join_step import Join


def fit_pieces() -> list[Piece]:
    """The two rings last, so that they are the newest on the shelf."""
    return [variety_labels(), cider_banner(), pressing_platter(), jar_rings()]


def jar_rings() -> Piece:
    """Two jam jar lids with the same words: by the face's own spacing, and with even gaps."""
    rings: list[AnyGuide] = []
    words: list[Lettering] = []
    for name, across, spacing in (("face-spacing", -42.0, "font"), ("even-gaps", 42.0, "even")):
        rings.append(
            CircleGuide(id=name, kind="circle", diameter=44, start=270, centre=(across, 0.0))
        )
        words.append(
            Lettering.model_validate(
                {
                    "id": f"{name}-words",
                    "guide": name,
                    "text": "TAWNY PLUM",
                    "face": "cinzel-semibold",
                    "height": 11,
                    "at": 0.5,
                    "at_in": "share",
                    "align": "centre",
                    "spacing": spacing,
                }
            )
        )
    return Piece(
        ulvent=1,
        title="Two jar rings",
        blank=RectangleBlank(kind="rectangle", width=172, height=88, radius=6),
        guides=tuple(rings),
        letterings=tuple(words),
    )


def pressing_platter() -> Piece:
    """A platter whose last letter ends where its spiral ends: its turns are solved for that."""
    return Piece(
        ulvent=1,
        title="Pressing day platter",
        blank=DiscBlank(kind="disc", diameter=240),
        guides=(
            SpiralGuide(
                id="spiral", kind="spiral", inner=76, outer=208, turns=3, start=180, inward=True
            ),
        ),
        letterings=(
            Lettering(
                id="turns",
                guide="spiral",
                text=(
                    "Gather the windfalls, wash them well and let them rest overnight · "
                    "mill them, press them slowly, pour and taste · "
                    "share the first glass under the oldest tree · Quillmere pressing day"
                ),
                face="eb-garamond",
                height=11,
                touch="middle",
                spacing="even",
                fit=Fit(kind="guide", figure="turns", margin=1.0),
                prepare=Prepare(join=Join()),
            ),
        ),
    )


_DRAWN_THEN_CUT = RunSheet(
    passes=(
        RunPass(id="draw", tool="pen", works=(Works(what="letters", of="name"),)),
        RunPass(id="cut", tool="blade", works=(Works(what="edge"),), overcut=0.5),
    )
)


def cider_banner() -> Piece:
    """A banner over the press: the largest name that keeps clear of both its edges."""
    upper = ArchGuide(id="upper-edge", kind="arch", chord=240, rise=42, centre=(0, 8), hidden=True)
    lower = ArchGuide(
        id="lower-edge", kind="arch", chord=240, rise=24, centre=(0, -34), hidden=True
    )
    return Piece(
        ulvent=1,
        title="Cider press banner",
        blank=OutlineBlank(
            kind="outline", lines=(_between_arches(240, 42, 8, 24, -34),), source="banner"
        ),
        guides=(
            upper,
            lower,
            BetweenGuide(id="middle", kind="between", first="upper-edge", second="lower-edge"),
        ),
        letterings=(
            Lettering(
                id="name",
                guide="middle",
                text="QUILLMERE",
                face="lato-bold",
                height=20,
                touch="middle",
                at=0.5,
                at_in="share",
                align="centre",
                shape="bent",
                spacing="even",
                fit=Fit(kind="height", within=("edges",), clear=5.0, margin=6.0),
            ),
        ),
        edge="cut",
        run=_DRAWN_THEN_CUT,
    )


def _between_arches(chord: float, rise: float, up: float, lower: float, down: float) -> str:
    """The outline between two arches of one chord, as path data."""
    half = chord / 2.0
    radii = [chord * chord / (8.0 * height) + height / 2.0 for height in (rise, lower)]
    return (
        f"M{-half} {up}A{radii[0]:.6f} {radii[0]:.6f} 0 0 0 {half} {up}"
        f"L{half} {down}A{radii[1]:.6f} {radii[1]:.6f} 0 0 1 {-half} {down}Z"
    )


def variety_labels() -> Piece:
    """Labels for three trees: names of different length, of one height that fits them all."""
    names = (("russet", "RUSSET", 26.0), ("pippin", "WINTER PIPPIN", 0.0), ("plum", "PLUM", -26.0))
    guides: list[AnyGuide] = [
        LineGuide(id=f"{name}-line", kind="line", length=92, centre=(0.0, up - 5.0))
        for name, _, up in names
    ]
    return Piece(
        ulvent=1,
        title="Tree labels, one height",
        blank=RectangleBlank(kind="rectangle", width=110, height=88, radius=4),
        guides=tuple(guides),
        letterings=tuple(
            Lettering(
                id=name,
                guide=f"{name}-line",
                text=text,
                face="zilla-slab-semibold",
                height=12,
                align="centre",
                fit=Fit(kind="height", margin=3.0, alike="labels", most=14.0),
            )
            for name, text, _ in names
        ),
    )
