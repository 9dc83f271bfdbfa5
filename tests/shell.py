"""The `ulvent` command as it is called from a shell, in this process: it is loaded once."""

from __future__ import annotations

import contextlib
from pathlib import Path
from typing import NamedTuple

from typer.testing import CliRunner

from ulvent.cli import app


class Answer(NamedTuple):
    """What a command said, and the code it ended with."""

    returncode: int
    stdout: str
    stderr: str


def ulvent(folder: Path, *arguments: str) -> Answer:
    """What a command does and says in a folder; an exception that it lets out is raised."""
    with contextlib.chdir(folder):
        found = CliRunner().invoke(app, arguments)
    if found.exception is not None and not isinstance(found.exception, SystemExit):
        raise found.exception
    return Answer(found.exit_code, found.stdout, found.stderr)
