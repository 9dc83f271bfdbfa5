"""How machines are spoken to: words are sent, and believed once the machine has answered.

A machine that has said nothing for a while is not given up: it may be waiting for a hand at it. The
sender is told, and goes on listening until it is told to stop.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import NamedTuple, Protocol

from ulvent.core.base.errors import UlventError
from ulvent.sending.link import Link


class Patience(NamedTuple):
    """How long a machine may take to answer before it is said that it is silent.

    soon
        seconds for a question that moves nothing
    slower
        how many times longer than the model says it may take to do something
    """

    soon: float = 5.0
    slower: float = 3.0


_UNIT_OFF = 1
"""Plotter units that a place may be off: plotters round."""


class RefusedError(UlventError):
    """The machine has not done what it was told."""


class NoAnswerError(UlventError):
    """The machine has said nothing in time."""


class Listener(Protocol):
    """Who waits for a machine's answers."""

    patience: Patience

    def look(self) -> None:
        """Called while nothing comes; raises when nobody waits any more."""

    def silent(self) -> None:
        """Nothing has come in time."""


class Talk(Protocol):
    """A conversation with one kind of machine."""

    def begin(self) -> None:
        """See that the machine is there and ready."""

    def tell(self, words: str, seconds: float) -> None:
        """Have lines carried out, which takes about so long by the model.

        Raises
        ------
        RefusedError, LinkError
            When it is known that not all of them were.
        """

    def go_on(self) -> None:
        """The machine may go on: what it waited for has been done."""

    def stop(self) -> None:
        """Leave at once what is being done, tool up."""


class PlotterTalk:
    """HP-GL: after each instruction the plotter says its error and where it is.

    A plotter loses and mistakes words without a sound: only where it says that it is shows it.
    """

    _PAUSE = "\x1b.("
    _ABORT = "\x1b.K"
    _SAID = re.compile(r"(-?\d+),(-?\d+),([01])")

    def __init__(self, link: Link, listener: Listener) -> None:
        self._link, self._listener = link, listener
        self._at: tuple[int, int] | None = None

    def begin(self) -> None:
        # What it may still be waiting for is nobody's any more.
        self._link.say(f"{self._ABORT}OE;")
        if self._link.line(self._listener.patience.soon, self._listener.look) is None:
            raise NoAnswerError("the plotter does not answer")

    def tell(self, words: str, seconds: float) -> None:
        instructions = [one.strip() for one in words.split(";") if one.strip()]
        self._link.say("".join(f"{one};OE;OA;" for one in instructions) + "\n")
        for one in instructions:
            error = self._heard(seconds)
            said = self._heard(seconds)
            if error != "0":
                reason = _PLOTTER_ERRORS.get(error, "error " + error)
                raise RefusedError(f"the plotter says of {_shown(one)}: {reason}")
            self._held_against(one, said)

    def _heard(self, seconds: float) -> str:
        return _patient(self._link, self._listener, seconds)

    def _held_against(self, instruction: str, said: str) -> None:
        found = self._SAID.fullmatch(said)
        if found is None:
            raise RefusedError(f"the plotter says “{said}”, which is no place")
        x, y, down = map(int, found.groups())
        word, figures = instruction[:2], instruction[2:]
        if word in ("PU", "PD"):
            if figures:
                *_, to_x, to_y = map(int, figures.split(","))
                self._at = (to_x, to_y)
            if down != (word == "PD"):
                state = "down" if down else "up"
                raise RefusedError(f"after {_shown(instruction)} the plotter's pen is {state}")
        if self._at and max(abs(x - self._at[0]), abs(y - self._at[1])) > _UNIT_OFF:
            raise RefusedError(
                f"after {_shown(instruction)} the plotter is at {x / 40:g}, {y / 40:g} mm"
            )

    def go_on(self) -> None:
        self._link.say(self._PAUSE)

    def stop(self) -> None:
        self._link.say(self._ABORT + "PU;")


_PLOTTER_ERRORS = {
    "1": "it does not know it",
    "2": "its figures are wrong",
    "6": "out of its reach, or there is no sheet",
}


class BeamTalk:
    """G-code: each line is answered with `ok`, or with an error, before the next is sent."""

    def __init__(self, link: Link, listener: Listener) -> None:
        self._link, self._listener = link, listener

    def begin(self) -> None:
        self._link.say("status\n")
        state = self._link.line(self._listener.patience.soon, self._listener.look)
        if state is None:
            raise NoAnswerError("the machine does not answer")
        if not state.startswith("idle"):
            self._link.say("stop\n")
            self._link.line(self._listener.patience.soon, self._listener.look)

    def tell(self, words: str, seconds: float) -> None:
        for line in words.splitlines():
            self._link.say(line + "\n")
            said = _patient(self._link, self._listener, seconds)
            if said != "ok":
                raise RefusedError(f"the machine says of {_shown(line)}: {said}")

    def go_on(self) -> None:
        self._link.say("resume\n")
        # Its answer to that comes before those to the lines that it has kept.
        self._link.line(self._listener.patience.soon, self._listener.look)

    def stop(self) -> None:
        self._link.say("stop\n")


TALKS: dict[str, Callable[[Link, Listener], Talk]] = {"plt": PlotterTalk, "gcode": BeamTalk}


def _patient(link: Link, listener: Listener, seconds: float) -> str:
    """What the machine says next, however long it takes: who listens is told when it is long."""
    longest = listener.patience.soon + listener.patience.slower * seconds
    while True:
        said = link.line(longest, listener.look)
        if said is not None:
            return said
        listener.silent()


def _shown(line: str) -> str:
    return f"“{line}”" if len(line) <= 40 else f"“{line[:37]}…”"
