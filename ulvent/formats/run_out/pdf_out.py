"""PDF at true size, for paper and for whoever cuts from it."""

from __future__ import annotations

from ulvent.core.runs import Run
from ulvent.formats.format import RunFormat


def _write(run: Run) -> bytes:
    from ulvent.formats.pdf_writing import write_pdf

    return write_pdf(run)


FORMAT = RunFormat("pdf", "PDF", "application/pdf", 30, _write)
