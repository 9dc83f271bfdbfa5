"""Recipes that are kept by their ids: saved in place of what was there, and forgotten."""

from __future__ import annotations

from datetime import UTC, datetime

from sqlalchemy import Engine
from sqlalchemy.orm import Session

from ulvent.core.base.fields import Model
from ulvent.store.tables import FiguresRow


def keep(engine: Engine, table: type[FiguresRow], name: str, recipe: Model) -> None:
    """Save a recipe under an id."""
    figures = recipe.model_dump(mode="json")
    with Session(engine) as session, session.begin():
        session.merge(table(id=name, figures=figures, changed_at=datetime.now(UTC)))


def forget(engine: Engine, table: type[FiguresRow], name: str) -> None:
    """Forget what was saved under an id, if anything was."""
    with Session(engine) as session, session.begin():
        row = session.get(table, name)
        if row is not None:
            session.delete(row)
