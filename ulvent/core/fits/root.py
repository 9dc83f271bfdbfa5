"""The root of one condition in one unknown, in as few trials as can be.

A trial sets a whole lettering, evenly spaced perhaps, so every one counts. What is
fitted here is nearly linear in its unknown: a parabola through the last three trials lands
within a billionth in four or five, where a bracketing method alone takes ten or more. The
bracket that the trials leave is kept, and halved where the parabola leads out of it, so
that jumps are found as well.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import NamedTuple

EXACT = 1e-9
"""To how many mm an unknown is found."""
_MISS = 1e-10
"""Conditions that are missed by no more than this, mm, hold."""
HOLDS = 1e-7
"""Conditions that are missed by more are said not to hold, mm."""
_MOST_TRIALS = 60
_MOST_GROWTH = 4.0
_TO_ROOM, _BOUNDED_GROWTH = 1.5, 1.12
_JUMP = (1e-6, 1e-3)
"""A bracket as narrow as this, of its place, with misses as large as this, mm, holds a jump."""
_FAST, _SLOW = 0.5, 2
"""After so many trials in a row that do not bring the miss down by this, the bracket is halved."""


@dataclass(frozen=True)
class Root:
    """Where a condition holds.

    value
        the unknown; where the condition jumps past nil, its last value with room
    miss
        by how much the condition is missed there
    found
        whether this is where room ends: a root, or a jump of the condition past nil;
        otherwise it is the nearest that was tried
    within
        the room that could be left over, mm
    """

    value: float
    miss: float
    found: bool
    within: float = 0.0

    @property
    def answered(self) -> bool:
        """Whether there is a place where room ends, though it be a jump."""
        return self.found and math.isfinite(self.miss)

    @property
    def exact(self) -> bool:
        """Whether the condition holds."""
        return self.found and abs(self.miss) <= max(HOLDS, self.within)


def bounded_root(
    condition: Callable[[float], float],
    start: float,
    low: float,
    high: float,
    rises: bool = False,
    within: float = 0.0,
) -> Root:
    """As `root`, of a condition that may have room again beyond where it had none.

    The first trial with room is looked for from `start` on, the way to more room; from there the
    unknown goes the other way in small steps, to where room ends for the first time.
    """
    at = min(max(start, low), high)
    for _ in range(_MOST_TRIALS):
        if condition(at) > 0.0:
            break
        further = at * _TO_ROOM if rises else at / _TO_ROOM
        if not low < further < high:
            break
        at = further
    step = at / _BOUNDED_GROWTH if rises else at * _BOUNDED_GROWTH
    return root(
        condition, at, lambda _: step, low, high, rises, growth=_BOUNDED_GROWTH, within=within
    )


def root(
    condition: Callable[[float], float],
    start: float,
    guess: Callable[[float], float],
    low: float,
    high: float,
    rises: bool = False,
    unit: float = 1e-3,
    growth: float = _MOST_GROWTH,
    within: float = 0.0,
) -> Root:
    """Where `condition`, mm, is nil between `low` and `high`; it has room where it is positive.

    `start` is the first trial, and `guess` makes the second from what that missed. `rises` says
    whether more of the unknown gives more room. While all trials have been on one side, the
    unknown grows by the factor `growth` at most, and by `unit` where it is nil. A condition that
    cannot be had says −∞. So much room as `within` may be left over, but none may be missing.
    """
    search = _Search(low, high, rises, unit, growth, within)
    at = min(max(start, low), high)
    for trial in range(_MOST_TRIALS):
        miss = condition(at)
        search.take(at, miss)
        if search.holds or search.narrow:
            break
        following = search.following(guess(miss) if trial == 0 else None)
        if following == at:
            return search.nearest(found=False)
        at = following
    return search.nearest(found=True)


class _Search:
    """The trials so far: the last two, and the bracket that they leave.

    What is looked for leaves half of `within` over: what comes near enough to it has room.
    """

    def __init__(
        self, low: float, high: float, rises: bool, unit: float, growth: float, within: float
    ) -> None:
        self._within, self._spare = within, within / 2.0
        self._low, self._high, self._rises = low, high, rises
        self._unit, self._growth = unit, growth
        self._last: list[_Trial] = []
        self._room: _Trial | None = None
        self._none: _Trial | None = None
        self._slow = 0

    def take(self, at: float, miss: float) -> None:
        """A trial."""
        miss -= self._spare
        trial = _Trial(at, miss)
        self._last = [*self._last[-2:], trial]
        slow = len(self._last) > 1 and abs(miss) > _FAST * abs(self._last[-2].miss)
        self._slow = self._slow + 1 if slow else 0
        if miss > 0.0:
            self._room = trial
        else:
            self._none = trial

    @property
    def holds(self) -> bool:
        """Whether the condition holds at the last trial."""
        return abs(self._last[-1].miss) <= max(_MISS, self._spare)

    @property
    def narrow(self) -> bool:
        """Whether the bracket has closed."""
        if self._room is None or self._none is None:
            return False
        apart = abs(self._room.at - self._none.at)
        near, far = _JUMP
        jumps = min(self._room.miss, -self._none.miss) > far
        return apart <= (near * abs(self._room.at) if jumps else EXACT / 10.0)

    def nearest(self, found: bool) -> Root:
        """The best trial; where the condition jumps, the last one with room."""
        best = self._last[-1]
        if self._room is not None and (self.narrow or abs(self._room.miss) < abs(best.miss)):
            best = best if self.holds else self._room
        return Root(best.at, best.miss + self._spare, found, self._within)

    def following(self, guess: float | None) -> float:
        """The next trial."""
        wanted = self._onward() if guess is None else guess
        if self._room is None or self._none is None:
            return self._outward(wanted)
        low, high = sorted((self._room.at, self._none.at))
        if self._slow >= _SLOW or not low < wanted < high:
            self._slow = 0
            return (low + high) / 2.0
        return wanted

    def _onward(self) -> float:
        """Where the curve through the last trials is nil; nan where they do not say.

        Inverse interpolation: the unknown as a polynomial of what was missed, through the last
        three trials, or two.
        """
        points = [trial for trial in self._last if math.isfinite(trial.miss)]
        misses = {trial.miss for trial in points}
        if len(misses) < 2 or len(misses) < len(points):
            return math.nan
        found = 0.0
        for one in points:
            share = 1.0
            for other in points:
                if other is not one:
                    share *= other.miss / (other.miss - one.miss)
            found += one.at * share
        return found

    def _outward(self, wanted: float) -> float:
        """While all trials are on one side: the right way, not too far, never past the limits."""
        at, miss = self._last[-1]
        up = (miss > 0.0) != self._rises
        span = max(abs(at), self._unit)
        if math.isnan(wanted) or (wanted > at) != up:
            wanted = at + (span if up else -span / 2.0)
        up_to, down_to = at + (self._growth - 1.0) * span, at - (1.0 - 1.0 / self._growth) * span
        return min(max(wanted, down_to, self._low), up_to, self._high)


class _Trial(NamedTuple):
    at: float
    miss: float
