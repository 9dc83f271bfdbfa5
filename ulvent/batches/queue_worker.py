"""A worker: takes steps of batches out of the queue and does them, until it is asked to end."""

from __future__ import annotations

import asyncio
import contextlib
import logging
import os
import signal
from functools import partial

import structlog
from procrastinate import App, PsycopgConnector
from procrastinate.exceptions import ConnectorException
from procrastinate.worker import Worker
from sqlalchemy.exc import OperationalError

from ulvent.batches.making import STEPS, Making, step
from ulvent.bench import Hands
from ulvent.crew import Crew
from ulvent.store.database import open_engine
from ulvent.store.queue import QUEUE, SEARCH_PATH

log = structlog.get_logger()

PRELOADED = ["ulvent.batches.making", "ulvent.bench.preloaded"]
HEARTBEAT_SECONDS = 2.0
STALLED_SECONDS = 10.0
"""A worker that has not been heard of for so long is gone: what it had begun is begun again."""
_POLL_SECONDS = 2.0
_LONGEST_PAUSE_SECONDS = 4.0
_TO_END_SECONDS = 5.0


def work(url: str) -> None:
    """Work for the database at a URL until a signal; while it is away it is waited for."""
    # What they say when the database is away is said once, and in a line, by us.
    for name in ("procrastinate", "psycopg.pool"):
        logging.getLogger(name).setLevel(logging.CRITICAL)
    engine = open_engine(url)
    crew = Crew(PRELOADED, size=1)
    crew.start()
    try:
        asyncio.run(_work(url, Making(engine, Hands(url, crew))))
    finally:
        crew.close()
        engine.dispose()


async def _work(url: str, making: Making) -> None:
    loop, ended = asyncio.get_running_loop(), asyncio.Event()

    def end() -> None:
        ended.set()
        # Connections to a database that is gone are waited for over a minute; what is being made
        # may be lost.
        loop.call_later(2.0 * _TO_END_SECONDS, os._exit, 1)

    for one in (signal.SIGINT, signal.SIGTERM):
        loop.add_signal_handler(one, end)
    pause = 0.5
    while not ended.is_set():
        began = loop.time()
        try:
            await _until_ended_or_lost(url, making, ended)
        except (ConnectorException, OperationalError) as error:
            log.warning("the database does not answer", error=type(error).__name__)
        if loop.time() - began > _LONGEST_PAUSE_SECONDS:
            pause = 0.5
        with contextlib.suppress(TimeoutError):
            await asyncio.wait_for(ended.wait(), pause)
        pause = min(2.0 * pause, _LONGEST_PAUSE_SECONDS)


async def _until_ended_or_lost(url: str, making: Making, ended: asyncio.Event) -> None:
    """Do what is in the queue until the signal comes, or the database is lost."""
    app = queue_app(url, making)
    async with app.open_async():
        worker = Worker(
            app, queues=[QUEUE], name="batches", install_signal_handlers=False,
            fetch_job_polling_interval=_POLL_SECONDS, delete_jobs="always",
            update_heartbeat_interval=HEARTBEAT_SECONDS, stalled_worker_timeout=STALLED_SECONDS,
            shutdown_graceful_timeout=_TO_END_SECONDS,
        )  # fmt: skip
        tasks = [
            asyncio.create_task(worker.run()),  # type: ignore[no-untyped-call]
            asyncio.create_task(ended.wait()),
            asyncio.create_task(_sweep(app, making)),
        ]
        try:
            done, _ = await asyncio.wait(tasks, return_when=asyncio.FIRST_COMPLETED)
        finally:
            worker.stop()  # type: ignore[no-untyped-call]
            for one in tasks[1:]:
                one.cancel()
            await asyncio.gather(*tasks, return_exceptions=True)
        for one in done:
            one.result()


def queue_app(url: str, making: Making) -> App:
    """The queue of a database, with what each of its tasks does."""
    plain = url.replace("postgresql+psycopg://", "postgresql://", 1)
    connector = PsycopgConnector(
        conninfo=plain, kwargs={"options": f"-csearch_path={SEARCH_PATH.replace(' ', '')}"},
        min_size=1, max_size=4,
    )  # fmt: skip
    app = App(connector=connector)
    for name in STEPS:
        app.task(name=name, queue=QUEUE)(partial(step, making, name))
    return app


async def _sweep(app: App, making: Making) -> None:
    """Begin again what workers had begun that have gone, and what ended badly."""
    while True:
        for job in await app.job_manager.get_stalled_jobs(
            queue=QUEUE, seconds_since_heartbeat=STALLED_SECONDS
        ):
            log.warning("begun again", task=job.task_name, batch=job.task_kwargs.get("batch"))
            await app.job_manager.retry_job(job)
        await asyncio.to_thread(making.steps.take_up)
        await asyncio.sleep(STALLED_SECONDS / 2.0)
