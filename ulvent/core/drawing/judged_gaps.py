"""Gaps of a line judged: how even they are, and which of them stand out."""

from __future__ import annotations

import math
from dataclasses import dataclass
from statistics import median

from ulvent.core.drawing.strip import StripGap, StripLettering

STANDS_OUT = 0.1
"""A gap stands out when its share differs from the middle one by more than this."""
MOST_STANDING_OUT = 3
_OVERLAP = 0.05
"""Of gaps that are designed narrower than this, mm, a quotient says nothing."""
_LARGEST_SHARE = 3.0


@dataclass(frozen=True)
class JudgedGaps:
    """The gaps of a line on the strip, one figure a gap in every list.

    x
        where it is on the strip, mm
    after
        the place in the words of the letter before it; -1 after a mark
    found, designed
        as it is and as its designer gave it, mm
    share
        their quotient
    excess
        by how much it is wider, mm, than it would be if all were alike
    worst
        which of them stand out
    held_apart
        how many stand at the least distance, since an even gap would bring them nearer
    usual
        the middle one of the shares: how the curve widens or narrows all of them
    spread
        by how much, as a share of that, they differ from it at most
    """

    x: list[float]
    after: list[int]
    found: list[float]
    designed: list[float]
    share: list[float]
    excess: list[float]
    worst: list[int]
    held_apart: int
    usual: float
    spread: float


def judged(line: StripLettering) -> JudgedGaps:
    """The gaps of a line with the worst of them marked, their middle share, and their spread."""
    shares = [_share(gap) for gap in line.gaps]
    usual = median(shares) if shares else 1.0
    # What is held apart so as not to touch is no unevenness that could be mended.
    off = [
        abs(share / usual - 1.0) if usual > 0.0 and not gap.held_apart else 0.0
        for share, gap in zip(shares, line.gaps, strict=True)
    ]
    worst = sorted(range(len(off)), key=lambda index: -off[index])[:MOST_STANDING_OUT]
    return JudgedGaps(
        x=[gap.x for gap in line.gaps],
        after=[gap.after for gap in line.gaps],
        found=[gap.found for gap in line.gaps],
        designed=[gap.designed for gap in line.gaps],
        share=shares,
        excess=[gap.found - gap.designed * usual for gap in line.gaps],
        worst=[index for index in worst if off[index] > STANDS_OUT],
        held_apart=sum(gap.held_apart for gap in line.gaps),
        usual=usual,
        spread=max(off, default=0.0),
    )


def _share(gap: StripGap) -> float:
    """Found over designed; where letters overlap by design only the difference says anything."""
    share = gap.found / gap.designed if gap.designed > _OVERLAP else 1.0 + gap.found - gap.designed
    return min(max(share, 0.0), _LARGEST_SHARE) if math.isfinite(share) else 1.0
