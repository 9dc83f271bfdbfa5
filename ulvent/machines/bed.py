"""What simulated machines have in common: a bed, what was done on it, and faults."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal, NamedTuple

Fault = Literal["no sheet", "garbled", "lost", "buffer full", "stall", "cut off"]
FAULTS: dict[Fault, str] = {
    "no sheet": "refuses to begin: there is no sheet on the bed",
    "garbled": "understands something else than what was sent",
    "lost": "loses what was sent, and says nothing of it",
    "buffer full": "has no room for more",
    "stall": "stops in the middle, and goes on only when it is told to",
    "cut off": "ends the connection half way",
}
"""What can go wrong, in words."""


class Done(NamedTuple):
    """A line that was done: with which tool, and where, (x, y) mm."""

    tool: int
    points: list[tuple[float, float]]


@dataclass
class Bed:
    """A bed, mm from its zero, with all that was done on it.

    fault, after
        what goes wrong, and how many instructions it lets pass first
    """

    width: float
    height: float
    fault: Fault | None = None
    after: int = 0
    done: list[Done] = field(default_factory=list)
    taken: int = 0
    """Instructions that were understood and carried out."""

    def reaches(self, x: float, y: float) -> bool:
        slack = 1e-6
        return -slack <= x <= self.width + slack and -slack <= y <= self.height + slack

    def fails(self, fault: Fault) -> bool:
        """Whether a fault strikes now; each strikes once."""
        if self.fault != fault or self.taken < self.after:
            return False
        self.fault = None
        return True

    def begin(self, tool: int, x: float, y: float) -> None:
        self.done.append(Done(tool, [(x, y)]))

    def go_on(self, x: float, y: float) -> None:
        self.done[-1].points.append((x, y))
