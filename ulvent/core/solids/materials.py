"""What parts are made of, with what a cubic centimetre weighs.

Densities are handbook figures, from memory; those of woods differ by a tenth from board to board.
"""

from __future__ import annotations

from typing import NamedTuple

from ulvent.core.recipe.solid import MaterialName


class Material(NamedTuple):
    """A material; `density` in g/cm³."""

    title: str
    density: float


MATERIALS: dict[MaterialName, Material] = {
    "none": Material("not said", 0.0),
    "pla": Material("PLA", 1.24),
    "abs": Material("ABS", 1.04),
    "resin": Material("printing resin", 1.12),
    "wax": Material("casting wax", 0.97),
    "acrylic": Material("acrylic", 1.19),
    "oak": Material("oak", 0.70),
    "plywood": Material("birch plywood", 0.68),
    "aluminium": Material("aluminium", 2.70),
    "brass": Material("brass, CuZn37", 8.44),
    "bronze": Material("bronze, CuSn8", 8.80),
    "silver": Material("silver 925", 10.36),
    "gold": Material("gold 750", 15.4),
}
