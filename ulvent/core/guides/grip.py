"""Grips: the places by which a guide is taken hold of on the drawing."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ulvent.core.base.arrays import Point

GripKind = Literal["point", "handle", "start", "part", "turn", "size", "centre", "distance"]


@dataclass(frozen=True)
class Grip:
    """A place to take hold of a guide, in the piece.

    name
        by which a pull names it
    index
        of the placed point it belongs to, or −1
    """

    name: str
    kind: GripKind
    at: Point
    index: int = -1
    label: str = ""
