"""A simulated stitcher: reads a stitch file, holds it against its limits, and sews it.

It sews needle point by needle point in its field, can break its thread, and then goes back a
few stitches so that the thread is held again.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field
from io import BytesIO
from itertools import pairwise
from typing import Literal, NamedTuple

import pyembroidery

from ulvent.formats.thread_reading import MM_A_UNIT, READERS

State = Literal["ready", "sewing", "thread broken", "done", "refused"]
_ENDS = (pyembroidery.TRIM, pyembroidery.COLOR_CHANGE, pyembroidery.STOP, pyembroidery.END)


class Limits(NamedTuple):
    """What the machine can do, mm.

    longest
        of one move, across and up
    stitches
        that it has memory for
    """

    width: float = 200.0
    height: float = 300.0
    longest: float = 12.1
    stitches: int = 100_000
    colours: int = 60


@dataclass
class Stitcher:
    """The machine.

    breaks_at
        the stitch at which its thread breaks, once; none: it does not
    lines
        what is sewn: of each thread between two ends its colour's number and its needle points
    """

    limits: Limits = field(default_factory=Limits)
    breaks_at: int | None = None
    state: State = "ready"
    wrong: list[str] = field(default_factory=list)
    lines: list[tuple[int, list[tuple[float, float]]]] = field(default_factory=list)
    _moves: list[tuple[float, float, int]] = field(default_factory=list)
    _at: int = 0
    _colour: int = 0
    _down: bool = False

    def load(self, data: bytes, format: str) -> None:
        """Take a file, and refuse it where it is beyond the machine's limits."""
        pattern = pyembroidery.EmbPattern()
        try:
            READERS[format].read(BytesIO(data), pattern)
        except Exception:  # noqa: BLE001  pyembroidery raises whatever it meets
            self.state, self.wrong = "refused", ["the file cannot be read"]
            return
        self._moves = [
            (x * MM_A_UNIT, -y * MM_A_UNIT, command & pyembroidery.COMMAND_MASK)
            for x, y, command in pattern.stitches
        ]
        self._at = self._colour = 0
        self.lines, self._down = [], False
        self.wrong = list(self._beyond())
        self.state = "refused" if self.wrong else "ready"

    def _beyond(self) -> list[str]:
        limits, found = self.limits, []
        sewn = [(x, y) for x, y, command in self._moves if command == pyembroidery.STITCH]
        if not sewn:
            return ["nothing is sewn in the file"]
        if len(sewn) > limits.stitches:
            found.append(f"{len(sewn)} stitches; there is room for {limits.stitches}")
        width = max(x for x, _ in sewn) - min(x for x, _ in sewn)
        height = max(y for _, y in sewn) - min(y for _, y in sewn)
        if width > limits.width or height > limits.height:
            found.append(f"takes {width:.1f} × {height:.1f} mm; the field is "
                         f"{limits.width:g} × {limits.height:g} mm")  # fmt: skip
        changes = sum(command == pyembroidery.COLOR_CHANGE for _, _, command in self._moves)
        if changes + 1 > limits.colours:
            found.append(f"{changes + 1} threads; at most {limits.colours}")
        longest = max(self._stitch_lengths(), default=0.0)
        if longest > limits.longest + 1e-6:
            found.append(f"a stitch of {longest:.1f} mm; at most {limits.longest:g} mm")
        return found

    def _stitch_lengths(self) -> Iterator[float]:
        """Across or up. Where thread was cut the frame goes on by itself: a format may have no
        other way to say it."""
        cut = True
        for (x0, y0, _), (x, y, command) in pairwise(self._moves):
            if command == pyembroidery.STITCH:
                if not cut:
                    yield max(abs(x - x0), abs(y - y0))
                cut = False
            elif command in _ENDS:
                cut = True

    def go(self, stitches: int | None = None) -> State:
        """Sew so many needle points, or to the end."""
        if self.state in ("refused", "thread broken", "done"):
            return self.state
        self.state = "sewing"
        left = math.inf if stitches is None else stitches
        while left > 0 and self._at < len(self._moves):
            x, y, command = self._moves[self._at]
            if command == pyembroidery.STITCH:
                if self.breaks_at is not None and self.sewn >= self.breaks_at:
                    self.breaks_at, self.state = None, "thread broken"
                    return self.state
                if not self._down:
                    self.lines.append((self._colour, []))
                    self._down = True
                self.lines[-1][1].append((x, y))
                left -= 1
            else:
                self._down = False
                self._colour += command == pyembroidery.COLOR_CHANGE
            self._at += 1
        if self._at >= len(self._moves):
            self.state = "done"
        return self.state

    def back(self, stitches: int) -> None:
        """Go back so many needle points, and be ready to sew them again over themselves."""
        left = stitches
        while left > 0 and self._at > 0:
            self._at -= 1
            command = self._moves[self._at][2]
            self._colour -= command == pyembroidery.COLOR_CHANGE
            left -= command == pyembroidery.STITCH
        self._down = False
        self.state = "ready"

    @property
    def sewn(self) -> int:
        """Needle points so far, those sewn twice counted twice."""
        return sum(len(points) for _, points in self.lines)
