"""Letters of several parts: dots and accents that come off by themselves."""

from __future__ import annotations

from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.where import MOST_PLACES, quoted


def _look(subject: Subject) -> list[Finding]:
    layer = subject.layer
    if subject.sheet.use != "kept" or layer.kind != "letters" or layer.inverse:
        return []
    several = (one for one in layer.cutouts if len(one.area.outer_rings) > 1)
    found = [(one.text, one.area.parts) for one in several]
    if not found:
        return []
    places = [min(parts, key=lambda part: part.area).some_point() for _, parts in found]
    return [
        CHECK.finding(
            f"dots and accents come off by themselves: {quoted(text for text, _ in found)}",
            "Transfer them together, or carry them by a bar.",
            float(sum(len(parts) - 1 for _, parts in found)),
            lettering=layer.owner,
            letters=tuple(text for text, _ in found if text),
            places=tuple(places[:MOST_PLACES]),
        )
    ]


CHECK = Check(
    kind="loose-part",
    rank=30,
    severity="hint",
    looks={"sheet layer": _look},
)
