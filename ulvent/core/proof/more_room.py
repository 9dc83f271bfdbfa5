"""What mends a lettering that has no room, worked out far enough to be done at once.

Every remedy that is offered has been tried: with it, the lettering fits.
"""

from __future__ import annotations

import math
from typing import Any

from ulvent.core.base.errors import CurveError, PieceError
from ulvent.core.base.tolerances import JOINT, ROUNDING
from ulvent.core.fits import root, set_fitted, with_height
from ulvent.core.guides import guide_curve
from ulvent.core.guides.kinds import kind_of
from ulvent.core.guides.scaling import resized
from ulvent.core.layout import Layout, standing_of
from ulvent.core.proof.more_places import more_places
from ulvent.core.proof.remedy import Remedy
from ulvent.core.proof.trying import offer, tried
from ulvent.core.recipe import Lettering
from ulvent.core.recipe.arrangements import LINE_TO_LINE
from ulvent.core.setting import Setting

_MOST_TRIALS = 6
_MOST_LARGER = 4.0
_LEAST_SHARE = 0.2
_MOST_TIGHTER = 0.12
"""Letters are not pushed together by more than this share of a capital's height."""


def overflow_remedies(layout: Layout, lettering: Lettering) -> list[Remedy]:
    """All remedies for a lettering that has no room on its guide, the mildest first."""
    lines = layout.lines_of(lettering.id)
    if any(line.unplaced for line in lines):
        return more_places(layout, lettering, lines[0])
    if max(line.overhang for line in lines) <= JOINT:
        return []
    found = [
        _slid(layout, lettering, lines),
        _tighter(layout, lettering, lines),
        _smaller(layout, lettering),
        _another_lap(layout, lettering, lines),
        _larger_guide(layout, lettering, lines),
    ]
    return [remedy for remedy in found if remedy is not None]


def _slid(layout: Layout, lettering: Lettering, lines: tuple[Setting, ...]) -> Remedy | None:
    """Words that are short enough, moved until they are on their open guide."""
    line = lines[0]
    if len(lines) > 1 or line.baseline.closed or lettering.dial or lettering.repeat:
        return None
    if line.length > line.baseline.length:
        return None
    by = -line.start if line.start < 0.0 else line.baseline.length - line.end
    by = math.copysign(math.ceil(abs(by) * 100.0) / 100.0, by)
    forward = by if lettering.reading == "along" else -by
    station = lettering.at + (
        forward / line.guide.length if lettering.at_in == "share" else forward
    )
    label = f"slide by {abs(by):g} mm"
    return offer(layout, lettering, label, {"at": round(station, 7)})


def _tighter(layout: Layout, lettering: Lettering, lines: tuple[Setting, ...]) -> Remedy | None:
    """Less tracking."""
    worst = max(lines, key=lambda line: line.overhang)
    gaps = len(worst.lettering.text) - 1
    if gaps < 1 or lettering.laps or lettering.dial:
        return None
    by = worst.overhang / gaps
    if by > _MOST_TIGHTER * worst.capital:
        return None
    by = math.ceil(by * 100.0) / 100.0
    label = f"tighter by {by:g} mm a gap"
    return offer(layout, lettering, label, {"tracking": round(lettering.tracking - by, 3)})


def _smaller(layout: Layout, lettering: Lettering) -> Remedy | None:
    """The largest height that fits, rounded down; an end height keeps its ratio."""
    length = max(line.length for line in layout.lines_of(lettering.id))

    def left(height: float) -> float:
        lines = tried(layout, lettering, _heights(lettering, height))
        return -math.inf if lines is None else min(_left(line) for line in lines)

    def guess(miss: float) -> float:
        return lettering.height * max(1.0 + miss / length, _LEAST_SHARE)

    low = _LEAST_SHARE**2 * lettering.height
    solved = root(left, lettering.height, guess, low, lettering.height)
    if not solved.found:
        return None
    step = 0.1 if solved.value >= 3.0 else 0.01
    height = round(math.floor(solved.value / step + ROUNDING) * step, 3)
    label = f"smaller: {height:.4g} mm high"
    return offer(layout, lettering, label, _heights(lettering, height)) if height else None


def _left(line: Setting) -> float:
    """What a line leaves of its guide where it stands, mm; negative by what overflows."""
    if line.lettering.dial is not None:
        return -line.overhang
    if line.baseline.closed:
        return line.baseline.length - (line.end - line.start)
    return min(line.start, line.baseline.length - line.end)


def _heights(lettering: Lettering, height: float) -> dict[str, Any]:
    """The fields that another height changes, to a ten thousandth."""
    changed = _tidy(with_height(lettering, height)).model_dump(mode="json")
    same = lettering.model_dump(mode="json")
    return {name: value for name, value in changed.items() if value != same[name]}


def _tidy(lettering: Lettering) -> Lettering:
    end = lettering.end_height
    lines = tuple(
        line.model_copy(update={"height": line.height and round(line.height, 4)})
        for line in lettering.lines
    )
    return lettering.model_copy(update={"end_height": end and round(end, 4), "lines": lines})


def _another_lap(layout: Layout, lettering: Lettering, lines: tuple[Setting, ...]) -> Remedy | None:
    if lettering.repeat or lettering.dial or lettering.laps or not lines[0].baseline.closed:
        return None
    pitch = math.ceil(LINE_TO_LINE * lines[0].capital * 10.0) / 10.0
    for way in ("inward", "outward"):
        changes = {"laps": {"pitch": pitch, "way": way}}
        found = offer(layout, lettering, f"go on to another lap, {way}", changes)
        if found:
            return found
    return None


def _larger_guide(
    layout: Layout, lettering: Lettering, lines: tuple[Setting, ...]
) -> Remedy | None:
    """A guide as large as the words need; only where nothing is made from it."""
    recipe = layout.piece.guide(lettering.guide)
    leant_on = any(recipe.id in other.leans_on for other in layout.piece.guides)
    if leant_on or recipe.leans_on:
        return None
    face = layout.stands[lettering.id][1]
    factor = 1.0
    for _ in range(_MOST_TRIALS):
        worst = max(lines, key=lambda line: line.overhang)
        if worst.overhang <= JOINT:
            break
        labels = len(worst.stretches) if lettering.dial else 1
        room = worst.baseline.length / labels
        factor *= 1.0 + worst.overhang / room
        # Rounded up, so that what is said is enough.
        factor = math.ceil(factor * 1000.0 - 1e-6) / 1000.0
        larger = resized(recipe, factor)
        try:
            standing = standing_of(larger, guide_curve(larger))
            lines = set_fitted(lettering, standing, face)
        except (CurveError, PieceError):
            return None
    else:
        return None
    if factor > _MOST_LARGER:
        return None
    plain, changed = recipe.model_dump(), larger.model_dump()
    return Remedy(
        label=f"larger guide: {100.0 * factor:g} %, {kind_of(larger).words(larger)}",
        of="guide",
        owner=recipe.id,
        changes={field: value for field, value in changed.items() if value != plain[field]},
    )
