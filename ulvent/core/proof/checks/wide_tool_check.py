"""Hollows that are narrower than the tool of a pass: it goes past them."""

from __future__ import annotations

from typing import Literal

from ulvent.core.prepare import layer_outputs
from ulvent.core.prepare.kerfs import offset_of, works_on
from ulvent.core.proof.check import Check, Subject
from ulvent.core.proof.finding import Finding
from ulvent.core.proof.unreached import unreached
from ulvent.core.proof.where import MOST_PLACES, counted, xy
from ulvent.core.runs import PassRun
from ulvent.core.shapes import Region

_LEAST = 0.02
"""mm²: less of it is seen by nobody."""


def _look(subject: Subject) -> list[Finding]:
    found: list[Finding] = []
    for one in subject.going.passes:
        rest = [part for part in _missed(subject, one).parts if part.area > _LEAST]
        if not rest:
            continue
        rest.sort(key=lambda part: -part.area)
        area = sum(part.area for part in rest)
        width = one.clears or max(kerf.width for kerf in one.recipe.kerf)
        found.append(
            CHECK.finding(
                f"the tool of pass {one.number}, “{one.title}”, is {width:g} mm wide and does not "
                f"come into {counted(len(rest), 'hollow')}, {area:.2f} mm² in all",
                "Take a finer tool, larger letters, or another face.",
                area,
                places=tuple(xy(part.rings[0][0]) for part in rest[:MOST_PLACES]),
                key=f"{CHECK.kind}:{one.number}",
            )
        )
    return found


def _missed(subject: Subject, one: PassRun) -> Region:
    """What a pass that clears, or gives back its width, leaves of what it should take."""
    found: list[Region] = []
    outputs = layer_outputs(subject.layout, subject.ready)
    for layer, output in zip(subject.ready.layers, outputs, strict=True):
        offset = offset_of(one.recipe.kerf, layer.owner)
        if not works_on(one.recipe.works, layer.key, output):
            continue
        if one.clears:
            found.append(unreached(layer.area, one.clears, "inside"))
        elif offset:
            side: Literal["inside", "outside"] = "outside" if offset > 0.0 else "inside"
            found.append(unreached(layer.area, 2.0 * abs(offset), side))
    return Region.joined(found)


CHECK = Check(kind="wide-tool", rank=96, severity="warning", unit="mm²", looks={"run": _look})
