"""The guides that are in the drawer from the start."""

from __future__ import annotations

from ulvent.core.guides.drawn import Node
from ulvent.core.guides.kinds import AnyGuide
from ulvent.core.guides.kinds.arc_guide import ArcGuide
from ulvent.core.guides.kinds.arch_guide import ArchGuide
from ulvent.core.guides.kinds.circle_guide import CircleGuide
from ulvent.core.guides.kinds.drawn_guide import DrawnGuide
from ulvent.core.guides.kinds.ellipse_guide import EllipseGuide
from ulvent.core.guides.kinds.growing_spiral_guide import GrowingSpiralGuide
from ulvent.core.guides.kinds.rectangle_guide import RectangleGuide
from ulvent.core.guides.kinds.spiral_guide import SpiralGuide
from ulvent.core.guides.kinds.star_guide import StarGuide
from ulvent.core.guides.kinds.superellipse_guide import SuperellipseGuide
from ulvent.core.guides.kinds.wave_guide import WaveGuide

DRAWER_NOTE = "drawer: twelve guides"


def drawer_guides() -> dict[str, AnyGuide]:
    """Twelve useful guides by name, each about its own centre and in its true size."""
    return {
        "Barrel head, 240 mm ring": CircleGuide(
            id="ring", kind="circle", diameter=240, start=180
        ),
        "Medal, upper half": ArcGuide(id="arc", kind="arc", radius=32, angle=180),
        "Beehive arch": ArchGuide(id="arch", kind="arch", chord=180, rise=45),
        "Oval name plate": EllipseGuide(id="oval", kind="ellipse", width=140, height=80),
        "Seed drawer wave": WaveGuide(id="wave", kind="wave", length=90, height=16, waves=3),
        "Arch and valley": WaveGuide(id="ogee", kind="wave", length=220, height=36, waves=1),
        "Platter spiral": SpiralGuide(
            id="spiral", kind="spiral", inner=60, outer=260, turns=5, inward=True
        ),
        "Snail shell": GrowingSpiralGuide(
            id="shell", kind="growing-spiral", inner=16, growth=1.7, turns=3.25, inward=True
        ),
        "Tin lid, rounded": RectangleGuide(
            id="lid", kind="rectangle", width=120, height=80, radius=14, corners="pass"
        ),
        "Soft square": SuperellipseGuide(
            id="soft", kind="superellipse", width=110, height=110, exponent=4
        ),
        "Rosette, twelve tips": StarGuide(
            id="rosette", kind="star", tips=12, outer=150, inner=122, tip_radius=8, valley_radius=6,
            corners="pass",
        ),
        "Hanging ribbon": DrawnGuide(
            id="ribbon",
            kind="drawn",
            nodes=(
                Node(at=(-110, 14)), Node(at=(-58, -12)), Node(at=(0, 6)),
                Node(at=(58, -12)), Node(at=(110, 14)),
            ),
        ),
    }  # fmt: skip
