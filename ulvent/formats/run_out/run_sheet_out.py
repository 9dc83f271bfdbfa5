"""The run sheet as a printed page."""

from __future__ import annotations

from ulvent.core.runs import Run
from ulvent.formats.format import RunFormat


def _write(run: Run) -> bytes:
    from ulvent.formats.run_sheet_page import write_run_sheet

    return write_run_sheet(run)


FORMAT = RunFormat("run-sheet.pdf", "Run sheet (PDF)", "application/pdf", 35, _write)
