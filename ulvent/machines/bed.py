"""What simulated machines have in common: a bed, what was done on it, and faults."""

from __future__ import annotations

import json
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, Literal, NamedTuple

Fault = Literal["no sheet", "garbled", "lost", "buffer full", "stall", "cut off", "power lost"]
FAULTS: dict[Fault, str] = {
    "no sheet": "refuses to begin: there is no sheet on the bed",
    "garbled": "understands something else than what was sent",
    "lost": "loses what was sent, and says nothing of it",
    "buffer full": "has no room for more",
    "stall": "stops in the middle, and goes on only when it is told to",
    "cut off": "ends the connection half way",
    "power lost": "is off and on again, and has forgotten all but what lies on its bed",
}
"""What can go wrong, in words."""


TRAVEL = 200.0
"""mm per second with the tool up."""
_SHORTEST_SLEEP = 0.004


class CutOffError(Exception):
    """The connection ends here."""


class Cutter(NamedTuple):
    """A cutter whose width counts.

    angle
        between the sides of a pointed one, degrees; nothing: it is flat
    across
        mm, of a flat one
    """

    angle: float
    across: float


class Done(NamedTuple):
    """A line that was done: with which tool, where, (x, y) mm, and how deep it was there."""

    tool: int
    points: list[tuple[float, float]]
    depths: list[float]
    cutter: Cutter | None = None


def done_of(listed: list[Any]) -> Done:
    """What was done, from what JSON made of it."""
    tool, points, depths, cutter = listed
    return Done(tool, [(x, y) for x, y in points], depths, Cutter(*cutter) if cutter else None)


@dataclass
class Bed:
    """A bed, mm from its zero, with all that was done on it.

    fault, after
        what goes wrong, and how many instructions it lets pass first
    pace
        how many times faster than a real one it goes; 0: at once
    kept
        file that remembers what was done, also after the machine has died
    """

    width: float
    height: float
    fault: Fault | None = None
    after: int = 0
    done: list[Done] = field(default_factory=list)
    taken: int = 0
    """Instructions that were understood and carried out."""
    pace: float = 0.0
    kept: Path | None = None
    _owed: float = 0.0

    def __post_init__(self) -> None:
        if self.kept is not None and self.kept.exists():
            for tool, begins, x, y, deep, cutter in map(
                json.loads, self.kept.read_text().splitlines()
            ):
                if begins:
                    self.done.append(done_of([tool, [], [], cutter]))
                self.done[-1].points.append((x, y))
                self.done[-1].depths.append(deep)

    def reaches(self, x: float, y: float) -> bool:
        slack = 1e-6
        return -slack <= x <= self.width + slack and -slack <= y <= self.height + slack

    def fails(self, fault: Fault) -> bool:
        """Whether a fault strikes now; each strikes once."""
        if self.fault != fault or self.taken < self.after:
            return False
        self.fault = None
        return True

    def begin(
        self, tool: int, x: float, y: float, deep: float = 0.0, cutter: Cutter | None = None
    ) -> None:
        self.done.append(Done(tool, [(x, y)], [deep], cutter))
        self._keep(True)

    def go_on(self, x: float, y: float, deep: float = 0.0) -> None:
        self.done[-1].points.append((x, y))
        self.done[-1].depths.append(deep)
        self._keep(False)

    def clear(self) -> None:
        """A fresh sheet."""
        self.done.clear()
        if self.kept is not None:
            self.kept.write_text("")

    def spend(self, length: float, speed: float) -> None:
        """Take the time that a move takes: mm at mm per second."""
        if self.pace:
            self._owed += length / speed / self.pace
        if self._owed > _SHORTEST_SLEEP:
            time.sleep(self._owed)
            self._owed = 0.0

    def _keep(self, begins: bool) -> None:
        if self.kept is not None:
            tool, points, depths, cutter = self.done[-1]
            with self.kept.open("a") as file:
                file.write(json.dumps([tool, begins, *points[-1], depths[-1], cutter]) + "\n")
