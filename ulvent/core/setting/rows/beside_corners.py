"""Rows on lines with corners: each side of a corner by itself.

A row that is spaced as a whole moves letters over corners that they had been pushed off. So
the letters of a run on one side are spaced by themselves, about their own middle, and are then
moved just as far as the corners ask.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ulvent.core.base.arrays import Integers, Stations
from ulvent.core.setting.gaps.spacing import Spacing
from ulvent.core.setting.letters.corners import Zone, zones_along
from ulvent.core.setting.rows.inked import InkedLetters


@dataclass(frozen=True, eq=False)
class Sides:
    """Which letters stand together on one side, and from where to where they may stand.

    blocks
        (n,) letters of one run on one side have one number
    low, high
        (blocks,) stations between which all of a block has to stand, mm
    """

    letters: InkedLetters
    blocks: Integers
    low: Stations
    high: Stations

    @classmethod
    def of(cls, letters: InkedLetters, zones: Sequence[Zone], lap: float | None) -> Sides:
        """The sides of a row as it is arranged, its pushes included."""
        halves = letters.extents / 2.0
        reach = float((letters.middles - halves).min()), float((letters.middles + halves).max())
        everywhere = np.array(zones_along(list(zones), lap, *reach))
        side = np.searchsorted(everywhere.mean(axis=1), letters.middles)
        new = (np.diff(side) != 0) | (np.diff(letters.runs) != 0)
        blocks = np.concatenate([[0], np.cumsum(new)])
        firsts = np.concatenate([[0], np.flatnonzero(new) + 1])
        begins = np.concatenate([[-np.inf], everywhere[:, 1]])
        ends = np.concatenate([everywhere[:, 0], [np.inf]])
        return cls(letters, blocks, begins[side[firsts]], ends[side[firsts]])

    def spacing(self, spacing: Spacing) -> Spacing:
        """The same gaps wanted, each block about its own middle."""
        targets = np.where(np.diff(self.blocks) == 0, spacing.targets, np.nan)
        return replace(spacing, runs=self.blocks, hold="labels", targets=targets)

    def beside_corners(self, middles: Stations) -> Stations:
        """Letters moved with their block as far as its side asks, where it has room there."""
        found = middles.copy()
        halves = self.letters.extents / 2.0
        for block, (low, high) in enumerate(zip(self.low, self.high, strict=True)):
            mine = self.blocks == block
            begin, end = (found - halves)[mine].min(), (found + halves)[mine].max()
            if end - begin <= high - low:
                found[mine] += max(low - begin, 0.0) or min(high - end, 0.0)
        return found
