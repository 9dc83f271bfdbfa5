"""Routes for words from a table."""

from __future__ import annotations

from fastapi import APIRouter, Request
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from ulvent.formats.words_file import read_words
from ulvent.web.bodies import A_FILE
from ulvent.web.problems import Problem

router = APIRouter(tags=["words"], responses={422: {"model": Problem}})


class Table(BaseModel):
    """The words of a table, row by row."""

    rows: list[list[str]]


@router.post("/api/words", openapi_extra=A_FILE)
async def words(request: Request) -> Table:
    """The words of a table (CSV or TSV), to be taken for a lettering; nothing is kept.

    The body is the file as it is.
    """
    return Table(rows=await run_in_threadpool(read_words, await request.body()))
