"""Strokes and bridges that are thinner than the material holds."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.too_near import too_near
from ulvent.core.proof.where import counted, named_letters, owners_of, where
from ulvent.core.shapes.thin import thin_places


def _look(subject: Subject) -> list[Finding]:
    layer, limit = subject.layer, subject.sheet.least_stroke
    if subject.sheet.use == "lines" or limit <= 0.0:
        return []
    thin = thin_places(subject.strokes, limit)
    if not thin:
        return []
    letters = owners_of(layer, thin)
    message = (
        f"{counted(len(thin), 'place')}{where(layer)} thinner than {limit:g} mm, "
        f"the thinnest {thin[0].thickness:.2f} mm{named_letters(letters)}"
    )
    remedy = "Use a heavier face, larger letters, or a border."
    return [too_near(CHECK, layer.owner, thin, limit, letters, message, remedy)]


CHECK = Check(
    kind="thin",
    rank=50,
    severity="warning",
    unit="mm",
    looks={"sheet layer": _look},
    less_is_worse=True,
)
