"""Random trials, counted: what was made, what was refused, and what went wrong."""

from __future__ import annotations

import json
import sys
import time
from abc import ABC, abstractmethod

from tests.fuzzing import told
from ulvent.core.base.errors import UlventError


class Trying(ABC):
    """Counts what is done; keeps what went wrong by its kind, with the seed that met it first."""

    def __init__(self) -> None:
        self.made = self.refused = 0
        self.slowest = (0.0, 0)
        self.wrong: dict[str, tuple[int, int]] = {}

    @abstractmethod
    def try_out(self, seed: int) -> None:
        """Make something of a seed, and `note` what is wrong with it."""

    def one(self, seed: int) -> None:
        started = time.process_time()
        try:
            self.try_out(seed)
            self.made += 1
        except UlventError:
            self.refused += 1
        except Exception as error:  # noqa: BLE001  all of them are what is looked for
            self.note(told(error), seed)
        self.slowest = max(self.slowest, (round(time.process_time() - started, 2), seed))

    def note(self, what: str, seed: int) -> None:
        count, first = self.wrong.get(what, (0, seed))
        self.wrong[what] = count + 1, first

    def main(self) -> None:
        """Try as many as the first argument says, from the seed that the second one says."""
        count, *seed = map(int, sys.argv[1:])
        for number in range(count):
            self.one((seed[0] if seed else 0) + number)
        print(json.dumps(vars(self)))
