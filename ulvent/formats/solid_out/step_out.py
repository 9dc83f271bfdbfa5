"""Parts as STEP: exact curves and faces."""

from __future__ import annotations

from ulvent.core.workshop import Workpiece
from ulvent.formats.format import SolidFormat


def _write(work: Workpiece) -> bytes:
    from ulvent.formats.step_writing import asked

    return asked(work)


def _made(asked: bytes) -> bytes:
    from ulvent.formats.step_writing import step

    return step(asked)


FORMAT = SolidFormat("step", "STEP, exact", "model/step", 50, _write, _made)
