"""G-code: straight moves and arcs, in mm or inches, as RS274/NGC has them.

A tool with a power is switched on (`M3 S…`) where a track begins and off (`M5`) where it ends;
so are pens, blades and points, which a machine that has them lifts by the same words. What goes
to a depth keeps turning, and goes down and up in Z. `S` is the power in tenths of a per cent.
Source: the NIST RS274/NGC interpreter, version 3, IR 6556, from memory.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from ulvent.core.base.arrays import Point
from ulvent.core.base.figures import MM_IN
from ulvent.core.curves.segments import as_point
from ulvent.core.runs import PassRun, Run, Track
from ulvent.core.runs.few_moves import moves, once_each
from ulvent.formats.program import Block

_OFF = 0.004
"""How far moves may be from a track, mm."""
CLEAR = 5.0
"""mm above the sheet at which a cutter travels."""
_PLUNGE_SHARE = 0.4
"""Of its speed, with which a cutter goes down."""


def gcode_blocks(run: Run) -> Iterator[Block]:
    """A run as G-code, from the machine's zero."""
    words = run.sheet.gcode
    unit = "G21" if words.unit == "mm" else "G20"
    yield Block("begin", _lines(f"{unit} G90 G17 G94", "M5", *words.preamble.splitlines()))
    for one in run.working:
        yield from _Pass(one, run).blocks()
    yield Block("end", _lines("M5", "G0 X0 Y0", *words.end.splitlines(), "M2"))


class _Pass:
    """One pass being written."""

    def __init__(self, one: PassRun, run: Run) -> None:
        self._one, self._run = one, run
        words = run.sheet.gcode
        self._scale = 1.0 if words.unit == "mm" else 1.0 / MM_IN["in"]
        self._moves = once_each(lambda points: list(moves(points, _OFF, words.arcs)))
        self._sinks = one.tool.way == "depth"
        self._up = run.sheet.rehearsal != "off"
        self._turning = self._sinks and not self._up
        power = one.power if one.tool.way == "power" else 100.0
        self._on = f"M3 S{_figure(power * 10.0)}"
        self._feed = self._long(one.speed * 60.0)

    def blocks(self) -> Iterator[Block]:
        one = self._one
        title = _plain(f"Pass {one.number}: {one.title}, {one.tool.title}")
        if one.recipe.pause:
            ask = _plain(one.recipe.pause)
            yield Block("ask", _lines(f"({title})", f"M0 ({ask})"), one.number, 0, one.recipe.pause)
        yield Block("pass", _lines(f"({title})", *self._begins()), one.number)
        if self._run.sheet.rehearsal == "bounds":
            yield Block("bounds", _lines(*self._bounds()), one.number, 0, "the bounds")
            return
        for index, track in enumerate(one.tracks):
            lines = self._sunk(track) if self._sinks else self._powered(track)
            yield Block("lines", _lines(*lines), one.number, index)
        if self._turning:
            yield Block("pass", _lines("M5"), one.number)

    def _begins(self) -> Iterator[str]:
        if self._one.tool.areas == "grooved":
            yield f"(Tool: pointed cutter, {_figure(self._one.recipe.carving.angle)} degrees)"
        elif self._one.clears:
            yield f"(Tool: flat cutter, {_figure(self._one.clears)} mm across)"
        if self._sinks:
            yield f"G0 Z{self._long(CLEAR)}"
        if self._turning:
            yield self._on

    def _bounds(self) -> Iterator[str]:
        x0, y0, x1, y1 = self._run.bounds
        for corner in ((x0, y0), (x1, y0), (x1, y1), (x0, y1), (x0, y0)):
            yield f"G0 {self._place(corner)}"

    def _powered(self, track: Track) -> Iterator[str]:
        row = track.row
        begin = as_point(track.points[0])
        if row is not None and row.before:
            yield f"G0 {self._place(as_point(track.enters))}"
        if row is not None and (row.before or row.goes_on):
            yield f"G1 {self._place(begin)} F{self._feed}"
        else:
            yield f"G0 {self._place(begin)}"
        if not self._up:
            yield self._on
        yield from self._along(track)
        if not self._up:
            yield "M5"
        if row is not None and row.after:
            yield f"G1 {self._place(as_point(track.leaves))} F{self._feed}"

    def _sunk(self, track: Track) -> Iterator[str]:
        x, y = track.points[0].tolist()
        yield f"G0 {self._place((x, y))}"
        if not self._up:
            plunge = self._long(self._one.speed * 60.0 * _PLUNGE_SHARE)
            deep = track.depth if track.depths is None else float(track.depths[0])
            yield f"G1 Z{self._long(-deep)} F{plunge}"
        if track.depths is None or self._up:
            yield from self._along(track)
        else:
            feed = f" F{self._feed}"
            for (x, y), deep in zip(track.points[1:].tolist(), track.depths[1:], strict=True):
                yield f"G1 {self._place((x, y))} Z{self._long(-deep)}{feed}"
                feed = ""
        yield f"G0 Z{self._long(CLEAR)}"

    def _along(self, track: Track) -> Iterator[str]:
        x, y = track.points[0].tolist()
        feed = f" F{self._feed}"
        for move in self._moves(track.points):
            if move.turn:
                word = "G3" if move.turn > 0 else "G2"
                i, j = self._long(move.centre[0] - x), self._long(move.centre[1] - y)
                yield f"{word} {self._place(move.end)} I{i} J{j}{feed}"
            else:
                yield f"G1 {self._place(move.end)}{feed}"
            feed = ""
            # What the machine knows is what was written.
            x, y = (round(value * self._scale, _PLACES) / self._scale for value in move.end)

    def _place(self, at: Point) -> str:
        return f"X{self._long(at[0])} Y{self._long(at[1])}"

    def _long(self, length: float) -> str:
        return _figure(length * self._scale)


_PLACES = 4


def _lines(*lines: str) -> str:
    return "".join(f"{line}\n" for line in lines)


def _figure(value: float) -> str:
    text = f"{value:.{_PLACES}f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text


def _plain(text: str) -> str:
    """Words that a comment holds: without its own signs, or any but plain letters."""
    return " ".join(re.sub(r"[^ -~]|[()%;]", " ", text).split())
