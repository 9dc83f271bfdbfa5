"""Errors as problem details (RFC 9457), naming the field that is wrong."""

from __future__ import annotations

from http import HTTPStatus

import structlog
from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from sqlalchemy.exc import DBAPIError, InterfaceError, OperationalError
from starlette.exceptions import HTTPException

from ulvent.core.base.errors import (
    CurveError,
    FaceError,
    FieldProblem,
    FontFileError,
    PieceError,
    UlventError,
)
from ulvent.core.base.figures import FigureError
from ulvent.crew import GivenUpError, StoppedError, WorkerDiedError
from ulvent.formats.body_reading import BodyFileError
from ulvent.formats.outline_file import OutlineFileError
from ulvent.sending import NotAllowedError, NotNowError
from ulvent.store.added_faces import NoSuchFaceError
from ulvent.store.batch_stages import NoSuchBatchError
from ulvent.store.drawer import NoSuchGuideError
from ulvent.store.jobs import MachineBusyError, NoSuchJobError
from ulvent.store.machine_records import NoSuchMachineError
from ulvent.store.pieces import NoSuchPieceError, NothingToStepToError, StaleRevisionError
from ulvent.web.simulated import NotThereError

log = structlog.get_logger()

MEDIA_TYPE = "application/problem+json"
RETRY_SECONDS = 2
"""After an outage of the database a page may ask again so much later."""


class WrongField(BaseModel):
    """A field that is wrong, and why."""

    field: str
    reason: str


class Problem(BaseModel):
    """Problem details of RFC 9457, with the wrong fields.

    current, kept
        after a stale write: the revision that is current, and the one under which
        the refused document was kept
    """

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    errors: list[WrongField] = []
    current: int | None = None
    kept: int | None = None


_STATUS: dict[type[UlventError], HTTPStatus] = {
    PieceError: HTTPStatus.UNPROCESSABLE_ENTITY,
    CurveError: HTTPStatus.UNPROCESSABLE_ENTITY,
    FaceError: HTTPStatus.NOT_FOUND,
    FontFileError: HTTPStatus.UNPROCESSABLE_ENTITY,
    FigureError: HTTPStatus.UNPROCESSABLE_ENTITY,
    NoSuchBatchError: HTTPStatus.NOT_FOUND,
    NoSuchFaceError: HTTPStatus.NOT_FOUND,
    NoSuchGuideError: HTTPStatus.NOT_FOUND,
    NoSuchPieceError: HTTPStatus.NOT_FOUND,
    BodyFileError: HTTPStatus.UNPROCESSABLE_ENTITY,
    OutlineFileError: HTTPStatus.UNPROCESSABLE_ENTITY,
    NothingToStepToError: HTTPStatus.CONFLICT,
    StaleRevisionError: HTTPStatus.CONFLICT,
    GivenUpError: HTTPStatus.UNPROCESSABLE_ENTITY,
    NoSuchMachineError: HTTPStatus.NOT_FOUND,
    NoSuchJobError: HTTPStatus.NOT_FOUND,
    MachineBusyError: HTTPStatus.CONFLICT,
    NotNowError: HTTPStatus.CONFLICT,
    NotAllowedError: HTTPStatus.FORBIDDEN,
    NotThereError: HTTPStatus.SERVICE_UNAVAILABLE,
}


def fields(problems: list[FieldProblem]) -> list[WrongField]:
    return [WrongField(field=problem.field, reason=problem.reason) for problem in problems]


def install(app: FastAPI) -> None:
    """Make every error of `app` answer as problem details."""
    _install_outage(app)
    _install_stopped(app)

    @app.exception_handler(UlventError)
    def on_ours(_: Request, error: UlventError) -> JSONResponse:
        status = _STATUS.get(type(error), HTTPStatus.BAD_REQUEST)
        problem = Problem(title=status.phrase, status=status, detail=str(error))
        if isinstance(error, PieceError):
            problem.errors = fields(error.problems)
        if isinstance(error, StaleRevisionError):
            problem.current, problem.kept = error.current.revision, error.kept
        return answer(problem)

    @app.exception_handler(RequestValidationError)
    def on_request(_: Request, error: RequestValidationError) -> JSONResponse:
        status = HTTPStatus.UNPROCESSABLE_ENTITY
        wrong = [
            WrongField(field=".".join(str(part) for part in detail["loc"]), reason=detail["msg"])
            for detail in error.errors()
        ]
        detail = "; ".join(f"{field.field}: {field.reason}" for field in wrong)
        return answer(Problem(title=status.phrase, status=status, detail=detail, errors=wrong))

    @app.exception_handler(HTTPException)
    def on_http(_: Request, error: HTTPException) -> JSONResponse:
        status = HTTPStatus(error.status_code)
        return answer(Problem(title=status.phrase, status=status, detail=str(error.detail)))

    @app.exception_handler(Exception)
    def on_ours_to_mend(request: Request, error: Exception) -> JSONResponse:
        log.error("request failed", path=request.url.path, exc_info=error)
        status = HTTPStatus.INTERNAL_SERVER_ERROR
        detail = "Something went wrong in Ulvent itself; nothing was changed. The log has more."
        return answer(Problem(title=status.phrase, status=status, detail=detail))


def _install_outage(app: FastAPI) -> None:
    """While the database is away a page may ask again later."""

    @app.exception_handler(OperationalError)
    @app.exception_handler(InterfaceError)
    def on_outage(request: Request, error: DBAPIError) -> JSONResponse:
        log.warning("database does not answer", path=request.url.path, error=type(error).__name__)
        status = HTTPStatus.SERVICE_UNAVAILABLE
        detail = "The database does not answer. What you change here is kept once it does."
        found = answer(Problem(title=status.phrase, status=status, detail=detail))
        found.headers["Retry-After"] = str(RETRY_SECONDS)
        return found


def _install_stopped(app: FastAPI) -> None:
    """Work that was ended in the middle may be asked for again."""

    @app.exception_handler(StoppedError)
    @app.exception_handler(WorkerDiedError)
    def on_stopped(_: Request, __: Exception) -> JSONResponse:
        """Nobody waits for this any more, or something else has stopped it."""
        status = HTTPStatus.SERVICE_UNAVAILABLE
        detail = "This was stopped in the middle. Nothing was changed."
        return answer(Problem(title=status.phrase, status=status, detail=detail))


def answer(problem: Problem) -> JSONResponse:
    return JSONResponse(
        problem.model_dump(exclude_none=True), problem.status, media_type=MEDIA_TYPE
    )
