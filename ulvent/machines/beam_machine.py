"""A simulated beam-and-router: G-code line by line, each answered, by RS274/NGC, from memory.

It says `ok` to a line that it has carried out, `error: …` to one that it has not, and then takes
no more until it is told to `stop`. `status`, `pause`, `resume` and `stop` are lines of their own.
"""

from __future__ import annotations

import itertools
import math
import re

from ulvent.machines.bed import TRAVEL, Bed, CutOffError, Cutter

MOST_WAITING = 16
"""Lines that it keeps while it is paused."""
_CHORD = math.radians(3.0)
_WORD = re.compile(r"([A-Z])\s*([-+]?\d*\.?\d+)")
_MOUNTED = re.compile(
    r"\(Tool: (?:pointed cutter, ([\d.]+) degrees|flat cutter, ([\d.]+) mm across)\)"
)
"""What a comment says is in its spindle: it has no other way to know."""
_ENDS_APART = 0.01
_MOVES = (0, 1, 2, 3)
_FIGURES = "XYZIJFSNTP"
_LENGTHS = "XYZIJF"
_MM_AN_INCH = 25.4
_KNOWN = {
    "G": (*_MOVES, 4, 17, 20, 21, 40, 49, 54, 61, 64, 80, 90, 94),
    "M": (0, 1, 2, 3, 5, 7, 8, 9, 30),
}


class RefusedError(Exception):
    """A line that is not carried out, and why."""


class BeamMachine:
    """Understands G-code in absolute places, a line at a time."""

    def __init__(self, bed: Bed | None = None, deepest: float = 30.0) -> None:
        self.bed = bed or Bed(600.0, 400.0)
        self._deepest = deepest
        self._waiting: list[str] = []
        self._reset()

    def _reset(self) -> None:
        self._at = {"X": 0.0, "Y": 0.0, "Z": 5.0}
        self._on, self._motion, self._deep, self._feed = False, 0, False, 0.0
        self._unit = 1.0
        self._working = False
        self.tool = 0
        self._cutter: Cutter | None = None
        self.state = "idle"

    def take(self, line: str) -> list[str]:
        """Do what a line says; what there is to answer to it, and to lines that waited.

        Raises
        ------
        CutOffError
            When that fault is switched on.
        """
        word = line.strip().lower()
        if word == "status":
            x, y, z = (self._at[axis] for axis in "XYZ")
            return [f"{self.state} {x:.3f} {y:.3f} {z:.3f}"]
        if word == "stop":
            self._waiting.clear()
            self._reset()
            return ["ok"]
        if word in ("pause", "resume"):
            return ["ok", *self._changed(word)]
        if self.state == "failed":
            return ["error: it has stopped; tell it to stop before it begins again"]
        if self.bed.fails("cut off"):
            raise CutOffError
        if self.bed.fails("power lost"):
            self._waiting.clear()
            self._reset()
            raise CutOffError
        if self.bed.fails("lost"):
            return []
        if self.bed.fails("stall"):
            self.state = "paused"
        if self.state == "paused":
            return self._kept_waiting(line)
        return [self._answered(line)]

    def _changed(self, word: str) -> list[str]:
        if word == "pause":
            self.state = "paused"
            return []
        self.state = "running"
        waiting, self._waiting = self._waiting, []
        return [answer for line in waiting for answer in self.take(line)]

    def _kept_waiting(self, line: str) -> list[str]:
        if len(self._waiting) >= MOST_WAITING:
            self.state = "failed"
            return ["error: buffer full"]
        self._waiting.append(line)
        return []

    def _answered(self, line: str) -> str:
        try:
            if self.bed.fails("buffer full"):
                raise RefusedError("buffer full")
            if self.bed.fails("garbled"):
                line = f"Q1 {line}"
            self._do(line)
        except RefusedError as error:
            self.state, self._on, self._working = "failed", False, False
            return f"error: {error}"
        self.bed.taken += 1
        return "ok"

    def _do(self, line: str) -> None:
        mounted = _MOUNTED.search(line)
        if mounted:
            angle, across = mounted.groups()
            self._cutter = Cutter(float(angle or 0.0), float(across or 0.0))
        bare = re.sub(r"\(.*?\)|;.*", "", line).upper()
        if re.sub(_WORD, "", bare).strip():
            raise RefusedError(f"not understood: {line.strip()}")
        values: dict[str, float] = {}
        pause = False
        for letter, figure in _WORD.findall(bare):
            value = float(figure)
            if letter in _KNOWN:
                pause |= self._code(letter, value)
            elif letter in _FIGURES:
                values[letter] = value * (self._unit if letter in _LENGTHS else 1.0)
            else:
                raise RefusedError(f"not understood: {line.strip()}")
        self._feed = values.get("F", self._feed)
        if values.keys() & {"X", "Y", "Z"}:
            self._move(values)
        if pause:
            self.state = "paused"

    def _code(self, letter: str, value: float) -> bool:
        """One G or M word; whether it asks for a pause."""
        if value not in _KNOWN[letter]:
            raise RefusedError(f"{letter}{value:g} is not known")
        if letter == "G" and value in _MOVES:
            self._motion = int(value)
        elif letter == "G" and value in (20, 21):
            self._unit = _MM_AN_INCH if value == 20 else 1.0
        elif letter == "M" and value == 3:
            if self.bed.fault == "no sheet":
                raise RefusedError("no sheet")
            self._on, self._working = True, False
            self.tool += not self._deep
        elif letter == "M" and value in (2, 5, 30):
            self._on = self._working = False
        self.state = "idle" if letter == "M" and value in (2, 30) else "running"
        return letter == "M" and value == 0

    def _move(self, values: dict[str, float]) -> None:
        end = {axis: values.get(axis, self._at[axis]) for axis in self._at}
        self._deep = self._deep or "Z" in values
        if self._motion and self._feed <= 0.0:
            raise RefusedError("a move without a feed")
        begin = (self._at["X"], self._at["Y"])
        points = [(end["X"], end["Y"])]
        if self._motion in (2, 3):
            points = _arc(begin, points[0], values.get("I", 0.0), values.get("J", 0.0),
                          self._motion == 3)  # fmt: skip
        for x, y in points:
            if not self.bed.reaches(x, y):
                raise RefusedError(f"out of range: X{x:.3f} Y{y:.3f}")
        if end["Z"] < -self._deepest:
            raise RefusedError(f"out of range: Z{end['Z']:.3f}")
        works = self._on and (not self._deep or end["Z"] < 0.0)
        if works and self._motion == 0:
            raise RefusedError("travels with its tool at work")
        above, below = (max(0.0, -at["Z"]) for at in (self._at, end))
        if works and not self._working:
            self.bed.begin(self.tool, *begin, above, self._cutter)
        self._working = works
        speed = self._feed / 60.0 if self._motion else TRAVEL
        for count, (before, point) in enumerate(itertools.pairwise((begin, *points)), 1):
            self.bed.spend(math.dist(before, point), speed)
            if works:
                self.bed.go_on(*point, above + (below - above) * count / len(points))
        self._at = end


def _arc(
    begin: tuple[float, float], end: tuple[float, float], i: float, j: float, left: bool
) -> list[tuple[float, float]]:
    centre = begin[0] + i, begin[1] + j
    radius = math.dist(begin, centre)
    if abs(math.dist(end, centre) - radius) > _ENDS_APART:
        raise RefusedError("an arc whose ends are not equally far from its centre")
    first, last = (math.atan2(at[1] - centre[1], at[0] - centre[0]) for at in (begin, end))
    turn = (last - first) % (2.0 * math.pi) if left else -((first - last) % (2.0 * math.pi))
    count = max(1, math.ceil(abs(turn) / _CHORD))
    angles = (first + turn * step / count for step in range(1, count))
    return [
        *((centre[0] + radius * math.cos(at), centre[1] + radius * math.sin(at)) for at in angles),
        end,
    ]
