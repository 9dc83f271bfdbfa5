"""G-code: straight moves and arcs in mm, as RS274/NGC has them.

A tool with a power is switched on (`M3 S…`) where a track begins and off (`M5`) where it ends;
so are pens, blades and points, which a machine that has them lifts by the same words. What goes
to a depth keeps turning, and goes down and up in Z. `S` is the power in tenths of a per cent.
Source: the NIST RS274/NGC interpreter, version 3, IR 6556, from memory.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator

from ulvent.core.base.arrays import Point
from ulvent.core.runs import PassRun, Run, Track
from ulvent.core.runs.few_moves import moves, once_each

_OFF = 0.004
"""How far moves may be from a track, mm."""
CLEAR = 5.0
"""mm above the sheet at which a cutter travels."""
_PLUNGE_SHARE = 0.4
"""Of its speed, with which a cutter goes down."""


def write_gcode(run: Run) -> bytes:
    """A run as G-code, the machine's zero at the corner that the run sheet says."""
    lines = ["G21 G90 G17 G94", "M5"]
    for one in run.passes:
        lines += _Pass(one, run).lines()
    lines += ["M5", "G0 X0 Y0", "M2"]
    return ("\n".join(lines) + "\n").encode("ascii")


class _Pass:
    """One pass being written."""

    def __init__(self, one: PassRun, run: Run) -> None:
        self._one, self._run = one, run
        self._moves = once_each(lambda points: list(moves(points, _OFF)))
        self._sinks = one.tool.way == "depth"
        self._up = run.sheet.rehearsal != "off"
        self._feed = _figure(one.speed * 60.0)
        power = one.power if one.tool.way == "power" else 100.0
        self._on = f"M3 S{_figure(power * 10.0)}"

    def lines(self) -> Iterator[str]:
        one = self._one
        yield f"({_plain(f'Pass {one.number}: {one.title}, {one.tool.title}')})"
        if one.recipe.pause:
            yield f"M0 ({_plain(one.recipe.pause)})"
        if self._run.sheet.rehearsal == "bounds":
            yield from self._bounds()
            return
        turning = self._sinks and not self._up
        if self._sinks:
            yield f"G0 Z{_figure(CLEAR)}"
        if turning:
            yield self._on
        for track in one.tracks:
            yield from self._sunk(track) if self._sinks else self._powered(track)
        if turning:
            yield "M5"

    def _bounds(self) -> Iterator[str]:
        x0, y0, x1, y1 = self._run.bounds
        if self._sinks:
            yield f"G0 Z{_figure(CLEAR)}"
        for corner in ((x0, y0), (x1, y0), (x1, y1), (x0, y1), (x0, y0)):
            yield f"G0 {_place(corner)}"

    def _powered(self, track: Track) -> Iterator[str]:
        begin, end = (track.points[at].tolist() for at in (0, -1))
        if track.overscan:
            way = [(b - a) / math.dist(begin, end) for a, b in zip(begin, end, strict=True)]
            before, after = (
                (at[0] + sign * track.overscan * way[0], at[1] + sign * track.overscan * way[1])
                for at, sign in ((begin, -1.0), (end, 1.0))
            )
            yield f"G0 {_place(before)}"
            yield f"G1 {_place((begin[0], begin[1]))} F{self._feed}"
        else:
            yield f"G0 {_place((begin[0], begin[1]))}"
        if not self._up:
            yield self._on
        yield from self._along(track)
        if not self._up:
            yield "M5"
        if track.overscan:
            yield f"G1 {_place(after)} F{self._feed}"

    def _sunk(self, track: Track) -> Iterator[str]:
        x, y = track.points[0].tolist()
        yield f"G0 {_place((x, y))}"
        if not self._up:
            plunge = _figure(self._one.speed * 60.0 * _PLUNGE_SHARE)
            yield f"G1 Z{_figure(-track.depth)} F{plunge}"
        yield from self._along(track)
        yield f"G0 Z{_figure(CLEAR)}"

    def _along(self, track: Track) -> Iterator[str]:
        x, y = track.points[0].tolist()
        feed = f" F{self._feed}"
        for move in self._moves(track.points):
            if move.turn:
                word = "G3" if move.turn > 0 else "G2"
                i, j = move.centre[0] - x, move.centre[1] - y
                yield f"{word} {_place(move.end)} I{_figure(i)} J{_figure(j)}{feed}"
            else:
                yield f"G1 {_place(move.end)}{feed}"
            feed = ""
            # What the machine knows is what was written.
            x, y = (round(value, _PLACES) for value in move.end)


_PLACES = 4


def _place(at: Point) -> str:
    return f"X{_figure(at[0])} Y{_figure(at[1])}"


def _figure(value: float) -> str:
    text = f"{value:.{_PLACES}f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text


def _plain(text: str) -> str:
    """Words that a comment holds: without its own signs, or any but plain letters."""
    return " ".join(re.sub(r"[^ -~]|[()%;]", " ", text).split())
