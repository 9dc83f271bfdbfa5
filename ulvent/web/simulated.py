"""The simulated machines that start with Ulvent, each a process of its own on loopback."""

from __future__ import annotations

import json
import re
import signal
import subprocess
import sys
import threading
import urllib.request
from dataclasses import dataclass
from functools import partial
from http.client import HTTPException
from pathlib import Path
from typing import Any, Literal

from ulvent.child_process import end_with_parent
from ulvent.core.base.errors import UlventError
from ulvent.core.recipe.lying import Bed
from ulvent.core.recipe.machine import Machine
from ulvent.machines import Done, done_of

_PACE = 10.0
"""Times faster than a real one: a rehearsal of sending should not take an evening."""
_PORT = re.compile(rb"127\.0\.0\.1:(\d+)")
_PAUSE_SECONDS = 0.5
_ANSWER_SECONDS = 5.0


class NotThereError(UlventError):
    """The simulated machine is not there just now."""


@dataclass(frozen=True)
class _Kind:
    word: Literal["plotter", "beam"]
    name: str
    format: Literal["plt", "gcode"]
    width: float
    height: float


_KINDS = (
    _Kind("plotter", "Simulated plotter", "plt", 600.0, 400.0),
    _Kind("beam", "Simulated beam and router", "gcode", 600.0, 400.0),
)


@dataclass(frozen=True)
class Seen:
    """What lies on the bed of a simulated machine: lines in the order in which they were done."""

    width: float
    height: float
    taken: int
    fault: str
    done: list[Done]


class SimulatedMachine:
    """One of them: started, looked after until it is closed, and looked at by its side door."""

    def __init__(self, kind: _Kind, folder: Path, pace: float) -> None:
        self._kind, self._pace = kind, pace
        self._keep = folder / f"bed-of-{kind.word}.jsonl"
        self._process = self._begun(0, 0)
        self._closed = threading.Event()

    def wait(self) -> None:
        """Until it listens, which it does from then on."""
        self._port, self._door = self._ports()
        self._watch = threading.Thread(target=self._look_after, daemon=True)
        self._watch.start()

    @property
    def machine(self) -> Machine:
        kind = self._kind
        return Machine(
            id=f"simulated-{kind.word}",
            name=kind.name,
            format=kind.format,
            bed=Bed(width=kind.width, height=kind.height),
            address=f"127.0.0.1:{self._port}",
        )

    def seen(self) -> Seen:
        """What lies on its bed.

        Raises
        ------
        NotThereError
        """
        found = self._asked("/bed", None)
        done = [done_of(one) for one in found["done"]]
        return Seen(found["width"], found["height"], found["taken"], found["fault"], done)

    def fail(self, fault: str, after: int) -> None:
        """Have something go wrong after so many instructions more; nothing: not any more."""
        self._asked("/fault", {"fault": fault, "after": after})

    def fresh_sheet(self) -> None:
        self._asked("/sheet", {})

    def close(self) -> None:
        self._closed.set()
        self._process.terminate()
        self._watch.join()
        self._process.wait()
        assert self._process.stdout is not None
        self._process.stdout.close()

    def _begun(self, port: int, door: int) -> subprocess.Popen[bytes]:
        kind = self._kind
        return subprocess.Popen(
            [
                sys.executable, "-m", "ulvent", "machine", kind.word,
                "--port", str(port), "--door", str(door), "--pace", str(self._pace),
                "--width", str(kind.width), "--height", str(kind.height), "--keep", self._keep,
            ],
            stdin=subprocess.DEVNULL,
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            # Ctrl-C is for Ulvent, which ends them when nothing is sent any more.
            start_new_session=True,
            preexec_fn=partial(end_with_parent, signal.SIGTERM),  # noqa: PLW1509
        )  # fmt: skip

    def _ports(self) -> tuple[int, int]:
        assert self._process.stdout is not None
        lines = [self._process.stdout.readline() for _ in range(2)]
        found = [_PORT.search(line) for line in lines]
        ports = [int(one[1]) for one in found if one]
        if len(ports) != len(lines):
            self._process.kill()
            raise NotThereError("a simulated machine does not start")
        return ports[0], ports[1]

    def _look_after(self) -> None:
        """Start it again when it dies, where it was."""
        while not self._closed.wait(_PAUSE_SECONDS):
            if self._process.poll() is not None:
                assert self._process.stdout is not None
                self._process.stdout.close()
                self._process = self._begun(self._port, self._door)
                if self._closed.is_set():
                    self._process.terminate()

    def _asked(self, path: str, values: dict[str, Any] | None) -> Any:
        address = f"http://127.0.0.1:{self._door}{path}"
        data = None if values is None else json.dumps(values).encode()
        try:
            with urllib.request.urlopen(address, data, _ANSWER_SECONDS) as answer:
                return json.load(answer)
        except (OSError, ValueError, HTTPException) as error:
            raise NotThereError(f"the {self._kind.name.lower()} does not answer") from error


def simulated_machines(folder: Path, pace: float = _PACE) -> list[SimulatedMachine]:
    """All that ship with Ulvent, started side by side."""
    found = [SimulatedMachine(kind, folder, pace) for kind in _KINDS]
    for one in found:
        one.wait()
    return found
