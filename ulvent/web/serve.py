"""Starting everything, and stopping everything that was started."""

from __future__ import annotations

import contextlib
import fcntl
import gc
import logging
import os
import signal
import socket
import sys
import threading
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from types import FrameType

import structlog
import uvicorn
from fastapi import FastAPI
from sqlalchemy import Engine

from ulvent.batches.hired import Hired, usual_workers
from ulvent.core.base.errors import UlventError
from ulvent.crew import Crew
from ulvent.demo import demo_sets
from ulvent.demo.first_drawer import DRAWER_NOTE, drawer_guides
from ulvent.store.batch_records import Batches
from ulvent.store.database import migrate, open_engine
from ulvent.store.drawer import Drawer
from ulvent.store.jobs import Jobs
from ulvent.store.pieces import Pieces
from ulvent.store.private_server import PrivateServer
from ulvent.web import WORKERS_HAVE
from ulvent.web.app import PAGE, create_app
from ulvent.web.simulated import SimulatedMachine, simulated_machines

log = structlog.get_logger()

DEFAULT_PORT = 8480
_PORTS_TRIED = 20
_WATCH_SECONDS = 1.0
_LONGEST_PAUSE_SECONDS = 4.0
"""A database that keeps stopping is started again after longer and longer pauses, up to this."""

Say = Callable[[str], None]


class AlreadyRunningError(UlventError):
    """Another Ulvent holds the same data folder."""


def serve(
    var: Path, port: int | None, empty: bool, say: Say, allowed: Sequence[str] = (),
    workers: int | None = None,
) -> None:  # fmt: skip
    """Run Ulvent until it is asked to stop.

    Parameters
    ----------
    var
        folder for the database and the logs
    port
        to listen on; `None` takes 8480 or the next one that is free, 0 whichever is free
    allowed
        addresses of machines that may be reached, besides the simulated ones
    workers
        processes that make batches; `None` takes as many as there are cores, but one

    Over 40 lines, since each thing that is started is stopped in reverse.
    """
    if not (PAGE / "index.html").is_file():
        raise UlventError(f"the page is not built: {PAGE} is empty; `./start` builds it")
    _configure_logs(var)
    signal.signal(signal.SIGTERM, _leave)
    with _only_one(var), contextlib.ExitStack() as stack:
        # First of all: a port that is taken is said at once. Who asks meanwhile waits.
        listener = _listener(port)
        stack.callback(listener.close)
        bound = listener.getsockname()[1]
        # It takes as long to begin as the database does, so both begin at once.
        crew = Crew(WORKERS_HAVE)
        stack.callback(crew.close)
        crew.start()
        url = os.environ.get("ULVENT_DATABASE_URL")
        if url:
            say("Using the database that ULVENT_DATABASE_URL names")
        else:
            server = PrivateServer(var)
            # Registered before the start: a half-started server is stopped as well.
            stack.callback(server.stop)
            say("Starting the database")
            server.start(say)
            url = server.url
            stack.enter_context(_watched(server))
        engine = open_engine(url)
        stack.callback(engine.dispose)
        say("Bringing the tables up to date")
        migrate(engine)
        Drawer(engine).load_once(DRAWER_NOTE, drawer_guides())
        simulated = _machines(engine, var, stack)
        if not empty:
            _load_demo(Pieces(engine), say)
        address = f"http://127.0.0.1:{bound}"
        (var / "address").write_text(address + "\n", encoding="ascii")
        hired = Hired(url, usual_workers() if workers is None else workers, Batches(engine).busy)
        stack.callback(hired.close)
        application = create_app(engine, bound, crew, hired, simulated=simulated, allowed=allowed)
        stack.callback(application.state.sender.close)
        crew.wait()
        say(f"Ulvent is ready at {address}  (Ctrl-C stops it)")
        _run(_server(application), listener)
        say("Stopping")


def _machines(engine: Engine, var: Path, stack: contextlib.ExitStack) -> list[SimulatedMachine]:
    """The simulated machines; what was being sent to any when Ulvent ended is broken off."""
    Jobs(engine).break_off("Ulvent ended while it was being sent")
    simulated = simulated_machines(var)
    for one in simulated:
        stack.callback(one.close)
    return simulated


def _load_demo(pieces: Pieces, say: Say) -> None:
    """Each set of demo pieces once: a database from before there was a set gets it as well."""
    loaded = [pieces.load_once(note, demo) for note, demo in demo_sets().items()]
    if any(loaded):
        say("Loaded the demo pieces")


def _server(application: FastAPI) -> uvicorn.Server:
    config = uvicorn.Config(
        application,
        log_config=None,
        access_log=False,
        ws_max_size=4_000_000,
        ws_per_message_deflate=False,
        timeout_graceful_shutdown=2,
        server_header=False,
    )
    return uvicorn.Server(config)


def _run(server: uvicorn.Server, listener: socket.socket) -> None:
    """Serve until a signal."""

    def end(_signal: int, _frame: FrameType | None) -> None:
        server.should_exit = True

    # From here on a signal is told to the server, also before it listens for signals itself: what
    # is raised in a handler is lost where the handler runs within a callback of the collector.
    for one in (signal.SIGTERM, signal.SIGINT):
        signal.signal(one, end)
    # What is loaded by now stays: the collector need not walk it during every long drag.
    gc.enable()
    gc.collect()
    gc.freeze()
    if not _LEAVING.is_set():
        server.run(sockets=[listener])


_LEAVING = threading.Event()


def _leave(_signal: int, _frame: FrameType | None) -> None:
    """SIGTERM unwinds like Ctrl-C, so that everything that was started is stopped."""
    _LEAVING.set()
    raise SystemExit(0)


@contextlib.contextmanager
def _only_one(var: Path) -> Iterator[None]:
    """Hold the data folder for this process alone."""
    var.mkdir(parents=True, exist_ok=True)
    with (var / "lock").open("a") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError as error:
            address = var / "address"
            where = f" at {address.read_text().strip()}" if address.exists() else ""
            raise AlreadyRunningError(f"Ulvent is already running{where}") from error
        yield


@contextlib.contextmanager
def _watched(server: PrivateServer) -> Iterator[None]:
    """Start the database again when it dies under us.

    The kernel ties the server to the thread that started it, so this waits in a
    thread of its own for as long as the application runs.
    """
    done = threading.Event()

    def watch() -> None:
        pause = _WATCH_SECONDS
        while not done.wait(pause):
            if server.running():
                pause = _WATCH_SECONDS
                continue
            log.warning("the database stopped unexpectedly; starting it again")
            with contextlib.suppress(UlventError, OSError):
                server.start()
            pause = min(2.0 * pause, _LONGEST_PAUSE_SECONDS)

    thread = threading.Thread(target=watch, name="database watch", daemon=True)
    thread.start()
    try:
        yield
    finally:
        done.set()
        thread.join()


def _listener(port: int | None) -> socket.socket:
    """A socket on loopback: the port asked for, or the default or one after it."""
    tried = [port] if port is not None else range(DEFAULT_PORT, DEFAULT_PORT + _PORTS_TRIED)
    for candidate in tried:
        listener = socket.socket()
        listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        # Connections inherit it. asyncio sets it on sockets that name their protocol only, and
        # without it a second answer waits 40 ms for the first to be acknowledged.
        listener.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
        try:
            listener.bind(("127.0.0.1", candidate))
            listener.listen(128)
        except OSError:
            listener.close()
        else:
            return listener
    raise UlventError(f"port {tried[0]} is taken" if port is not None else "no port is free")


def _configure_logs(var: Path) -> None:
    """Structured logs, one JSON object a line, in `var/ulvent.log`; warnings on the screen too."""
    var.mkdir(parents=True, exist_ok=True)
    to_file = logging.FileHandler(var / "ulvent.log", encoding="utf-8")
    to_screen = logging.StreamHandler(sys.stderr)
    to_screen.setLevel(logging.ERROR)
    shared: list[structlog.types.Processor] = [
        structlog.stdlib.add_log_level,
        structlog.stdlib.add_logger_name,
        structlog.processors.TimeStamper(fmt="iso", utc=True),
        structlog.processors.format_exc_info,
    ]
    formatter = structlog.stdlib.ProcessorFormatter(
        foreign_pre_chain=shared,
        processors=[
            structlog.stdlib.ProcessorFormatter.remove_processors_meta,
            structlog.processors.JSONRenderer(),
        ],
    )
    for handler in (to_file, to_screen):
        handler.setFormatter(formatter)
    logging.basicConfig(level=logging.INFO, handlers=[to_file, to_screen], force=True)
    structlog.configure(
        processors=[*shared, structlog.stdlib.ProcessorFormatter.wrap_for_formatter],
        logger_factory=structlog.stdlib.LoggerFactory(),
        wrapper_class=structlog.stdlib.BoundLogger,
        cache_logger_on_first_use=True,
    )
