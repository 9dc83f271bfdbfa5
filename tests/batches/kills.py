"""Workers, servers and databases ended at random moments of one long batch.

`python -m tests.batches.kills worker|workers|server|database KILLS ROWS [SEED]`: at the end every
row is there once, the same to the last byte as where nothing was ended.
"""

from __future__ import annotations

import io
import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import urllib.request
import zipfile
from collections.abc import Callable
from contextlib import ExitStack
from dataclasses import dataclass, field
from functools import cache
from pathlib import Path
from uuid import UUID

from sqlalchemy import Engine, text
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

from tests.batches.working import Workshop, begun, tag
from tests.running import RunningUlvent, eventually, remove, temporary_folder
from tests.throwaway import empty_engine
from ulvent.formats.row_files import Wanted
from ulvent.store.batch_records import Batches
from ulvent.store.database import migrate, open_engine
from ulvent.store.private_server import PrivateServer

PATIENCE_SECONDS = 240.0
"""A batch that does not go on for so long is lost."""
_PAUSE_SECONDS = (0.5, 6.0)
"""Between one end and the next."""


def names(rows: int) -> list[str]:
    return [f"Name {k % 97} {k}" for k in range(rows)]


@dataclass
class Place:
    """A database of its own, and workers at it."""

    folder: Path
    server: PrivateServer
    engine: Engine
    workers: list[subprocess.Popen[bytes]] = field(default_factory=list)

    @classmethod
    def made(cls, stack: ExitStack, workers: int) -> Place:
        folder = Path(tempfile.mkdtemp(prefix="ulvent-kills-"))
        folder.chmod(0o755)
        stack.callback(shutil.rmtree, folder, ignore_errors=True)
        server = PrivateServer(folder)
        stack.callback(server.stop)
        server.start()
        engine = open_engine(server.url)
        stack.callback(engine.dispose)
        migrate(engine)
        place = cls(folder, server, engine)
        stack.callback(place.end)
        for _ in range(workers):
            place.hire()
        return place

    def hire(self) -> None:
        self.workers.append(
            subprocess.Popen(
                [sys.executable, "-m", "ulvent", "worker"], stdout=subprocess.DEVNULL,
                env={**os.environ, "ULVENT_DATABASE_URL": self.server.url},
            )
        )  # fmt: skip

    def kill_workers(self, count: int) -> None:
        for one in self.workers[:count]:
            one.kill()
            one.wait()
        del self.workers[:count]
        for _ in range(count):
            self.hire()

    def kill_database(self) -> None:
        """Without a word; it is started again, as `ulvent serve` does."""
        pid_file = self.folder / "postgres" / "postmaster.pid"
        os.kill(int(pid_file.read_text(encoding="ascii").split()[0]), signal.SIGKILL)
        while self.server.running():
            time.sleep(0.05)
        time.sleep(1.0)
        self.server.start()

    def end(self) -> None:
        for one in self.workers:
            one.terminate()
        for one in self.workers:
            one.wait(20)


def killed(
    what: str, kills: int, rows: int, seed: int = 1, say: Callable[[str], None] = lambda _: None
) -> None:
    """Make a batch in which something is ended so often, and hold it against one made in peace."""
    moments = random.Random(seed)
    with ExitStack() as stack:
        place = Place.made(stack, workers=2)
        batches = Batches(place.engine)
        batch = begun(batches, tag(names(rows)), Wanted())
        ends = {
            "worker": lambda: place.kill_workers(1),
            "workers": lambda: place.kill_workers(2),
            "database": place.kill_database,
        }
        done = 0
        for _ in range(kills):
            time.sleep(moments.uniform(*_PAUSE_SECONDS))
            if running(batches, batch):
                ends[what]()
                done += 1
        finished(batches, batch)
        progress = batches.progress(batch)
        say(f"{done} of {kills} times in the middle of it; {progress.lost} attempts lost")
        assert done, "it was made before anything was ended"
        whole(place.engine, batch, rows)
    say(f"{rows} rows, each once, and the same bytes as in peace")


def killed_server(
    kills: int, rows: int, seed: int = 1, say: Callable[[str], None] = lambda _: None
) -> None:
    """The same with `ulvent serve` and all that it has started, asked over HTTP."""
    moments = random.Random(seed)
    folder = temporary_folder()
    options = ("--empty", "--workers", "2", "--port", "0")
    ulvent = RunningUlvent(folder, *options).wait_until_ready()
    try:
        piece = ulvent.asked("/api/pieces", {"piece": tag(names(rows))})["id"]
        batch = ulvent.asked(f"/api/pieces/{piece}/batches", {})["id"]
        done = 0
        for _ in range(kills):
            time.sleep(moments.uniform(*_PAUSE_SECONDS))
            if ulvent.asked(f"/api/batches/{batch}")["batch"]["state"] == "running":
                ulvent.stop(signal.SIGKILL)
                done += 1
                assert eventually(lambda gone=ulvent: not gone.database_processes())
                ulvent = RunningUlvent(folder, *options).wait_until_ready()
        assert done, "it was made before anything was ended"

        until = time.monotonic() + PATIENCE_SECONDS + rows
        while ulvent.asked(f"/api/batches/{batch}")["batch"]["state"] == "running":
            assert time.monotonic() < until, "it stands still"
            time.sleep(0.5)
        with urllib.request.urlopen(f"{ulvent.address}/api/batches/{batch}/files") as answer:
            package = zipfile.ZipFile(io.BytesIO(answer.read()))
        found = [package.read(name) for name in package.namelist()]
        say(f"{done} of {kills} times in the middle of it")
    finally:
        ulvent.stop()
        remove(folder)
    assert found == in_peace(rows), "rows are not as in peace"
    say(f"{rows} rows, each once, and the same bytes as in peace")


def running(batches: Batches, batch: UUID) -> bool:
    """Whether it is being made; while the database is away it is."""
    try:
        return batches.get(batch).state == "running"
    except OperationalError:
        return True


def finished(batches: Batches, batch: UUID) -> None:
    """Wait until it is made."""
    made, since = -1, time.monotonic()
    while running(batches, batch):
        time.sleep(0.5)
        try:
            now = batches.progress(batch).made
        except OperationalError:
            continue
        if now != made:
            made, since = now, time.monotonic()
        assert time.monotonic() - since < PATIENCE_SECONDS, f"it stands still at {made} rows"


def whole(engine: Engine, batch: UUID, rows: int) -> None:
    """Every row is there once, as it is made in this process by nobody who is ended."""
    found = {made.number: data for made, data in Batches(engine).files(batch)}
    assert sorted(found) == list(range(1, rows + 1)), f"{len(found)} of {rows} rows are there"
    with Session(engine) as session:
        kept = session.scalar(text("SELECT count(*) FROM kept_row"))
        assert kept == rows, f"{kept} results for {rows} rows"
    for number, data in enumerate(in_peace(rows), 1):
        assert data == found[number], f"row {number} is another"


@cache
def in_peace(rows: int) -> list[bytes]:
    """The files of all rows, made in this process."""
    shop = Workshop(empty_engine())
    batch = begun(shop.batches, tag(names(rows)), Wanted())
    shop.work_off()
    return [data for _, data in shop.batches.files(batch)]


if __name__ == "__main__":
    asked, times, how_many, *more = sys.argv[1:]
    if asked == "server":
        killed_server(int(times), int(how_many), *map(int, more), say=print)
    else:
        killed(asked, int(times), int(how_many), *map(int, more), say=print)
