"""What the application must remember about itself."""

from __future__ import annotations

from datetime import UTC, datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from ulvent.store.tables import NoteRow


def first_time(session: Session, name: str) -> bool:
    """Whether nothing was noted under `name` so far; it is now."""
    session.execute(select(func.pg_advisory_xact_lock(8480)))
    if session.get(NoteRow, name) is not None:
        return False
    session.add(NoteRow(name=name, value=datetime.now(UTC).isoformat()))
    return True
