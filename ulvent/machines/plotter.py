"""A simulated plotter: HP-GL as it comes, by the HP-GL reference, from memory.

It takes `IN PA PR PU PD SP VS`, answers `OS` with its status, `OE` with its last error, `OA` with
where it is. At `ESC . K` it leaves at once what it is doing, at `ESC . (` it goes on after a stall.
"""

from __future__ import annotations

import math
import re

from ulvent.machines.bed import TRAVEL, Bed, CutOffError

UNITS_A_MM = 40.0
ABORT, GO_ON = b"\x1b.K", b"\x1b.("
NO_ERROR, NOT_KNOWN, WRONG_FIGURES, OUT_OF_REACH = 0, 1, 2, 6
READY, FAILED = 16, 32
"""Bits of the status: ready for data, and an error."""
_WORD = re.compile(r"\s*([A-Za-z]{2})\s*([^;A-Za-z\x1b]*);?")


class Plotter:
    """Understands a stream of HP-GL, however it is cut up."""

    def __init__(self, bed: Bed | None = None) -> None:
        self.bed = bed or Bed(600.0, 400.0)
        self.error = NO_ERROR
        self.stalled = False
        self._rest = ""
        self._begin_anew()

    def _begin_anew(self) -> None:
        self._at = (0.0, 0.0)
        self._pen, self._down, self._relative = 0, False, False
        self._speed = TRAVEL

    def take(self, data: bytes) -> bytes:
        """Do what a stretch of the stream says; what there is to answer.

        Raises
        ------
        CutOffError
            When that fault is switched on.
        """
        if ABORT in data:
            data = data.split(ABORT)[-1]
            self._rest, self.stalled, self._down = "", False, False
        if GO_ON in data:
            data = data.replace(GO_ON, b"")
            self.stalled = False
        self._rest += data.decode("ascii", "replace")
        answer = b""
        while not self.stalled:
            # An instruction is whole when it has its end, or another one follows.
            end = self._rest.find(";")
            if end < 0:
                break
            words, self._rest = self._rest[: end + 1], self._rest[end + 1 :]
            for word, figures in _WORD.findall(words):
                answer += self._do(word.upper(), figures)
        return answer

    def _do(self, word: str, figures: str) -> bytes:
        if self.bed.fails("cut off"):
            raise CutOffError
        if self.bed.fails("power lost"):
            self._begin_anew()
            self._rest, self.error = "", NO_ERROR
            raise CutOffError
        if self.bed.fails("lost"):
            return b""
        if self.bed.fails("stall"):
            self.stalled = True
            self._rest = f"{word}{figures};{self._rest}"
            return b""
        try:
            values = [float(one) for one in figures.replace(" ", ",").split(",") if one]
        except ValueError:
            self.error = WRONG_FIGURES
            return b""
        if values and self.bed.fails("garbled"):
            values = [value + 400.0 for value in values]
        if self.bed.fault == "no sheet" and word in ("PD", "SP"):
            self.error = OUT_OF_REACH
            return b""
        answer = self._carried_out(word, values)
        self.bed.taken += 1
        return answer

    def _carried_out(self, word: str, values: list[float]) -> bytes:
        if word == "IN":
            self._begin_anew()
            self.error = NO_ERROR
        elif word in ("PA", "PR"):
            self._relative = word == "PR"
            self._go(values)
        elif word in ("PU", "PD"):
            was_down, self._down = self._down, word == "PD"
            if self._down and not was_down and self._pen:
                self.bed.begin(self._pen, *self._at)
            self._go(values)
        elif word == "SP":
            self._pen, self._down = int(values[0]) if values else 0, False
        elif word == "OS":
            return b"%d\r" % (READY | (FAILED if self.error else 0))
        elif word == "OE":
            error, self.error = self.error, NO_ERROR
            return b"%d\r" % error
        elif word == "OA":
            x, y = (round(value * UNITS_A_MM) for value in self._at)
            return b"%d,%d,%d\r" % (x, y, self._down)
        elif word == "VS":
            self._speed = 10.0 * values[0] if values and values[0] > 0.0 else TRAVEL
        else:
            self.error = NOT_KNOWN
        return b""

    def _go(self, values: list[float]) -> None:
        if len(values) % 2:
            self.error = WRONG_FIGURES
            return
        for x, y in zip(values[::2], values[1::2], strict=True):
            to = (x / UNITS_A_MM, y / UNITS_A_MM)
            if self._relative:
                to = (self._at[0] + to[0], self._at[1] + to[1])
            if not self.bed.reaches(*to):
                # It stays where it is, with the pen up: nothing is done at the edge instead.
                self.error, self._down = OUT_OF_REACH, False
                return
            self.bed.spend(math.dist(self._at, to), self._speed if self._down else TRAVEL)
            self._at = to
            if self._down and self._pen:
                self.bed.go_on(*to)
