"""Killed at random moments of a job: server, database and machine.

Afterwards a job is done, or it is known what was sent; taken up again, all of it has come out, and
no line twice but those that were said to be uncertain. `ULVENT_KILLS` says how often each is
killed; the check does it a few times only.
"""

from __future__ import annotations

import json
import os
import random
import signal
import subprocess
import time
import unittest
import urllib.request
from collections import Counter
from pathlib import Path
from typing import Any

from tests.makings import document
from tests.reference.test_run_files import SIGN
from tests.running import ULVENT, RunningUlvent, eventually, temporary_folder
from ulvent.machines import Bed, Done, Plotter, done_of

KILLS = int(os.environ.get("ULVENT_KILLS", "1"))
SEED = 20
PACE = 200.0
LONGEST = 90.0


class Bench:
    """A simulated plotter in a process of its own, which can be killed and comes back."""

    def __init__(self, folder: Path) -> None:
        self.keep = folder / "bed.jsonl"
        self.port = self.door = 0
        self.start()

    def start(self) -> None:
        self.process = subprocess.Popen(
            [
                ULVENT, "machine", "plotter", "--port", str(self.port), "--door", str(self.door),
                "--pace", str(PACE), "--keep", str(self.keep),
            ],
            stdout=subprocess.PIPE,
            text=True,
        )  # fmt: skip
        assert self.process.stdout is not None
        words = [self.process.stdout.readline() for _ in range(2)]
        self.port, self.door = (int(one.split("127.0.0.1:")[1].split()[0].split("/")[0])
                                for one in words)  # fmt: skip

    def kill(self) -> None:
        self.process.kill()
        self.process.wait()
        assert self.process.stdout is not None
        self.process.stdout.close()

    def ask(self, path: str, values: object = None) -> Any:
        return asked(f"http://127.0.0.1:{self.door}{path}", values)

    def done(self) -> list[Done]:
        return [done_of(one) for one in self.ask("/bed")["done"]]


def asked(address: str, values: object = None, method: str | None = None) -> Any:
    data = None if values is None else json.dumps(values).encode()
    request = urllib.request.Request(
        address, data, {"Content-Type": "application/json"}, method=method
    )
    with urllib.request.urlopen(request, timeout=60) as answer:
        return json.load(answer) if answer.status != 204 else None


def as_units(lines: list[Done]) -> list[tuple[tuple[int, int], ...]]:
    return [tuple((round(x * 40), round(y * 40)) for x, y in one.points) for one in lines]


class Killed(unittest.TestCase):
    def setUp(self) -> None:
        self.random = random.Random(SEED)
        self.folder = temporary_folder()
        self.bench = Bench(self.folder)
        self.addCleanup(self.bench.kill)
        self.options = ("--empty", "--machine", f"127.0.0.1:{self.bench.port}")
        self.server = RunningUlvent(self.folder, *self.options).wait_until_ready()
        self.addCleanup(self.end)
        piece = asked(f"{self.server.address}/api/pieces", {"piece": document(**SIGN)})
        self.new = {"piece_id": piece["id"], "revision": piece["revision"], "despite": True}
        machine = {
            "id": "bench", "name": "Bench", "format": "plt",
            "bed": {"width": 600, "height": 400}, "address": f"127.0.0.1:{self.bench.port}",
        }  # fmt: skip
        asked(f"{self.server.address}/api/machines/bench", machine, "PUT")
        address = f"{self.server.address}/api/pieces/{piece['id']}/run/plt"
        with urllib.request.urlopen(address, timeout=60) as answer:
            plotter = Plotter(Bed(600.0, 400.0))
            plotter.take(answer.read())
        self.meant = as_units(plotter.bed.done)

    def end(self) -> None:
        """The server as it is by then."""
        self.server.stop()

    def job(self) -> Any:
        return asked(f"{self.server.address}/api/jobs?piece={self.new['piece_id']}")

    def ended(self) -> Any:
        ends = time.monotonic() + LONGEST
        while time.monotonic() < ends:
            try:
                found = self.job()
            except OSError:  # the database is away: 503
                time.sleep(0.2)
                continue
            if not found["active"]:
                return found
            time.sleep(0.05)
        raise AssertionError(f"stays {found['state']}: {found['reason']}")

    def one_job(self, kill: Any) -> Any:
        """A job that is killed at a random moment, taken up until it is done, and looked at."""
        self.bench.ask("/sheet", {})
        asked(f"{self.server.address}/api/machines/bench/jobs", self.new)
        # Of many kills some come before the first line, however long that takes to come.
        if KILLS == 1 or self.random.random() < 0.75:
            self.assertTrue(eventually(lambda: self.job()["done"] > 0))
        time.sleep(self.random.uniform(0.0, 0.5))
        kill()
        found = first = self.ended()
        uncertain: Counter[tuple[tuple[int, int], ...]] = Counter()
        while found["state"] != "done":
            self.assertTrue(found["reason"])
            begin = found["done"]
            uncertain.update(self.meant[begin : begin + found["uncertain"]])
            again = {"line": begin, "again": found["uncertain"] > 0}
            asked(f"{self.server.address}/api/jobs/{found['id']}", again)
            found = self.ended()
        came_out = Counter(as_units(self.bench.done()))
        meant = Counter(self.meant)
        missing = meant - came_out
        # A line that was broken off half way is there as a shorter one, and was uncertain.
        twice = came_out - meant
        self.assertFalse(missing, first)
        self.assertLessEqual(sum(twice.values()), sum(uncertain.values()), first)
        for line in twice:
            whole = line in uncertain
            begun = any(line == one[: len(line)] for one in uncertain)
            self.assertTrue(whole or begun, first)
        return first

    def test_the_server_is_killed(self) -> None:
        def kill() -> None:
            self.server.stop(signal.SIGKILL)
            self.server = RunningUlvent(self.folder, *self.options).wait_until_ready()

        states = Counter(self.one_job(kill)["state"] for _ in range(KILLS))
        self.assertGreater(states["broken-off"], 0, states)

    def test_the_database_is_killed(self) -> None:
        def kill() -> None:
            for process in self.server.database_processes():
                try:
                    os.kill(process, signal.SIGKILL)
                except ProcessLookupError:
                    continue

        states = Counter(self.one_job(kill)["state"] for _ in range(KILLS))
        self.assertEqual(states["done"], KILLS, states)

    def test_the_machine_is_killed(self) -> None:
        def kill() -> None:
            self.bench.kill()
            self.bench.start()

        states = Counter(self.one_job(kill)["state"] for _ in range(KILLS))
        self.assertEqual(states["done"] + states["failed"], KILLS, states)
        self.assertGreater(states["failed"], 0, states)
