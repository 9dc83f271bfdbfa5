"""What a machine is told, in steps: it can be sent, held, and taken up again at a line."""

from __future__ import annotations

import bisect
import itertools
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any, Literal, NamedTuple

from ulvent.core.runs import PassRun, Run

Kind = Literal["begin", "pass", "ask", "bounds", "lines", "end"]
_SECONDS_A_STEP = 0.5
"""Short lines are sent together up to this: each step is written down before and after it."""


class Block(NamedTuple):
    """Some lines of a program, each with its end.

    number
        of the pass that they are of; 0 for what is before and after all passes
    track
        which of its tracks they follow
    ask
        what the machine asks for there, in a person's words
    """

    kind: Kind
    words: str
    number: int = 0
    track: int = 0
    ask: str = ""


def written(blocks: Iterable[Block]) -> bytes:
    """A program as a file."""
    return "".join(block.words for block in blocks).encode("ascii")


class Step(NamedTuple):
    """What is sent at once, and must be answered for before anything else is sent.

    first, last
        which lines of all that are followed, from 0; the same where it follows none
    title
        what it follows, in words
    length, seconds
        mm with the tool down, and how long it takes, by the model
    """

    kind: Kind
    words: str
    number: int
    first: int
    last: int
    title: str
    length: float
    seconds: float


@dataclass(frozen=True)
class Program:
    """A run for a machine, in steps.

    lines
        how many lines are followed
    """

    format: str
    steps: tuple[Step, ...]

    def document(self) -> dict[str, Any]:
        """As plain values, which JSON holds."""
        return {"format": self.format, "steps": [list(step) for step in self.steps]}

    @classmethod
    def of(cls, document: dict[str, Any]) -> Program:
        """From what `document` gave."""
        steps = tuple(Step(*values) for values in document["steps"])
        return cls(document["format"], steps)

    @property
    def lines(self) -> int:
        return self.steps[-1].last if self.steps else 0

    def beginning_at(self, step: int) -> tuple[int, ...]:
        """The steps that are sent where a run is taken up again at one of them: the machine is
        told how it begins, and what the pass is, and then what is left."""
        steps = self.steps
        before = range(step)
        begin = [at for at in before if steps[at].kind == "begin"]
        head = [
            at for at in before
            if steps[at].kind == "pass" and steps[at].number == steps[step].number
        ]  # fmt: skip
        return (*begin, *head, *range(step, len(steps)))

    def step_of(self, line: int) -> int:
        """The step that follows a line, counted over all passes from 0; after the last line, the
        step that ends the run."""
        lines = [at for at, step in enumerate(self.steps) if step.last > step.first]
        if line >= self.lines:
            return lines[-1] + 1 if lines else 0
        firsts = [self.steps[at].first for at in lines]
        return lines[max(0, bisect.bisect_right(firsts, line) - 1)]


def program_of(run: Run, format: str, blocks: Sequence[Block]) -> Program:
    """Blocks of a program with the lengths and times of what they follow."""
    passes = {one.number: one for one in run.passes}
    steps: list[Step] = []
    done = 0
    for (kind, number), some in itertools.groupby(blocks, lambda block: (block.kind, block.number)):
        if kind != "lines":
            for block in some:
                first, done = done, done + (kind == "bounds")
                steps.append(Step(kind, block.words, number, first, done, block.ask, 0.0, 0.0))
            continue
        one = passes[number]
        for few in _together(list(some), one):
            words = "".join(block.words for block in few)
            first, last = few[0].track, few[-1].track
            begins = one.lasts[first - 1].end if first else 0.0
            length = sum(one.lengths[block.track] for block in few)
            title = one.names[one.tracks[first].line]
            seconds = one.lasts[last].end - begins
            steps.append(Step(kind, words, number, done, done + len(few), title, length, seconds))
            done += len(few)
    return Program(format, tuple(steps))


def _together(blocks: Sequence[Block], one: PassRun) -> list[list[Block]]:
    found: list[list[Block]] = []
    begins = 0.0
    for block in blocks:
        end = one.lasts[block.track].end
        if not found or end - begins > _SECONDS_A_STEP:
            found.append([])
            begins = one.lasts[block.track - 1].end if block.track else 0.0
        found[-1].append(block)
    return found
