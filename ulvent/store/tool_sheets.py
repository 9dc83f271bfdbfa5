"""Tool sheets: the shipped ones, and those that a maker has edited or added."""

from __future__ import annotations

from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from ulvent.core.recipe import TOOL_SHEETS, ToolSheet
from ulvent.store.kept_figures import forget, keep
from ulvent.store.tables import ToolSheetRow


class ToolSheets:
    """All tool sheets of one database. A sheet of a shipped one's id stands in its place."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def all(self) -> list[ToolSheet]:
        """The shipped ones as they are now, then the others by name."""
        with Session(self._engine) as session:
            rows = session.scalars(select(ToolSheetRow))
            own = {row.id: ToolSheet.model_validate(row.figures) for row in rows}
        shipped = [own.pop(sheet.id, sheet) for sheet in TOOL_SHEETS]
        return [*shipped, *sorted(own.values(), key=lambda sheet: sheet.name.lower())]

    def save(self, sheet: ToolSheet) -> ToolSheet:
        keep(self._engine, ToolSheetRow, sheet.id, sheet)
        return sheet

    def delete(self, sheet_id: str) -> None:
        """Forget what was saved under an id; a shipped sheet is again as it was shipped."""
        forget(self._engine, ToolSheetRow, sheet_id)
