"""What is being worked on, noted for whoever may have to give it up.

Work that can take long says where it is: which field it is for, what is done, and what a maker
can do instead. Where memory ends inside it, the error names that place; and someone who stops it
from outside reads the note (`noted_by`).
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass

from ulvent.core.base.errors import PieceError, wrong_field


@dataclass(frozen=True)
class Task:
    """A piece of work.

    field
        that it is for
    doing
        what is done, as in “joining 440 letters”
    instead
        what would do: “fewer letters, or no bridges”
    """

    field: str
    doing: str
    instead: str

    def given_up(self, why: str) -> PieceError:
        """The error that says that this was given up: `why` goes on from “joining 440 letters”."""
        return wrong_field(self.field, f"{self.doing} {why}; {self.instead}")


TOO_MUCH_MEMORY = "takes more memory than there is for it"

Note = Callable[[Task | None], None]
_NOTE: ContextVar[Note | None] = ContextVar("note", default=None)
_TASK: ContextVar[Task | None] = ContextVar("task", default=None)


@contextmanager
def at_work(field: str, doing: str, instead: str) -> Iterator[None]:
    """Note what is done inside; what goes on around it is noted again at its end.

    Raises
    ------
    PieceError
        Where memory ends inside.
    """
    task = Task(field, doing, instead)
    note = _NOTE.get()
    token = _TASK.set(task)
    if note is not None:
        note(task)
    try:
        yield
    except MemoryError as error:
        raise task.given_up(TOO_MUCH_MEMORY) from error
    finally:
        _TASK.reset(token)
        if note is not None:
            note(_TASK.get())


@contextmanager
def noted_by(note: Note) -> Iterator[None]:
    """Hand each task to `note` as it is begun, and the one around it, or none, as it ends."""
    token = _NOTE.set(note)
    try:
        yield
    finally:
        _NOTE.reset(token)
