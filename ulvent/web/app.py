"""The application: routes, guard, problem details, and the built front end."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

import structlog
from fastapi import FastAPI, Response
from fastapi.responses import FileResponse
from pydantic import BaseModel
from sqlalchemy import Engine
from sqlalchemy.exc import SQLAlchemyError

from ulvent.batches.hired import Hired
from ulvent.bench import Hands
from ulvent.crew import Crew
from ulvent.sending import Sender
from ulvent.store.added_faces import Faces
from ulvent.store.batch_records import Batches
from ulvent.store.database import answers
from ulvent.store.drawer import Drawer
from ulvent.store.jobs import Jobs
from ulvent.store.machine_records import Machines
from ulvent.store.pieces import Pieces
from ulvent.store.tool_sheets import ToolSheets
from ulvent.web import (
    WORKERS_HAVE,
    batch_routes,
    begin_routes,
    catalogue_routes,
    drawer_routes,
    face_routes,
    live,
    machine_routes,
    names_routes,
    outline_routes,
    problems,
    proof_routes,
    read_body_routes,
    run_routes,
    shelf_routes,
    solid_routes,
    stitcher_routes,
    thread_routes,
    words_routes,
)
from ulvent.web.guard import Guard
from ulvent.web.simulated import SimulatedMachine

log = structlog.get_logger()

PAGE = Path(__file__).resolve().parent / "page"
"""The front end as it is built; it goes with the package."""
ROUTES = (
    begin_routes,
    shelf_routes,
    face_routes,
    live,
    outline_routes,
    drawer_routes,
    proof_routes,
    run_routes,
    machine_routes,
    names_routes,
    batch_routes,
    stitcher_routes,
    solid_routes,
    read_body_routes,
    thread_routes,
    words_routes,
    catalogue_routes,
)
_FOR_EVER = "public, max-age=31536000, immutable"


class Health(BaseModel):
    """Whether the application and its database answer."""

    status: str
    database: str


def create_app(
    engine: Engine, port: int, crew: Crew | None = None, hired: Hired | None = None,
    built: Path = PAGE, simulated: Sequence[SimulatedMachine] = (), allowed: Sequence[str] = (),
) -> FastAPI:  # fmt: skip
    """The ASGI application over `engine`, for requests to `port` on loopback.

    Computing is done by `crew`, or by one of its own, whose processes begin when they are needed;
    batches are made by the workers that are `hired`, or by others elsewhere.
    Of machines it reaches the simulated ones, and those whose addresses are allowed.
    """
    app = FastAPI(title="Ulvent", version="0.1.0", docs_url=None, redoc_url=None)
    app.state.pieces = Pieces(engine)
    app.state.drawer = Drawer(engine)
    app.state.tool_sheets = ToolSheets(engine)
    app.state.faces = Faces(engine)
    app.state.hands = Hands(
        engine.url.render_as_string(hide_password=False), crew or Crew(WORKERS_HAVE)
    )
    shipped = [one.machine for one in simulated]
    app.state.simulated = {one.machine.id: one for one in simulated}
    app.state.machines = Machines(engine, shipped)
    app.state.jobs = Jobs(engine)
    app.state.batches = Batches(engine)
    app.state.hired = hired
    app.state.sender = Sender(app.state.jobs, [*(one.address for one in shipped), *allowed])
    problems.install(app)
    for routes in ROUTES:
        app.include_router(routes.router)
    _add_health(app, engine)
    _add_page(app, built)
    app.add_middleware(Guard, port=port)
    return app


def _add_health(app: FastAPI, engine: Engine) -> None:
    @app.get("/healthz")
    def healthz(response: Response) -> Health:
        """Asks the database; 503 when it does not answer."""
        try:
            well = answers(engine)
        except SQLAlchemyError as error:
            log.warning("database does not answer", error=type(error).__name__)
            well = False
        if not well:
            response.status_code = 503
        return Health(status="ok" if well else "unwell", database="ok" if well else "no answer")


def _add_page(app: FastAPI, built: Path) -> None:
    """The page on every address that is not the server's own."""

    @app.get("/api/{rest:path}", include_in_schema=False)
    def nothing_here(rest: str) -> Response:
        detail = f"there is nothing at /api/{rest}"
        return problems.answer(problems.Problem(title="Not Found", status=404, detail=detail))

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        """A built file; for any other address the page, which finds its own way."""
        asked = (built / path).resolve()
        if path and asked.is_relative_to(built) and asked.is_file():
            hashed = path.startswith("assets/")
            return FileResponse(asked, headers={"Cache-Control": _FOR_EVER} if hashed else None)
        return FileResponse(built / "index.html", headers={"Cache-Control": "no-cache"})
