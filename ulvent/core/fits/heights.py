"""The largest height with which lettering has room: of one lettering, or of several at once.

Several are letterings that are to be alike, or that share a guide: they grow by one factor,
those that are alike at one height.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import partial

from ulvent.core.fits.repeats import counted, times_of
from ulvent.core.fits.room import (
    along_guide,
    among_neighbours,
    bounds_lacking,
    keeps_from_turns,
    within_bounds,
)
from ulvent.core.fits.root import Root, bounded_root, root
from ulvent.core.fits.trials import Settings, Tried, beyond, typed_figure
from ulvent.core.recipe import Lettering
from ulvent.core.setting import Setting
from ulvent.core.setting.rows.outcome import Fitted

_LEAST, _MOST = 1e-2, 1e4
"""Heights that are tried, mm."""


def with_height(lettering: Lettering, height: float) -> Lettering:
    """At another height; the height at the end and those of single lines keep their ratio."""
    factor = height / lettering.height
    end = lettering.end_height
    lines = tuple(
        line.model_copy(update={"height": line.height * factor}) if line.height else line
        for line in lettering.lines
    )
    changed = {"height": height, "end_height": end and end * factor, "lines": lines}
    return lettering.model_copy(update=changed)


def fit_heights(members: Sequence[Tried], others: Sequence[Setting]) -> list[Settings]:
    """The lines of each of the `members` at the largest heights with which all have room.

    `others` stand on the same guides, and stay as they are.
    """
    return _Growing([member.changed(counted(member)) for member in members], others).grown()


class _Growing:
    """Letterings that grow by one factor, until one of them has no more room."""

    def __init__(self, members: Sequence[Tried], others: Sequence[Setting]) -> None:
        self._members, self._others = members, others
        self._ratios = [_ratio(member, members[0]) for member in members]
        self._rooms = [math.inf] * len(members)
        self._first = _first_height(members, others)

    def grown(self) -> list[Settings]:
        members, first = self._members, self._first
        if not any(member.lettering.text.strip() for member in members):
            outcome = Fitted("height", first, "there are no words to size")
            return [member.come_to(changed, outcome)
                    for member, changed in zip(members, self._at(first), strict=True)]  # fmt: skip
        solved = self._solved()
        if not solved.answered:
            return self._as_typed(solved)
        height = min([solved.value, *(member.fit.most / ratio
                                      for member, ratio in zip(members, self._ratios, strict=True)
                                      if member.fit.most is not None)])  # fmt: skip
        final = self._at(height)
        notes = [_note(solved, changed.height, member)
                 for member, changed in zip(members, final, strict=True)]  # fmt: skip
        if len(members) > 1 and any(notes):
            notes = [note and f"{note}; “{self._deciding(height)}” decides" for note in notes]
        return [
            member.come_to(changed, Fitted("height", changed.height, note, _figures(changed)))
            for member, changed, note in zip(members, final, notes, strict=True)
        ]

    def _as_typed(self, solved: Root) -> list[Settings]:
        """Without an answer all stand as they were typed, and nothing is shown as solved."""
        found: list[Settings] = []
        for member in self._members:
            height = typed_figure(member, "height", member.lettering.height)
            note = _note(solved, solved.value, member)
            changed = with_height(member.lettering, height)
            found.append(member.come_to(changed, Fitted("height", height, note)))
        return found

    def _solved(self) -> Root:
        within = self._members[0].standing.fits_within
        if any(keeps_from_turns(member.lettering, member.fit) for member in self._members):
            return bounded_root(self._room, self._first, _LEAST, _MOST, within=within)
        return root(self._room, self._first, self._guess, _LEAST, _MOST, within=within)

    def _deciding(self, height: float) -> str:
        """The words of who has least room at a height."""
        self._room(height)
        decides = self._members[self._rooms.index(min(self._rooms))]
        return decides.lettering.text.replace("\n", " ")

    def _at(self, height: float) -> list[Lettering]:
        return [with_height(member.lettering, height * ratio)
                for member, ratio in zip(self._members, self._ratios, strict=True)]  # fmt: skip

    def _room(self, height: float) -> float:
        found: list[Setting] = []
        for index, (member, changed) in enumerate(
            zip(self._members, self._at(height), strict=True)
        ):
            room = member.room(changed, partial(_of_one, member))
            self._rooms[index] = room
            if room == -math.inf:
                return -math.inf
            found.extend(member.lines(changed))
        margin = max(member.fit.margin for member in self._members)
        return min(*self._rooms, among_neighbours(found, self._others, margin))

    def _guess(self, miss: float) -> float:
        if not math.isfinite(miss):
            return self._first / 2.0
        lines = [line for member in self._members for line in member.last]
        length = max((line.length for line in lines), default=0.0)
        return self._first * (1.0 + miss / length) if length else self._first


def _first_height(members: Sequence[Tried], others: Sequence[Setting]) -> float:
    if members[0].standing.fits_within:
        return members[0].lettering.height  # in hand: solved already for how it was a moment ago
    quick = [member.by_the_face() or member for member in members]
    if all(one is member for one, member in zip(quick, members, strict=True)):
        return members[0].lettering.height
    lines = fit_heights(quick, others)[0]
    found = lines[0].fitted
    return found.value if found and not found.note else members[0].lettering.height


def _figures(lettering: Lettering) -> dict[str, float]:
    """What a height comes to in the lettering's own fields."""
    figures = {"height": lettering.height, **times_of(lettering)}
    if lettering.end_height is not None:
        figures["end_height"] = lettering.end_height
    return figures


def _note(solved: Root, height: float, member: Tried) -> str:
    if solved.answered:
        said = f"the largest height that fits is {height:.4g} mm"
        return beyond(said, height, member.fit) or bounds_lacking(member.fit, member.standing)
    if solved.value <= 2.0 * _LEAST or not math.isfinite(solved.miss):
        return "the words fit at no height"
    if solved.miss < 0.0:
        return f"at no height is there room; at {height:.4g} mm {-solved.miss:.3g} mm are missing"
    return "nothing bounds the height"


def _ratio(member: Tried, to: Tried) -> float:
    """How high one is when another is 1: letterings that are alike have one height."""
    if member.fit.alike and member.fit.alike == to.fit.alike:
        return 1.0
    return member.lettering.height / to.lettering.height


def _of_one(member: Tried, lines: Settings) -> float:
    """The room of one lettering by itself."""
    fit = member.fit
    if member.lettering.laps is not None:
        # Words go on to the next lap: what bounds them is that lap, and the last one's end.
        own = -max(line.overhang for line in lines) or math.inf
    else:
        own = min(along_guide(line, fit, member.standing.shared) for line in lines)
    return min(own, within_bounds(lines, fit, member.standing))
